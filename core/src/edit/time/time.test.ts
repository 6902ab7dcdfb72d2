import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, layerId } from '../../compose/compose.ts';
import type { Layer, Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { unwrap } from '../../result.ts';
import { framesPerSecond, frameAt, sectionsOf } from '../../run/playhead.ts';
import { posed } from '../reach/pose.ts';
import { TIME_REACHES, usualReach, withReachInTime, type TimeReach } from '../reach/in-time.ts';
import { apply } from '../apply.ts';
import { moveLayers } from '../commands/layers.ts';
import {
  alignKeys,
  copyKeys,
  easeKeys,
  mirrorKeys,
  moveKeys,
  movedKeys,
  copiedKeys,
  pasteKeys,
  removeKeys,
  setKey,
  spreadKeys,
  staggerKeys,
  stretchKeys,
  type KeyAt,
} from './keys.ts';
import { keysById, keysOf } from '../../motion/track.ts';
import { playedOn } from '../../run/played.ts';
import { advance, start } from '../../run/run.ts';
import { awayWords, marksIn, momentWords, parseMoment, snapped } from './moments.ts';
import { pulledEasing } from './curve.ts';
import { parseEasing } from '../../motion/easing.ts';
import { motionPath } from './motion-path.ts';
import { applyPreset, presets } from './presets.ts';
import { pullKeys, pullStaggered, pullStretched } from './pull.ts';
import {
  addLabel,
  holdMoment,
  addSections,
  copySection,
  cutTime,
  insertTime,
  moveSection,
  removeLabel,
  removeSection,
  resizeSection,
  sectionsFor,
  setEnding,
  stretchTime,
} from './sections.ts';
import { clearSpans, extendSpans, moveSpan, setSpan } from './spans.ts';
import { framesPerSecondOperations, setLength, timelineOperations, trackValue, type Timeline } from './timeline.ts';
import type { Tracked } from './types.ts';

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};

/** Random timelines with labels, keys, spans and cues; keys are linear, so that values between them are known. */
const timelines: fc.Arbitrary<Timeline> = fc
  .record({
    length: fc.integer({ min: 12, max: 90 }),
    labels: fc.uniqueArray(fc.nat(89), { maxLength: 5 }),
    keys: fc.array(
      fc.tuple(fc.constantFrom('boat', 'sun'), fc.constantFrom<Tracked>('x', 'y', 'rotation'), fc.nat(89), fc.integer({ min: -50, max: 50 })),
      { maxLength: 14 }
    ),
    spans: fc.array(fc.tuple(fc.constantFrom('boat', 'sun', 'bell'), fc.nat(89), fc.nat(89)), { maxLength: 4 }),
    cues: fc.array(fc.nat(89), { maxLength: 3 }),
  })
  .map(({ length, labels, keys, spans, cues }) => {
    const fits = (time: number) => time % length;
    const endings = ['hold', 'loop', 'go on'] as const;
    let timeline: Timeline = {
      length,
      labels: Object.fromEntries(
        [...new Set(labels.map(fits))].map((time, i) => [`l${i}`, { time, name: `L${i}`, ending: { do: endings[i % 3]! } }])
      ),
      spans: Object.fromEntries(
        spans.map(([layer, a, b], i) => [`s${i}`, { layer, from: Math.min(fits(a), fits(b)), to: Math.max(fits(a), fits(b)) }])
      ),
      cues: Object.fromEntries(cues.map((time, i) => [`c${i}`, { time: fits(time), layer: 'bell', do: 'play' as const }])),
    };
    keys.forEach(([layer, property, time, value], i) => (timeline = setKey(timeline, `t${i}`, layer, property, { time: fits(time), value })));
    return timeline;
  });

/** What stands at a moment: the values of every track, who is there, which cues. */
const momentOf = (timeline: Timeline, time: number) => ({
  values: Object.fromEntries(
    Object.values(timeline.tracks ?? {}).map((track) => [
      `${track.layer}.${track.property}`,
      Math.round(Number(trackValue(track, time)) * 1e6) / 1e6 + 0,
    ])
  ),
  there: ['boat', 'sun', 'bell'].filter((layer) => {
    const spans = Object.values(timeline.spans ?? {}).filter((span) => span.layer === layer);
    return spans.length > 0 && spans.some(({ from, to }) => time >= from && time <= to);
  }),
  cues: Object.values(timeline.cues ?? {}).filter((cue) => cue.time === time).length,
});

