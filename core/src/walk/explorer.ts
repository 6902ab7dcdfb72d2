import type { Node } from '../program/node.ts';
import { startFrames, type Program } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import { begin } from '../run/run.ts';
import type { Overlay, Report, RunEvent, RunState } from '../run/state.ts';
import { PlainStore } from '../run/store.ts';
import { areSame } from '../same.ts';
import { listWords } from '../words.ts';
import type { Ambient } from './ambient.ts';
import { Asking, branchesIn, threadsIn, type Here } from './asking.ts';
import { Clock, type Due, type Landing } from './clock.ts';
import { Entered, statesTold } from './entered.ts';
import type { Edge, Exploration, Levels, Spot, State, Within } from './exploration.ts';
import { THIRD_TIME } from './hurry.ts';
import type { Moment } from './moment.ts';
import type { First, Move, Timed } from './moves.ts';
import { leavesPiece } from './leaving.ts';
import type { Memory } from './memory.ts';
import { isInCore, type Outcome, type Seen, type Written } from './outcome.ts';
import { Routes } from './routes.ts';
import { Rows } from './rows.ts';
import { INITIAL } from './slots.ts';
import { settle } from './settle.ts';
import { raceOf } from './race.ts';
import { onItsWay } from './sights.ts';
import { EMPTY, Stacks, type Push } from './stacks.ts';
import type { Telling } from './telling.ts';
import { columnOfWait } from './times.ts';
import { scenesOf, Views } from './views.ts';
import { unitsIn, waitingIn, withWaits } from './waits.ts';
import { holds, isDueNow, isInside, soonest } from './zones.ts';

/**
 * Exploring is the engine, remembered: what comes of an event is asked of the engine once for each different situation, and noted with
 * what it read of the run. Wherever the same holds again the same comes of it. So exploring cannot say anything else than the engine.
 */

/** Places on back stacks, at most. */
const MOST_PLACES = 2 ** 21;

/** Places that are remembered for a branch, at most. */
const MOST_SPOTS = 8;

/** Where a person can begin, at rest, with what happened on the way in. */
export interface Start {
  readonly frame: string;
  readonly run: RunState;
  readonly reports: readonly Report[];
  readonly acted: readonly string[];
}

export const startsOf = (program: Program, telling: Telling, ambient: Ambient): Start[] =>
  startFrames(program).flatMap((frame) => {
    const begun = begin(program, frame);
    if (!begun) return [];
    const store = new PlainStore(begun.run);
    settle(program, store, telling, ambient);
    // What is done on the way in makes how the piece begins.
    return { frame, run: store.run, reports: begun.reports, acted: branchesIn(begun.reports) };
  });

type Answer = Outcome | Seen | readonly number[];

/** An answer, the question that it answers, and the state in which that was asked. */
export interface Use {
  answer: Answer;
  readonly frame: string;
  readonly asked: { readonly isStale: boolean };
  readonly question: Question;
  readonly state: number;
  /** The state as it was read then, and whether steps waited in it. */
  readonly here: Here;
  readonly isMoving: boolean;
}

/** What is seen, what can be done, or what comes of the event with a number. */
type Question = 'seen' | 'events' | number;

/** Whether the same follows from two answers to one question; what is seen leads nowhere. */
function isAlike(one: Answer, other: Answer): boolean {
  if ('sights' in one) return 'sights' in other && one.isCut === other.isCut;
  return JSON.stringify(one, withoutWritten) === JSON.stringify(other, withoutWritten);
}

const withoutWritten = (key: string, value: unknown): unknown => (key === 'written' ? undefined : value);

/** Explores a piece, all of it or without some of what tells its states apart. */
export class Explorer {
  private readonly rows = new Rows();
  private readonly stacks = new Stacks();

  private readonly states: State[] = [];
  private readonly rowOf: number[] = [];
  private readonly stackOf: number[] = [];
  private readonly edges: Edge[][] = [];
  /** States by their rows, with nothing on the back stack; and by both. */
  private readonly byRow: (number | undefined)[] = [];
  private readonly numbers = new Map<number, number>();
  /** How each was come to from its parent; null for a start. */
  private readonly cameBy: (Timed | null)[] = [];
  /** What waits where somebody begins, by start frames. */
  private readonly firsts = new Map<string, readonly First[]>();
  /** For states that *back* led to: what was gone back over. */
  private readonly backOver = new Map<number, Push>();

