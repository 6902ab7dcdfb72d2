import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, test, vi } from 'vitest';
import { writePackage } from '@zany/core';
import { compose, type ComposeSpec } from '@zany/core/testing';
import type { Errand, ErrandWish } from '$lib/shared/errands';
import type { Person, ShortestWays } from '$lib/shared/types';
import { rows } from '../database';
import { newId } from '../ids';
import { workOn } from '../queue';
import { Refusal } from '../refusal';
import { batch, closeWorld, layer, makeMember, newPerson, newPiece, openWorld, wish as linkWish } from '../testing/world';
import { closePools, hasTimeForErrand, pools } from '../work';
import { beginBringIn, beginErrand, doErrand, errandFile, errandOf, errandsOf, stopErrand, takeUpErrands } from './errands';
import { makeLink } from './links';
import { bringInPackage, listPieces, renamePiece, setDeleted } from './pieces';
import { saveBatches } from './saving';

beforeAll(async () => {
  await openWorld();
  await workOn({ 'do an errand': doErrand }, 0.5);
});
afterAll(closeWorld);

const TABLE: ErrandWish = { kind: 'export', to: 'threads' };

/** Two frames, a way from one to the other, and none back. */
const harbour: ComposeSpec = {
  frames: { home: { layers: { on: { at: [0, 0, 90, 44], lines: ['click → go to pay'] } } }, pay: { layers: { note: { text: 'Paid' } } } },
};

/** What takes a while to be walked: so many counters that none of them can be left out. */
const long: ComposeSpec = {
  variables: Object.fromEntries(Array.from({ length: 7 }, (_, i) => [`v${i}`, { type: 'number' as const, initial: 0, min: 0, max: 9 }])),
  frames: {
    home: {
      layers: {
        ...Object.fromEntries(
          Array.from({ length: 7 }, (_, i) => [`b${i}`, { at: [i * 50, 0, 44, 44] as const, lines: [`click → set v${i} to v${i} + 1`] }])
        ),
        sum: { at: [0, 100, 90, 44], lines: ['click → if v0 * v1 * v2 * v3 * v4 * v5 * v6 = 1234567 → go to far'] },
      },
    },
    far: { layers: { note: { text: 'Far' } } },
  },
};

async function pieceOf(spec: ComposeSpec): Promise<{ owner: Person; id: string }> {
  const owner = await newPerson('Ina Rask');
  return { owner, id: await bringInPackage(owner, writePackage(compose(spec), new Map())) };
}

const until = (owner: Person, id: string, errand: string, state: Errand['state']) =>
  vi.waitFor(
    async () => {
      const found = await errandOf(owner, id, errand);
      expect(found.state).toBe(state);
      return found;
    },
    { timeout: 30_000, interval: 50 }
  );

const textOf = async (owner: Person, id: string, errand: string) => Buffer.from((await errandFile(owner, id, errand)).bytes).toString();

/** Has something made by this server, and waits for it. */
async function made(owner: Person, id: string, wish: ErrandWish): Promise<string> {
  const { id: errand } = await beginErrand(owner, id, wish);
  await until(owner, id, errand, 'done');
  return textOf(owner, id, errand);
}

const raw = (errand: string, set: string) => rows(`UPDATE errands SET ${set} WHERE id = $1`, [errand]);

/** As a server leaves it that was killed in the middle. */
const leftLying = (errand: string) => raw(errand, `state = 'at work', alive_at = now() - interval '1 minute', bytes = NULL, name = NULL`);

test('a form of the piece is made once for who asks twice, and fetched by nobody else', async () => {
  const { owner, id } = await pieceOf(harbour);
  const [one, other] = await Promise.all([beginErrand(owner, id, TABLE), beginErrand(owner, id, TABLE)]);
  expect(other.id).toBe(one.id);
  expect(await until(owner, id, one.id, 'done')).toMatchObject({
    wish: TABLE,
    revision: 0,
    problem: null,
    file: { name: expect.stringMatching(/\.threads\.csv$/) },
  });
  expect(await textOf(owner, id, one.id)).toContain('click,,go to pay');
  expect((await beginErrand(owner, id, TABLE)).id).toBe(one.id);

  const other_ = await newPerson();
  await makeMember(id, other_, 'owner');
  await expect(errandFile(other_, id, one.id)).rejects.toThrow('not there any more');
  await expect(errandFile(await newPerson(), id, one.id)).rejects.toThrow('not shared with you');

  // After an edit it is another one.
  await renamePiece(owner, id, 'Quay');
  const next = await beginErrand(owner, id, TABLE);
  expect(next.id).not.toBe(one.id);
  expect((await until(owner, id, next.id, 'done')).file!.name).toBe('quay.threads.csv');
  expect((await errandsOf(owner, id)).map((errand) => errand.id)).toEqual([next.id, one.id]);
  await stopErrand(owner, id, one.id);
  expect((await errandsOf(owner, id)).map((errand) => errand.id)).toEqual([next.id]);
});

