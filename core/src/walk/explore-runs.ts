import { startFrames, type Program } from '../program/program.ts';
import { resolveScreen } from '../program/resolve.ts';
import { findPlace } from '../run/environment.ts';
import { advance, begin } from '../run/run.ts';
import type { Report, RunEvent, RunState } from '../run/state.ts';
import { listWords } from '../words.ts';
import { Ambient } from './ambient.ts';
import { eventsIn } from './events-in.ts';
import { leftOver, type Edge, type Exploration, type Exploring, type State } from './exploration.ts';
import { BACK_DEPTH, runKey } from './run-key.ts';
import { Sights } from './sights.ts';
import { tellingOf, type Telling } from './telling.ts';

/** Exploring a piece by running it: every state that is met was really run to, so every route holds. */

/** States that a piece is explored to by running it: each costs about as much as an event in a run. */
export const RUN_STATES = 3000;

export const exploringRuns = (program: Program): Exploring => new RunExplorer(program);

class RunExplorer implements Exploring {
  readonly usual = RUN_STATES;
  private readonly runs: RunState[] = [];
  private readonly states: State[] = [];
  private readonly edges: Edge[][] = [];
  private readonly numbers = new Map<string, number>();
  private readonly callers = new Map<string, Set<string>>();
  private readonly reached = new Map<string, number>();
  private readonly leavesFrom = new Set<string>();
  private readonly fired = new Set<string>();
  private readonly telling: Telling;
  private readonly ambient: Ambient;
  private readonly sights = new Sights();
  private readonly gaps = new Set<string>();
  private readonly shallow = new Set<number>();
  private moves = 0;

  /** The first state that is not followed yet. */
  private next = 0;
  private most = 0;

  constructor(private readonly program: Program) {
    this.telling = tellingOf(program);
    this.ambient = new Ambient(program);
    for (const gap of this.telling.untried) this.gaps.add(gap);
    for (const frame of startFrames(program)) {
      const begun = begin(program, frame);
      if (!begun) continue;
      this.note(begun.reports, frame);
      this.meet(begun.run, -1, null);
    }
  }

  on(maxStates: number, shouldPause?: (states: number) => boolean): ReturnType<Exploring['on']> {
    this.most = maxStates;
    for (; this.next < this.runs.length; this.next++) {
      if (this.runs.length > maxStates) return 'limit';
      if (shouldPause && this.next % 4 === 3 && shouldPause(this.runs.length)) return 'paused';
      this.follow(this.next);
    }
    return 'end';
  }

  result(): Exploration {
    const { states, moves, edges, callers, reached, leavesFrom, fired, runs } = this;
    const { cut, unfollowed } = leftOver(states.length, this.next, this.most);
    const gaps = [...this.gaps];
    const left = gaps.length ? `not tried: ${listWords(gaps)}` : null;
    const deep = this.shallow.size ? `the back stack was told apart ${BACK_DEPTH} deep` : null;
    const why = [cut, left, deep].filter((part) => part !== null).join('; ') || null;
    const found = { states, moves, edges, callers, reached, backFrom: NOWHERE, leavesFrom, fired, runs };
    return { ...found, cut: why, gaps, covered: this.sights.result(), unfollowed, shallow: this.shallow, isPlain: false };
  }

  private follow(at: number): void {
    const run = this.runs[at]!;
    const screen = resolveScreen(this.program, run);
    this.sights.see(screen, run, at);
    if (screen.surfaces.some(({ expansion }) => expansion.cut)) this.gaps.add('layers beyond the first 20,000 of a frame');
    for (const event of eventsIn(this.program, run, screen, this.telling)) {
      const next = advance(this.program, run, event);
      this.moves++;
      const threads = this.note(next.reports, run.frame);
      const to = this.meet(next.run, at, event);
      if (next.run.frame !== run.frame) this.callers.set(next.run.frame, (this.callers.get(next.run.frame) ?? new Set()).add(run.frame));
      if (to !== at) this.edges[at]!.push({ to, event, threads });
    }
  }

  /** The threads that fired, which are kept, as is where a link leaves the piece. */
  private note(reports: readonly Report[], frame: string): string[] {
    const threads = reports.flatMap((report) => report.fired.map((fired) => fired.thread));
    for (const thread of threads) this.fired.add(thread);
    if (reports.some((report) => report.effects.some((effect) => effect.type === 'open' && effect.tab === 'same'))) this.leavesFrom.add(frame);
    return threads;
  }

  private meet(run: RunState, parent: number, event: RunEvent | null): number {
    const still = this.ambient.stilled(this.settled(run));
    const key = runKey(this.program, still, this.telling);
    const old = this.numbers.get(key);
    if (old !== undefined) {
      if (this.telling.back && this.runs[old]!.back.join() !== run.back.join()) this.shallow.add(old);
      return old;
    }
    const number = this.runs.length;
    this.numbers.set(key, number);
    this.runs.push(still);
    this.states.push({ frame: run.frame, timers: 0, parent, event });
    this.edges.push([]);
    for (const frame of [run.frame, ...run.overlays.map((overlay) => overlay.frame)]) if (!this.reached.has(frame)) this.reached.set(frame, number);
    return number;
  }

  /** The run with nothing held; what the pointer is over and what has the focus only where something waits for its end. */
  private settled(run: RunState): RunState {
    const nodes = (keys: readonly string[]) => keys.filter((key) => this.isTold(run, key, 'leaves'));
    const over = run.over.length ? nodes(run.over) : NOBODY;
    const focus = run.focus !== null && this.isTold(run, run.focus, 'focuses') ? run.focus : null;
    return { ...run, pointer: over.length ? run.pointer : null, over, pressed: null, clicked: null, focus };
  }

  private isTold(run: RunState, key: string, what: 'leaves' | 'focuses'): boolean {
    const node = findPlace(this.program, run, key)?.node;
    return !!node && this.telling[what](node);
  }
}

const NOWHERE: ReadonlySet<string> = new Set();
const NOBODY: readonly string[] = [];