  private readonly reached = new Map<string, number>();
  private readonly leavesFrom = new Set<string>();
  private readonly fired = new Set<string>();
  private readonly branches = new Set<string>();
  private readonly acted = new Set<string>();
  private readonly endless = new Map<string, Moment & { readonly step: Timed }>();
  private readonly races = new Map<string, Exploration['races'][number]>();
  private together = 0;
  private readonly places = new Map<string, Spot[]>();
  private readonly landed = new Set<Outcome>();
  private readonly entered = new Entered(() => this.program);
  /** What states are called, as of when those that were come into were last told. */
  private told: ReturnType<typeof statesTold> | null = null;
  /** States by their rows but for time, whatever is on their back stacks; and by these and what is on them. */
  private readonly alike = new Map<number, number[]>();
  /** So many states are listed by that so far. */
  private listed = 0;
  private readonly timeless = new Map<string, number[]>();
  private readonly rowsAlone: (number | undefined)[] = [];
  private asking: Asking;
  private readonly clock: Clock;
  private readonly routes: Routes;
  private views = new Views();
  private readonly gaps = new Set<string>();
  /** States in which something was not tried: it would have been in too much of a hurry, or one loop too many. */
  private readonly partial = new Set<number>();
  /** What that was. */
  private readonly untaken = new Set<string>();
  /** What came of loops without end, as far as it is followed. */
  private readonly loops = new Set<Outcome>();
  /** What came of each event the last time: what it sets off is known then. */
  private readonly last: Outcome[] = [];
  /** All that came of events, and was found to do and to see, in the states that were followed, with where it first was. */
  readonly uses: Use[] = [];
  private readonly used = new Set<Answer>();
  private readonly seenMoving = new Set<Answer>();
  private readonly elsewhere = new Map<Answer, boolean>();
  /** What the starts are, as one text to compare. */
  private readonly begun: string;
  /** What was done in a state that is told elsewhere. */
  private readonly stirs = new Map<number, Edge[]>();
  private moves = 0;
  /** The first state that is not followed yet. */
  private next = 0;

  constructor(
    readonly memory: Memory,
    starts: readonly Start[],
    private telling: Telling,
    private ambient: Ambient,
    /** Columns that are left as they begin: what nothing else depends on, and is explored elsewhere. */
    readonly left: ReadonlySet<number>,
    /** What is not done at all. */
    private readonly isAllowed: (event: RunEvent) => boolean = () => true
  ) {
    this.asking = new Asking(memory, telling, ambient);
    this.clock = new Clock(memory, left);
    const { states, cameBy, stackOf, stacks, backOver, firsts } = this;
    this.routes = new Routes({ states, cameBy, stackOf, stacks, backOver, firsts }, () => ({
      program: this.program,
      tellsScroll: this.telling.scroll,
      isAt: (state, run) => this.isAt(state, run),
    }));
    this.begun = this.wordsOf(starts);
    for (const gap of this.telling.untried) this.gaps.add(gap);
    for (const { frame, run, reports, acted } of starts) {
      for (const thread of threadsIn(reports)) this.fired.add(thread);
      for (const branch of branchesIn(reports)) this.branches.add(branch);
      for (const branch of acted) this.acted.add(branch);
      if (leavesPiece(reports)) this.leavesFrom.add(frame);
      for (const [slot, value] of this.memory.slots.valuesOf(run)) this.entered.set(slot, value);
      const waiting = waitingIn(this.program, run, this.ambient);
      this.firsts.set(frame, this.clock.firstOf(waiting));
      const row = this.rowWith(this.rowOfRun(run), this.clock.begun(waiting));
      const pushed = this.telling.back && this.isBackAsked(row) ? run.back : [];
      const { top, below } = this.put(row, EMPTY, pushed);
      if (pushed.length) this.stacks.lay(top, below, null);
      this.meet(row, top, -1, null, null, frame, pushed.length > 0);
    }
  }

  private get program(): Program {
    return this.memory.watched;
  }

  private wordsOf = (starts: readonly Start[]): string =>
    JSON.stringify(
      starts.map(({ frame, run, reports, acted }) => [
        frame,
        this.rowOfRun(run),
        run.back,
        this.clock.begun(waitingIn(this.program, run, this.ambient)).zone,
        reports.map(({ fired }) => fired),
        leavesPiece(reports),
        acted,
      ])
    );