test('what was found by walking, what two versions do otherwise, and shortest ways', async () => {
  const { owner, id } = await pieceOf(harbour);
  const sarif = JSON.parse(await made(owner, id, { kind: 'walk', as: 'sarif' })) as { runs: { results: { ruleId: string }[] }[] };
  expect(sarif.runs[0]!.results.map(({ ruleId }) => ruleId)).toContain('dead-end');

  const tasks = [{ id: 'pay', sentence: 'Pay', start: null, goal: { frame: 'pay' } }];
  const { id: link } = await makeLink(owner, id, linkWish({ tasks }), null);
  const shortest = JSON.parse(await made(owner, id, { kind: 'shortest', link })) as ShortestWays;
  expect(shortest).toEqual({ pay: { frames: ['home', 'pay'], steps: 1 } });
  await expect(beginErrand(owner, id, { kind: 'shortest', link: 'none' })).rejects.toThrow('no such link');

  await saveBatches(owner, id, [batch([{ op: 'remove', table: 'threads', id: (await threadsOf(id))[0]! }])]);
  const compared = JSON.parse(await made(owner, id, { kind: 'compare', before: 0, after: null })) as {
    changes: { sentence: string }[];
    apart: { kind: string };
    cut: object;
  };
  expect(compared.changes.map(({ sentence }) => sentence).join(' ')).toContain('pay');
  expect(compared).toMatchObject({ apart: { kind: 'apart' }, cut: { before: null, after: null } });
  await expect(beginErrand(owner, id, { kind: 'compare', before: 0, after: 9 })).rejects.toThrow('no such version');
});

test('pictures and pages without a browser; what is wished by a wrong name says what there is', async () => {
  const { owner, id } = await pieceOf(harbour);
  const { id: errand } = await beginErrand(owner, id, { kind: 'draw', draw: { as: 'png', scale: 2, every: 1, only: ['pay'] } });
  expect(await until(owner, id, errand, 'done')).toMatchObject({ file: { name: expect.stringMatching(/\.png\.zip$/) }, leftOut: [] });
  const files = unzipSync((await errandFile(owner, id, errand)).bytes);
  expect(Object.keys(files)).toEqual(['pay.png']);
  expect(await sharp(files['pay.png']).metadata()).toMatchObject({ format: 'png', width: 780, height: 1688 });
  const pages = await beginErrand(owner, id, { kind: 'draw', draw: { as: 'pdf', scale: 1, every: 1 } });
  await until(owner, id, pages.id, 'done');
  expect(await textOf(owner, id, pages.id)).toMatch(/^%PDF-1\./);
  const wrong = await beginErrand(owner, id, { kind: 'draw', draw: { as: 'gif', scale: 1, every: 1, timeline: 'pay' } });
  expect((await until(owner, id, wrong.id, 'failed')).problem).toBe('Nothing called “pay” has a timeline. Nothing has one.');
});

const threadsOf = async (id: string) =>
  (await rows<{ thread: string }>(`SELECT jsonb_object_keys(body->'threads') AS thread FROM snapshots WHERE piece_id = $1`, [id])).map(
    ({ thread }) => thread
  );

test('says how far it has come, and ends with its worker when it is stopped', async () => {
  // Both are there before the long one is begun: it may not end before the other one is asked for.
  const next = await pieceOf(harbour);
  const { owner, id } = await pieceOf(long);
  const { id: errand } = await beginErrand(owner, id, { kind: 'walk', as: 'csv' });
  await vi.waitFor(async () => expect((await errandOf(owner, id, errand)).said).toMatch(/^[\d,]+ states walked$/), { timeout: 30_000, interval: 50 });
  expect(hasTimeForErrand()).toBe(false);
  const { id: behind } = await beginErrand(next.owner, next.id, TABLE);
  expect(await errandOf(next.owner, next.id, behind)).toMatchObject({ state: 'waiting' });
  await stopErrand(owner, id, errand);
  expect(await errandOf(owner, id, errand)).toMatchObject({ state: 'stopped', said: null, problem: null, file: null });
  // Whoever stood in line comes to his turn.
  await until(next.owner, next.id, behind, 'done');
  await vi.waitFor(() => expect(hasTimeForErrand()).toBe(true), { timeout: 10_000, interval: 50 });
  expect(await errandOf(owner, id, errand)).toMatchObject({ state: 'stopped' });
  await expect(errandFile(owner, id, errand)).rejects.toThrow('It was stopped.');
  // Asked for again, it is begun anew.
  expect((await beginErrand(owner, id, { kind: 'walk', as: 'csv' })).id).not.toBe(errand);
  for (const one of await errandsOf(owner, id)) await stopErrand(owner, id, one.id);
});

