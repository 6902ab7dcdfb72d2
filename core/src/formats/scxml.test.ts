import { afterEach, describe, expect, test, vi } from 'vitest';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import { stateOf } from '../run/resolve.ts';
import { expand } from '../program/expand.ts';
import { advance, begin } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { compose, sceneId, type ComposeSpec, type PlacedSpec, type SceneSpec } from '../compose/compose.ts';
import { generator } from '../testing/large.ts';
import { timesOver } from '../testing/runs.ts';
import { toScxml } from './scxml.ts';

interface Chart {
  start(): void;
  gen(event: { name: string }): void;
  getConfiguration(): string[];
  /** The fourth of it are the data. */
  getSnapshot(): readonly unknown[];
}
interface Model {
  prepare(done: (error: Error | null, prepared: unknown) => void, context: unknown, options: object): void;
}
interface Interpreter {
  documentStringToModel(url: string, xml: string, done: (error: Error | null, model: Model) => void): void;
  readonly core: { readonly Statechart: new (prepared: unknown, options: object) => Chart };
}

/** A chart in an interpreter of state charts that is not ours, used as it comes; each call makes one at its beginning. */
async function interpreter(xml: string): Promise<() => Promise<Chart>> {
  const { default: scion } = (await import('@scion-scxml/scxml')) as unknown as { default: Interpreter };
  const model = await new Promise<Model>((resolve, reject) =>
    scion.documentStringToModel('chart.scxml', xml, (error, made) => (error ? reject(error) : resolve(made)))
  );
  return () =>
    new Promise<Chart>((resolve, reject) =>
      model.prepare((error, prepared) => (error ? reject(error) : resolve(new scion.core.Statechart(prepared, {}))), undefined, {})
    );
}

const pick = <T>(random: () => number, from: readonly T[]): T => from[Math.floor(random() * from.length)]!;

/** Times that never fall together, so that the order of equal times plays no part. */
const times = [101, 211, 307, 401, 503, 601, 701, 809, 907, 1009];

