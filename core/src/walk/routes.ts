import { onceFor } from '../once.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { liveRootsOf } from '../run/environment.ts';
import { advance, begin, nextDeadline, replay } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { TIMELESS } from './clock.ts';
import type { Hindsight } from './hindsight.ts';
import type { Ints } from './ints.ts';
import type { Met } from './met.ts';
import type { First, Sought, Timed } from './moves.ts';
import type { Stacks } from './stacks.ts';
import { eventsAt, timesOf } from './timetable.ts';
import { unitsIn } from './waits.ts';
import type { Zone } from './zones.ts';

/** How states were come to, as it is found out. */
export interface Comings {
  readonly met: Met;
  readonly hindsight: Hindsight;
  readonly stackOf: Pick<Ints, 'at'>;
  readonly stacks: Stacks;
  /** What waits where somebody begins, by start frames. */
  readonly firsts: ReadonlyMap<string, readonly First[]>;
}

/** What routes ask about what is explored. */
interface Asked {
  readonly program: Program;
  /** Whether how far things are scrolled tells states apart. */
  readonly tellsScroll: boolean;
  readonly isAt: (state: number, run: RunState) => boolean;
  /** What to do in a run first, so that what is sought comes of something. */
  readonly setBefore: (run: RunState, sought: Sought) => readonly RunEvent[];
}

/** Routes to states, as a person walks them: each thing at its time, with scrolling back where that is needed. */
export class Routes {
  constructor(
    private readonly comings: Comings,
    private readonly asked: () => Asked
  ) {}

  /** The events that lead to a state, from its start; with a stack, from its top down, and more that is done there. */
  to(asked: number, stack: readonly number[] = [], more: readonly Timed[] = []): RunEvent[] {
    const { met, hindsight, stacks, stackOf } = this.comings;
    const state = met.joins.wholeOf(asked) ?? asked;
    const steps: Timed[] = [];
    let at = state;
    for (const below of stack) {
      const push = stacks.pushOn(stackOf.at(at), below);
      if (!push) break;
      this.trace(at, push.entry, steps);
      steps.push(met.stepBy(push.deed));
      at = push.from;
    }
    if (met.joins.isAny) this.recall(at, hindsight.wantedFor(at, more), steps);
    else this.trace(at, -1, steps);
    const start = met.startOf(state);
    const timed = (all: readonly Timed[]) => this.timed(all, this.comings.firsts.get(start)!, () => begin(this.asked().program, start)!.run);
    const plain = timed(steps.reverse());
    const way = this.scrolled(state, plain);
    if (more.length === 0) return way;
    return way === plain ? timed([...steps, ...more]) : [...way, ...more.map(({ event }) => event)];
  }

  /** The events of some steps, each at its time. Where they cannot be taken one after the other, what is due is waited for as it comes. */
  timed(steps: readonly Timed[], first: readonly First[], begun: () => RunState): RunEvent[] {
    return this.inTime(this.withSetting(steps, first, begun), first, begun);
  }

  /** The same with what has to be set first for some of them. */
  private withSetting(steps: readonly Timed[], first: readonly First[], begun: () => RunState): readonly Timed[] {
    if (!steps.some(({ sought }) => sought)) return steps;
    const { program, setBefore } = this.asked();
    const all: Timed[] = [];
    for (const step of steps) {
      const before = step.sought ? setBefore(replay(program, begun(), this.inTime(all, first, begun)).run, step.sought) : [];
      all.push(...before.map((event) => ({ event, moves: [TIMELESS.move] })), step);
    }
    return all;
  }

  private inTime(steps: readonly Timed[], first: readonly First[], begun: () => RunState): RunEvent[] {
    const units = unitsIn(this.asked().program);
    if (first.length === 0 && steps.every(({ moves }) => moves.every((move) => move.due === null && move.time.starts.length === 0)))
      return steps.map(({ event }) => event);
    for (const margin of [units, 1]) {
      const times = timesOf(steps, first, margin);
      if (times) return eventsAt(steps, times, units);
    }
    let run = begun();
    return steps.map(({ event, moves }) => {
      const due = moves[0]!.due === null ? null : nextDeadline(this.asked().program, run);
      const done: RunEvent = due === null ? event : { type: 'wait', ms: Math.max(0, due - run.clock) };
      ({ run } = advance(this.asked().program, run, done));
      return done;
    });
  }

  /** A route with scrolling back where it would not lead there without: nothing tells how far things are scrolled, but what lies where. */
  private scrolled(state: number, events: RunEvent[]): RunEvent[] {
    if (this.asked().tellsScroll || !canScroll(this.asked().program)) return events;
    const begun = begin(this.asked().program, this.comings.met.startOf(state))!;
    if (this.asked().isAt(state, replay(this.asked().program, begun.run, events).run)) return events;
    let { run } = begun;
    const back: RunEvent[] = [];
    for (const event of events) {
      const next = [event, ...backToTop(this.asked().program, advance(this.asked().program, run, event).run)];
      ({ run } = replay(this.asked().program, run, next));
      back.push(...next);
    }
    return back;
  }

  /** The steps that lead from a start to a state in which time has to have passed in one of some ways, the last first. */
  private recall(state: number, then: Zone, steps: Timed[]): void {
    const { met, hindsight } = this.comings;
    let at = state;
    for (let way = hindsight.wayTo(state, then); way; way = hindsight.wayTo(at, way.wanted)) {
      steps.push(met.stepBy(way.deed));
      at = way.from;
    }
    this.trace(at, -1, steps);
  }

  /** The steps that lead from one state to another, the last first; from a start if it is -1. */
  private trace(state: number, until: number, steps: Timed[]): void {
    let at = state;
    while (at !== until) {
      const step = this.comings.met.stepOf(at);
      if (!step) return;
      steps.push(step);
      const over = this.comings.met.overOf(at);
      at = this.comings.met.parentOf(at);
      if (!over) continue;
      // Back leads to where it was come from: that very way, then on to where *back* was done.
      this.trace(at, over.entry, steps);
      steps.push(this.comings.met.stepBy(over.deed));
      at = over.from;
    }
  }
}

/** Whether anything in a scene can be scrolled. */
export const scrollsIn = onceFor(
  ({ scene, items }: SceneProgram) => (scene.contentHeight ?? 0) > scene.height || items.some(({ layer }) => layer.scroll !== undefined)
);

const canScroll = onceFor(({ scenes }: Program) => [...scenes.values()].some(scrollsIn));

/** Events that scroll everything on the screen back to where it begins. */
const backToTop = (program: Program, run: RunState): RunEvent[] =>
  liveRootsOf(program, run).flatMap((scene) =>
    Object.entries(run.roots[scene]?.scroll ?? {}).flatMap(([key, { x, y }]) =>
      x || y ? { type: 'scroll' as const, layer: key || null, x: 0, y: 0 } : []
    )
  );
