import { afterAll, beforeAll, describe, expect, test, vi } from 'vitest';
import { apply, pieceToJson, unwrap, type Operation, type PieceJson } from '@zany/core';
import { compose, layerId } from '@zany/core/testing';
import type { LinkWish, Person } from '$lib/shared/types';
import { newId } from '../ids';
import { isPerson, type Holder } from '../principal';
import { batch, closeWorld, layer, makeMember, newPerson, openWorld, packageOf, wish } from '../testing/world';
import { comeIn, faceOf, holderOf } from './link-door';
import { streamOfLink } from './link-stream';
import { changeLink, linksOf, makeLink, withdrawLink } from './links';
import { bringInPackage, setDeleted } from './pieces';
import { saveBatches } from './saving';
import { linkedAsset, openLinked } from './shown';
import { forgetHolder, forgetMe, keepTrail, resultsOf } from './trails';

beforeAll(openWorld);
afterAll(closeWorld);

let owner: Person;
beforeAll(async () => {
  owner = await newPerson('Ina Rask');
});

/** A piece of three frames: a button on the first leads to `pay`, one there to `paid`. */
const harbour = compose({
  name: 'Harbour',
  frames: {
    first: { layers: { on: { at: [0, 0, 200, 60], text: 'Book', lines: ['click → go to pay'] } } },
    pay: { layers: { go: { at: [0, 0, 200, 60], text: 'Pay', lines: ['click → go to paid'] } } },
    paid: {},
  },
});
const BUNDLES = [
  { op: 'set', table: 'piece', id: harbour.head.id, path: ['bundles'], value: { inner: { name: 'Inner', order: 'a' } } },
  ...['pay', 'paid'].map((id) => ({ op: 'set', table: 'scenes', id, path: ['bundle'], value: 'inner' })),
] as Operation[];
const document = pieceToJson(unwrap(apply(harbour, BUNDLES)).piece);
const ON = layerId('first', 'on');

async function piece() {
  return { id: await bringInPackage(owner, packageOf(document)), first: 'first' };
}

async function holderFor(pieceId: string, more: Partial<LinkWish> = {}, name = 'Odd') {
  const link = await makeLink(owner, pieceId, wish(more), null);
  const kept = await comeIn(link.token, name, '', newId());
  return { link, kept, holder: (await holderOf(link.token, kept))! };
}

const press = (x: number, y: number): [number, object][] => [
  [300, { type: 'press', x, y }],
  [60, { type: 'release', x, y }],
];
const went = (from: string, ...events: [number, object][][]) => ({ from, events: events.flat() });
const sent = (trail: object, more: object = {}) => ({ id: newId(), task: null, revision: 0, view: 0, trail, givenUp: false, isFull: false, ...more });

describe('the door', () => {
  test('says whose piece it is, lets in under a name, and knows who came in again', async () => {
    const { id } = await piece();
    const { link, holder, kept } = await holderFor(id, {}, '  Odd Vik ');
    expect(link.token).toMatch(/^[\w-]{22}$/);
    expect(await faceOf(link.token, newId())).toEqual({ piece: 'Harbour', by: 'Ina Rask', may: 'walk', needsPassword: false });
    expect(holder).toMatchObject({ kind: 'holder', name: 'Odd Vik', piece: id, may: 'walk' });
    expect(isPerson(holder)).toBe(false);
    const other = await makeLink(owner, id, wish(), null);
    expect(await holderOf(other.token, kept)).toBeNull();
    expect(await holderOf(link.token, 'x'.repeat(43))).toBeNull();
    expect((await linksOf(owner, id)).map(({ holders }) => holders)).toEqual([0, 1]);
  });

  test('a password is asked for, and guessing it is counted', async () => {
    const { id } = await piece();
    const { token } = await makeLink(owner, id, wish(), 'pier');
    expect(await faceOf(token, newId())).toMatchObject({ needsPassword: true });
    const place = newId();
    await expect(comeIn(token, 'Odd', 'peer', place)).rejects.toThrow('not the password');
    expect(await comeIn(token, 'Odd', 'pier', place)).toMatch(/^[\w-]{43}$/);
    for (let i = 0; i < 60; i++) expect(await comeIn(token, 'Odd', 'pier', place)).toBeTruthy();
    for (let i = 0; i < 50; i++) await comeIn(token, 'Odd', 'guess', newId()).catch(() => undefined);
    await expect(comeIn(token, 'Odd', 'pier', newId())).rejects.toThrow('Too many tries');
  }, 60_000);

  test('one that there is not, that is over, that was withdrawn, or whose piece is deleted: each says so', async () => {
    const { id } = await piece();
    const place = newId();
    for (let i = 0; i < 60; i++) await expect(faceOf(newId(), place)).rejects.toThrow('There is no such link');
    await expect(faceOf(newId(), place)).rejects.toThrow('Too many tries');

    const past = await holderFor(id, { expires: new Date(Date.now() + 400).toISOString() });
    await vi.waitFor(() => expect(faceOf(past.link.token, newId())).rejects.toThrow(/ended on \d+ \w+ \d{4}. Ask Ina Rask/));
    expect(await holderOf(past.link.token, past.kept)).toBeNull();

    const { link, kept } = await holderFor(id);
    await withdrawLink(owner, id, link.id);
    await expect(faceOf(link.token, newId())).rejects.toThrow('Ina Rask has withdrawn this link');
    await expect(comeIn(link.token, 'Odd', '', newId())).rejects.toMatchObject({ code: 'gone' });
    expect(await holderOf(link.token, kept)).toBeNull();

    const last = await holderFor(id);
    await setDeleted(owner, id, true);
    await expect(faceOf(last.link.token, newId())).rejects.toMatchObject({ code: 'gone' });
    await expect(openLinked(last.holder)).rejects.toMatchObject({ code: 'not-found' });
  }, 60_000);

  test('a password is set, changed and taken away; who is in stays in', async () => {
    const { id } = await piece();
    const { link, holder } = await holderFor(id);
    const asks = async () => (await faceOf(link.token, newId())).needsPassword;
    expect(await asks()).toBe(false);
    await changeLink(owner, id, link.id, { password: 'gull' });
    expect(await asks()).toBe(true);
    await expect(comeIn(link.token, 'Odd', 'tern', newId())).rejects.toThrow();
    await comeIn(link.token, 'Odd', 'gull', newId());
    await changeLink(owner, id, link.id, { name: 'The pier again' });
    expect(await asks()).toBe(true);
    await changeLink(owner, id, link.id, { password: null });
    expect(await asks()).toBe(false);
    expect(JSON.parse(await openLinked(holder))).toHaveProperty('piece');
  }, 60_000);

  test('who walks is told at once when it ends', async () => {
    const { id } = await piece();
    const { link, kept, holder } = await holderFor(id);
    const reader = (await streamOfLink(holder, link.token, kept))
      .pipeThrough(new TextDecoderStream() as never)
      .getReader() as ReadableStreamDefaultReader<string>;
    let heard = '';
    const all = (async () => {
      for (let part = await reader.read(); !part.done; part = await reader.read()) heard += part.value;
    })();
    await changeLink(owner, id, link.id, { hints: false });
    await vi.waitFor(() => expect(heard).toContain('event: changed'));
    expect(heard).not.toContain('event: ended');
    await withdrawLink(owner, id, link.id);
    await all;
    expect(heard).toContain('event: ended');
  });
});

