import type { Person } from '$lib/shared/types';
import { announce } from '../listen';
import { access } from './rights';

/** Presses a button of the pad wherever this piece runs now, on every server; who may see the piece may press. */
export async function pressPad(person: Person | null, piece: string, button: number): Promise<void> {
  await access(person, piece, 'reviewer');
  await announce({ type: 'pad', piece, button });
}