test('three at once for one person, of all pieces; ended ones make room', async () => {
  const owner = await newPerson();
  const pieces = await Promise.all(Array.from({ length: 4 }, () => newPiece(owner)));
  // They end with the test: whoever does one for good does nothing else any more.
  let release = () => {};
  const held = vi.spyOn(pools().errands, 'run').mockReturnValue(
    new Promise((resolve) => {
      release = () => resolve({ ok: false, error: new Refusal('bad-request', 'The test is over.').fault });
    })
  );
  try {
    const begun = [];
    for (const { id } of pieces.slice(0, 3)) begun.push(await beginErrand(owner, id, TABLE));
    const refused = await beginErrand(owner, pieces[3]!.id, TABLE).catch((error: unknown) => error);
    expect(refused).toBeInstanceOf(Refusal);
    expect(refused).toMatchObject({ status: 429, message: '3 things are being done for you already. Wait until one is done, or stop one.' });
    await stopErrand(owner, pieces[0]!.id, begun[0]!.id);
    expect(await beginErrand(owner, pieces[3]!.id, TABLE)).toMatchObject({ problem: null });
    // Somebody else is not kept from anything by that.
    const other = await newPerson();
    expect(await beginErrand(other, (await newPiece(other)).id, TABLE)).toMatchObject({ problem: null });
  } finally {
    release();
    held.mockRestore();
  }
});

test('what a killed server leaves lying is taken up by another, three times at most', async () => {
  const { owner, id } = await pieceOf(harbour);
  const { id: errand } = await beginErrand(owner, id, TABLE);
  await until(owner, id, errand, 'done');
  await leftLying(errand);
  // Somebody who says that he is at it is left alone.
  await doErrand({ errand });
  expect((await errandOf(owner, id, errand)).state).toBe('at work');
  await takeUpErrands();
  await until(owner, id, errand, 'done');
  expect(await textOf(owner, id, errand)).toContain('go to pay');

  await leftLying(errand);
  await raw(errand, 'tries = 3');
  await takeUpErrands();
  expect(await until(owner, id, errand, 'failed')).toMatchObject({
    problem: 'It was begun 3 times, and each time its server ended before it was done.',
  });
});

test('a server that is stopped leaves it to the next, which is no try; one that is slow does not write over who has taken it up', async () => {
  const { owner, id } = await pieceOf(long);
  const { id: errand } = await beginErrand(owner, id, { kind: 'walk', as: 'csv' });
  await vi.waitFor(async () => expect((await errandOf(owner, id, errand)).said).not.toBeNull(), { timeout: 30_000, interval: 50 });
  await closePools();
  await until(owner, id, errand, 'waiting');
  expect(await rows('SELECT tries FROM errands WHERE id = $1', [errand])).toEqual([{ tries: 0 }]);
  await stopErrand(owner, id, errand);

  const table = (await beginErrand(owner, id, { kind: 'export', to: 'package' })).id;
  await until(owner, id, table, 'done');
  const taken = vi.spyOn(pools().errands, 'run').mockImplementation(async () => {
    await raw(table, "tries = tries + 1, state = 'at work'");
    return { ok: true, value: { bytes: Buffer.from('late'), leftOut: [] } } as never;
  });
  await raw(table, "state = 'waiting'");
  await doErrand({ errand: table });
  expect(await errandOf(owner, id, table)).toMatchObject({ state: 'at work' });
  // Nor does one that fails.
  taken.mockImplementation(async () => {
    await raw(table, "tries = tries + 1, state = 'at work'");
    throw new Error('boom');
  });
  await raw(table, "state = 'waiting', tries = 0");
  await doErrand({ errand: table });
  taken.mockRestore();
  expect(await errandOf(owner, id, table)).toMatchObject({ state: 'at work' });
  expect(await rows("SELECT 1 FROM errands WHERE id = $1 AND bytes = 'late'::bytea", [table])).toEqual([]);
});

