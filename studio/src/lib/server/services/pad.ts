import { announce } from '../listen';
import type { Principal } from '../principal';
import { access } from './rights';

/** Presses a button of the pad wherever this piece runs now, on every server; by members and by boxes that have a key. */
export async function pressPad(who: Principal, piece: string, button: number): Promise<void> {
  await access(who, piece, 'press the pad');
  await announce({ type: 'pad', piece, button });
}
