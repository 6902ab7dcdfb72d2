import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec, type SceneSpec, type TimelineSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { startFrames, type Program } from '../program/program.ts';
import { advance, begin, replay } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { standingScreen } from '../run/resolve.ts';
import { branchKey } from '../run/runner.ts';
import { generator } from '../testing/large.ts';
import { timesOver } from '../testing/runs.ts';
import { judge } from './audit.ts';
import { eventsIn } from './events-in.ts';
import { explore } from './explore.ts';
import { tellingOf } from './telling.ts';
import { findTraps } from './traps.ts';

const variables: ComposeSpec['variables'] = {
  Seats: { type: 'number', initial: 0, min: 0, max: 5 },
  Agreed: { type: 'yes/no', initial: false },
  Few: { type: 'number', initial: 0, min: 0, max: 3 },
};
const at = (place: number, ...lines: string[]) => ({ at: [(place % 6) * 60, Math.floor(place / 6) * 60, 50, 50] as const, lines });
const timeline: TimelineSpec = {
  length: 2000,
  labels: { Start: [0, 'hold'], Open: [200, 'go on'], Rest: [600, 'hold'], Shut: [1000, 'go on'], Gone: [1600, 'hold'] },
  tracks: [
    [
      'a0',
      'opacity',
      [
        [0, 1],
        [600, 0.5],
        [1600, 1],
      ],
    ],
  ],
};
const pieceOf = (lines: readonly string[], more: readonly string[] = [], pay: readonly string[] = [], time?: TimelineSpec): Program =>
  compile(
    compose({
      variables,
      frames: {
        home: {
          ...(time && { timeline: time }),
          states: { calm: {}, wild: {}, open: {} },
          layers: Object.fromEntries(lines.map((line, i) => [`a${i}`, at(i, line)])),
          lines: [...more],
        },
        pay: {
          layers: Object.fromEntries(
            ['click → go to home', 'click → if Agreed = true → go to lost', ...pay].map((line, i) => [`p${i}`, at(i, line)])
          ),
        },
        lost: { layers: { back: at(0, 'click → go to home') } },
      },
    })
  );

const playing = (lines: readonly string[], autoplay = false, more: readonly string[] = []) => pieceOf(lines, more, [], { ...timeline, autoplay });

const toPay = 'click → if Seats > 0 → go to pay';
const known: Readonly<Record<string, Program>> = {
  'a number that counts after a while': pieceOf(['click → wait 300 ms; set Seats to Seats + 1', toPay]),
  'one that jumps before it counts': pieceOf([
    'click → tween scale of a0 to 1.1 · 200 ms; tween scale of a0 to 1 · 200 ms; set Seats to Seats + 1',
    toPay,
  ]),
  'a frame that is laid over after a while': pieceOf(['click → go to pay', 'click → wait 300 ms; lay over pay at bottom']),
  'states in turn': pieceOf(['click → wait 300 ms; next state of home', 'click → go to pay']),
  'two that count against each other': pieceOf(['click → wait 300 ms; set Seats to Seats + 1', 'click → wait 200 ms; set Seats to Seats - 1', toPay]),
  'one beside a timer': pieceOf(['click → wait 300 ms; set Seats to Seats + 1'], ['after 2 s → go to pay']),
  'one after a section, at rest until it is pressed': playing(['click → play from Open; set Seats to Seats + 1', toPay]),
  'one after a section while another one plays': playing(['click → play from Open; set Seats to Seats + 1', toPay, 'click → play from Shut'], true),
  'states in turn, two sections after what is pressed': playing(['click → play from Shut; play from Open; next state of home', 'click → go to pay']),
  'one that plays on, twice waited for': playing(['click → play on; wait 100 ms; set Seats to Seats + 1', 'click → play on; go to pay']),
  'one on a frame that is gone back to': pieceOf(['click → wait 300 ms; set Seats to Seats + 1', toPay], [], ['click → back']),
};

test.each(Object.entries(known))('what is started any number of times leads to nothing new, so all is told: %s', (_, program) => {
  const exploration = explore(program);
  expect(exploration.cut).toBeNull();
  expect(exploration.beyond.size + exploration.unfollowed.size).toBeGreaterThan(0);
  const found = judge(program, exploration).findings.map(({ rule, place }) => `${rule} ${place.layer ?? place.scene ?? ''}`);
  expect(found).toEqual(expect.arrayContaining(['unreachable-frame lost', 'never-fires pay_p1']));
});