const isWhole = (timeline: Timeline) => {
  const last = timeline.length - 1;
  const good = (time: number) => Number.isInteger(time) && time >= 0 && time <= last;
  for (const label of Object.values(timeline.labels ?? {})) expect(good(label.time)).toBe(true);
  for (const { from, to } of Object.values(timeline.spans ?? {})) expect(good(from) && good(to) && from <= to).toBe(true);
  for (const cue of Object.values(timeline.cues ?? {})) expect(good(cue.time)).toBe(true);
  for (const track of Object.values(timeline.tracks ?? {})) {
    const keys = keysOf(track);
    expect(keys.length).toBeGreaterThan(0);
    expect(keys.every((key, i) => good(key.time) && (i === 0 || key.time > keys[i - 1]!.time))).toBe(true);
  }
};

const labelled = timelines.filter((timeline) => sectionsOf(timeline).filter(({ label }) => label !== null).length > 1);

describe('sections', () => {
  test('one that is moved takes along all that stands in it, moment by moment, and so do the others', () => {
    fc.assert(
      fc.property(labelled, fc.nat(9), fc.nat(9), (timeline, a, b) => {
        const labels = sectionsOf(timeline).flatMap(({ label }) => label ?? []);
        const moving = labels[a % labels.length]!;
        const before = [...labels, null][b % (labels.length + 1)]!;
        const moved = moveSection(timeline, moving, before);
        isWhole(moved);
        expect(moved.length).toBe(timeline.length);
        for (const { label, from, to } of sectionsOf(timeline)) {
          const now = sectionsOf(moved).find((section) => section.label === label)!;
          expect(now.to - now.from).toBe(to - from);
          for (let i = 0; i <= to - from; i++) expect(momentOf(moved, now.from + i)).toEqual(momentOf(timeline, from + i));
        }
      }),
      { numRuns: 300 }
    );
  });

  test('longer by time put in, and shorter again, is as it was; all other moments are untouched', () => {
    fc.assert(
      fc.property(timelines, fc.nat(89), fc.integer({ min: 1, max: 30 }), (timeline, at, by) => {
        const time = at % timeline.length;
        const wide = insertTime(timeline, time, by);
        isWhole(wide);
        for (let i = 0; i < timeline.length; i++) {
          const { there, cues } = momentOf(timeline, i);
          expect(momentOf(wide, i < time ? i : i + by)).toMatchObject({ there, cues });
        }
        expect(cutTime(wide, time, by)).toEqual(timeline);
        isWhole(cutTime(timeline, time, by));
      }),
      { numRuns: 300 }
    );
  });

  test('stretched by a whole factor and back is as it was', () => {
    fc.assert(
      fc.property(timelines, fc.integer({ min: 2, max: 4 }), (timeline, factor) => {
        for (const { from, to } of sectionsOf(timeline)) {
          const length = to - from + 1;
          const wide = stretchTime(timeline, from, to, (length - 1) * factor + 1);
          isWhole(wide);
          expect(stretchTime(wide, from, from + (length - 1) * factor, length)).toEqual(timeline);
        }
      })
    );
  });

  test('at another length: what follows moves along, is eaten into, or what is inside is stretched', () => {
    const timeline: Timeline = {
      length: 30,
      labels: {
        a: { time: 0, name: 'A', ending: { do: 'hold' } },
        b: { time: 10, name: 'B', ending: { do: 'loop' } },
        c: { time: 20, name: 'C', ending: { do: 'go to', label: 'b' } },
      },
      tracks: {
        t: {
          layer: 'boat',
          property: 'x',
          keys: keysById([
            { time: 10, value: 0 },
            { time: 19, value: 90 },
            { time: 25, value: 5 },
          ]),
        },
      },
    };
    const times = (of: Timeline) => [of.length, of.labels!['c']!.time, ...keysOf(of.tracks!['t']!).map(({ time }) => time)];
    expect(times(resizeSection(timeline, 'b', 15, 'push'))).toEqual([35, 25, 10, 19, 30]);
    expect(times(resizeSection(timeline, 'b', 19, 'stretch'))).toEqual([39, 29, 10, 28, 34]);
    expect(times(resizeSection(timeline, 'b', 15, 'eat'))).toEqual([30, 25, 10, 19, 25]);
    expect(times(resizeSection(timeline, 'b', 5, 'push'))).toEqual([25, 15, 10, 20]);
    expect(times(resizeSection(timeline, 'c', 40, 'eat'))).toEqual([60, 20, 10, 19, 25]);
  });

  test('a label taken away joins its section to the one before, which ends as it did; endings that led to it are open', () => {
    const timeline = addSections({ length: 1 }, ['Front', 'Page 1', 'Page 2'], 24, counter());
    const [front, one, two] = Object.keys(timeline.labels!) as [string, string, string];
    const led = setEnding(setEnding(timeline, front, { do: 'go to', label: one }), one, { do: 'loop' });
    const joined = removeLabel(led, one);
    expect(sectionsOf(joined).map(({ from, to, ending }) => [from, to, ending.do])).toEqual([
      [0, 47, 'loop'],
      [48, 71, 'hold'],
    ]);
    expect(removeLabel(led, two).labels![one]!.ending).toEqual({ do: 'hold' });
    expect(removeSection(led, one).labels![front]!.ending).toEqual({ do: 'go to', label: null });
    expect(removeSection(led, one).length).toBe(48);
  });

  test('a new one holds where nothing else is said, has a name of its own, and stands nowhere twice', () => {
    let timeline = addLabel({ length: 48 }, 'a', 'Ebb', 0);
    timeline = addLabel(timeline, 'b', 'Ebb', 24);
    expect(addLabel(timeline, 'c', 'Flood', 24)).toBe(timeline);
    expect(sectionsOf(timeline).map(({ label, ending }) => [timeline.labels![label!]!.name, ending.do])).toEqual([
      ['Ebb', 'hold'],
      ['Ebb 2', 'hold'],
    ]);
  });

  test('a copy stands behind, looks the same at every moment, and changes nothing else', () => {
    fc.assert(
      fc.property(labelled, fc.nat(9), (timeline, a) => {
        const sections = sectionsOf(timeline).filter(({ label }) => label !== null);
        const { label, from, to } = sections[a % sections.length]!;
        const copied = copySection(timeline, label!, counter());
        isWhole(copied);
        const length = to - from + 1;
        expect(copied.length).toBe(timeline.length + length);
        for (let i = 0; i < length; i++) expect(momentOf(copied, from + length + i).there).toEqual(momentOf(timeline, from + i).there);
        const names = Object.values(copied.labels!).map(({ name }) => name);
        expect(new Set(names).size).toBe(names.length);
      })
    );
  });
});

