import { startFrames, type Program, type SceneProgram } from '../program/program.ts';
import type { RunEvent } from '../run/state.ts';
import { leftOver, type Edge, type Exploration, type ExploreOptions, type Exploring, type State } from './exploration.ts';
import { exploringRuns } from './explore-runs.ts';
import { BACK, isPlain, movesIn, outcomeOf, timerMove, type Move } from './moves.ts';

/** States that a piece of plain frames is explored to. */
export const PLAIN_STATES = 1_000_000;

const known = new WeakMap<SceneProgram, { threads: Program['threads']; moves: Move[] }>();

const NONE: ReadonlySet<number> = new Set();

/** Begins to explore. Breadth first, so that parents give shortest routes. */
export const exploring = (program: Program): Exploring => (isPlain(program) ? new Explorer(program) : exploringRuns(program));

/** Explores as far as is usual, or as far as one likes. */
export function explore(program: Program, options: ExploreOptions = {}): Exploration {
  const begun = exploring(program);
  begun.on(options.maxStates ?? begun.usual, options.shouldStop);
  return begun.result();
}

/** The events that lead from a start to a state, in order. */
export function routeTo(exploration: Pick<Exploration, 'states'>, state: number): RunEvent[] {
  const events: RunEvent[] = [];
  for (let at = exploration.states[state]; at?.event; at = exploration.states[at.parent]) events.push(at.event);
  return events.reverse();
}

/** Where a route begins. */
export function startOf(exploration: Pick<Exploration, 'states'>, state: number): string {
  let at = exploration.states[state]!;
  while (at.parent >= 0) at = exploration.states[at.parent]!;
  return at.frame;
}

class Explorer implements Exploring {
  private readonly states: State[] = [];
  private readonly edges: Edge[][] = [];
  private readonly numbers = new Map<string, number>();
  private readonly callers = new Map<string, Set<string>>();
  private readonly reached = new Map<string, number>();
  private readonly backFrom = new Set<string>();
  private readonly leavesFrom = new Set<string>();
  private readonly fired = new Set<string>();
  private readonly starts: ReadonlySet<string>;
  readonly usual = PLAIN_STATES;
  private moves = 0;
  private cut: string | null = null;
  /** The first state that is not followed yet. */
  private next = 0;
  private most = 0;

  constructor(private readonly program: Program) {
    this.starts = new Set(startFrames(program));
    for (const frame of this.starts) if (program.scenes.has(frame)) this.meet(frame, 0, -1, null);
  }

  on(maxStates: number, shouldPause?: (states: number) => boolean): ReturnType<Exploring['on']> {
    this.most = maxStates;
    for (; this.next < this.states.length; this.next++) {
      if (this.states.length > maxStates) return 'limit';
      if (shouldPause && this.next % 1024 === 1023 && shouldPause(this.next)) return 'paused';
      this.expand(this.next);
    }
    return 'end';
  }

  result(): Exploration {
    const { states, moves, edges, callers, reached, backFrom, leavesFrom, fired } = this;
    const { cut, unfollowed } = leftOver(states.length, this.next, this.most);
    const plain = { gaps: [], covered: [], runs: null, shallow: NONE, isPlain: true };
    return { cut: this.cut ?? cut, states, moves, edges, callers, reached, backFrom, leavesFrom, fired, unfollowed, ...plain };
  }

  private expand(at: number): void {
    const { frame, timers } = this.states[at]!;
    const scene = this.program.scenes.get(frame)!;
    for (const move of this.movesOf(scene)) this.follow(at, move);
    const timer = timerMove(scene, timers);
    if (timer) this.follow(at, timer);
  }

  private movesOf(scene: SceneProgram): Move[] {
    const old = known.get(scene);
    if (old?.threads === this.program.threads) return old.moves;
    const moves = movesIn(this.program, scene);
    known.set(scene, { threads: this.program.threads, moves });
    return moves;
  }

  private follow(at: number, move: Move): void {
    const { frame, timers } = this.states[at]!;
    this.moves++;
    for (const thread of move.threads) this.fired.add(thread.id);
    const outcome = outcomeOf(this.program, frame, move.threads);
    if (outcome.tangled) this.cut ??= 'A “back” together with another “go to” in one event was not followed.';
    if (outcome.leaves) {
      this.leavesFrom.add(frame);
      return;
    }
    if (outcome.to === BACK) this.backFrom.add(frame);
    const threads = move.threads.map((thread) => thread.id);
    if (outcome.to === null || outcome.to === BACK) {
      // A timed *back* stays only where there is nothing to go back to, which is so at a start alone.
      const stays = outcome.to === null || this.starts.has(frame);
      if (move.timer && stays) this.edges[at]!.push({ to: this.meet(frame, timers + 1, at, move.event), event: move.event, threads });
      return;
    }
    if (outcome.to !== frame) this.addCaller(outcome.to, frame);
    this.edges[at]!.push({ to: this.meet(outcome.to, 0, at, move.event), event: move.event, threads });
  }

  private addCaller(frame: string, caller: string): void {
    const set = this.callers.get(frame);
    if (set) set.add(caller);
    else this.callers.set(frame, new Set([caller]));
  }

  private meet(frame: string, timers: number, parent: number, event: RunEvent | null): number {
    const key = `${frame}/${timers}`;
    const old = this.numbers.get(key);
    if (old !== undefined) return old;
    const number = this.states.length;
    this.numbers.set(key, number);
    this.states.push({ frame, timers, parent, event });
    this.edges.push([]);
    if (!this.reached.has(frame)) this.reached.set(frame, number);
    return number;
  }
}