  /**
   * Whether all that was found is so of the edited piece that its memory goes on with: whatever was forgotten with the edit is asked
   * again, where it was asked. Then only what is seen can be another, and no move has to be followed anew.
   */
  holds(starts: readonly Start[], telling: Telling, ambient: Ambient): boolean {
    this.telling = telling;
    this.ambient = ambient;
    this.asking = new Asking(this.memory, telling, ambient);
    const known = this.memory.slots.columns.length;
    if (!this.memory.isFollowedAlike || this.next < this.states.length || this.wordsOf(starts) !== this.begun) return false;
    const fresh: [Use, Answer][] = [];
    for (const use of this.uses) {
      if (!use.asked.isStale) continue;
      const now = this.askAgain(use);
      if (!this.memory.isReadAlike(use.answer, now) || !isAlike(use.answer, now)) return false;
      fresh.push([use, now]);
    }
    if (this.memory.slots.columns.length !== known) return false;
    const seen = fresh.flatMap(([use, answer]) => (use.question === 'seen' ? [use.answer as Seen, answer as Seen] : []));
    for (const [use, answer] of fresh) {
      const used = use.isMoving ? this.seenMoving : this.used;
      used.delete(use.answer);
      used.add((use.answer = answer));
    }
    if (seen.length) this.seeAgain(seen);
    const told = statesTold(this.program);
    if (told !== this.told) this.enterAgain(starts);
    this.told = told;
    return true;
  }

  /** What is seen of the scenes of which something was, or is now, seen otherwise. */
  private seeAgain(seen: readonly Seen[]): void {
    const scenes = new Set(seen.flatMap((one) => [...scenesOf(one)]));
    this.views = this.views.without(scenes);
    for (const { question, answer, state, isMoving } of this.uses)
      if (question === 'seen' && [...scenesOf(answer as Seen)].some((scene) => scenes.has(scene))) this.see(answer as Seen, state, isMoving, scenes);
  }

  private see(seen: Seen, state: number, isMoving: boolean, only?: ReadonlySet<string>): void {
    const own = this.ownOf(seen);
    this.views.see(isMoving ? onItsWay(own) : own, this.momentAt(state), only);
  }

  /** The states that scenes and parts come into, by what their states are called now. */
  private enterAgain(starts: readonly Start[]): void {
    this.entered.again();
    for (const { run } of starts) for (const [slot, value] of this.memory.slots.valuesOf(run)) this.entered.set(slot, value);
    for (const outcome of this.landed) this.enter(outcome);
  }

  private askAgain({ question, frame, here }: Use): Answer {
    if (question === 'seen') return this.memory.seenIn(frame, here, () => this.asking.look(here));
    if (question === 'events') return this.memory.eventsOf(frame, here, () => this.asking.find(here));
    return this.memory.outcomeOf(question, here, () => this.asking.learn(here, question));
  }

  get count(): number {
    return this.states.length;
  }

  on(maxStates: number, shouldPause?: (states: number) => boolean): 'end' | 'limit' | 'paused' {
    for (; this.next < this.states.length; this.next++) {
      if (this.states.length > maxStates) return 'limit';
      if (shouldPause && this.next % 4 === 3 && shouldPause(this.states.length)) return 'paused';
      this.expand(this.next);
    }
    return 'end';
  }

  /** What is known so far; `unended` says in words why it is not at its end, where it is not. */
  result(unended: string): Exploration {
    const { states, moves, edges, reached, leavesFrom, fired, next } = this;
    const unfollowed = new Set([...this.partial, ...Array.from({ length: states.length - next }, (_, i) => next + i)]);
    const untaken = this.untaken.size ? `not tried: ${listWords([...this.untaken])}` : null;
    const left = next === states.length ? null : unended;
    const gaps = [...this.gaps];
    const cut = [left, untaken, gaps.length ? `not tried: ${listWords(gaps)}` : null].filter((part) => part !== null).join('; ') || null;
    const { branches, acted, endless, entered, views } = this;
    const runOf = (state: number) => this.runOf(state);
    const levels: Levels = {
      rowOf: (state) => this.rowOf[state]!,
      stackOf: (state) => this.stackOf[state]!,
      at: (row, stack) => this.stateAt(row, stack),
      below: (stack) => [...this.stacks.belowOf(stack).keys()],
    };
    const races = [...this.races.values()];
    const slots = () => this.memory.slots.columns.map((slot) => ({ ...slot, numberIn: (state: number) => this.hereIn(state).at(slot.column) }));
    const stateOf = (run: RunState) => this.stateFor(run);
    const told = {
      together: this.together,
      places: this.places,
      stateOf,
      fired,
      branches,
      acted,
      endless,
      races,
      entered: entered.all,
      slots,
      by: () => this.within,
      views,
      slices: [],
    };
    const found = { states, count: states.length, moves, edges, reached, leavesFrom, unfollowed, stirs: this.stirs, ...told };
    const routes = {
      routeTo: (state: number, stack?: readonly number[], more?: readonly Timed[]) => this.routes.to(state, stack, more),
      eventsFrom: (run: RunState, state: number, steps: readonly Timed[]) => this.eventsFrom(run, state, steps),
    };
    return { cut, gaps, ...found, runOf, levels: this.telling.back ? levels : null, ...routes };
  }