test('a section for each layer, in which it alone is there; what was there before stays', () => {
  const layers = ['Ebb', 'Flood'].map((name) => ({ id: name.toLowerCase(), name }));
  const made = sectionsFor({ length: 10, spans: { old: { layer: 'boat', from: 0, to: 9 } } }, layers, 24, counter());
  expect(sectionsOf(made).map(({ label, from, to, ending }) => [label && made.labels![label]!.name, from, to, ending.do])).toEqual([
    [null, 0, 9, 'go on'],
    ['Ebb', 10, 33, 'hold'],
    ['Flood', 34, 57, 'hold'],
  ]);
  expect(Object.values(made.spans!)).toEqual([
    { layer: 'boat', from: 0, to: 9 },
    { layer: 'ebb', from: 10, to: 33 },
    { layer: 'flood', from: 34, to: 57 },
  ]);
});

describe('keys', () => {
  const chosen = (timeline: Timeline): KeyAt[] =>
    Object.entries(timeline.tracks ?? {}).flatMap(([id, track]) =>
      keysOf(track)
        .filter((_, i) => i % 2 === 0)
        .map(({ time }) => ({ track: id, time }))
    );

  test('whatever is done to them, a timeline stays whole', () => {
    fc.assert(
      fc.property(timelines, fc.integer({ min: -40, max: 40 }), fc.double({ min: 0.1, max: 4, noNaN: true }), (timeline, by, factor) => {
        const keys = chosen(timeline);
        for (const next of [
          moveKeys(timeline, keys, by, 3),
          copyKeys(timeline, keys, by),
          removeKeys(timeline, keys),
          stretchKeys(timeline, keys, 5, factor),
          mirrorKeys(timeline, keys),
          staggerKeys(timeline, keys, ['sun', 'boat'], by),
          alignKeys(timeline, keys, by > 0 ? 'begin' : 'end'),
          spreadKeys(timeline, keys),
          easeKeys(timeline, keys, 'ease-in'),
        ])
          isWhole(next);
      }),
      { numRuns: 300 }
    );
  });

  test('moved and moved back, where none lands on another, is as it was', () => {
    fc.assert(
      fc.property(timelines, fc.integer({ min: 90, max: 120 }), (short, by) => {
        const timeline = { ...short, length: 400 };
        const keys = chosen(timeline);
        const there = moveKeys(timeline, keys, by, 7);
        expect(moveKeys(there, movedKeys(timeline, keys, by), -by, -7)).toEqual(timeline);
      })
    );
  });

  test('turned round twice is as it was', () => {
    const timeline = setKey(
      setKey(setKey({ length: 50 }, 't', 'boat', 'x', { time: 0, value: 1, easing: 'cubic-bezier(0.2, 0.8, 0.2, 1)' }), 't', 'boat', 'x', {
        time: 10,
        value: 2,
        easing: 'ease-in',
      }),
      't',
      'boat',
      'x',
      { time: 40, value: 3 }
    );
    const keys = [0, 10, 40].map((time) => ({ track: 't', time }));
    const turned = mirrorKeys(timeline, keys);
    expect(turned.tracks!['t']!.keys).toEqual({
      k40: { time: 0, value: 3, easing: 'ease-out' },
      k10: { time: 30, value: 2, easing: 'cubic-bezier(0.8, 0, 0.8, 0.2)' },
      k0: { time: 40, value: 1 },
    });
    expect(
      mirrorKeys(
        turned,
        [0, 30, 40].map((time) => ({ track: 't', time }))
      )
    ).toEqual(timeline);
  });

  test('staggered one layer after the other; an easing that is none changes nothing; pasted by property', () => {
    let timeline: Timeline = { length: 100 };
    for (const layer of ['a', 'b', 'c']) for (const time of [0, 12]) timeline = setKey(timeline, layer, layer, 'y', { time, value: time });
    const all = ['a', 'b', 'c'].flatMap((track) => [0, 12].map((time) => ({ track, time })));
    const later = staggerKeys(timeline, all, ['a', 'b', 'c'], 5);
    expect(Object.values(later.tracks!).map((track) => keysOf(track).map(({ time }) => time))).toEqual([
      [0, 12],
      [5, 17],
      [10, 22],
    ]);
    expect(easeKeys(timeline, all, 'wobbly')).toBe(timeline);
    const pasted = pasteKeys(timeline, [{ layer: 'a', property: 'y', keys: keysOf(timeline.tracks!['a']!) }], ['d'], 40, counter()).timeline;
    expect(keysOf(Object.values(pasted.tracks!).find(({ layer }) => layer === 'd')!).map(({ time, value }) => [time, value])).toEqual([
      [40, 0],
      [52, 12],
    ]);
  });
});