describe('what a link shows', () => {
  const shown = async (holder: Holder) => JSON.parse(await openLinked(holder)) as { piece: PieceJson; revision: number; tasks: object[] };

  test('another version once it is changed; one that there is not is refused, and nothing is changed then', async () => {
    const { id, first } = await piece();
    const { link, holder } = await holderFor(id);
    await saveBatches(owner, id, [batch([layer('new', first)])]);
    await changeLink(owner, id, link.id, { revision: 0 });
    expect(await shown(holder)).toMatchObject({ revision: 0 });
    await expect(changeLink(owner, id, link.id, { name: 'Nobody', revision: 7 })).rejects.toThrow('There is no such version.');
    expect(await linksOf(owner, id)).toMatchObject([{ name: link.name, revision: 0 }]);
    await changeLink(owner, id, link.id, { revision: null });
    expect(await shown(holder)).toMatchObject({ revision: 1 });
  });

  test('the latest, or the version that was chosen', async () => {
    const { id, first } = await piece();
    const [latest, fixed] = [await holderFor(id), await holderFor(id, { revision: 0 })];
    await saveBatches(owner, id, [batch([layer('new', first)])]);
    expect(Object.keys((await shown(latest.holder)).piece.layers)).toContain('new');
    expect(await shown(latest.holder)).toMatchObject({ revision: 1 });
    const old = await shown(fixed.holder);
    expect(old.revision).toBe(0);
    expect(Object.keys(old.piece.layers)).not.toContain('new');
    await expect(makeLink(owner, id, wish({ revision: 99 }), null)).rejects.toThrow('no such version');
  });

  test('only the frames of a bundle, and nothing of the others; one that is gone says so', async () => {
    const { id, first } = await piece();
    const { holder } = await holderFor(id, { bundle: 'inner', start: 'paid' });
    const { piece: json } = await shown(holder);
    expect(Object.keys(json.scenes).sort()).toEqual(['paid', 'pay']);
    expect(json.start).toEqual(['paid']);
    expect(JSON.stringify(json)).not.toContain(first);
    const gone = await holderFor(id, { bundle: 'nowhere' });
    await expect(openLinked(gone.holder)).rejects.toThrow('are gone from the piece');
    await expect(linkedAsset(holder, 'a'.repeat(64))).rejects.toMatchObject({ code: 'not-found' });
  });
});

