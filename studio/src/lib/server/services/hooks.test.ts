import { createServer, type IncomingHttpHeaders, type Server } from 'node:http';
import { Webhook } from 'standardwebhooks';
import { afterAll, afterEach, beforeAll, expect, test, vi } from 'vitest';
import type { HookEvent, Person } from '$lib/shared/types';
import { rows } from '../database';
import { isOutside } from '../outside';
import { workOn } from '../queue';
import { aboutFrame, batch, closeWorld, layer, makeMember, newPerson, newPiece, openWorld } from '../testing/world';
import { pools } from '../work';
import { refreshCards } from './cards';
import { addComment } from './comments';
import { doorBook } from './door-book';
import { endHook, hooksOf, makeHook, tellHook, tryHook } from './hooks';
import { saveBatches } from './saving';

/** What a program elsewhere was told, as it came. */
interface Told {
  readonly path: string;
  readonly headers: IncomingHttpHeaders;
  readonly body: string;
}

let server: Server;
let origin: string;
let status = 200;
const told: Told[] = [];

beforeAll(async () => {
  await openWorld();
  server = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      told.push({ path: request.url!, headers: request.headers, body });
      response.writeHead(status, { location: '/elsewhere' }).end('taken');
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  origin = `http://127.0.0.1:${(server.address() as { port: number }).port}`;
  await workOn({ 'tell a hook': tellHook }, 0.5);
});
afterEach(() => {
  vi.unstubAllEnvs();
  status = 200;
});
afterAll(async () => {
  await new Promise((resolve) => server.close(resolve));
  await closeWorld();
});

const within = () => vi.stubEnv('ZANY_HOOKS_INSIDE', 'on');

async function world(
  events: readonly HookEvent[]
): Promise<{ owner: Person; id: string; frame: string; path: string; hook: string; secret: string }> {
  const owner = await newPerson('Ina Rask');
  const { id, frame } = await newPiece(owner);
  const path = `/${id}`;
  const { id: hook, secret } = await makeHook(owner, id, { address: origin + path, events });
  return { owner, id, frame, path, hook, secret };
}

/** What was told to a path, once there are so many. */
async function toldTo(path: string, count: number): Promise<Told[]> {
  await vi.waitFor(() => expect(told.filter((one) => one.path === path).length).toBeGreaterThanOrEqual(count), { timeout: 20_000, interval: 100 });
  return told.filter((one) => one.path === path);
}

const bodyOf = ({ body }: Told) => JSON.parse(body) as { type: string; timestamp: string; data: Record<string, unknown> };

test('who is told can check that it was this studio, and that nothing was changed on the way', async () => {
  within();
  const { owner, id, frame, path, secret, hook } = await world(['commented']);
  await addComment(owner, id, { root: null, place: aboutFrame(frame), body: 'Too small for a thumb' }, origin);
  const [one] = await toldTo(path, 1);
  expect(bodyOf(one!)).toMatchObject({
    type: 'piece.commented',
    data: { piece: id, root: null, by: 'Ina Rask', body: 'Too small for a thumb' },
  });
  const headers = one!.headers as Record<string, string>;
  expect(new Webhook(secret).verify(one!.body, headers)).toMatchObject({ type: 'piece.commented' });
  expect(() => new Webhook(secret).verify(one!.body.replace('small', 'large'), headers)).toThrow();
  expect(() => new Webhook(`whsec_${Buffer.from('another').toString('base64')}`).verify(one!.body, headers)).toThrow();
  await vi.waitFor(async () => expect((await hooksOf(owner, id))[0]!.answered).toMatchObject({ problem: null }));
  expect(JSON.stringify(await hooksOf(owner, id))).not.toContain(secret);
  await endHook(owner, id, hook);
  expect(await hooksOf(owner, id)).toEqual([]);
  expect((await doorBook(owner, id)).map(({ sentence }) => sentence).join()).toMatch(/told no more.*told of what happens/s);
});

test('a piece that was changed is told of when it has rested, with how its loose ends went; what nobody asked for is not told', async () => {
  within();
  const { owner, id, frame, path } = await world(['saved', 'loose ends']);
  await saveBatches(owner, id, [batch([layer('one', frame)])]);
  // The first time nothing is known of before.
  await vi.waitFor(async () => expect(await rows('SELECT 1 FROM cards WHERE piece_id = $1 AND revision = 1', [id])).toHaveLength(1), {
    timeout: 20_000,
  });
  const dangling = {
    id: 't',
    on: 'layer',
    owner: 'one',
    order: 'a',
    enabled: true,
    cue: { type: 'click' },
    branches: [{ steps: [{ do: 'go', target: { to: 'frame', frame: null }, transition: { type: 'cut' } }] }],
  };
  const [saved] = await saveBatches(owner, id, [batch([{ op: 'put', table: 'threads', value: dangling }])]);
  expect(saved).toEqual({ id: expect.any(String) as string, revision: 2 });
  await addComment(owner, id, { root: null, place: aboutFrame(frame), body: 'Hm' }, origin);
  const all = () => told.filter((one) => one.path === path).map(bodyOf);
  const last = () => all().filter(({ data }) => data['revision'] === 2);
  const types = () =>
    last()
      .map(({ type }) => type)
      .sort();
  await vi.waitFor(() => expect(types()).toEqual(['piece.loose-ends', 'piece.saved']), { timeout: 20_000, interval: 100 });
  const { before, now } = last().find(({ type }) => type === 'piece.loose-ends')!.data as { before: number; now: number };
  expect(now).toBeGreaterThan(before);
  expect(all().some(({ type }) => type === 'piece.commented')).toBe(false);
});