test('a way that is pulled goes through the point where it is held, or is a named one that does', () => {
  fc.assert(
    fc.property(fc.double({ min: 0.13, max: 0.87, noNaN: true }), fc.double({ min: -0.3, max: 1.3, noNaN: true }), (t, share) => {
      const easing = pulledEasing(t, share, 0);
      expect(Math.abs(parseEasing(easing)!(t) - share)).toBeLessThan(0.05);
    })
  );
  expect(pulledEasing(0.5, 0.5)).toBe('linear');
  expect(pulledEasing(0.5, parseEasing('ease-in')!(0.5))).toBe('ease-in');
  expect(pulledEasing(0.5, parseEasing('ease-out')!(0.5))).toBe('ease-out');
  expect(pulledEasing(0.5, 1.2)).toMatch(/^cubic-bezier/);
});

describe('the last key of a section', () => {
  const clip: Timeline = {
    length: 36,
    labels: { a: { time: 0, name: 'A', ending: { do: 'hold' } }, b: { time: 24, name: 'B', ending: { do: 'loop' } } },
    tracks: {
      t: {
        layer: 'boat',
        property: 'x',
        keys: keysById([
          { time: 0, value: 0 },
          { time: 23, value: 100 },
          { time: 24, value: 5 },
        ]),
      },
    },
    spans: { s: { layer: 'boat', from: 0, to: 23 }, later: { layer: 'sun', from: 24, to: 35 } },
  };
  const shape = ({ length, labels, tracks, spans }: Timeline) => [
    length,
    labels!['b']!.time,
    keysOf(tracks!['t']!).map(({ time }) => time),
    Object.values(spans!).map(({ from, to }) => [from, to]),
  ];
  const last = [{ track: 't', time: 23 }];

  test('holds its ending: pulled later or earlier, the section ends there, and what is there stays there', () => {
    expect(shape(pullKeys(clip, last, 12).timeline)).toEqual([
      48,
      36,
      [0, 35, 36],
      [
        [0, 35],
        [36, 47],
      ],
    ]);
    expect(pullKeys(clip, last, 12).keys).toEqual([{ track: 't', time: 35 }]);
    expect(shape(pullKeys(clip, last, -11).timeline)).toEqual([
      25,
      13,
      [0, 12, 13],
      [
        [0, 12],
        [13, 24],
      ],
    ]);
    const both = [{ track: 't', time: 0 }, ...last];
    expect(shape(pullStretched(clip, both, 0, 2))).toEqual([
      59,
      47,
      [0, 46, 47],
      [
        [0, 46],
        [47, 58],
      ],
    ]);
  });

  test('keys that are stretched or staggered out of their section make it as long as they need', () => {
    const one: Timeline = {
      ...clip,
      tracks: {
        ...clip.tracks!,
        u: {
          layer: 'sun',
          property: 'y',
          keys: keysById([
            { time: 4, value: 0 },
            { time: 20, value: 9 },
          ]),
        },
      },
    };
    const sun = [4, 20].map((time) => ({ track: 'u', time }));
    expect(shape(pullStretched(one, sun, 4, 2)).slice(0, 3)).toEqual([49, 37, [0, 23, 37]]);
    const staggered = pullStaggered(one, [...sun, { track: 't', time: 0 }], ['boat', 'sun'], 10);
    expect(keysOf(staggered.tracks!['u']!).map(({ time }) => time)).toEqual([14, 30]);
    expect(shape(staggered).slice(0, 3)).toEqual([43, 31, [0, 23, 31]]);
  });

  test('does not where something else stands there, or it leaves its section', () => {
    const cue: Timeline = { ...clip, cues: { c: { time: 20, layer: 'bell', do: 'play' } } };
    expect(shape(pullKeys(cue, last, -11).timeline).slice(0, 3)).toEqual([33, 21, [0, 12, 21]]);
    expect(shape(pullKeys(clip, [{ track: 't', time: 24 }], -4).timeline).slice(0, 3)).toEqual([36, 24, [0, 20, 23]]);
  });

  test('pulled there and back is as it was, whole all the way', () => {
    fc.assert(
      fc.property(labelled, fc.integer({ min: 1, max: 30 }), (timeline, by) => {
        for (const section of sectionsOf(timeline)) {
          for (const [id, track] of Object.entries(timeline.tracks ?? {})) {
            if (!keysOf(track).some(({ time }) => time === section.to) || section.to === section.from) continue;
            const there = pullKeys(timeline, [{ track: id, time: section.to }], by);
            isWhole(there.timeline);
            expect(there.timeline.length).toBe(timeline.length + by);
            expect(pullKeys(there.timeline, there.keys, -by).timeline).toEqual(timeline);
          }
        }
      })
    );
  });
});

