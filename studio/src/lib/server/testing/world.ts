import { strToU8, zipSync } from 'fflate';
import type { Operation } from '@zany/core';
import { wholeFrame, type CommentPlace, type LinkWish, type Person, type Role } from '$lib/shared/types';
import { disconnect, migrate, rows } from '../database';
import { newId } from '../ids';
import { stopListening } from '../listen';
import { MemberRow, PersonRow } from '../models';
import { stopQueue } from '../queue';
import { createPiece } from '../services/pieces';
import { forgetLimiters } from '../services/tries';
import { closePools } from '../work';
import type { SentBatch } from '../work/tasks';

/** People and pieces for tests of services, in the database of the tests. */

export const openWorld = (): Promise<void> => migrate();

export async function closeWorld(): Promise<void> {
  await stopQueue();
  await stopListening();
  await closePools();
  forgetLimiters();
  await disconnect();
}

export async function newPerson(name = 'Odd Vik'): Promise<Person> {
  const person = { id: newId(), name, email: `${newId()}@kittiwake.example` };
  await PersonRow.create({ ...person, passwordHash: 'none' });
  return person;
}

export const makeMember = (pieceId: string, person: Person, role: Role) => MemberRow.create({ pieceId, personId: person.id, role });

/** A piece of a person's, with the id of its one frame. */
export async function newPiece(owner: Person): Promise<{ id: string; frame: string }> {
  const id = await createPiece(owner, 'Harbour', 390, 844);
  const [found] = await rows<{ frame: string }>('SELECT jsonb_object_keys(body->$2) AS frame FROM snapshots WHERE piece_id = $1', [id, 'scenes']);
  return { id, frame: found!.frame };
}

export const aboutFrame = (scene: string, more: Partial<CommentPlace> = {}): CommentPlace => ({
  ...wholeFrame(scene, scene),
  at: [10, 20],
  ...more,
});

/** What is set for a review link that nothing is set for. */
export const wish = (more: Partial<LinkWish> = {}): LinkWish => ({
  name: 'Friday round',
  may: 'walk',
  start: null,
  bundle: null,
  revision: null,
  hints: true,
  tasks: [],
  expires: null,
  ...more,
});

export const batch = (operations: readonly (Operation | object)[], id = newId(), name = 'Edit'): SentBatch => ({
  id,
  name,
  operations: JSON.stringify(operations),
});

export const layer = (id: string, scene: string, more: object = {}): Operation => ({
  op: 'put',
  table: 'layers',
  value: { id, scene, parent: null, order: 'a', name: id, type: 'box', pose: { x: 0, y: 0, width: 9, height: 9 }, style: {}, ...more } as never,
});

export const move = (id: string, x: number): Operation => ({ op: 'set', table: 'layers', id, path: ['pose', 'x'], value: x });

/** A package with a document in it, whatever it is. */
export const packageOf = (document: unknown): Uint8Array => zipSync({ 'piece.json': strToU8(JSON.stringify(document)) });