  /** The same in short. */
  get within(): Within {
    const isComplete = this.next === this.states.length && this.partial.size === 0 && this.gaps.size === 0;
    return { reached: new Set(this.reached.keys()), fired: this.fired, isComplete };
  }

  // ── following ──────────────────────────────────────────────────────────────

  private hereOf(row: number, stack: number, passed: ReadonlyMap<number, number> | null = null, back = this.stacks.topOf(stack)): Here {
    const at = (column: number) => this.rows.at(row, column);
    const then = passed?.size ? (column: number) => passed.get(column) ?? at(column) : at;
    return this.memory.slots.reading(then, this.memory.topNumber(back), back);
  }

  private hereIn = (state: number, passed: ReadonlyMap<number, number> | null = null): Here =>
    this.hereOf(this.rowOf[state]!, this.stackOf[state]!, passed);

  /** The number of what waits in a row. */
  private zoneIn(row: number): number {
    const { column } = this.memory.times;
    return column < 0 ? 0 : this.rows.at(row, column);
  }

  private runOf(state: number): RunState {
    const { slots, times } = this.memory;
    const here = this.hereIn(state);
    const run = slots.runOf(here.at, here.back === '' ? [] : [here.back]);
    const zone = times.zone(this.zoneIn(this.rowOf[state]!));
    const units = unitsIn(this.program);
    return withWaits(
      run,
      zone.waits.map((wait) => times.waits[wait]!),
      soonest(zone).map((left) => left / units)
    );
  }

  /** What a column of a row says. */
  private valueIn(row: number, name: string): unknown {
    const { column, values } = this.memory.slots.named(name);
    return column < 0 ? undefined : values[this.rows.at(row, column)];
  }

  private readonly roots = new Map<string, readonly string[]>();

  /** The scenes on the screen, from back to front. */
  private rootsIn(row: number): readonly string[] {
    const { slots } = this.memory;
    const numberIn = (column: number) => (column < 0 ? INITIAL : this.rows.at(row, column));
    const key = ['frame', 'overlays'].map((name) => numberIn(slots.named(name).column)).join(' ');
    let roots = this.roots.get(key);
    if (!roots) {
      const overlays = (this.valueIn(row, 'overlays') ?? []) as readonly Overlay[];
      this.roots.set(key, (roots = scenesOn(this.program, { frame: this.valueIn(row, 'frame') as string, overlays })));
    }
    return roots;
  }

  private expand(state: number): void {
    const here = this.hereIn(state);
    const { frame } = this.states[state]!;
    const zone = this.zoneIn(this.rowOf[state]!);
    const seen = this.memory.seenIn(frame, here, () => this.asking.look(here));
    const { slots } = this.memory;
    if (slots.entering.length) this.entered.meet(slots, this.rootsIn(this.rowOf[state]!), here.at, this.isOwn);
    const isMoving = this.isMoving(zone, here);
    if (this.use(seen, 'seen', state, here, isMoving)) {
      this.see(seen, state, isMoving);
      if (seen.isCut) this.gaps.add('layers beyond the first 20,000 of a frame');
    }
    const events = this.memory.eventsOf(frame, here, () => this.asking.find(here));
    this.use(events, 'events', state, here);
    for (const event of events) if (this.isAllowed(this.memory.events[event]!)) this.follow(state, event, here, null);
    if (this.left.size) this.stirByTimers(state);
    if (zone === 0) return;
    for (const due of this.clock.duesIn(zone, this.rootsIn(this.rowOf[state]!)))
      this.follow(state, due.event, due.passed.size ? this.hereIn(state, due.passed) : here, due);
  }