describe('spans', () => {
  test('are given, moved, extended and taken away', () => {
    const timeline = setSpan({ length: 50 }, ['a', 'b'], 30, 10, counter());
    expect(Object.values(timeline.spans!).map(({ from, to }) => [from, to])).toEqual([
      [10, 30],
      [10, 30],
    ]);
    const [id] = Object.keys(timeline.spans!) as [string];
    expect(moveSpan(timeline, id, { from: 30, to: 30 }).spans![id]).toMatchObject({ from: 29, to: 49 });
    expect(moveSpan(timeline, id, { from: 40 }).spans![id]).toMatchObject({ from: 30, to: 30 });
    expect(extendSpans(timeline, ['a'], 44).spans![id]).toMatchObject({ from: 10, to: 44 });
    expect(Object.values(clearSpans(timeline, ['a']).spans!).map(({ layer }) => layer)).toEqual(['b']);
  });
});

describe('moments', () => {
  const timeline = addSections({ length: 1 }, ['Ebb', 'Flood', 'Ebb again'], 48, counter());

  test('are told with their section, and typed in many ways', () => {
    expect(momentWords(timeline, 61, 24)).toBe('Flood, frame 14 of 48 (2.54 s)');
    const typed = (text: string) => parseMoment(text, timeline, 24, 60);
    expect(['48', '2 s', '500ms', '+10', '-1.5 s', 'flood', 'Flood + 0.5 s', 'Ebb again - 2', '9000', 'Flod', ''].map(typed)).toEqual([
      47,
      48,
      12,
      70,
      24,
      48,
      60,
      94,
      143,
      null,
      null,
    ]);
    expect(marksIn({ ...timeline, spans: { s: { layer: 'a', from: 7, to: 9 } } })).toEqual([0, 7, 9, 48, 96]);
    expect([snapped([0, 48], 45, 4), snapped([0, 48], 40.4, 4)]).toEqual([48, 40]);
  });

  test('say when a layer that is away is there', () => {
    const spans = { s: { layer: 'sun', from: 50, to: 60 }, t: { layer: 'sun', from: 100, to: 110 } };
    const words = (of: Timeline, frame: number) => awayWords({ ...of, spans }, 'sun', frame);
    expect([words(timeline, 0), words(timeline, 55), awayWords(timeline, 'boat', 0)]).toEqual(['only in Flood and Ebb again', null, null]);
    expect(words({ length: 144 }, 0)).toBe('only in frames 51 to 61 and 101 to 111');
  });

  test('come one after the other as the engine plays them', () => {
    fc.assert(
      fc.property(labelled, fc.integer({ min: 0, max: 300 }), (made, frames) => {
        const base = compose({ fps: 20, frames: { home: { layers: {} } } });
        const of = unwrap(
          apply(base, [{ op: 'set', table: 'scenes', id: 'home', path: ['timeline'], value: strip({ ...made, tracks: {}, spans: {}, cues: {} }) }])
        ).piece;
        const program = compile(of);
        const { run } = advance(program, start(program)!, { type: 'wait', ms: frames * 50 });
        const head = run.roots['home']!.heads['']!;
        expect(framesPerSecond(program)).toBe(20);
        const { frame, stops } = playedOn(of.scenes.get('home')!.timeline!, 0, frames);
        expect([frameAt(program, head, run.clock), head.playing]).toEqual([frame, !stops]);
      }),
      { numRuns: 200 }
    );
  });
});

