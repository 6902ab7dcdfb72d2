import { Array as ArrayOf, Literal, Number as Num, Object as Obj, Tuple, Union, type Static } from '@sinclair/typebox';
import { id } from '../fields/scalars.ts';
import { schemaFault } from '../piece/read.ts';
import { KeptEventSchema } from '../piece/walks.ts';
import type { Point } from '../program/geometry.ts';
import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { fail, ok, type Fault, type Result } from '../result.ts';
import { valueIn } from '../run/environment.ts';
import { isUnder, resolveScreen, stateOf } from '../run/resolve.ts';
import { advance, begin } from '../run/run.ts';
import type { Report, RunEvent, RunState } from '../run/state.ts';
import { areSame } from '../same.ts';

/**
 * Everything that somebody did in a running piece, as the engine got it, so that it can be run again exactly: what was pressed
 * where, and how long it took. Unlike a walk that is kept, which says what was meant, a trail also has the presses that met nothing.
 */

const strict = { additionalProperties: false } as const;
const place = () => Num({ minimum: -1e6, maximum: 1e6 });

const TrailEventSchema = Union([
  ...(['move', 'press', 'release'] as const).map((type) => Obj({ type: Literal(type), x: place(), y: place() }, strict)),
  Obj({ type: Literal('jump'), frame: id('frame') }, strict),
  KeptEventSchema,
  /** The piece was started anew, from where the trail began. */
  Obj({ type: Literal('again') }, strict),
]);

export const MOST_IN_TRAIL = 6000;

/** The frame it began on, and each event with the milliseconds that had passed since the one before. */
export const TrailSchema = Obj(
  { from: id('frame'), events: ArrayOf(Tuple([Num({ minimum: 0, maximum: 86_400_000 }), TrailEventSchema]), { maxItems: MOST_IN_TRAIL }) },
  strict
);

export type Trail = Static<typeof TrailSchema>;
export type TrailEvent = Static<typeof TrailEventSchema>;

/** Reads a trail that comes from elsewhere. */
export function readTrail(value: unknown): Result<Trail> {
  const bad: Fault | null = schemaFault(TrailSchema, value, []);
  return bad ? fail(bad) : ok(value as Trail);
}

/** Keeps a trail while a piece runs. */
export class TrailKeeper {
  private events: [number, TrailEvent][] = [];
  /** Time that has passed since the last event that is kept. */
  private passed = 0;
  /** The run after the last event, and whether that was a move of the pointer that nothing came of. */
  private idle: { readonly over: readonly string[] } | null = null;
  /** More was done than a trail holds; the rest is not in it. */
  isFull = false;

  constructor(readonly from: string) {}

  /** An event with the time that had passed since the last one, and what came of it. */
  take(since: number, event: RunEvent | { readonly type: 'again' }, run: RunState, reports: readonly Report[]): void {
    if (this.isFull) return;
    if (event.type === 'wait') {
      this.passed += since + event.ms;
      return;
    }
    const ms = this.passed + since;
    this.passed = 0;
    const isIdle = event.type === 'move' && run.pressed === null && reports.every(({ fired }) => fired.length === 0);
    const last = this.events.at(-1);
    // A pointer that goes on over the same things says nothing new: it is where it came to last.
    if (isIdle && last && this.idle && areSame(this.idle.over, run.over)) this.events[this.events.length - 1] = [last[0] + ms, event as TrailEvent];
    else this.events.push([ms, event as TrailEvent]);
    this.idle = isIdle ? { over: run.over } : null;
    this.isFull = this.events.length >= MOST_IN_TRAIL;
  }

  get trail(): Trail {
    const rest: [number, TrailEvent][] = this.passed > 0 ? [[this.passed, { type: 'wait', ms: 0 }]] : [];
    return { from: this.from, events: [...this.events.slice(0, MOST_IN_TRAIL - rest.length), ...rest] };
  }
}

/** One thing done, and what came of it. */
export interface TrailStep {
  readonly event: TrailEvent;
  /** Milliseconds since the trail began. */
  readonly at: number;
  /** The frame it was done on, and the topmost frame laid over that. */
  readonly frame: string;
  readonly on: string;
  readonly layer: string | null;
  readonly point: Point | null;
  /** Whether anything came of it: a thread fired, a field changed, something took the focus. */
  readonly met: boolean;
  /** The topmost layer that a press which met nothing was on; null where there is none. */
  readonly under: string | null;
  /** Why nothing came of it, where something could have. */
  readonly whyNot: string | null;
  /** Threads that fired, in order. */
  readonly threads: readonly string[];
  /** Where it led. */
  readonly to: string;
}

/** What is to be reached: a frame (in a state, where one is named), or that something holds. */
export type Goal = { readonly frame: string; readonly state?: string } | { readonly condition: string };

export interface Followed {
  /** What was done on purpose; moving the pointer and waiting are no steps. */
  readonly steps: readonly TrailStep[];
  /** How many steps it took to the goal, and when that was; null where it was not reached. */
  readonly reached: { readonly steps: number; readonly at: number } | null;
  /** How long the whole trail took, in ms. */
  readonly ms: number;
  readonly end: RunState;
}