  /** Whether steps wait that will change what is seen. */
  private isMoving(zone: number, here: Here): boolean {
    const { times, slots } = this.memory;
    const { column } = slots.named('activities');
    return (column >= 0 && here.at(column) !== INITIAL) || times.zone(zone).waits.some((wait) => times.waits[wait]!.kind === 'steps');
  }

  private momentAt(state: number): Moment {
    return { start: this.states[state]!.start, route: (...more) => this.routes.to(state, [], more), run: () => this.runOf(state) };
  }

  private follow(state: number, event: number, here: Here, due: Due | null): void {
    this.moves++;
    const outcome = this.memory.outcomeOf(event, here, () => this.asking.learn(here, event));
    const isElsewhere = this.isToldElsewhere(outcome);
    const landing = this.clock.land(this.zoneIn(this.rowOf[state]!), due, outcome, here);
    const step = this.stepOf(event, due, landing);
    if (isElsewhere && !isInCore(outcome, this.isOwn, this.clock.hits)) {
      this.use(outcome, event, state, here);
      if (outcome.columns.length === 0 && outcome.starts.length === 0) return;
      return this.stir(state, outcome.threads, step);
    }
    this.note(state, event, here, outcome, step, isElsewhere);
    if (due) this.noteRaces(state, due);
    // Who opens a link in the same tab is gone.
    if (outcome.leaves) return void this.leavesFrom.add(this.states[state]!.frame);
    if (!this.isTaken(state, outcome, landing) || landing.isFull) return;
    const row = this.rowBy(this.rowOf[state]!, outcome, landing);
    const stack = this.stackOf[state]!;
    const { threads } = outcome;
    if (!outcome.isTaken) {
      // What is due with it at that moment follows at once.
      if (due) return this.goOn(state, step, outcome, row, stack);
      return this.arrive(state, step, outcome, threads, row, stack, null, outcome.pushed);
    }
    this.stacks.whatLiesBelow(stack, (below, push) => this.arrive(state, step, outcome, threads, row, below, push, outcome.pushed));
  }

  /** Whether what comes of something is followed on; where it is not, the state is told to be followed only in part. */
  private isTaken(state: number, outcome: Outcome, { isFull }: Landing): boolean {
    const left = outcome.isHurry || isFull === 'not followed' ? THIRD_TIME : this.isLooping(outcome) ? LOOPING : null;
    if (left === null) return true;
    this.partial.add(state);
    this.untaken.add(left);
    return false;
  }

  /** A loop without end is stopped somewhere; where it is stopped each time at something else, there is no end to that either. */
  private isLooping(outcome: Outcome): boolean {
    if (outcome.endless.length === 0 || this.loops.has(outcome)) return false;
    if (this.loops.size < MOST_LOOPS) this.loops.add(outcome);
    return !this.loops.has(outcome);
  }

  /** Something is done in a state that is told elsewhere. */
  private stir(state: number, threads: readonly string[], step: Timed): void {
    const edge: Edge = { to: state, event: step.event, threads, step };
    const stirring = this.stirs.get(state);
    if (stirring) stirring.push(edge);
    else this.stirs.set(state, [edge]);
  }

  /** Timers of what is on the screen that are explored elsewhere. */
  private stirByTimers(state: number): void {
    const roots = this.rootsIn(this.rowOf[state]!);
    this.memory.times.waits.forEach((wait, number) => {
      if (wait.kind !== 'timer' || !this.left.has(columnOfWait(number)) || !roots.includes(wait.scene)) return;
      this.stir(state, [wait.timer.thread], { event: { type: 'wait', ms: 0 }, moves: [] });
    });
  }

  private stepOf(event: number, due: Due | null, { move }: Landing): Timed {
    if (due) return { event: this.clock.waitFor(due), moves: [move] };
    if (move !== this.lastMove[event]) {
      this.lastMove[event] = move;
      this.lastStep[event] = { event: this.memory.events[event]!, moves: [move] };
    }
    return this.lastStep[event]!;
  }

  /** What was done with each event last, as it is taken on a route. */
  private readonly lastMove: Move[] = [];
  private readonly lastStep: Timed[] = [];

