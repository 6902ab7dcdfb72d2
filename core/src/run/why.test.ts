import { describe, expect, test } from 'vitest';
import { compose, layerId as id, type ComposeSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import { compile } from '../program/compile.ts';
import { unwrap } from '../result.ts';
import { replay, start } from './run.ts';
import type { RunEvent } from './state.ts';

type Layers = NonNullable<ComposeSpec['frames'][string]['layers']>;

/** Why the last of some events came to nothing, on a frame with these layers; threads of some layers are switched off. */
function whys(layers: Layers, event: RunEvent, { off = [] as string[], ...more }: Partial<ComposeSpec> & { off?: string[] } = {}) {
  let piece = compose({ size: [400, 400], ...more, frames: { home: { layers }, ...more.frames } });
  for (const thread of piece.threads.values())
    if (off.includes(thread.owner.split('/').at(-1)!))
      piece = unwrap(apply(piece, [{ op: 'set', table: 'threads', id: thread.id, path: ['enabled'], value: false }])).piece;
  const program = compile(piece);
  return replay(program, start(program)!, [event]).reports.flatMap(({ whyNot }) => whyNot);
}

const click = (name: string): RunEvent => ({ type: 'click', layer: id('home', name) });
const at: readonly [number, number, number, number] = [0, 0, 100, 100];

describe('why a click comes to nothing', () => {
  test('nobody has wired it: named, with its layer', () => {
    expect(whys({ box: { at } }, click('box'))).toEqual([{ code: 'not-wired', sentence: 'box is not wired.', layer: id('home', 'box') }]);
  });

  test('a thread of it is switched off, or for something else', () => {
    const box = { at, lines: ['click → send it'] };
    expect(whys({ box }, click('box'), { off: [id('home', 'box')] })).toMatchObject([
      { code: 'switched-off', sentence: 'A thread of box is switched off.', layer: id('home', 'box') },
    ]);
    expect(whys({ box: { at, lines: ['hover → send it'] } }, click('box'))).toMatchObject([
      { code: 'other-cue', sentence: 'box has a thread, but not for a click: hover.' },
    ]);
    expect(whys({ box: { at, lines: ['key Enter → send it'] } }, click('box'))).toMatchObject([
      { code: 'other-cue', sentence: expect.stringContaining('not for a click: key ') as string },
    ]);
  });

  test('something in front takes it; what is in front and has a thread of its own does not count as covered', () => {
    const under = { at, lines: ['click → send it'] };
    const lid = { type: 'hit' as const, hit: { how: 'block' as const }, at };
    expect(whys({ under, lid }, click('lid'))).toMatchObject([
      { code: 'covered', sentence: 'lid lies in front of under and takes the press.', layer: id('home', 'under') },
    ]);
    expect(whys({ under, lid }, click('lid'), { off: [id('home', 'under')] })).toMatchObject([{ code: 'not-wired', layer: id('home', 'lid') }]);
    expect(whys({ under: { at, lines: ['hover → send it'] }, lid }, click('lid'))).toMatchObject([{ code: 'not-wired' }]);
    const card = { type: 'group' as const, at };
    expect(whys({ under: { at: [200, 200, 50, 50], lines: ['click → send it'] }, card, face: { at, in: 'card' } }, click('face'))).toMatchObject([
      { code: 'not-wired', layer: id('home', 'face') },
    ]);
  });

  test('it is disabled, by itself, by what is around it, or by a condition that does not hold', () => {
    const box = { at, lines: ['click → send it'] };
    const variables = { seats: { type: 'number', initial: 0 } } as const;
    expect(whys({ box: { ...box, disabled: true } }, click('box'))).toMatchObject([
      { code: 'disabled', sentence: 'box is disabled.', layer: id('home', 'box') },
    ]);
    const card = { type: 'group' as const, at, disabled: true };
    expect(whys({ card, box: { ...box, in: 'card' } }, click('box'))).toMatchObject([
      { code: 'disabled', sentence: 'card is disabled.', layer: id('home', 'card') },
    ]);
    expect(whys({ box: { ...box, when: { enabled: 'seats > 2' } } }, click('box'), { variables })).toMatchObject([
      { code: 'disabled', sentence: 'box was disabled: seats was 0.', clause: 'seats > 2' },
    ]);
    expect(whys({ box: { ...box, when: { enabled: 'false' } } }, click('box'))[0]!.sentence).toMatch(/^box was disabled: /);
  });

  test('its conditions do not hold, each told with what was read; a branch without one always wins', () => {
    const variables = { seats: { type: 'number', initial: 2 }, fare: { type: 'text', initial: 'Day' } } as const;
    const box = { at, lines: ['click → if seats > 5 → send a; otherwise if fare = "Week" → send b'] };
    expect(whys({ box }, click('box'), { variables })).toMatchObject([
      { code: 'condition', clause: 'seats > 5', sentence: 'seats > 5 did not hold: seats was 2.', branch: 0, layer: id('home', 'box') },
      { code: 'condition', sentence: 'fare = "Week" did not hold: fare was Day.', branch: 1 },
    ]);
    expect(whys({ box: { at, lines: ['click → if seats > 5 → send a; otherwise → send b'] } }, click('box'), { variables })).toEqual([]);
  });

  test('nothing is there at all', () => {
    expect(whys({ box: { at } }, { type: 'click', layer: null })).toEqual([
      { code: 'nothing-there', sentence: 'Nothing is there, and home itself is not wired.' },
    ]);
  });
});

describe('why a key comes to nothing', () => {
  const key: RunEvent = { type: 'key', key: 'x' };

  test('no thread waits for it, or the one that does is switched off: of a layer, the frame or the piece', () => {
    expect(whys({ box: { at, lines: ['click → send it'] } }, key)).toMatchObject([
      { code: 'no-thread', sentence: expect.stringContaining('No thread here waits for') as string },
    ]);
    expect(whys({ box: { at, lines: ['key x → send it', 'key y → send it'] } }, key, { off: [id('home', 'box')] })).toMatchObject([
      { code: 'switched-off', sentence: expect.stringMatching(/^The thread for .* is switched off\.$/) as string },
    ]);
    const frames = { home: { layers: {}, lines: ['key x → send it'] } };
    expect(whys({}, key, { frames, off: ['home'] })).toMatchObject([{ code: 'switched-off' }]);
    expect(whys({}, key, { frames })).toEqual([]);
  });
});