test('the way of a layer goes through its keys, with dots at equal times between them', () => {
  const layer = { id: 'boat', pose: { x: 0, y: 0, width: 20, height: 10 }, style: {} } as unknown as Layer;
  let timeline: Timeline = { length: 2000 };
  for (const [time, value] of [
    [0, 0],
    [10, 100],
    [30, 100],
  ] as const)
    timeline = setKey(timeline, 't', 'boat', 'x', { time, value });
  const way = motionPath(timeline, layer);
  expect(way).toHaveLength(31);
  expect(way.filter(({ isKey }) => isKey).map(({ time, x, y }) => [time, x, y])).toEqual([
    [0, 10, 5],
    [10, 110, 5],
    [30, 110, 5],
  ]);
  expect(way[5]!.x).toBe(60);
  const long = motionPath(setKey(timeline, 't', 'boat', 'x', { time: 1999, value: 0 }), layer);
  expect(long.length).toBeLessThan(250);
  expect(long.at(-1)).toMatchObject({ time: 1999, isKey: true });
  expect(motionPath(timeline, { ...layer, id: 'sun' })).toEqual([]);
});

describe('in a piece', () => {
  const piece = compose({
    fps: 20,
    frames: {
      home: {
        layers: { boat: { at: [10, 20, 30, 40], style: { fill: '#ff0000' } }, sun: { at: [100, 20, 30, 40] } },
        timeline: {
          length: 40,
          labels: { Ebb: [0, 'hold'], Flood: [20, 'hold'] },
          tracks: [
            [
              'boat',
              'x',
              [
                [0, 10],
                [19, 200],
              ],
            ],
          ],
        },
      },
    },
  });
  const boat = layerId('home', 'boat');
  const sun = layerId('home', 'sun');
  const after = (of: Piece, operations: Parameters<typeof apply>[1]) => unwrap(apply(of, operations)).piece;
  const timelineIn = (of: Piece) => of.scenes.get('home')!.timeline!;
  const at = (of: Piece, frame: number) => posed(compile(of), { scene: 'home', state: null, look: null, frame }).piece.layers;

  test('the operations of a command change what differs, and undo to what was', () => {
    fc.assert(
      fc.property(timelines, timelines, (a, b) => {
        const one = after(piece, [{ op: 'set', table: 'scenes', id: 'home', path: ['timeline'], value: strip(a) }]);
        const { piece: other, inverse } = unwrap(apply(one, timelineOperations(one, 'home', strip(b))));
        expect(strip(timelineIn(other))).toEqual(strip(b));
        expect(after(other, inverse).scenes.get('home')).toEqual(one.scenes.get('home'));
      })
    );
    expect(timelineOperations(piece, 'home', setLength(timelineIn(piece), 50))).toEqual([
      { op: 'set', table: 'scenes', id: 'home', path: ['timeline', 'length'], value: 50 },
    ]);
  });

  test('another number of frames a second keeps every second', () => {
    const made = after(piece, framesPerSecondOperations(piece, 60));
    expect([made.head.fps, timelineIn(made).length, Object.values(timelineIn(made).labels!).map(({ time }) => time)]).toEqual([60, 120, [0, 60]]);
    expect(keysOf(Object.values(timelineIn(made).tracks!)[0]!).map(({ time }) => time)).toEqual([0, 57]);
  });

  const moved = (reach: TimeReach | null, frame: number | null, layer: string, by = 50) => {
    const posing = posed(compile(piece), { scene: 'home', state: null, look: null, frame }).piece;
    return after(piece, withReachInTime(piece, 'home', frame, reach, moveLayers(posing, [layer], by, 0), counter()));
  };
  const xs = (of: Piece, layer: string) => [0, 9, 19, 20, 39].map((frame) => Math.round(at(of, frame).get(layer)!.pose.x));
  const before = xs(piece, boat);

  test('an edit reaches exactly the moments that it says', () => {
    expect(before).toEqual([10, 100, 200, 200, 200]);
    expect(xs(moved('moment', 9, boat), boat)).toEqual([10, 150, 200, 200, 200]);
    expect(xs(moved('all', 9, boat), boat)).toEqual([60, 150, 250, 250, 250]);
    expect(xs(moved('section', 25, boat), boat)).toEqual([10, 100, 200, 250, 250]);
    expect(xs(moved('on', 9, boat), boat)).toEqual([10, 150, 250, 200, 200]);
    expect(xs(moved('moment', 20, sun), sun)).toEqual([100, 100, 100, 150, 150]);
    expect(xs(moved('section', 5, sun), sun)).toEqual([150, 150, 150, 100, 100]);
    expect(xs(moved('all', 5, sun), sun)).toEqual([150, 150, 150, 150, 150]);
    expect(moved('rest', 5, sun).layers.get(sun)!.pose.x).toBe(150);
  });

  test('is never swallowed: without a moment what has keys moves as a whole', () => {
    expect(xs(moved(null, null, boat), boat)).toEqual([10, 100, 200, 200, 200].map((x) => x + 50));
    expect(moved(null, null, sun).layers.get(sun)!.pose.x).toBe(150);
    const operations = moveLayers(piece, [boat], 5, 0);
    expect(usualReach(timelineIn(piece), 0, operations)).toBe('moment');
    expect(usualReach(timelineIn(piece), 0, moveLayers(piece, [sun], 5, 0))).toBe('all');
    expect(usualReach(timelineIn(piece), 3, moveLayers(piece, [sun], 5, 0))).toBe('moment');
  });

  test.each(TIME_REACHES.filter((reach) => reach !== 'rest'))('with %s the moment that is looked at shows what was asked for', (reach) => {
    fc.assert(
      fc.property(
        fc.nat(39),
        fc.integer({ min: -80, max: 80 }).filter((by) => by !== 0),
        fc.constantFrom(boat, sun),
        (frame, by, layer) => {
          const was = at(piece, frame).get(layer)!.pose.x;
          expect(at(moved(reach, frame, layer, by), frame).get(layer)!.pose.x).toBeCloseTo(was + by, 2);
        }
      )
    );
  });

  test.each(presets.map((preset) => [preset.id, preset] as const))('the preset %s is ordinary keys, and undone without a trace', (_id, preset) => {
    const next = applyPreset(timelineIn(piece), preset, [piece.layers.get(sun)!], piece.scenes.get('home')!, 30, 20, counter());
    isWhole(next);
    expect(Object.keys(next.tracks!).length).toBeGreaterThan(1);
    const { piece: made, inverse } = unwrap(apply(piece, timelineOperations(piece, 'home', next)));
    expect(after(made, inverse).scenes.get('home')).toEqual(piece.scenes.get('home'));
  });
});

