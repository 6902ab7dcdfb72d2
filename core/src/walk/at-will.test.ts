import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { compose, type ComposeSpec } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { begin, replay } from '../run/run.ts';
import { deskSized } from '../testing/desk-sized.ts';
import { timesOver } from '../testing/runs.ts';
import { judge } from './audit.ts';
import type { Exploration } from './exploration.ts';
import { explore } from './explore.ts';
import { planRoutes } from './plan.ts';

/** Nothing but the whole, and nothing that can be set at will in its core: both from the first states on. */
const WHOLE = { slicedFrom: 1e9, freedFrom: 1e9, maxStates: 40_000 };
const FREELY = { slicedFrom: 60, freedFrom: 0, maxStates: 40_000 };

/** Where a route leads that was made for a state, and the state that it is then in. */
function endOf(program: Program, part: Exploration, state: number) {
  const { run } = replay(program, begin(program, part.states[state]!.start)!.run, part.routeTo(state));
  return { frame: run.frame, isThere: part.stateOf(run) !== null };
}

/** Forms in a row, each on a frame of its own: with a name in it one goes on to the next, and to the first from anywhere. */
const forms = (count: number, more: ComposeSpec['frames'] = {}): ComposeSpec => ({
  variables: Object.fromEntries(Array.from({ length: count }, (_, i) => [`Name${i}`, { type: 'text', initial: '' }])),
  frames: {
    ...Object.fromEntries(
      Array.from({ length: count }, (_, i) => [
        `Form ${i}`,
        {
          layers: {
            field: { at: [0, 0, 200, 44], type: 'field', field: { kind: 'text', variable: `Name${i}` } },
            next: {
              at: [0, 60, 90, 44],
              when: { enabled: `string length(Name${i}) > 2` },
              lines: [i + 1 < count ? `click → go to Form ${i + 1}` : 'click → go to Sent'],
            },
            first: { at: [100, 60, 90, 44], lines: ['click → go to Form 0'] },
          },
        },
      ])
    ),
    Sent: { layers: { again: { at: [0, 0, 90, 44], lines: ['click → go to Form 0'] } } },
    ...more,
  },
});