/** A piece of frames, states, variables, guards, timers and waits. */
function flow(seed: number): ComposeSpec {
  const random = generator(seed);
  const names = ['A', 'B', 'C', 'D'].slice(0, 2 + Math.floor(random() * 3));
  const states = ['One', 'Two', 'Three'];
  const stateful = new Set(names.filter(() => random() < 0.6));
  const numbers = () => pick(random, ['n > 1', 'n = 2 or m < 3', 'n in (0, 3)', 'not(n > m)', 'n between 1 and 2', 'modulo(n, 2) = 0']);
  let cards = 0;
  const condition = () => {
    const about = random();
    if (about < 0.15 && cards > 0) return pick(random, ['c0.state = "On"', 'c0.state != "Off"', 'c0.state in ("On", "Spent") and n > 0']);
    return numbers();
  };
  // What is placed goes through states of its own.
  const lit = () =>
    pick(random, ['put this in On', 'put this in Off', 'next state', 'previous state around', 'toggle this with Spent · tween 157 ms linear']);
  const last = (frame: string) => {
    const kind = random();
    if (cards > 0 && kind > 0.85) return pick(random, ['put c0 in On', 'next state around of c0', 'toggle c0 with Spent']);
    if (kind < 0.35) return `go to ${pick(random, names)}${random() < 0.3 ? ` · push left ${pick(random, times)} ms linear` : ''}`;
    if (kind < 0.5) return pick(random, ['go to next', 'go replacing to previous', 'go to last', 'go to start', 'go to back', 'go to back']);
    if (kind < 0.8 && stateful.has(frame))
      return pick(random, [`put this in ${pick(random, states)}`, 'next state', 'previous state around', `toggle this with ${pick(random, states)}`]);
    return pick(random, ['set n to n + 1', 'set n to n - 1', 'set m to n * 2', 'set n to 0']);
  };
  const steps = (frame: string, signals: boolean) => {
    const list: string[] = [];
    if (random() < 0.4) list.push(pick(random, ['set n to n + 1', 'set m to m - 1', 'set n to m']));
    if (random() < 0.2) list.push(`wait ${pick(random, times)} ms`);
    if (signals && random() < 0.2) list.push(pick(random, ['send hello', 'send bye']));
    list.push(last(frame));
    return list.join('; ');
  };
  const thread = (cue: string, frame: string, signals = true) => {
    const kind = random();
    if (kind < 0.5) return `${cue} → ${steps(frame, signals)}`;
    if (kind < 0.8) return `${cue} → if ${condition()} → ${steps(frame, signals)}; otherwise → ${steps(frame, signals)}`;
    return `${cue} → if ${condition()} → ${steps(frame, signals)}`;
  };
  const frames: Record<string, SceneSpec> = {};
  for (const frame of names) {
    const free = [...times];
    cards = Math.floor(random() * 3);
    const layers: Record<string, PlacedSpec> = Object.fromEntries(
      ['x', 'y', 'z'].map((name, i) => [
        name,
        { at: [0, i * 60, 50, 50] as const, lines: Array.from({ length: 1 + Math.floor(random() * 2) }, () => thread('click', frame)) },
      ])
    );
    const lines = [thread('key k', frame)];
    if (random() < 0.4) lines.push(thread(`after ${free.splice(Math.floor(random() * free.length), 1)[0]} ms`, frame));
    if (stateful.has(frame) && random() < 0.4)
      lines.push(thread(`after ${free.splice(Math.floor(random() * free.length), 1)[0]} ms in ${pick(random, states)}`, frame));
    if (stateful.has(frame) && random() < 0.4) lines.push(`${pick(random, ['state', 'leave state'])} ${pick(random, states)} → set m to m + 1`);
    if (random() < 0.4) lines.push('signal hello → set n to n + 1');
    if (random() < 0.3) lines.push('variable m → send bye');
    for (let i = 0; i < cards; i++)
      layers[`c${i}`] = {
        type: 'placement',
        part: 'Card',
        at: [300, i * 200, 60, 180],
        ...(random() < 0.3 && { state: 'On' }),
        lines: [
          ...(random() < 0.2 ? [thread('click', '')] : []),
          ...(random() < 0.3 ? [`${pick(random, ['state On', 'leave state Off', 'state Spent'])} → set m to m + 1`] : []),
        ],
      };
    const carries = random();
    frames[frame] = {
      ...(stateful.has(frame) && { states: { One: {}, Two: {}, Three: {} } }),
      ...(carries < 0.3 ? { over: ['bar'] } : carries < 0.5 ? { under: ['bar'] } : carries < 0.6 ? { under: ['ground'], over: ['bar'] } : {}),
      layers,
      lines,
    };
  }
  cards = 0;
  const brief = (cue: string) => {
    const steps = pick(random, [
      `set n to 1; wait ${pick(random, times) + 5} ms; set m to m - 1`,
      'set n to n + 1',
      'set m to n; send hello',
      `go to ${pick(random, names)}`,
      'go to next; set n to 2',
      'go to back',
    ]);
    const late = pick(random, ['', '', `; set m to 1; go to ${pick(random, names)} · push left ${pick(random, times) + 3} ms linear; set n to 3`]);
    return random() < 0.5 ? `${cue} → ${steps}${late}` : `${cue} → if ${condition()} → ${steps}; otherwise → set m to m + 1`;
  };
  const sheet = (key: string, x: number): SceneSpec => ({
    states: { Shut: {}, Open: {} },
    layers: {
      o: {
        at: [x, 180, 50, 50],
        lines: [`click → ${pick(random, ['put this in Open', 'next state around', 'toggle this with Open · tween 163 ms linear; set n to 2'])}`],
      },
      p: { at: [x, 0, 50, 50], lines: [brief('click')] },
      q: { at: [x, 60, 50, 50], lines: random() < 0.5 ? [brief('key k')] : [] },
      r: { type: 'placement', part: 'Chip', at: [x, 120, 50, 50] },
    },
    lines: [
      brief(key),
      ...(random() < 0.4 ? [`after ${pick(random, times) + 7} ms in Open → put this in Shut`] : []),
      ...(random() < 0.3 ? [`after ${pick(random, times) + 11} ms → set n to n + 1`] : []),
      ...(random() < 0.3 ? ['state Open → set m to m + 2'] : []),
      ...(random() < 0.4 ? ['signal hello → set m to m - 1'] : []),
      ...(random() < 0.3 ? ['click → set n to 0'] : []),
    ],
  });
  return {
    variables: { n: { type: 'number', initial: 0, min: 0, max: 3 }, m: { type: 'number', initial: 2, min: -5, max: 5 } },
    parts: {
      Chip: {
        size: [50, 50],
        layers: { d: { at: [0, 0, 50, 50], lines: random() < 0.7 ? [brief('click')] : [] } },
        lines: [
          ...(random() < 0.3 ? [brief('click')] : []),
          ...(random() < 0.3 ? [brief('key k')] : []),
          ...(random() < 0.2 ? ['signal bye → set m to 3'] : []),
        ],
      },
      Card: {
        size: [60, 180],
        states: { Off: {}, On: {}, Spent: {} },
        layers: {
          u: { at: [0, 0, 50, 50], lines: [random() < 0.6 ? `click → ${lit()}; set n to n + 1` : thread('click', '')] },
          v: { at: [0, 60, 50, 50], lines: random() < 0.4 ? [thread('key k', '')] : [] },
          w: { type: 'placement', part: 'Chip', at: [0, 120, 50, 50] },
        },
        lines: [
          ...(random() < 0.4 ? [thread('click', '')] : []),
          ...(random() < 0.3 ? ['variable n → set m to m + 1'] : []),
          ...(random() < 0.4 ? [`after ${pick(random, times) + 13} ms in On → put this in Spent`] : []),
          ...(random() < 0.2 ? [`after ${pick(random, times) + 17} ms → ${lit()}`] : []),
          ...(random() < 0.3 ? [`${pick(random, ['state On', 'leave state On'])} → set m to m - 1`] : []),
          ...(random() < 0.2 ? ['signal hello → put this in Off'] : []),
        ],
      },
    },
    sheets: { bar: sheet('key k', 100), ground: sheet('key p', 200) },
    frames,
    lines: ['key p → go to first', 'signal bye → set n to 0'],
  };
}