test('that a piece was saved is told once, while the cards of others are still being worked out, and from the first time on', async () => {
  within();
  const { owner, id, frame, path } = await world(['saved']);
  const held = vi.spyOn(pools().rest, 'run').mockReturnValue(new Promise(() => {}));
  try {
    await saveBatches(owner, id, [batch([layer('one', frame)])]);
    expect((await toldTo(path, 1)).map(bodyOf)).toMatchObject([{ type: 'piece.saved', data: { piece: id, revision: 1 } }]);
    refreshCards([{ id, revision: 1 }]);
    await saveBatches(owner, id, [batch([layer('two', frame)])]);
    expect((await toldTo(path, 2)).map((one) => bodyOf(one).data['revision'])).toEqual([1, 2]);
    expect(held).toHaveBeenCalled();
  } finally {
    held.mockRestore();
  }
});

test('what is not taken is tried again later, and what came of it stands with the address; a redirect is not followed', async () => {
  within();
  const { owner, id, frame, path, hook } = await world(['commented']);
  status = 302;
  expect(await tryHook(owner, id, hook)).toMatchObject({ problem: 'It answers with status 302.' });
  expect(told.some((one) => one.path === '/elsewhere')).toBe(false);
  status = 500;
  await addComment(owner, id, { root: null, place: aboutFrame(frame), body: 'Hm' }, origin);
  await toldTo(path, 2);
  await vi.waitFor(async () =>
    expect(await rows("SELECT state, retry_count AS tried FROM jobs.job WHERE data->>'hook' = $1", [hook])).toEqual([{ state: 'retry', tried: 0 }])
  );
  expect((await hooksOf(owner, id))[0]!.answered!.problem).toBe('It answers with status 500.');
  status = 200;
  expect(await tryHook(owner, id, hook)).toMatchObject({ problem: null });
});

test('what goes wrong on the way is said in words', async () => {
  within();
  const owner = await newPerson();
  const { id } = await newPiece(owner);
  const problemAt = async (address: string) => (await tryHook(owner, id, (await makeHook(owner, id, { address, events: ['saved'] })).id)).problem;
  const free = createServer();
  await new Promise<void>((resolve) => free.listen(0, '127.0.0.1', resolve));
  const { port } = free.address() as { port: number };
  await new Promise((resolve) => free.close(resolve));
  expect(await problemAt(`http://127.0.0.1:${port}/told`)).toBe('Nothing listens there.');
});

test('nothing is sent into the network of the studio itself', async () => {
  for (const inside of [
    '127.0.0.1',
    '10.1.2.3',
    '192.168.0.1',
    '172.16.5.5',
    '169.254.169.254',
    '100.64.0.1',
    '0.0.0.0',
    '::1',
    '::ffff:10.0.0.1',
    'fd00::1',
    'fe80::1',
    '224.0.0.1',
    'nonsense',
  ])
    expect(isOutside(inside), inside).toBe(false);
  for (const outside of ['93.184.216.34', '2606:2800:220:1:248:1893:25c8:1946']) expect(isOutside(outside), outside).toBe(true);
  const { owner, id, path, hook } = await world(['commented']);
  expect(await tryHook(owner, id, hook)).toMatchObject({ problem: '127.0.0.1 is no machine on the open internet.' });
  const named = await makeHook(owner, id, { address: origin.replace('127.0.0.1', 'localhost') + path, events: ['commented'] });
  expect(await tryHook(owner, id, named.id)).toMatchObject({ problem: 'localhost is no machine on the open internet.' });
  expect(told.some((one) => one.path === path)).toBe(false);
});

test('ten addresses are told of a piece at most, made by editors', async () => {
  const { owner, id } = await world(['saved']);
  const reviewer = await newPerson();
  await makeMember(id, reviewer, 'reviewer');
  const wish = { address: 'https://build.kittiwake.example/told', events: ['saved'] } as const;
  await expect(makeHook(reviewer, id, wish)).rejects.toThrow('Only its editors');
  for (let i = 0; i < 9; i++) await makeHook(owner, id, wish);
  await expect(makeHook(owner, id, wish)).rejects.toThrow('10 addresses');
  await expect(endHook(owner, id, 'none')).rejects.toThrow('not told any more');
});