/** Without maps of nothing, as a document keeps it. */
const strip = (timeline: Timeline): Timeline =>
  Object.fromEntries(
    Object.entries(timeline).filter(([, value]) => value !== undefined && !(typeof value === 'object' && Object.keys(value).length === 0))
  ) as Timeline;

test('a moment that is held: nothing moves in it, all before stays, all after comes later as it was', () => {
  fc.assert(
    fc.property(
      fc.uniqueArray(fc.tuple(fc.nat(39), fc.integer({ min: -50, max: 50 })), { minLength: 1, maxLength: 6, selector: ([time]) => time }),
      fc.nat(38),
      fc.integer({ min: 1, max: 20 }),
      (keys, at, frames) => {
        const before = keys.reduce((all, [time, value]) => setKey(all, 'k', 'boat', 'x', { time, value }), {
          length: 40,
          labels: { late: { time: 39, name: 'Late', ending: { do: 'hold' } } },
        } as Timeline);
        const after = holdMoment(before, at, frames);
        const [old, now] = [before.tracks!['k']!, after.tracks!['k']!];
        for (let time = 0; time <= at; time++) expect(trackValue(now, time)).toBeCloseTo(trackValue(old, time) as number, 6);
        for (let time = at; time <= at + frames; time++) expect(trackValue(now, time)).toBeCloseTo(trackValue(old, at) as number, 6);
        for (let time = at; time < 40; time++) expect(trackValue(now, time + frames)).toBeCloseTo(trackValue(old, time) as number, 6);
        expect([after.length, after.labels!['late']!.time]).toEqual([40 + frames, 39 + frames]);
      }
    )
  );
});