  /** Lets all that is due at one moment happen, before anybody can do anything. */
  private goOn(state: number, first: Timed, outcome: Outcome, begun: number, stack: number): void {
    let [row, step, threads] = [begun, first, outcome.threads];
    const pushed = [...outcome.pushed];
    for (let i = 0; i < MOST_AT_ONCE; i++) {
      const due = this.clock.dueAtOnce(this.zoneIn(row), this.rootsIn(row));
      if (!due) break;
      const here = this.hereOf(row, stack, due.passed, pushed.at(-1));
      const next = this.memory.outcomeOf(due.event, here, () => this.asking.learn(here, due.event));
      // What lies below what was come from is not known here.
      if (next.isTaken && pushed.length === 0) break;
      const landing = this.clock.land(this.zoneIn(row), due, next, here);
      step = { event: step.event, moves: [...step.moves, landing.move] };
      threads = [...threads, ...next.threads];
      this.note(state, due.event, here, next, step, this.isToldElsewhere(next));
      if (next.leaves) return void this.leavesFrom.add(this.valueIn(row, 'frame') as string);
      if (!this.isTaken(state, next, landing) || landing.isFull) return;
      if (next.isTaken) pushed.pop();
      pushed.push(...next.pushed);
      row = this.rowBy(row, next, landing);
    }
    this.arrive(state, step, outcome, threads, row, stack, null, pushed);
  }

  private note(state: number, event: number, here: Here, outcome: Outcome, step: Timed, isElsewhere: boolean): void {
    if (outcome !== this.last[event]) {
      this.last[event] = outcome;
      this.use(outcome, event, state, here);
      if (!isElsewhere) this.account(state, outcome, step);
    }
    if (outcome.isDeep) this.gaps.add('a “back” that follows another one in answer to one event');
    if (isElsewhere || this.landed.has(outcome)) return;
    this.landed.add(outcome);
    this.enter(outcome);
  }

  /** The states that an outcome brings anything into, for a moment or to stay. */
  private enter({ entered, columns, values }: Outcome): void {
    for (const [scene, key, state] of entered) this.entered.come(scene, key, state);
    columns.forEach((column, i) => this.entered.set(this.memory.slots.columns[column]!, values[i]!));
  }

  /** Things that are due at one moment, and lead to different places. */
  private noteRaces(state: number, due: Due): void {
    const { times } = this.memory;
    due.zone.waits.forEach((other, at) => {
      if (at === due.at || !isDueNow(due.zone, at)) return;
      const key = `${this.states[state]!.frame} ${due.wait} ${other}`;
      if (this.raced.has(key)) return;
      this.raced.add(key);
      const threads = raceOf(this.program, this.runOf(state), times.waits[due.wait]!, times.waits[other]!);
      const { ms } = this.clock.waitFor(due);
      if (threads && !this.races.has(threads.join(' '))) this.races.set(threads.join(' '), { threads, ms, at: this.momentAt(state) });
    });
  }

  private readonly raced = new Set<string>();

  /** The row that comes of an outcome, with what waits then. */
  private rowBy(row: number, outcome: Outcome, landing: Landing): number {
    const { columns, values } = this.written(outcome);
    const kept = this.left.size ? values.map((value, i) => (this.left.has(columns[i]!) ? 0 : value)) : values;
    return this.rowWith(this.rows.with(row, columns, kept), landing);
  }

  private rowWith(row: number, { zone, columns, values }: Pick<Landing, 'zone' | 'columns' | 'values'>): number {
    const { column } = this.memory.times;
    return column < 0 || (columns.length === 0 && zone === this.zoneIn(row)) ? row : this.rows.with(row, [...columns, column], [...values, zone]);
  }

  private isOwn = (column: number): boolean => !this.left.has(column);

  /** Whether something depends on what is left as it begins here: what comes of it besides where it leads is told where that is explored. */
  private isToldElsewhere(answer: Answer): boolean {
    if (this.left.size === 0) return false;
    let isElsewhere = this.elsewhere.get(answer);
    if (isElsewhere === undefined) this.elsewhere.set(answer, (isElsewhere = this.memory.readsOf(answer).some((column) => this.left.has(column))));
    return isElsewhere;
  }

  /** What is seen as far as it depends on nothing that is left as it begins here. */
  private ownOf(seen: Seen): Pick<Seen, 'sights' | 'crowds'> {
    const away = new Set<Node | null>();
    if (this.left.size)
      for (const [node, columns] of this.memory.readsAbout(seen)) if (columns.some((column) => this.left.has(column))) away.add(node);
    if (away.size === 0) return seen;
    if (away.has(null)) return { sights: [], crowds: [] };
    return { sights: seen.sights.filter(({ node }) => !away.has(node)), crowds: seen.crowds.filter(({ a, b }) => !away.has(a) && !away.has(b)) };
  }