describe('what can be set at will', () => {
  test('is no part of the core: twelve forms are explored to the end, where together they have more than half a million values', () => {
    const program = compile(compose(forms(12)));
    const exploration = explore(program);
    expect(exploration.cut).toBeNull();
    expect(exploration.count).toBeLessThan(2000);
    expect(exploration.reached.size).toBe(13);
    const parts = [exploration, ...exploration.slices];
    for (const part of parts) part.states.forEach(({ frame }, state) => expect(endOf(program, part, state)).toEqual({ frame, isThere: true }));
    // A plan types every name, and comes through.
    const { missed, routes } = planRoutes(program, exploration);
    expect(missed).toEqual([]);
    expect(routes.some(({ events }) => events.filter(({ type }) => type === 'value').length >= 12)).toBe(true);
    expect(judge(program, exploration).findings.filter(({ rule }) => rule.startsWith('unreachable') || rule === 'never-fires')).toEqual([]);
  });

  test('a box that was checked before is not unchecked on the way', () => {
    const spec: ComposeSpec = {
      variables: { Agreed: { type: 'yes/no', initial: false } },
      frames: {
        Terms: {
          layers: {
            box: { at: [0, 0, 44, 44], type: 'field', field: { kind: 'checkbox', variable: 'Agreed' } },
            pay: { at: [0, 60, 90, 44], lines: ['click → if Agreed → go to Paid; otherwise → go to Asked'] },
          },
        },
        Asked: { layers: { back: { at: [0, 0, 90, 44], lines: ['click → go to Terms'] } } },
        Paid: { layers: { more: { at: [0, 0, 90, 44], lines: ['click → go to Terms'] } } },
      },
    };
    const program = compile(
      compose({ ...forms(4), variables: { ...forms(4).variables, ...spec.variables! }, frames: { ...spec.frames, ...forms(4).frames } })
    );
    const exploration = explore(program, FREELY);
    const [at] = exploration.states.flatMap(({ frame }, state) => (program.piece.scenes.get(frame)?.name === 'Paid' ? state : []));
    const { run } = replay(program, begin(program)!.run, exploration.routeTo(at!));
    const back = exploration.edges.of(at!)[0]!;
    const pay = exploration.edges.of(back.to).filter(({ to }) => to === at);
    // From paid back to the terms, and on to paid once more: the box is checked still, and is left so.
    const events = exploration.eventsFrom(run, at!, [back.step, pay[0]!.step]);
    expect(events.map(({ type }) => type)).toEqual(['click', 'click']);
    expect(exploration.stateOf(replay(program, run, events).run)).toBe(at);
  });

  test('what is asked for where it cannot be set stays in the core, and only that', () => {
    const gate = { Gate: { layers: { in: { at: [0, 0, 90, 44], lines: ['click → if Name2 = "Tolm" → go to Lost'] } } }, Lost: {} } as const;
    const spec = forms(8, gate);
    const sent = { layers: { again: { at: [0, 0, 90, 44], lines: ['click → go to Gate'] } } } as const;
    const program = compile(compose({ ...spec, frames: { ...spec.frames, Sent: sent } }));
    const exploration = explore(program);
    expect(exploration.cut).toBeNull();
    const lost = [...program.piece.scenes.values()].find(({ name }) => name === 'Lost')!.id;
    expect(exploration.reached.has(lost)).toBe(true);
    const names = exploration.states.map(({ frame }, state) => `${frame} ${exploration.runOf(state).variables['Name2'] ?? ''}`);
    expect(new Set(names).size).toBe(exploration.states.length);
    const { run } = replay(program, begin(program)!.run, exploration.routeTo(exploration.reached.get(lost)!));
    expect(run.frame).toBe(lost);
  });

  test('pieces as people make them are judged as in the whole, and every route leads where it says', () => {
    let freed = 0;
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 1e9 }),
        fc.constantFrom({ frames: 2, each: 3, crossing: 1 }, { frames: 3, each: 2, crossing: 1 }, { frames: 3, each: 2, crossing: 0 }),
        (seed, size) => {
          const program = compile(deskSized(seed, size));
          const whole = explore(program, WHOLE);
          const freely = explore(program, FREELY);
          fc.pre(whole.cut === null && freely.cut === null && freely.isFreed);
          freed++;
          const sorted = (ids: Iterable<string>) => [...ids].sort();
          for (const what of ['fired', 'branches', 'acted', 'entered', 'leavesFrom'] as const)
            expect(sorted(freely[what])).toEqual(sorted(whole[what]));
          expect(sorted(freely.reached.keys())).toEqual(sorted(whole.reached.keys()));
          const found = (exploration: Exploration) =>
            judge(program, exploration)
              .findings.filter(({ rule }) => !UNLIKE.has(rule))
              .map(({ rule, place, title, sentence }) =>
                JSON.stringify(rule === 'no-way-home' ? [rule, sentence.split(/\W+/).sort()] : [rule, place, title])
              )
              .sort();
          expect(found(freely)).toEqual(found(whole));
          for (const part of [freely, ...freely.slices])
            part.states.forEach(({ frame }, state) => {
              if (state % 5 === seed % 5) expect(endOf(program, part, state).frame).toBe(frame);
            });
        }
      ),
      { numRuns: timesOver(7) }
    );
    expect(freed).toBeGreaterThan(timesOver(7) / 2);
  });
});

/** Sizes are not judged while steps wait, and an end of all that can be done on one frame is met in the whole alone. */
const UNLIKE: ReadonlySet<string> = new Set(['crowded-hit', 'small-hit', 'off-frame', 'unseen-hit', 'dead-end']);