describe('what was done', () => {
  const task = { id: 'book', sentence: 'Book', start: null, goal: { frame: 'paid' } };

  test('is run again in its version: what came of it there', async () => {
    const { id, first } = await piece();
    const { link, holder } = await holderFor(id, { tasks: [task] });
    await keepTrail(holder, sent(went(first, press(300, 700), press(50, 30), press(50, 30)), { task: 'book' }));
    await keepTrail(holder, sent(went(first, press(50, 30)), { task: 'book', givenUp: true }));
    // The button is moved away: what was done before it still led on.
    await saveBatches(owner, id, [batch([{ op: 'set', table: 'layers', id: ON, path: ['pose', 'y'], value: 500 }])]);
    await keepTrail(holder, sent(went(first, press(50, 30)), { revision: 1 }));
    await keepTrail(holder, sent(went('gone', press(50, 30)), { revision: 1 }));
    const { trails, holders, leftOut } = await resultsOf(owner, id, link.id);
    expect(holders.map(({ name }) => name)).toEqual(['Odd']);
    expect(leftOut).toBe(0);
    const [a, b, c, d] = trails;
    expect(a).toMatchObject({ task: 'book', reached: { steps: 3, ms: 1080 } });
    expect(a!.steps!.map(({ on, to, met, at }) => [on, to, met, at])).toEqual([
      [first, first, false, [300, 700]],
      [first, 'pay', true, [50, 30]],
      ['pay', 'paid', true, [50, 30]],
    ]);
    expect(b).toMatchObject({ reached: null, givenUp: true });
    expect(c!.steps!.map(({ met }) => met)).toEqual([false]);
    expect(d!.steps).toBeNull();
  }, 60_000);

  test('is run again with the frames that the link showed then, also where it was changed since and somebody still had the old ones', async () => {
    const { id, first } = await piece();
    const { link, holder } = await holderFor(id);
    const view = async () => (JSON.parse(await openLinked(holder)) as { view: number }).view;
    expect(await view()).toBe(0);
    await keepTrail(holder, sent(went(first, press(50, 30))));
    await changeLink(owner, id, link.id, { bundle: 'inner', start: 'pay', name: 'Of the inner ones' });
    expect(await view()).toBe(1);
    await keepTrail(holder, sent(went('pay', press(50, 30)), { view: 1 }));
    await keepTrail(holder, sent(went(first, press(50, 30)), { view: 0 }));
    // The same again is no other one.
    await changeLink(owner, id, link.id, { bundle: 'inner', start: 'pay' });
    await changeLink(owner, id, link.id, { bundle: null });
    expect(await view()).toBe(2);
    await expect(keepTrail(holder, sent(went(first), { view: 3 }))).rejects.toThrow('never shown this');
    const { trails } = await resultsOf(owner, id, link.id);
    expect(trails.map(({ steps }) => steps!.map(({ on, to }) => [on, to]))).toEqual([[[first, 'pay']], [['pay', 'paid']], [[first, 'pay']]]);
    expect(await linksOf(owner, id)).toMatchObject([{ name: 'Of the inner ones', bundle: null, start: 'pay' }]);
  }, 60_000);

  test('sent again while it goes on it is one go, and a shorter one that comes late does not take its place', async () => {
    const { id, first } = await piece();
    const { link, holder } = await holderFor(id);
    const one = newId();
    await keepTrail(holder, sent(went(first, press(50, 30), press(50, 30)), { id: one }));
    await keepTrail(holder, sent(went(first, press(50, 30)), { id: one }));
    const { trails } = await resultsOf(owner, id, link.id);
    expect(trails.map(({ steps }) => steps!.length)).toEqual([2]);
  });

  test('what is no trail is refused with what is wrong, and a link for looking keeps nothing', async () => {
    const { id, first } = await piece();
    const { holder } = await holderFor(id);
    await expect(keepTrail(holder, sent({ from: first, events: [[1, { type: 'explode' }]] }))).rejects.toMatchObject({ code: 'bad-request' });
    await expect(keepTrail(holder, sent(went(first), { revision: 99 }))).rejects.toThrow('no such version');
    const looking = await holderFor(id, { may: 'look' });
    await expect(keepTrail(looking.holder, sent(went(first)))).rejects.toMatchObject({ code: 'not-allowed' });
  });

  test('one holder cannot fill the house', async () => {
    const { id, first } = await piece();
    const { holder } = await holderFor(id);
    for (let i = 0; i < 200; i++) await keepTrail(holder, sent(went(first)));
    await expect(keepTrail(holder, sent(went(first)))).rejects.toThrow('is not kept');
  }, 60_000);

  test('is deleted by those who made the link, or by whoever did it', async () => {
    const { id, first } = await piece();
    const { link, holder, kept } = await holderFor(id);
    await keepTrail(holder, sent(went(first, press(50, 30))));
    const reviewer = await newPerson();
    await makeMember(id, reviewer, 'reviewer');
    await expect(forgetHolder(reviewer, id, link.id, holder.id)).rejects.toMatchObject({ code: 'not-allowed' });
    await forgetHolder(owner, id, link.id, holder.id);
    expect(await resultsOf(owner, id, link.id)).toMatchObject({ trails: [], holders: [] });
    expect(await holderOf(link.token, kept)).toBeNull();
    await expect(forgetHolder(owner, id, link.id, holder.id)).rejects.toThrow('deleted already');

    const again = await holderFor(id);
    await forgetMe(again.holder);
    expect(await holderOf(again.link.token, again.kept)).toBeNull();
  });
});
