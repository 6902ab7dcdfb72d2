import type { Whereabouts } from '$lib/shared/types';
import { announce } from '../listen';
import type { Principal } from '../principal';
import { memberAccess } from './rights';

/** Tells all who follow a piece where somebody is in it. Nothing is kept: who says nothing for a while is gone. */
export async function tellPresence(who: Principal, piece: string, where: Whereabouts): Promise<void> {
  const { person } = await memberAccess(who, piece, 'say where one is');
  await announce({ type: 'presence', ...where, piece, name: person.name });
}