/** What can be seen of a run: the frame, its state, the states of what is placed on it and of the sheets that it carries, and variables. */
function visible(program: Program, run: RunState): { readonly at: string[]; readonly kept: Record<string, unknown> } {
  const own = expand(program, program.scenes.get(run.frame)!).instances.get('')!;
  const state = stateOf(run.roots[run.frame]!, own);
  const kept: Record<string, unknown> = {};
  for (const { id, initial } of program.variables.values()) kept[`v_${id.replace(/\W/g, '_')}`] = run.variables[id] ?? initial;
  for (const scene of scenesOn(program, run))
    for (const instance of expand(program, program.scenes.get(scene)!).instances.values()) {
      if (instance === own || instance.scene.states.length === 0) continue;
      const now = stateOf(run.roots[scene]!, instance);
      kept[`s_${(instance.key || scene).replaceAll('/', '__')}`] = instance.scene.states.find(({ id }) => id === now)!.name;
    }
  return { at: [state === null ? `frame_${run.frame}` : `state_${run.frame}_${state}`], kept };
}

/** The same of a chart, as far as something is to be seen. */
function visibleIn(chart: Chart, names: readonly string[]): ReturnType<typeof visible> {
  const data = chart.getSnapshot()[3] as Record<string, unknown>;
  return { at: chart.getConfiguration(), kept: Object.fromEntries(names.map((name) => [name, data[name]])) };
}

