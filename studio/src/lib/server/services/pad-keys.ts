import type { PadKey } from '$lib/shared/types';
import { database, rows } from '../database';
import { sha256 } from '../digest';
import { newId } from '../ids';
import type { PadBox, Principal } from '../principal';
import { Refusal } from '../refusal';
import { newToken } from '../tokens';
import { noteDoor } from './door-book';
import { memberAccess } from './rights';

/** Makes a key with which a box of buttons presses the pad of a piece; it is told once, and kept as a digest. */
export async function makePadKey(who: Principal, piece: string, name: string): Promise<{ readonly key: string }> {
  const { person } = await memberAccess(who, piece, 'make links');
  const { token, hash } = newToken();
  await database().transaction(async (transaction) => {
    await database().query('INSERT INTO pad_keys (id, key_hash, piece_id, name) VALUES ($1, $2, $3, $4)', {
      bind: [newId(), hash, piece, name],
      transaction,
    });
    await noteDoor(piece, person.name, `made the key “${name}” for a pad`, transaction);
  });
  return { key: token };
}

export async function padKeysOf(who: Principal, piece: string): Promise<PadKey[]> {
  await memberAccess(who, piece, 'see links');
  const found = await rows<{ id: string; name: string; made: Date }>(
    'SELECT id, name, created_at AS made FROM pad_keys WHERE piece_id = $1 ORDER BY created_at, id',
    [piece]
  );
  return found.map((one) => ({ ...one, made: one.made.toISOString() }));
}

export async function endPadKey(who: Principal, piece: string, id: string): Promise<void> {
  const { person } = await memberAccess(who, piece, 'make links');
  const [gone] = await rows<{ name: string }>('DELETE FROM pad_keys WHERE id = $1 AND piece_id = $2 RETURNING name', [id, piece]);
  if (!gone) throw new Refusal('not-found', 'There is no such key any more.');
  await noteDoor(piece, person.name, `took the key “${gone.name}” of a pad back`);
}

/** Which pad a key belongs to. */
export async function padOf(key: string): Promise<PadBox | null> {
  const [found] = await rows<{ piece: string }>('SELECT piece_id AS piece FROM pad_keys WHERE key_hash = $1', [sha256(key)]);
  return found ? { kind: 'pad', piece: found.piece } : null;
}
