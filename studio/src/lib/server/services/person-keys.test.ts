import { afterAll, beforeAll, expect, test } from 'vitest';
import { rows } from '../database';
import { sha256 } from '../digest';
import { closeWorld, newPerson, openWorld } from '../testing/world';
import { countRequest, PACE } from './key-pace';
import { endPersonKey, keyFault, makePersonKey, personKeysOf, personOfKey } from './person-keys';

beforeAll(openWorld);
afterAll(closeWorld);

const wish = { name: 'our build', may: 'read', days: 30 } as const;

test('a key is whose it was made by, until it is ended or has run out; it is kept as a digest alone', async () => {
  const [odd, liv] = [await newPerson('Odd Vik'), await newPerson('Liv Moe')];
  const key = await makePersonKey(odd, wish);
  const [listed] = await personKeysOf(odd);
  expect(await personOfKey(key)).toEqual({ person: odd, may: 'read', key: listed!.id });
  expect(listed).toMatchObject({ name: 'our build', may: 'read' });
  expect(Math.round((Date.parse(listed!.expires) - Date.now()) / 86_400_000)).toBe(30);
  expect(Date.now() - Date.parse((await personKeysOf(odd))[0]!.used!)).toBeLessThan(60_000);
  expect(JSON.stringify(await rows('SELECT * FROM person_keys'))).not.toContain(key);
  expect(await personKeysOf(liv)).toEqual([]);
  await expect(endPersonKey(liv, listed!.id)).rejects.toThrow('no such key');
  expect(await personOfKey(key)).not.toBeNull();
  await endPersonKey(odd, listed!.id);
  expect(await personOfKey(key)).toBeNull();
  await expect(endPersonKey(odd, listed!.id)).rejects.toThrow('no such key');
  const old = await makePersonKey(odd, { ...wish, may: 'change' });
  await rows("UPDATE person_keys SET expires = now() - interval '1 second' WHERE key_hash = $1", [sha256(old)]);
  expect([await personOfKey(old), await personKeysOf(odd)]).toEqual([null, []]);
});

test('nobody has more than twenty, and those that have run out do not count; who is not signed in makes none', async () => {
  const odd = await newPerson();
  const keys = [];
  for (let i = 0; i < 20; i++) keys.push(await makePersonKey(odd, wish));
  await expect(makePersonKey(odd, wish)).rejects.toThrow('20 keys already');
  await rows('UPDATE person_keys SET expires = now() WHERE key_hash = $1', [sha256(keys[0]!)]);
  await makePersonKey(odd, wish);
  await expect(makePersonKey(null, wish)).rejects.toThrow('sign in');
  await expect(makePersonKey({ kind: 'pad', piece: 'p' }, wish)).rejects.toThrow('sign in');
});

test('a key opens nothing but what is for programs, and one that reads changes nothing', () => {
  const refused = (may: 'read' | 'change', method: string, route: string | null) => keyFault(may, method, route)?.message ?? null;
  expect(refused('read', 'GET', '/api/pieces')).toBeNull();
  expect(refused('read', 'HEAD', '/api/pieces')).toBeNull();
  expect(refused('change', 'DELETE', '/api/pieces/[id]')).toBeNull();
  for (const method of ['POST', 'PUT', 'PATCH', 'DELETE'])
    expect(refused('read', method, '/api/pieces')).toBe('This key only reads. Make one that may change things.');
  for (const route of ['/account', '/', '/p/[id]', '/apis'])
    for (const may of ['read', 'change'] as const) expect(refused(may, 'GET', route)).toBe('A key opens nothing but addresses under /api.');
});

test('a key that is asked with too often is told to wait, by how long, and holds up no other', async () => {
  for (let i = 0; i < PACE.requests; i++) expect(await countRequest('wild')).toBeNull();
  const full = await countRequest('wild');
  expect(full!.refusal).toMatchObject({ code: 'too-often', status: 429 });
  expect(full!.refusal.message).toMatch(/Ask again in \d+ s\.$/);
  expect(full!.wait).toBeGreaterThan(0);
  expect(full!.wait).toBeLessThanOrEqual(PACE.seconds);
  expect(await countRequest('calm')).toBeNull();
});