test('copied keys go onto other layers by property, each in its turn, and onto their own; nothing is lost at the end', () => {
  let timeline: Timeline = { length: 20 };
  for (const [layer, property, time] of [
    ['a', 'x', 2],
    ['a', 'x', 6],
    ['b', 'y', 4],
  ] as const)
    timeline = setKey(timeline, layer, layer, property, { time, value: time });
  const copied = copiedKeys(timeline, [
    { track: 'a', time: 2 },
    { track: 'a', time: 6 },
    { track: 'b', time: 4 },
  ]);
  const told = ({ tracks = {} }: Timeline) =>
    Object.values(tracks).flatMap((track) => keysOf(track).map(({ time, value }) => `${track.layer} ${track.property} ${time} ${value}`));
  const there = pasteKeys(timeline, copied, ['c', 'd'], 10, counter());
  expect(told(there.timeline)).toEqual([...told(timeline), 'c x 10 2', 'c x 14 6', 'd y 12 4']);
  expect(there.keys).toHaveLength(3);
  const again = pasteKeys(timeline, copied, [], 18, counter());
  expect(again.timeline.length).toBe(23);
  expect(told(again.timeline)).toEqual(['a x 2 2', 'a x 6 6', 'a x 18 2', 'a x 22 6', 'b y 4 4', 'b y 20 4']);
  expect(removeKeys(again.timeline, again.keys).tracks).toEqual(timeline.tracks);
});