/** Whether what is looked for is there. */
export function isReached(program: Program, run: RunState, goal: Goal): boolean {
  const scene = program.scenes.get(run.frame);
  const root = run.roots[run.frame];
  if (!scene || !root) return false;
  if ('condition' in goal) {
    const holds = valueIn(program, run, expand(program, scene).instances.get('')!, goal.condition);
    return holds.ok && holds.value === true;
  }
  if (goal.frame === run.frame) return goal.state === undefined || stateOf(root, expand(program, scene).instances.get('')!) === goal.state;
  return goal.state === undefined && run.overlays.some(({ frame }) => frame === goal.frame);
}

/** Time passes in such stretches, so that one can stop within a long wait. In ms. */
const STRETCH = 10_000;

/** Runs a trail again; null where it cannot begin, since its first frame is not there, or where it is stopped. */
export function followTrail(
  program: Program,
  { from, events }: Trail,
  goal: Goal | null = null,
  shouldStop: () => boolean = () => false
): Followed | null {
  const begun = begin(program, from);
  if (!begun) return null;
  let { run } = begun;
  let at = 0;
  let reached: Followed['reached'] = null;
  let focused: { readonly layer: string; readonly at: number } | null = null;
  const steps: TrailStep[] = [];
  const look = () => {
    if (goal && !reached && isReached(program, run, goal)) reached = { steps: steps.length, at };
  };
  look();
  for (const [ms, event] of events) {
    const passed = ms + (event.type === 'wait' ? event.ms : 0);
    for (let left = passed; left > 0; left -= STRETCH) {
      if (shouldStop()) return null;
      ({ run } = advance(program, run, { type: 'wait', ms: Math.min(left, STRETCH) }));
    }
    at += passed;
    if (shouldStop()) return null;
    look();
    if (event.type === 'wait') continue;
    if (event.type === 'again') {
      ({ run } = begin(program, from)!);
      continue;
    }
    const before = run;
    const next = advance(program, run, event as RunEvent);
    ({ run } = next);
    const step = stepOf(program, before, event, next.run, next.reports, at);
    if (step) add(steps, step);
    else if (event.type === 'focus' && event.layer !== null) focused = { layer: event.layer, at };
    const last = steps.at(-1);
    // A field that is pressed takes the focus by an event of its own, before the press has ended.
    if (last && !last.met && focused && last.under === focused.layer && last.at - focused.at < AT_ONCE) steps[steps.length - 1] = asMet(last);
    look();
  }
  return { steps, reached, ms: at, end: run };
}

/** What a browser does in answer to one press comes within so many ms. */
const AT_ONCE = 1000;

const asMet = (step: TrailStep): TrailStep => ({ ...step, met: true, under: null, whyNot: null });

/** Adds a step. Letter after letter in one field is one thing done, and so is the press that changes what stands in a field. */
function add(steps: TrailStep[], step: TrailStep): void {
  const last = steps.at(-1);
  if (step.event.type !== 'value' || !last) return void steps.push(step);
  const { layer } = step.event;
  const isMore = last.event.type === 'value' && last.event.layer === layer;
  const isPress = last.event.type === 'release' && (last.under ?? last.layer) === layer && step.at - last.at < AT_ONCE;
  if (isMore || isPress) steps[steps.length - 1] = { ...step, point: last.point, threads: [...last.threads, ...step.threads] };
  else steps.push(step);
}

/** Events that are done on purpose, as one thing each. A press becomes one with its release. */
const ON_PURPOSE: ReadonlySet<TrailEvent['type']> = new Set([
  'release',
  'click',
  'let-go',
  'double-click',
  'long-press',
  'swipe',
  'drag',
  'value',
  'pad',
  'beside',
]);

function stepOf(program: Program, before: RunState, event: TrailEvent, run: RunState, reports: readonly Report[], at: number): TrailStep | null {
  const threads = reports.flatMap(({ fired }) => fired.map(({ thread }) => thread));
  // A key that nothing waits for is typing, or going from thing to thing.
  if (!ON_PURPOSE.has(event.type) && !(event.type === 'key' && threads.length > 0)) return null;
  const met = threads.length > 0 || event.type === 'value' || hasChanged(before, run);
  const point = event.type === 'release' ? { x: event.x, y: event.y } : null;
  return {
    event,
    at,
    frame: before.frame,
    on: before.overlays.at(-1)?.frame ?? before.frame,
    layer: reports[0]?.layer ?? null,
    point,
    met,
    under: met || point === null ? null : layerUnder(program, before, point),
    whyNot: met ? null : (reports.flatMap((report) => report.whyNot)[0]?.sentence ?? null),
    threads,
    to: run.overlays.at(-1)?.frame ?? run.frame,
  };
}

/** The topmost layer at a point, whether it takes presses or not. */
function layerUnder(program: Program, run: RunState, point: Point): string | null {
  for (const { all } of resolveScreen(program, run).surfaces.toReversed()) {
    const shown = all.findLast((one) => one.node.layer.type !== 'group' && isUnder(one, point));
    if (shown) return shown.node.key;
  }
  return null;
}

/** Whether a person sees that something came of it: not only where the pointer is and what the clock says. */
const hasChanged = (before: RunState, run: RunState): boolean =>
  before.frame !== run.frame ||
  before.overlays !== run.overlays ||
  before.variables !== run.variables ||
  before.roots !== run.roots ||
  before.focus !== run.focus;
