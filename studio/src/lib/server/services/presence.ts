import type { Person, Whereabouts } from '$lib/shared/types';
import { announce } from '../listen';
import { access } from './rights';

/** Tells all who follow a piece where somebody is in it. Nothing is kept: who says nothing for a while is gone. */
export async function tellPresence(person: Person | null, piece: string, where: Whereabouts): Promise<void> {
  await access(person, piece, 'reviewer');
  await announce({ type: 'presence', ...where, piece, name: person!.name });
}