/** Something that can be done, or a little time that passes. */
function quickly(program: Program, run: RunState, chance: () => number): RunEvent {
  const events = [...eventsIn(program, run, standingScreen(program, run), tellingOf(program))];
  const isWaiting = events.length === 0 || chance() < 0.3;
  return isWaiting ? { type: 'wait', ms: Math.floor(chance() * 80) } : events[Math.floor(chance() * events.length)]!;
}

const open: Readonly<Record<string, Program>> = {
  'only the third press in a section leads on': playing([
    'click → if Seats < 2 → play from Open; set Seats to Seats + 1',
    'click → if Seats > 3 → go to pay',
  ]),
  'only the third press in time leads on': pieceOf(['click → set Seats to Seats + 1; wait 5 s; set Seats to 0', 'click → if Seats > 2 → go to pay']),
  'a section that is stopped anywhere on its way': playing(['click → play from Open; next state of home', 'click → pause', 'click → go to pay']),
  'a button that is gone once it has counted': pieceOf([
    'click → if Seats = 0 → wait 5 s; set Seats to Seats + 1',
    'click → if Seats > 2 → go to pay',
  ]),
};

test.each(Object.entries(open))('what only more of it leads to is not said never to come: %s', (_, program) => {
  const exploration = explore(program);
  expect(exploration.cut).toBe('not tried: anything a third time before what it started has ended');
  const rules = judge(program, exploration).findings.map(({ rule }) => rule);
  expect(rules).not.toContain('unreachable-frame');
  expect(rules).not.toContain('never-fires');
});

describe('where more is started than is followed, it is said all the same what leads nowhere', () => {
  const start = { layers: { go: at(0, 'click → go to home') } };
  const frameOf = (lines: readonly string[], more: Partial<SceneSpec> = {}): SceneSpec => ({
    states: { calm: {}, wild: {} },
    timeline: { ...timeline, autoplay: false, tracks: [] },
    layers: Object.fromEntries(lines.map((line, i) => [`a${i}`, at(i, line)])),
    ...more,
  });
  const trapsOf = (frames: ComposeSpec['frames']) => {
    const program = compile(compose({ variables, frames: { start, ...frames } }));
    const exploration = explore(program);
    return { program, exploration, traps: exploration.cut === null ? findTraps(program, exploration) : [] };
  };
  const told = (frames: ComposeSpec['frames']) => {
    const { exploration, traps } = trapsOf(frames);
    expect([exploration.cut, exploration.unfollowed.size, exploration.beyond.size > 0]).toEqual([null, 0, true]);
    return traps.map(({ frames: all, deadEnd, when }) => [all.toSorted(), deadEnd, when]);
  };
  const counting = ['click → wait 300 ms; set Seats to Seats + 1', 'click → play from Open; set Seats to Seats + 1'];

  test.each(counting)('%s', (line) => {
    const home = frameOf([line, toPay]);
    expect(told({ home, pay: { layers: { words: { type: 'text', at: [0, 0, 50, 50], text: 'The end' } } } })).toEqual([[['pay'], true, null]]);
    expect(told({ home, pay: frameOf([line, 'click → go to lost']), lost: frameOf(['click → go to pay']) })).toEqual([
      [['lost', 'pay'], false, null],
    ]);
    expect(told({ home, pay: frameOf([line, 'click → go to start']) })).toEqual([]);
    const pay = frameOf([line, 'click → put pay in wild', 'click → go to start'], { states: { calm: {}, wild: { a2: { hidden: true } } } });
    expect(told({ home, pay })).toEqual([[['pay'], true, 'while pay is in wild']]);
    const way = frameOf([line, 'click → if Seats > 4 → go to start']);
    expect(told({ home, pay: way })).toEqual([]);
  });

  test('not where only the third press in time leads on', () => {
    const home = frameOf(['click → set Few to 3; go to pay', 'click → go to pay']);
    const pay = frameOf(['click → if Few = 0 → wait 5 s; set Few to Few + 1', 'click → if Few = 3 → go to start', 'click → set Few to 0']);
    expect(told({ home, pay })).toEqual([]);
    const never = frameOf(['click → if Few = 0 → wait 5 s; set Few to 1', 'click → if Few = 3 → go to start', 'click → set Few to 0']);
    expect(trapsOf({ home, pay: never }).traps).toHaveLength(1);
  });

  test('nobody gets out by pressing quickly', () => {
    let trapped = 0;
    const counting = Array<string>(4).fill('set Seats to Seats + 1');
    const steps = fc.constantFrom(...counting, 'set Seats to 0', 'go to pay', 'go to lost', 'go to start', 'wait 100 ms');
    const one = fc.tuple(
      fc.constantFrom('click', 'click', 'key k'),
      guard,
      fc.constantFrom(...sections),
      fc.array(steps, { minLength: 1, maxLength: 2 })
    );
    const line = one.map(([cue, guard, wait, after]) => `${cue} → ${guard}${[wait, ...after].join('; ')}`);
    const lines = fc.array(line, { minLength: 1, maxLength: 2 });
    fc.assert(
      fc.property(lines, lines, lines, fc.integer({ min: 0, max: 1e9 }), (home, pay, lost, seed) => {
        const { program, exploration, traps } = trapsOf({
          home: frameOf([...home, 'click → go to pay']),
          pay: frameOf([...pay, 'click → go to lost']),
          lost: frameOf(lost),
        });
        if (exploration.beyond.size > 0) trapped += traps.length;
        const chance = generator(seed);
        for (const { frames, from, route } of traps) {
          let { run } = replay(program, begin(program, from)!.run, route);
          for (let i = 0; i < 150; i++) {
            expect([frames.includes(run.frame), frames, run.frame]).toEqual([true, frames, run.frame]);
            ({ run } = advance(program, run, quickly(program, run, chance)));
          }
        }
      }),
      { numRuns: timesOver(25) }
    );
    expect(trapped).toBeGreaterThan(0);
  });
});

