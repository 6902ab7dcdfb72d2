import type { ComposeSpec, PlacedSpec, SceneSpec, TimelineSpec } from '../compose/compose.ts';
import { generator } from './large.ts';

export const pick = <T>(random: () => number, from: readonly T[]): T => from[Math.floor(random() * from.length)]!;

/** Times that never fall together, so that the order of equal times plays no part. */
const times = [101, 211, 307, 401, 503, 601, 701, 809, 907, 1009];

/** Sections, spans and cues (but for pausing, which may fall together with what it comes to) of a timeline whose stops fall together with those of no other one that began with it. */
function timeline(random: () => number, layers: readonly string[], placed: readonly string[]): TimelineSpec {
  const labels: Record<string, readonly [number, 'hold' | 'loop' | 'go on' | { goTo: string } | { rounds: number }]> = {};
  let length = random() < 0.7 ? 0 : 3 + Math.floor(random() * 12);
  const count = 3;
  for (let i = 0; i < count; i++) {
    const goTo = `L${1 + Math.floor(random() * count)}`;
    labels[`L${i + 1}`] = [length, pick(random, ['hold', 'loop', 'go on', 'go on', 'go on', { goTo }, { rounds: 2 }] as const)];
    length += 3 + Math.floor(random() * 17);
  }
  const some = (names: readonly string[], share: number) => names.filter(() => random() < share);
  const moment = () => Math.floor(random() * length);
  const span = (name: string) => {
    const from = moment();
    return [name, from, from + Math.floor(random() * (length - from))] as const;
  };
  return {
    length,
    ...(random() < 0.6 && { loop: true }),
    ...(random() < 0.3 && { autoplay: false }),
    labels,
    spans: [...some(layers, 0.3), ...some(placed, 0.4)].flatMap((name) => (random() < 0.3 ? [span(name), span(name)] : [span(name)])),
    cues: some(placed, 0.4).map((name) => [moment(), name, pick(random, ['play', 'start over'] as const)] as const),
  };
}

/** What threads do about a timeline: of the scene, or of something placed in it. */
const inTime = (random: () => number, placed: string | null): string => {
  const label = pick(random, ['L1', 'L1', 'L2', 'L3']);
  const [of, from, within] = placed ? [` ${placed}`, ` ${placed} from`, ` in ${placed} label`] : ['', ' from', ' label'];
  return pick(random, [
    `play${from} ${label}`,
    placed ? `play ${placed}` : 'play on',
    `start over${of}`,
    `pause${of}`,
    `show${within} ${label}`,
    `play ${pick(random, ['next', 'previous'])} section${placed ? ` of ${placed}` : ''}`,
  ]);
};

/**
 * A piece of frames, states, variables, guards, timers, waits, and timelines where it is to have some: what a state chart can say all of.
 *
 * @param seed which one
 */
export function flow(seed: number, isTimed = false): ComposeSpec {
  const random = generator(seed);
  const timedFrames = new Set<string>();
  const names = ['A', 'B', 'C', 'D'].slice(0, 2 + Math.floor(random() * 3));
  const states = ['One', 'Two', 'Three'];
  const stateful = new Set(names.filter(() => random() < 0.6));
  const numbers = () => pick(random, ['n > 1', 'n = 2 or m < 3', 'n in (0, 3)', 'not(n > m)', 'n between 1 and 2', 'modulo(n, 2) = 0']);
  let cards = 0;
  // What comes and goes is in no section while it is away, so it is not asked.
  let isAsked: boolean;
  const condition = (frame: string | null = null) => {
    const about = random();
    if (isTimed && about > 0.85 && cards > 0) {
      isAsked = true;
      return pick(random, ['c0.section = "L1"', 'c0.section != "L2" and n > 0']);
    }
    if (frame !== null && about > 0.75 && timedFrames.has(frame)) return `${frame}.section ${pick(random, ['=', '!='])} "L2"`;
    if (about < 0.15 && cards > 0) return pick(random, ['c0.state = "On"', 'c0.state != "Off"', 'c0.state in ("On", "Spent") and n > 0']);
    return numbers();
  };
  // What is placed goes through states of its own.
  const lit = () =>
    pick(random, ['put this in On', 'put this in Off', 'next state', 'previous state around', 'toggle this with Spent · tween 157 ms linear']);
  const last = (frame: string) => {
    const kind = random();
    if (isTimed && random() < 0.65) {
      const placed = cards > 0 && random() < 0.5 ? 'c0' : null;
      if (placed || timedFrames.has(frame) || frame === 'part') return inTime(random, placed);
    }
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
    if (kind < 0.8) return `${cue} → if ${condition(frame)} → ${steps(frame, signals)}; otherwise → ${steps(frame, signals)}`;
    return `${cue} → if ${condition(frame)} → ${steps(frame, signals)}`;
  };
  /** What a label sets off leads to no label at once. */
  const reached = (label: string) => {
    const steps = pick(random, [
      'set m to m + 1',
      'set n to n + 1',
      'set m to m - 1',
      `wait ${pick(random, times) + 3} ms; go to ${pick(random, names)}`,
    ]);
    return random() < 0.6 ? `label ${label} → ${steps}` : `label ${label} → if ${condition()} → ${steps}`;
  };
  const frames: Record<string, SceneSpec> = {};
  for (const frame of names) {
    const free = [...times];
    if (isTimed && random() < 0.7) timedFrames.add(frame);
    cards = Math.floor(random() * 3);
    isAsked = false;
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
    if (timedFrames.has(frame)) lines.push(...['L1', 'L2'].filter(() => random() < 0.4).map(reached));
    for (let i = 0; i < cards; i++)
      layers[`c${i}`] = {
        type: 'placement',
        part: 'Card',
        at: [300, i * 200, 60, 180],
        ...(random() < 0.3 && { state: 'On' }),
        ...(isTimed && random() < 0.6 && { reentry: pick(random, ['start over', 'once'] as const) }),
        lines: [
          ...(random() < 0.2 ? [thread('click', '')] : []),
          ...(random() < 0.3 ? [`${pick(random, ['state On', 'leave state Off', 'state Spent'])} → set m to m + 1`] : []),
        ],
      };
    const carries = random();
    frames[frame] = {
      ...(stateful.has(frame) && { states: { One: {}, Two: {}, Three: {} } }),
      ...(timedFrames.has(frame) && { timeline: timeline(random, ['x', 'y', 'z'], isAsked ? [] : Object.keys(layers).slice(3)) }),
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
    ...(isTimed && random() < 0.5 && { timeline: timeline(random, ['p', 'q'], ['r']) }),
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
    fps: 50,
    variables: { n: { type: 'number', initial: 0, min: 0, max: 3 }, m: { type: 'number', initial: 2, min: -5, max: 5 } },
    parts: {
      Chip: {
        size: [50, 50],
        ...(isTimed && random() < 0.5 && { timeline: timeline(random, ['d'], []) }),
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
        ...(isTimed && { timeline: timeline(random, ['u', 'v'], ['w']) }),
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
          ...(isTimed ? ['L1', 'L2'].filter(() => random() < 0.3).map(reached) : []),
        ],
      },
    },
    sheets: { bar: sheet('key k', 100), ground: sheet('key p', 200) },
    frames,
    lines: ['key p → go to first', 'signal bye → set n to 0'],
  };
}
