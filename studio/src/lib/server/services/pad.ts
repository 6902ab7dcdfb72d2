import type { Person } from '$lib/shared/types';
import { database } from '../database';
import { padChannel } from '../listen';
import { access } from './rights';

/** Presses a button of the pad wherever this piece runs now, on every server; who may see the piece may press. */
export async function pressPad(person: Person | null, pieceId: string, button: number): Promise<void> {
  await access(person, pieceId, 'reviewer');
  await database().query('SELECT pg_notify(:channel, :press)', { replacements: { channel: padChannel, press: `${pieceId}:${button}` } });
}
