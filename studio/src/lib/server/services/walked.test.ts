import { afterAll, beforeAll, expect, test } from 'vitest';
import type { WalkedBranch } from '$lib/shared/types';
import { closeWorld, makeMember, newPerson, newPiece, openWorld } from '../testing/world';
import { forgetWalked, noteWalked, walkedBy, walkedByOthers } from './walked';

beforeAll(openWorld);
afterAll(closeWorld);

const walked = (thread: string, more: Partial<WalkedBranch> = {}): WalkedBranch => ({
  thread,
  branch: 0,
  line: 'click → go to Fares',
  verdict: null,
  note: '',
  ...more,
});

test('what was walked is kept for each by himself, with the last that was said of it, and told to the others by name', async () => {
  const [ina, odd] = [await newPerson('Ina Rask'), await newPerson('Odd Vik')];
  const { id } = await newPiece(ina);
  await makeMember(id, odd, 'reviewer');
  await noteWalked(ina, id, [walked('a'), walked('b', { verdict: 'pass' })]);
  await noteWalked(odd, id, [walked('a', { verdict: 'fail', note: 'No price' }), walked('a', { verdict: 'fail', note: 'No price, no date' })]);
  expect(await walkedBy(ina, id)).toEqual(expect.arrayContaining([walked('a'), walked('b', { verdict: 'pass' })]));
  expect(await walkedByOthers(ina, id)).toEqual([{ ...walked('a', { verdict: 'fail', note: 'No price, no date' }), by: 'Odd Vik' }]);
  expect((await walkedByOthers(odd, id)).map(({ by }) => by)).toEqual(['Ina Rask', 'Ina Rask']);
  await noteWalked(ina, id, [walked('b')]);
  expect((await walkedBy(ina, id)).find(({ thread }) => thread === 'b')).toEqual(walked('b'));
  await forgetWalked(odd, id);
  expect([await walkedBy(odd, id), await walkedByOthers(ina, id)]).toEqual([[], []]);
  expect(await walkedBy(ina, id)).toHaveLength(2);
});

test('who has no part in a piece is told nothing of who walked it', async () => {
  const { id } = await newPiece(await newPerson());
  const stranger = await newPerson('Stranger');
  await expect(walkedByOthers(stranger, id)).rejects.toThrow();
  await expect(noteWalked(stranger, id, [walked('a')])).rejects.toThrow();
});