test('what a loop without end starts is followed where all of it comes to the same, and else not said never to come', () => {
  const same = explore(pieceOf(['signal x → send x; wait 200 ms; go to pay']));
  expect([same.cut, same.reached.has('pay')]).toEqual([null, true]);
  const counting = explore(pieceOf(['signal x → send x; wait 200 ms; set Seats to Seats + 1', toPay]));
  expect(counting.cut).toContain('a third time');
});

const cue = fc.constantFrom('click', 'press', 'key k', 'key j', 'signal x', 'hover');
const guard = fc.constantFrom('', '', '', 'if Seats > 0 → ', 'if Seats > 2 → ', 'if Seats < 2 → ', 'if Agreed = true → ');
const step = fc.constantFrom(
  'set Seats to Seats + 1',
  'set Seats to Seats + 1',
  'set Seats to Seats - 1',
  'set Seats to 0',
  'set Agreed to true',
  'set Agreed to false',
  'next state of home',
  'go to pay',
  'go to home',
  'lay over pay at bottom',
  'lift',
  'send x'
);
const waits = ['wait 100 ms', 'wait 200 ms', 'wait 300 ms'];
const sections = [...waits.slice(1), 'play from Open', 'play from Open', 'play from Shut', 'play on', 'show label Start'];

const linesOf = (cues: fc.Arbitrary<string>, wait: readonly string[]) => {
  const line = fc.tuple(cues, guard, fc.array(step, { maxLength: 1 }), fc.constantFrom(...wait), fc.array(step, { minLength: 1, maxLength: 2 }));
  const lines = line.map(([cue, guard, before, wait, after]) => `${cue} → ${guard}${[...before, wait, ...after].join('; ')}`);
  return fc.array(lines, { minLength: 1, maxLength: 3 });
};

test.each([
  ['waits', linesOf(cue, waits), undefined],
  ['waits for the end of sections', linesOf(fc.oneof(cue, fc.constantFrom('label Rest', 'label Gone')), sections), timeline],
])('of a piece that was explored to its end, nothing else ever comes of pressing quickly while it %s', (_, lines, time) => {
  let closed = 0;
  fc.assert(
    fc.property(lines, fc.boolean(), fc.integer({ min: 0, max: 1e9 }), (made, isTimed, seed) => {
      const more = isTimed ? ['after 1 s → set Agreed to true'] : [];
      const program = pieceOf([...made, toPay], more, ['click → back'], time && { ...time, autoplay: seed % 2 > 0 });
      const exploration = explore(program, { maxStates: 3000 });
      if (exploration.cut !== null) return;
      if (exploration.beyond.size + exploration.unfollowed.size > 0) closed++;
      const chance = generator(seed);
      let { run } = begin(program, startFrames(program)[0]!)!;
      for (let i = 0; i < 400; i++) {
        const next = advance(program, run, quickly(program, run, chance));
        ({ run } = next);
        expect(exploration.reached.has(run.frame)).toBe(true);
        for (const { fired } of next.reports)
          for (const { thread, branch } of fired) expect(exploration.branches.has(branchKey(thread, branch)) || thread).toBe(true);
      }
    }),
    { numRuns: timesOver(40) }
  );
  expect(closed).toBeGreaterThan(3);
});
