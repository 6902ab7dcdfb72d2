import type { Transaction } from 'sequelize';
import type { DoorEntry } from '$lib/shared/types';
import { database, rows } from '../database';
import type { Principal } from '../principal';
import { access } from './rights';

/** Entries that are shown; older ones stay in the book. */
const SHOWN = 200;

/** Writes down that somebody was let into a piece or out of it, in the transaction that does it. */
export async function noteDoor(piece: string, by: string, sentence: string, transaction?: Transaction): Promise<void> {
  await database().query('INSERT INTO door_book (piece_id, by_name, sentence) VALUES ($1, $2, $3)', {
    bind: [piece, by, sentence],
    ...(transaction && { transaction }),
  });
}

/** Who was let in and out, the latest first. */
export async function doorBook(who: Principal, piece: string): Promise<DoorEntry[]> {
  await access(who, piece, 'see the door book');
  const found = await rows<{ at: Date; by: string; sentence: string }>(
    'SELECT at, by_name AS by, sentence FROM door_book WHERE piece_id = $1 ORDER BY id DESC LIMIT $2',
    [piece, SHOWN]
  );
  return found.map(({ at, by, sentence }) => ({ at: at.toISOString(), by, sentence }));
}
