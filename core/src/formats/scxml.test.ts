import { afterEach, describe, expect, test, vi } from 'vitest';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { nameOfSection, scenesOn, shownWithin } from '../run/environment.ts';
import { stateOf } from '../run/resolve.ts';
import { expand } from '../program/expand.ts';
import { advance, begin } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { compose, sceneId } from '../compose/compose.ts';
import { flow, pick } from '../testing/flows.ts';
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

/** What can be seen of a run: the frame, its state, the states of what is placed on it and of the sheets that it carries, and variables. */
function visible(program: Program, run: RunState): { readonly at: string[]; readonly kept: Record<string, unknown> } {
  const own = expand(program, program.scenes.get(run.frame)!).instances.get('')!;
  const state = stateOf(run.roots[run.frame]!, own);
  const kept: Record<string, unknown> = {};
  for (const { id, initial } of program.variables.values()) kept[`v_${id.replace(/\W/g, '_')}`] = run.variables[id] ?? initial;
  for (const scene of scenesOn(program, run))
    for (const instance of expand(program, program.scenes.get(scene)!).instances.values()) {
      const token = (instance.key || scene).replaceAll('/', '__');
      // Where it is when it comes back is seen then.
      const isThere = !instance.placement || shownWithin(program, run, run.roots[scene]!, instance.placement);
      const root = run.roots[scene]!;
      if (instance.scene.scene.timeline && isThere) {
        const { playing, at } = root.heads[instance.key]!;
        kept[`t_${token}`] = nameOfSection(program, run, root, instance);
        kept[`_plays_${token}`] = playing;
        if (!playing) kept[`_at_${token}`] = at;
      }
      if (instance === own || instance.scene.states.length === 0) continue;
      const now = stateOf(run.roots[scene]!, instance);
      kept[`s_${token}`] = instance.scene.states.find(({ id }) => id === now)!.name;
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

  test.each([
    ['frames and states', false],
    ['timelines', true],
  ] as const)(
    'the same events lead to the same, on hundreds of random sequences: %s',
    async (_of, isTimed) => {
      const pieces = timesOver(9);
      const [sequences, long] = isTimed ? [12, 16] : [20, 8];
      let compared = 0;
      let kept = 0;
      for (let seed = 0; seed < pieces; seed++) {
        const program = compile(compose(flow(seed, isTimed)));
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
          for (let i = 0; i < long; i++) {
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
              event = { type: 'wait', ms: 1 + Math.floor(random() * (isTimed ? 1400 : 700)) };
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
      expect(compared).toBe(pieces * sequences * long);
      expect(kept).toBeGreaterThan(pieces * 100);
    },
    120_000
  );
});

test('a cue on a timeline pauses what is placed there, at the frame that it has come to', async () => {
  const program = compile(
    compose({
      fps: 50,
      parts: { Boat: { layers: { hull: {} }, timeline: { length: 30, labels: { Ebb: [0, 'go on'], Flood: [7, 'go on'] } } } },
      frames: { sea: { layers: { boat: { type: 'placement', part: 'Boat' } }, timeline: { length: 20, cues: [[11, 'boat', 'pause']] } } },
    })
  );
  const charts = await interpreter(toScxml(program).xml);
  vi.useFakeTimers({ toFake: ['setTimeout', 'clearTimeout'] });
  const chart = await charts();
  chart.start();
  const told = (ms: number) => {
    vi.advanceTimersByTime(ms);
    return visibleIn(chart, ['t_sea_boat', '_plays_sea_boat', '_at_sea_boat']).kept;
  };
  expect([told(205), told(400)]).toEqual([
    { t_sea_boat: 'Flood', _plays_sea_boat: true, _at_sea_boat: 10 },
    { t_sea_boat: 'Flood', _plays_sea_boat: false, _at_sea_boat: 10 },
  ]);
  vi.useRealTimers();
});

test('what a chart cannot say is listed, in the result and in the file', () => {
  const program = compile(
    compose({
      frames: {
        home: {
          layers: { a: { lines: ['hover → move a by 1, 1', 'click → go to back'] } },
          timeline: {
            length: 9,
            tracks: [
              [
                'a',
                'x',
                [
                  [0, 0],
                  [8, 80],
                ],
              ],
            ],
          },
        },
      },
    })
  );
  const { xml, omitted } = toScxml(program);
  expect(omitted).toEqual(['what moves on the timeline of home', 'the cue “hover” of a', 'the step “move” of a']);
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

test('sections of timelines stand in the data by name; what plays when more than spans bring it is left out by name', () => {
  const film = { layers: { hull: {} }, timeline: { length: 48, labels: { Ebb: [0, 'go on'], Flood: [24, 'hold'] } } } as const;
  const program = compile(
    compose({
      fps: 24,
      parts: { Boat: film },
      frames: {
        tide: {
          states: { Day: {}, Night: { late: { hidden: true } } },
          layers: {
            now: { type: 'placement', part: 'Boat', at: [0, 0, 50, 50] },
            then: { type: 'placement', part: 'Boat', at: [50, 0, 50, 50] },
            late: { type: 'placement', part: 'Boat', at: [100, 0, 50, 50] },
            horn: { type: 'sound', at: [150, 0, 50, 50], lines: ['click → play now from Flood; then go to pier', 'click → play late'] },
          },
          timeline: { length: 20, spans: [['then', 10, 19]], cues: [[5, 'horn', 'play']] },
        },
        pier: { timeline: { length: 10, labels: { In: [0, 'loop'] } }, layers: { a: { lines: ['click → if pier.section = "In" → go to tide'] } } },
      },
    })
  );
  const { xml, omitted } = toScxml(program);
  expect(omitted).toEqual([
    'when the timeline of late plays, as it comes and goes',
    'that the timeline of tide has horn play',
    'the step “play” of horn',
  ]);
  for (const line of ['<data id="t_tide_now" expr="&quot;Ebb&quot;"/>', '<data id="t_tide_then"', 't_pier === &quot;In&quot;', '_waiting_tide_now'])
    expect(xml).toContain(line);
  expect(xml).not.toContain('tide_late');
});