describe('against an independent interpreter of state charts', () => {
  afterEach(() => void vi.useRealTimers());

  test('the same events lead to the same frame and state, on hundreds of random sequences', async () => {
    const pieces = timesOver(15);
    const sequences = 20;
    let compared = 0;
    let kept = 0;
    for (let seed = 0; seed < pieces; seed++) {
      const program = compile(compose(flow(seed)));
      const { xml, omitted } = toScxml(program);
      expect(omitted).toEqual([]);
      vi.useRealTimers();
      const charts = await interpreter(xml);
      vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
      for (let s = 0; s < sequences; s++) {
        const random = generator(seed * 1000 + s);
        const chart = await charts();
        chart.start();
        vi.advanceTimersByTime(0);
        let { run } = begin(program)!;
        const trail: string[] = [];
        for (let i = 0; i < 8; i++) {
          const kind = random();
          let event: RunEvent;
          if (kind < 0.6) {
            const sheets = (program.scenes.get(run.frame)!.scene.carries ?? []).map((one) => one.sheet);
            const scene = sheets.length && random() < 0.4 ? pick(random, sheets) : run.frame;
            const { nodes } = expand(program, program.scenes.get(scene)!);
            const pressed = nodes.filter(({ layer: { type }, catches }) => type !== 'placement' && (scene === run.frame || catches));
            const layer = pick(random, pressed).key;
            event = { type: 'click', layer };
            chart.gen({ name: `click.${layer.replaceAll('/', '.')}` });
          } else if (kind < 0.75) {
            event = { type: 'key', key: pick(random, ['k', 'p']) };
            chart.gen({ name: `key.${event.key}` });
          } else {
            event = { type: 'wait', ms: 1 + Math.floor(random() * 700) };
            vi.advanceTimersByTime(event.ms);
          }
          run = advance(program, run, event).run;
          trail.push(JSON.stringify(event));
          const seen = visible(program, run);
          kept += Object.keys(seen.kept).length;
          expect(visibleIn(chart, Object.keys(seen.kept)), `piece ${seed}, sequence ${s}: ${trail.join(' ')}`).toEqual(seen);
          compared++;
        }
        vi.clearAllTimers();
      }
    }
    expect(compared).toBe(pieces * sequences * 8);
    expect(kept).toBeGreaterThan(pieces * 100);
  }, 120_000);
});

test('what a chart cannot say is listed, in the result and in the file', () => {
  const program = compile(
    compose({ frames: { home: { layers: { a: { lines: ['hover → move a by 1, 1', 'click → go to back'] } }, timeline: { length: 9 } } } })
  );
  const { xml, omitted } = toScxml(program);
  expect(omitted).toEqual(['the timeline of home', 'the cue “hover” of a', 'the step “move” of a']);
  for (const line of omitted) expect(xml).toContain(line);
  expect(sceneId('home')).toBe('home');
});

test('parts and sheets go through states of their own, each placement its own; what is on no frame is not spoken of', () => {
  const lamp = {
    states: { Off: {}, On: {} },
    layers: { bulb: { lines: ['click → put this in On; go to b'] } },
    lines: ['after 2 s → go to b', 'key k → wait 1 s; go to b'],
  };
  const program = compile(
    compose({
      parts: { Lamp: lamp, Unused: lamp },
      sheets: {
        bar: { states: { Shut: {}, Open: {} }, layers: { menu: { lines: ['click → wait 500 ms; go to b'] } } },
        loose: { lines: ['after 1 s → go to b'] },
      },
      frames: { a: { over: ['bar'], layers: { lamp: { type: 'placement', part: 'Lamp' } } }, b: {} },
    })
  );
  const { xml, omitted } = toScxml(program);
  expect(omitted).toEqual([]);
  for (const line of ['event="click.a_lamp.Lamp_bulb"', '<data id="s_a_lamp" ', '<data id="s_bar" ', '.a_lamp" delay="2000ms"'])
    expect(xml).toContain(line);
  expect(xml).not.toContain('Unused');
});

test('states that follow from something else, and variables of scenes, are left out by name', () => {
  const lamp = { states: { Off: {}, On: {} }, layers: { bulb: { lines: ['click → put this in On'] } } };
  const program = compile(
    compose({
      variables: { Night: { type: 'yes/no', initial: false } },
      parts: { Lamp: lamp, Room: { states: { Day: {}, Dark: { lamp: { state: 'On' } } }, layers: { lamp: { type: 'placement', part: 'Lamp' } } } },
      frames: {
        a: {
          layers: {
            room: { type: 'placement', part: 'Room', at: [0, 0, 100, 100] },
            door: { type: 'placement', part: 'Lamp', at: [100, 0, 50, 50], when: { state: 'if Night then "On" else "Off"' } },
            far: { type: 'placement', part: 'Lamp', at: [200, 0, 50, 50], lines: ['click → if far.state = "On" and far.x > 3 → put far in Off'] },
          },
        },
      },
    })
  );
  const { omitted, xml } = toScxml(program);
  expect(omitted).toEqual([
    'that the state of lamp is as one around it says',
    'what door always follows',
    'the step “state” of bulb',
    'the condition of far on more than variables and states',
  ]);
  expect(xml).toContain('<data id="s_a_far"');
  expect(xml).not.toContain('<data id="s_a_door"');
});
