import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { pieceFromTrusted, type PieceJson } from '@zany/core';
import { closeWorld, newPerson, openWorld } from '../testing/world';
import { listPieces, openPiece } from './pieces';
import { listStarters, starterAsset, takeStarter } from './starters';

const demo = join(import.meta.dirname, '../../../../../demo');
const before = process.env['ZANY_STARTERS'];

beforeAll(openWorld);
afterAll(async () => {
  if (before === undefined) delete process.env['ZANY_STARTERS'];
  else process.env['ZANY_STARTERS'] = before;
  await closeWorld();
});

test('without a folder of them there are none, and none can be taken', async () => {
  delete process.env['ZANY_STARTERS'];
  const person = await newPerson('Siv Lund');
  expect(await listStarters(person)).toEqual([]);
  await expect(takeStarter(person, 'ticket-app')).rejects.toThrow('There is no such piece to begin with.');
});

test('each is a copy of one’s own, whole, as often as one likes; nobody else has it', async () => {
  process.env['ZANY_STARTERS'] = demo;
  const [person, other] = [await newPerson('Siv Lund'), await newPerson('Odd Vik')];
  const cards = await listStarters(person);
  expect(cards.map(({ id }) => id)).toEqual(['ticket-app', 'pier-kiosk', 'summer-banner', 'crossing-chart']);
  for (const { cover } of cards) expect(pieceFromTrusted(cover!).scenes.size).toBeGreaterThan(0);
  const [first, second] = [await takeStarter(person, 'first-crossing'), await takeStarter(person, 'first-crossing')];
  expect(first).not.toBe(second);
  const { piece, role } = JSON.parse(await openPiece(person, first)) as { piece: PieceJson; role: string };
  expect(role).toBe('owner');
  expect(pieceFromTrusted(piece).head.name).toBe('First crossing');
  expect((await listPieces(person)).map(({ id }) => id).sort()).toEqual([first, second].sort());
  expect(await listPieces(other)).toEqual([]);
});

test('their pictures can be seen before they are taken, and only theirs', async () => {
  process.env['ZANY_STARTERS'] = demo;
  const person = await newPerson('Siv Lund');
  const banner = (await listStarters(person)).find(({ id }) => id === 'summer-banner')!;
  const [sha] = [...pieceFromTrusted(banner.cover!).assets.values()].map(({ id }) => id);
  const picture = await starterAsset(person, 'summer-banner', sha!);
  expect(picture.mediaType).toMatch(/^image\//);
  expect(picture.bytes.length).toBeGreaterThan(1000);
  await expect(starterAsset(person, 'pier-kiosk', sha!)).rejects.toThrow('There is no such picture.');
  await expect(starterAsset(person, '../pieces', sha!)).rejects.toThrow('There is no such piece to begin with.');
});

test('of one that cannot be read nothing is made', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'zany-starters-'));
  try {
    await mkdir(join(folder, 'pieces'));
    await writeFile(join(folder, 'pieces/1-ticket-app.zip'), 'no package');
    process.env['ZANY_STARTERS'] = folder;
    const person = await newPerson('Siv Lund');
    await expect(takeStarter(person, 'ticket-app')).rejects.toThrow();
    expect(await listPieces(person)).toEqual([]);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
});

test('strangers are asked who they are', async () => {
  process.env['ZANY_STARTERS'] = demo;
  await expect(listStarters(null)).rejects.toThrow();
  await expect(takeStarter(null, 'ticket-app')).rejects.toThrow();
  await expect(starterAsset(null, 'ticket-app', 'x')).rejects.toThrow();
});