test('what cannot be made says why; what is old or too many is forgotten', async () => {
  const { owner, id } = await pieceOf(harbour);
  const held = vi.spyOn(pools().errands, 'run').mockRejectedValue(new Error('boom'));
  const { id: broken } = await beginErrand(owner, id, TABLE);
  expect(await until(owner, id, broken, 'failed')).toMatchObject({ problem: 'It cannot be made: something went wrong on the server.' });
  held.mockRestore();
  // It can be asked for again.
  const { id: again } = await beginErrand(owner, id, TABLE);
  await until(owner, id, again, 'done');
  await raw(again, "state = 'waiting'");
  await setDeleted(owner, id, true);
  await doErrand({ errand: again });
  await setDeleted(owner, id, false);
  expect(await errandOf(owner, id, again)).toMatchObject({ state: 'failed', problem: 'The piece was deleted.' });

  await raw(broken, "created_at = now() - interval '25 hours'");
  for (let i = 0; i < 12; i++) {
    await saveBatches(owner, id, [batch([layer(`l${i}`, 'home')])]);
    const { id: one } = await beginErrand(owner, id, { kind: 'export', to: 'tokens' });
    await until(owner, id, one, 'done');
  }
  const kept = await errandsOf(owner, id);
  expect(kept.map(({ id: one }) => one)).not.toContain(broken);
  expect(kept.length).toBeLessThanOrEqual(11);
});

// ── packages ──────────────────────────────────────────────────────────────────

const untilDone = (owner: Person, errand: string, state: Errand['state'] = 'done') =>
  vi.waitFor(
    async () => {
      const found = await errandOf(owner, null, errand);
      expect(found.state).toBe(state);
      return found;
    },
    { timeout: 30_000, interval: 50 }
  );

test('a package that is sent becomes a piece of whoever sent it, once', async () => {
  const owner = await newPerson('Ina Rask');
  const { id } = await beginBringIn(owner, 'harbour.zip', writePackage(compose({ ...harbour, name: 'Harbour' }), new Map()));
  const { made, wish: asked, file } = await untilDone(owner, id);
  expect([asked, file]).toEqual([{ kind: 'bring in', file: 'harbour.zip' }, null]);
  expect((await listPieces(owner)).map((card) => [card.id, card.name])).toEqual([[made, 'Harbour']]);
  expect(await rows('SELECT 1 FROM errands WHERE id = $1 AND sent IS NOT NULL', [id])).toEqual([]);
  await expect(errandOf(await newPerson('Odd Vik'), null, id)).rejects.toThrow('not there any more');
  await stopErrand(owner, null, id);
  expect(await errandsOf(owner, null)).toEqual([]);
  expect(await listPieces(owner)).toHaveLength(1);
});

test('what is no package is refused with a sentence, and nothing is left of it', async () => {
  const owner = await newPerson('Ina Rask');
  const { id } = await beginBringIn(owner, 'tide.zip', Buffer.from('no zip at all'));
  expect((await untilDone(owner, id, 'failed')).problem).toMatch(/\.$/);
  expect(await rows('SELECT 1 FROM errands WHERE id = $1 AND sent IS NOT NULL', [id])).toEqual([]);
  expect(await listPieces(owner)).toEqual([]);
});

test('a package that a killed server left lying is brought in once by another; one that was stopped is not', async () => {
  const owner = await newPerson('Ina Rask');
  const bytes = writePackage(compose(harbour), new Map());
  const { id } = await beginBringIn(owner, 'harbour.zip', bytes);
  await untilDone(owner, id);
  const [piece] = await listPieces(owner);
  await setDeleted(owner, piece!.id, true);
  await rows(`UPDATE errands SET sent = $2, made = NULL WHERE id = $1`, [id, Buffer.from(bytes)]);
  await leftLying(id);
  await takeUpErrands();
  await untilDone(owner, id);
  expect(await listPieces(owner)).toHaveLength(1);

  const waiting = newId();
  await rows(`INSERT INTO errands (id, person_id, revision, wish, pinned, sent) VALUES ($1, $2, 0, '{"kind":"bring in","file":"a.zip"}', '{}', $3)`, [
    waiting,
    owner.id,
    Buffer.from(bytes),
  ]);
  await stopErrand(owner, null, waiting);
  await doErrand({ errand: waiting });
  expect(await errandOf(owner, null, waiting)).toMatchObject({ state: 'stopped', made: null });
  expect(await listPieces(owner)).toHaveLength(1);
});

test('nobody has more than three brought in at once, what is being made counted', async () => {
  const owner = await newPerson('Ina Rask');
  const put = () =>
    rows(`INSERT INTO errands (id, person_id, revision, wish, pinned, state) VALUES ($1, $2, 0, '{}', '{}', 'at work')`, [newId(), owner.id]);
  await Promise.all([put(), put(), put()]);
  await expect(beginBringIn(owner, 'harbour.zip', new Uint8Array(3))).rejects.toThrow('3 things are being done for you already');
});