  private account(state: number, outcome: Outcome, step: Timed): void {
    for (const thread of outcome.threads) this.fired.add(thread);
    this.together = Math.max(this.together, outcome.branches.length);
    const spot: Spot = { state, event: step.event, step };
    for (const branch of outcome.branches) {
      this.branches.add(branch);
      const spots = this.places.get(branch);
      if (!spots) this.places.set(branch, [spot]);
      else if (spots.length < MOST_SPOTS) spots.push(spot);
    }
    for (const branch of outcome.acted) this.acted.add(branch);
    for (const branch of outcome.branches) if (this.ambient.stirring.has(branch)) this.acted.add(branch);
    for (const thread of outcome.endless) if (!this.endless.has(thread)) this.endless.set(thread, { ...this.momentAt(state), step });
  }

  /** Keeps account of an answer; false where that was done before. */
  private use(answer: Answer, question: Question, state: number, here: Here, isMoving = false): boolean {
    const used = isMoving ? this.seenMoving : this.used;
    if (used.has(answer)) return false;
    used.add(answer);
    this.uses.push({ answer, frame: this.states[state]!.frame, asked: this.memory.questionOf(answer), question, state, here, isMoving });
    return true;
  }

  private written(outcome: Outcome): Written {
    const { slots } = this.memory;
    const known = slots.columns.length;
    if (outcome.written && (outcome.written.known === known || outcome.cleared.length === 0)) return outcome.written;
    const cleared = outcome.cleared.flatMap((scene) => slots.of(scene).map(({ column }) => column));
    outcome.written = { columns: [...cleared, ...outcome.columns], values: [...cleared.map(() => 0), ...outcome.values], known };
    return outcome.written;
  }

  /** Comes to a row with a stack, on which more is put; `over` is what was gone back over. */
  private arrive(
    from: number,
    step: Timed,
    outcome: Outcome,
    threads: readonly string[],
    row: number,
    stack: number,
    over: Push | null,
    pushed: readonly string[]
  ): void {
    // Where nobody asks for it, it is all one what was come from.
    const isAsked = this.isBackAsked(row);
    const { top, below } = isAsked ? this.put(row, stack, pushed) : { top: EMPTY, below: stack };
    const isPut = isAsked && pushed.length > 0;
    const to = this.meet(row, top, from, step, over, this.states[over ? over.from : from]!.start, isPut);
    if (isPut) this.stacks.lay(top, below, outcome.isTaken ? null : { from, step, entry: to, below });
    const back = over !== null || (outcome.isTaken && stack !== this.stackOf[from]);
    if (to === from) return;
    if (!this.isToldElsewhere(outcome)) for (const branch of outcome.clearing) this.acted.add(branch);
    this.edges[from]!.push(back ? { to, event: step.event, threads, step, back } : { to, event: step.event, threads, step });
  }

  private isBackAsked(row: number): boolean {
    const { looksBack } = this.telling;
    return looksBack === null || looksBack.has(this.valueIn(row, 'frame') as string);
  }

  /** Puts frames on a stack as a row is come to; how the last of them got there is for the caller to say. */
  private put(row: number, stack: number, pushed: readonly string[]): { readonly top: number; readonly below: number } {
    let [top, below] = [stack, stack];
    pushed.forEach((frame, depth) => {
      below = top;
      top = this.stacks.place(row, depth, frame);
      if (depth < pushed.length - 1) this.stacks.lay(top, below, null);
    });
    return { top, below };
  }

  private stateAt = (row: number, stack: number): number | undefined =>
    stack === EMPTY ? this.byRow[row] : this.numbers.get(row * MOST_PLACES + stack);

  /** The state with a row and a stack. One in which time has passed in fewer ways than in another is that one, unless it has to be itself. */
  private meet(row: number, stack: number, parent: number, step: Timed | null, over: Push | null, start: string, isItself: boolean): number {
    const old = this.stateAt(row, stack);
    if (old !== undefined) return old;
    const { times } = this.memory;
    const zone = this.zoneIn(row);
    const key = zone === 0 ? null : `${this.rows.with(row, [times.column], [0])} ${stack}`;
    const others = key === null ? undefined : this.timeless.get(key);
    if (others && !isItself) {
      const now = times.zone(zone);
      for (const other of others.slice(-MOST_HELD)) {
        const wide = times.zone(this.zoneIn(this.rowOf[other]!));
        if (areSame(wide.waits, now.waits) && areSame(wide.spans, now.spans) && isInside(now, wide)) return other;
      }
    }
    const number = this.states.length;
    if (stack === EMPTY) this.byRow[row] = number;
    else this.numbers.set(row * MOST_PLACES + stack, number);
    if (others) others.push(number);
    else if (key !== null) this.timeless.set(key, [number]);
    const frame = this.valueIn(row, 'frame') as string;
    if (over) this.backOver.set(number, over);
    this.states.push({ frame, parent, event: step?.event ?? null, start });
    this.cameBy.push(step);
    this.rowOf.push(row);
    this.stackOf.push(stack);
    this.edges.push([]);
    const overlays = (this.valueIn(row, 'overlays') ?? []) as readonly Overlay[];
    for (const one of [frame, ...overlays.map((overlay) => overlay.frame)]) if (!this.reached.has(one)) this.reached.set(one, number);
    return number;
  }

  /** A row but for time. */
  private alone(row: number): number {
    const { times, slots } = this.memory;
    if (times.column < 0) return row;
    const columns = [times.column, ...slots.passing.map(({ column }) => column)];
    return (this.rowsAlone[row] ??= this.rows.with(
      row,
      columns,
      columns.map(() => 0)
    ));
  }

  // ── routes ─────────────────────────────────────────────────────────────────

  /** The events of some steps from a run that is in a state. */
  private eventsFrom(run: RunState, state: number, steps: readonly Timed[]): RunEvent[] {
    const own = this.inOrder(run, state);
    return this.routes.timed(steps, own ?? [], () => run);
  }

  /** What waits in a run, in the order of a state; null where it is not the same. */
  private inOrder(run: RunState, state: number): First[] | null {
    const { times } = this.memory;
    const zone = times.zone(this.zoneIn(this.rowOf[state]!));
    const waiting = [...this.clock.firstOf(waitingIn(this.program, run, this.ambient))].sort((a, b) => a.left - b.left);
    if (waiting.length !== zone.waits.length) return null;
    const found = zone.waits.flatMap((wait) => {
      const at = waiting.findIndex((one) => one.wait === wait);
      return at < 0 ? [] : waiting.splice(at, 1);
    });
    return found.length === zone.waits.length ? found : null;
  }

  private stateFor(given: RunState): number | null {
    const run = this.settled(given);
    for (; this.listed < this.states.length; this.listed++) {
      const alone = this.alone(this.rowOf[this.listed]!);
      const alike = this.alike.get(alone);
      if (alike) alike.push(this.listed);
      else this.alike.set(alone, [this.listed]);
    }
    return (this.alike.get(this.rowOfRun(run)) ?? []).find((state) => this.isThen(state, run)) ?? null;
  }

  private isAt(state: number, given: RunState): boolean {
    const run = this.settled(given);
    return this.rowOfRun(run) === this.alone(this.rowOf[state]!) && this.isThen(state, run);
  }

  private settled(run: RunState): RunState {
    const store = new PlainStore(run);
    settle(this.program, store, this.telling, this.ambient);
    return store.run;
  }

  /** Whether time has passed in a run in one of the ways of a state that it is like. */
  private isThen(state: number, run: RunState): boolean {
    const zone = this.memory.times.zone(this.zoneIn(this.rowOf[state]!));
    const waiting = this.inOrder(run, state);
    return (
      waiting !== null &&
      holds(
        zone,
        waiting.map(({ left }) => left)
      )
    );
  }

  private rowOfRun(run: RunState): number {
    const set = [...this.memory.slots.valuesOf(run)].filter(([slot]) => !this.left.has(slot.column));
    const columns = set.map(([slot]) => slot.column);
    return this.rows.with(
      -1,
      columns,
      set.map(([, value]) => value)
    );
  }
}

/** A zone is held against so many others that were met last of what is like it but for time. */
const MOST_HELD = 32;

/** So much follows at one moment, before it is looked at as a state. */
const MOST_AT_ONCE = 50;

/** So many loops without end that come to different things are followed on from where they are stopped. */
const MOST_LOOPS = 10;

const LOOPING = `what comes after more than ${MOST_LOOPS} loops without end`;
