import { expand } from '../program/expand.ts';
import { onceFor } from '../once.ts';
import type { Node } from '../program/node.ts';
import { startFrames, type Program, type SceneProgram } from '../program/program.ts';
import { knowScreen, type KnownScreen } from '../run/known-screen.ts';
import { runnerIn } from '../run/machine.ts';
import type { Read } from '../run/notebook.ts';
import { standingScreen } from '../run/resolve.ts';
import { branchKey } from '../run/runner.ts';
import { RecordingStore } from '../run/recording.ts';
import { advance, advanceIn, begin, replay } from '../run/run.ts';
import { liveRootsOf } from '../run/environment.ts';
import type { Overlay, Report, RunEvent, RunState } from '../run/state.ts';
import { PlainStore } from '../run/store.ts';
import { listWords } from '../words.ts';
import type { Ambient } from './ambient.ts';
import { eventsIn } from './events-in.ts';
import type { Edge, Exploration, Levels, Spot, State, Within } from './exploration.ts';
import type { Moment } from './moment.ts';
import { isHurry } from './hurry.ts';
import type { Reading } from './learned.ts';
import { leavesPiece } from './leaving.ts';
import type { Memory } from './memory.ts';
import { isInCore, type Outcome, type Seen, type Written } from './outcome.ts';
import { Rows } from './rows.ts';
import { INITIAL, type Slot } from './slots.ts';
import { settle } from './settle.ts';
import { raceIn } from './race.ts';
import { seeingOn } from './sights.ts';
import { EMPTY, Stacks, type Push } from './stacks.ts';
import type { Telling } from './telling.ts';
import { Views } from './views.ts';

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
}

/** Where everything stands in a state, as far as there were so many columns. */
interface Standing {
  readonly state: number;
  readonly columns: number;
  readonly run: RunState;
  readonly standing: KnownScreen;
  readonly scenes: ReadonlySet<string>;
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
  /** For states that *back* led to: what was gone back over. */
  private readonly backOver = new Map<number, { readonly push: Push; readonly event: number }>();

  private readonly reached = new Map<string, number>();
  private readonly leavesFrom = new Set<string>();
  private readonly fired = new Set<string>();
  private readonly branches = new Set<string>();
  private readonly acted = new Set<string>();
  private readonly endless = new Map<string, Moment & { readonly event: RunEvent }>();
  private readonly races = new Map<string, Exploration['races'][number]>();
  private together = 0;
  private readonly places = new Map<string, Spot[]>();
  private readonly landed = new Set<Outcome>();
  private entered = new Set<string>();
  /** Some state with a row, whatever is on its back stack. */
  private readonly anyWith: (number | undefined)[] = [];
  private views = new Views();
  private readonly gaps = new Set<string>();
  /** States in which something was not tried because it would have been in too much of a hurry. */
  private readonly partial = new Set<number>();
  /** What came of each event the last time: what it sets off is known then. */
  private readonly last: Outcome[] = [];
  /** All that came of events, and was found to do and to see, in the states that were followed, with where it first was. */
  readonly uses: Use[] = [];
  private readonly used = new Set<Answer>();
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
    this.begun = this.wordsOf(starts);
    for (const gap of this.telling.untried) this.gaps.add(gap);
    for (const { frame, run, reports, acted } of starts) {
      for (const thread of threadsIn(reports)) this.fired.add(thread);
      for (const branch of branchesIn(reports)) this.branches.add(branch);
      for (const branch of acted) this.acted.add(branch);
      if (leavesPiece(reports)) this.leavesFrom.add(frame);
      for (const [slot, value] of this.memory.slots.valuesOf(run)) this.enter(slot, value);
      this.meet(this.rowOfRun(run), EMPTY, -1, -1, null, frame);
    }
  }

  private get program(): Program {
    return this.memory.watched;
  }

  private wordsOf = (starts: readonly Start[]): string =>
    JSON.stringify(
      starts.map(({ frame, run, reports, acted }) => [frame, this.rowOfRun(run), reports.map(({ fired }) => fired), leavesPiece(reports), acted])
    );

  /**
   * Whether all that was found is so of the edited piece that its memory goes on with: whatever was forgotten with the edit is asked
   * again, where it was asked. Then only what is seen can be another, and no move has to be followed anew.
   */
  holds(starts: readonly Start[], telling: Telling, ambient: Ambient): boolean {
    this.telling = telling;
    this.ambient = ambient;
    this.stand = null;
    this.scrolls = undefined;
    const known = this.memory.slots.columns.length;
    if (this.next < this.states.length || this.wordsOf(starts) !== this.begun) return false;
    const fresh: [Use, Answer][] = [];
    for (const use of this.uses) {
      if (!use.asked.isStale) continue;
      const now = this.askAgain(use);
      if (!this.memory.isReadAlike(use.answer, now) || !isAlike(use.answer, now)) return false;
      fresh.push([use, now]);
    }
    if (this.memory.slots.columns.length !== known) return false;
    for (const [use, answer] of fresh) {
      this.used.delete(use.answer);
      this.used.add((use.answer = answer));
    }
    if (fresh.some(([{ question }]) => question === 'seen')) this.seeAgain();
    this.enterAgain(starts);
    return true;
  }

  private seeAgain(): void {
    this.views = new Views();
    for (const { question, answer, state } of this.uses) if (question === 'seen') this.views.see(this.ownOf(answer as Seen), this.momentAt(state));
  }

  /** The states that scenes and parts come into, by what their states are called now. */
  private enterAgain(starts: readonly Start[]): void {
    this.entered = new Set();
    for (const { run } of starts) for (const [slot, value] of this.memory.slots.valuesOf(run)) this.enter(slot, value);
    for (const { columns, values } of this.landed) columns.forEach((column, i) => this.enter(this.memory.slots.columns[column]!, values[i]!));
  }

  private askAgain({ question, state }: Use): Answer {
    const reading = this.reading(state);
    const { frame } = this.states[state]!;
    if (question === 'seen') return this.memory.seenIn(frame, reading, () => this.look(state));
    if (question === 'events') return this.memory.eventsOf(frame, reading, () => this.find(state));
    return this.memory.outcomeOf(question, reading, () => this.learn(state, question));
  }

  /** Keeps account of the states that scenes and parts come into, by themselves or as a binding says. */
  private enter({ scene, kind, key, values }: Slot, value: number): void {
    const program = scene === null || (kind !== 'states' && kind !== 'bound') ? undefined : this.program.scenes.get(scene);
    if (!program || value === INITIAL) return;
    const { instances } = expand(this.program, program);
    if (kind === 'states') {
      const instance = instances.get(key);
      if (instance) this.entered.add(`${instance.scene.scene.id} ${String(values[value])}`);
      return;
    }
    const at = key === ':stateIs' ? instances.get('') : key.endsWith('.state') ? instances.get(key.slice(0, -'.state'.length)) : undefined;
    const state = at?.scene.states.find(({ name }) => name === values[value]);
    if (at && state) this.entered.add(`${at.scene.scene.id} ${state.id}`);
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
    const hurried = this.partial.size ? HURRIED : null;
    const left = next === states.length ? null : unended;
    const gaps = [...this.gaps];
    const cut = [left, hurried, gaps.length ? `not tried: ${listWords(gaps)}` : null].filter((part) => part !== null).join('; ') || null;
    const { branches, acted, endless, entered, views } = this;
    const runOf = (state: number) => this.runAt(state);
    const levels: Levels = {
      rowOf: (state) => this.rowOf[state]!,
      stackOf: (state) => this.stackOf[state]!,
      at: (row, stack) => this.stateAt(row, stack),
      below: (stack) => [...this.stacks.belowOf(stack).keys()],
    };
    const races = [...this.races.values()];
    const slots = () =>
      this.memory.slots.columns.map((slot) => ({ ...slot, numberIn: (state: number) => this.rows.at(this.rowOf[state]!, slot.column) }));
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
      entered,
      slots,
      by: () => this.within,
      views,
      slices: [],
    };
    const found = { states, count: states.length, moves, edges, reached, leavesFrom, unfollowed, stirs: this.stirs, ...told };
    return { cut, gaps, ...found, runOf, levels: this.telling.back ? levels : null, routeTo: (state, stack) => this.routeTo(state, stack) };
  }

  /** The same in short. */
  get within(): Within {
    const isComplete = this.next === this.states.length && this.partial.size === 0 && this.gaps.size === 0;
    return { reached: new Set(this.reached.keys()), fired: this.fired, isComplete };
  }

  // ── following ──────────────────────────────────────────────────────────────

  private reading(state: number): Reading {
    const row = this.rowOf[state]!;
    return { at: (column) => this.rows.at(row, column), top: this.memory.topNumber(this.stacks.topOf(this.stackOf[state]!)) };
  }

  private runAt(state: number) {
    const row = this.rowOf[state]!;
    const top = this.stacks.topOf(this.stackOf[state]!);
    return this.memory.slots.runOf((column) => this.rows.at(row, column), top === '' ? [] : [top]);
  }

  private expand(state: number): void {
    const reading = this.reading(state);
    const { frame } = this.states[state]!;
    const seen = this.memory.seenIn(frame, reading, () => this.look(state));
    if (this.use(seen, 'seen', state)) {
      this.views.see(this.ownOf(seen), this.momentAt(state));
      if (seen.isCut) this.gaps.add('layers beyond the first 20,000 of a frame');
    }
    const events = this.memory.eventsOf(frame, reading, () => this.find(state));
    this.use(events, 'events', state);
    for (const event of events) if (this.isAllowed(this.memory.events[event]!)) this.follow(state, event, reading);
  }

  /** Where everything stands in the state that is followed, worked out once for all that is asked about it. */
  private stand: Standing | null = null;

  private momentAt(state: number): Moment {
    return { start: this.states[state]!.start, route: () => this.routeTo(state), run: () => this.runAt(state) };
  }

  private asked(state: number): { readonly run: RunState; readonly store: RecordingStore } {
    const columns = this.memory.slots.columns.length;
    if (this.stand?.state !== state || this.stand.columns !== columns) {
      const run = this.runAt(state);
      const { shelf } = this.memory;
      const { made, scenes } = this.memory.noting(() => knowScreen(this.program, run, shelf.isOpen, shelf.bundle));
      this.stand = { state, columns, run, standing: made, scenes };
    }
    const { run, standing, scenes } = this.stand;
    this.memory.note(scenes);
    return { run, store: RecordingStore.on(run, standing) };
  }

  private look(state: number) {
    const { store } = this.asked(state);
    const screen = standingScreen(this.program, store.run);
    const seen = { ...seeingOn(screen, store.run, store.about), isCut: screen.surfaces.some(({ expansion }) => expansion.cut) };
    return { answer: seen, reads: store.reads };
  }

  private find(state: number) {
    const { store } = this.asked(state);
    const screen = standingScreen(this.program, store.run);
    const events = Array.from(eventsIn(this.program, store.run, screen, this.telling), (event) => this.memory.eventNumber(event));
    return { answer: events, reads: store.reads };
  }

  private follow(state: number, event: number, reading: Reading): void {
    this.moves++;
    const outcome = this.memory.outcomeOf(event, reading, () => this.learn(state, event));
    const isElsewhere = this.isToldElsewhere(outcome);
    if (isElsewhere && !isInCore(outcome, (column) => !this.left.has(column))) {
      this.use(outcome, event, state);
      if (outcome.columns.length === 0) return;
      const edge: Edge = { to: state, event: this.memory.events[event]!, threads: outcome.threads };
      const stirring = this.stirs.get(state);
      if (stirring) stirring.push(edge);
      else this.stirs.set(state, [edge]);
      return;
    }
    if (outcome !== this.last[event]) {
      this.last[event] = outcome;
      this.use(outcome, event, state);
      if (!isElsewhere) this.account(state, event, outcome);
    }
    if (outcome.isDeep) this.gaps.add('a “back” that follows another one in answer to one event');
    // Who opens a link in the same tab is gone.
    if (outcome.leaves) return void this.leavesFrom.add(this.states[state]!.frame);
    if (outcome.isHurry) return void this.partial.add(state);
    if (!isElsewhere && !this.landed.has(outcome)) {
      this.landed.add(outcome);
      outcome.columns.forEach((column, i) => this.enter(this.memory.slots.columns[column]!, outcome.values[i]!));
    }
    const { columns, values } = this.written(outcome);
    const kept = this.left.size ? values.map((value, i) => (this.left.has(columns[i]!) ? 0 : value)) : values;
    const row = this.rows.with(this.rowOf[state]!, columns, kept);
    const stack = this.stackOf[state]!;
    if (!outcome.isTaken) return this.arrive(state, event, outcome, row, stack, null);
    this.stacks.whatLiesBelow(stack, (below, push) => this.arrive(state, event, outcome, row, below, push));
  }

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

  private account(state: number, event: number, outcome: Outcome): void {
    for (const thread of outcome.threads) this.fired.add(thread);
    this.together = Math.max(this.together, outcome.branches.length);
    for (const branch of outcome.branches) {
      this.branches.add(branch);
      const spots = this.places.get(branch);
      if (!spots) this.places.set(branch, [{ state, event: this.memory.events[event]! }]);
      else if (spots.length < MOST_SPOTS) spots.push({ state, event: this.memory.events[event]! });
    }
    for (const branch of outcome.acted) this.acted.add(branch);
    for (const thread of outcome.endless)
      if (!this.endless.has(thread)) this.endless.set(thread, { ...this.momentAt(state), event: this.memory.events[event]! });
    const { race } = outcome;
    if (race && !this.races.has(race.threads.join(' '))) this.races.set(race.threads.join(' '), { ...race, at: this.momentAt(state) });
  }

  /** Keeps account of an answer; false where that was done before. */
  private use(answer: Answer, question: Question, state: number): boolean {
    if (this.used.has(answer)) return false;
    this.used.add(answer);
    this.uses.push({ answer, frame: this.states[state]!.frame, asked: this.memory.questionOf(answer), question, state });
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

  /** Comes to a row with a stack, on which more may be put; `over` is what was gone back over. */
  private arrive(from: number, event: number, outcome: Outcome, row: number, stack: number, over: Push | null): void {
    let below = stack;
    let top = stack;
    outcome.pushed.forEach((frame, depth) => {
      below = top;
      top = this.stacks.place(row, depth, frame);
      if (depth < outcome.pushed.length - 1) this.stacks.lay(top, below, null);
    });
    const to = this.meet(row, top, from, event, over, this.states[over ? over.from : from]!.start);
    if (outcome.pushed.length) this.stacks.lay(top, below, outcome.isTaken ? null : { from, event, entry: to, below });
    const back = over !== null || (outcome.isTaken && stack !== this.stackOf[from]);
    if (to === from) return;
    const { threads } = outcome;
    if (!this.isToldElsewhere(outcome)) for (const branch of outcome.clearing) this.acted.add(branch);
    this.edges[from]!.push(back ? { to, event: this.memory.events[event]!, threads, back } : { to, event: this.memory.events[event]!, threads });
  }

  /** Asks the engine, and keeps what it says with what it read. */
  private learn(state: number, number: number): { readonly answer: Outcome; readonly reads: Iterable<Read> } {
    const { program } = this;
    const event = this.memory.events[number]!;
    const { run: base, store } = this.asked(state);
    const runner = runnerIn(program, store, event);
    const race = event.type === 'wait' ? raceIn(program, store.run) : null;
    const { run, reports } = advanceIn(runner, event);
    const after = store.fork(run);
    settle(program, after, this.telling, this.ambient);
    const now = after.plain;
    const set = [...this.memory.slots.changesBetween(base, now, (scene) => after.isCleared(scene))];
    const isTaken = base.back.length > 0 && now.back[0] !== base.back[0];
    const cleared = Object.keys(base.roots).filter((scene) => after.isCleared(scene));
    const pushed = this.telling.back ? now.back.slice(isTaken ? 0 : base.back.length) : [];
    const acted = [...runner.acted].filter(([, acts]) => acts === 'inside').map(([branch]) => branch);
    const wasSo = ({ scene, column }: Slot, value: number) =>
      (scene !== null && cleared.includes(scene)) || this.rows.at(this.rowOf[state]!, column) === value;
    const isStill = set.every(([slot, value]) => wasSo(slot, value)) && now.frame === base.frame && !isTaken;
    const answer: Outcome = {
      cleared,
      columns: set.map(([slot]) => slot.column),
      values: set.map(([, value]) => value),
      isTaken,
      pushed,
      threads: threadsIn(reports),
      branches: branchesIn(reports),
      acted: [...runner.acted.keys()].filter((branch) => !isStill || !acted.includes(branch)),
      clearing: isStill && cleared.length > 0 ? acted : [],
      endless: reports.flatMap(({ whyNot }) => whyNot.flatMap(({ code, thread }) => (code === 'endless-loop' && thread ? thread : []))),
      race,
      leaves: leavesPiece(reports),
      isHurry: isHurry(now),
      isDeep: after.isDeep,
      written: null,
    };
    return { answer, reads: store.reads };
  }

  private stateAt = (row: number, stack: number): number | undefined =>
    stack === EMPTY ? this.byRow[row] : this.numbers.get(row * MOST_PLACES + stack);

  private meet(row: number, stack: number, parent: number, event: number, over: Push | null, start: string): number {
    const old = this.stateAt(row, stack);
    if (old !== undefined) return old;
    const number = this.states.length;
    if (stack === EMPTY) this.byRow[row] = number;
    else this.numbers.set(row * MOST_PLACES + stack, number);
    const valueOf = (name: string) => {
      const { column, values } = this.memory.slots.named(name);
      return column < 0 ? undefined : values[this.rows.at(row, column)];
    };
    const frame = valueOf('frame') as string;
    if (over) this.backOver.set(number, { push: over, event });
    this.states.push({ frame, parent, event: event < 0 ? null : this.memory.events[event]!, start });
    this.rowOf.push(row);
    this.anyWith[row] ??= number;
    this.stackOf.push(stack);
    this.edges.push([]);
    const overlays = (valueOf('overlays') ?? []) as readonly Overlay[];
    for (const one of [frame, ...overlays.map((overlay) => overlay.frame)]) if (!this.reached.has(one)) this.reached.set(one, number);
    return number;
  }

  // ── routes ─────────────────────────────────────────────────────────────────

  private routeTo(state: number, stack: readonly number[] = []): RunEvent[] {
    const events: RunEvent[] = [];
    let at = state;
    for (const below of stack) {
      const push = this.stacks.belowOf(this.stackOf[at]!).get(below);
      if (!push) break;
      this.trace(at, push.entry, events);
      events.push(this.memory.events[push.event]!);
      at = push.from;
    }
    this.trace(at, -1, events);
    return this.scrolled(state, events.reverse());
  }

  /** A route with scrolling back where it would not lead there without: nothing tells how far things are scrolled, but what lies where. */
  private scrolled(state: number, events: RunEvent[]): RunEvent[] {
    if (this.telling.scroll || !this.canScroll) return events;
    const begun = begin(this.program, this.states[state]!.start)!;
    if (this.isAt(state, replay(this.program, begun.run, events).run)) return events;
    let { run } = begun;
    const back: RunEvent[] = [];
    for (const event of events) {
      const next = [event, ...backToTop(this.program, advance(this.program, run, event).run)];
      ({ run } = replay(this.program, run, next));
      back.push(...next);
    }
    return back;
  }

  private get canScroll(): boolean {
    return (this.scrolls ??= [...this.program.scenes.values()].some(scrollsIn));
  }

  private scrolls: boolean | undefined;

  private stateFor(run: RunState): number | null {
    const store = new PlainStore(run);
    settle(this.program, store, this.telling, this.ambient);
    return this.anyWith[this.rowOfRun(store.run)] ?? null;
  }

  private isAt(state: number, run: RunState): boolean {
    const store = new PlainStore(run);
    settle(this.program, store, this.telling, this.ambient);
    return this.rowOfRun(store.run) === this.rowOf[state];
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

  /** The events that lead from one state to another, the last first; from a start if it is -1. */
  private trace(state: number, until: number, events: RunEvent[]): void {
    let at = state;
    while (at !== until) {
      const { parent, event } = this.states[at]!;
      if (parent < 0 || event === null) return;
      events.push(event);
      const over = this.backOver.get(at);
      at = parent;
      if (!over) continue;
      // Back leads to where it was come from: that very way, then on to where *back* was done.
      this.trace(parent, over.push.entry, events);
      events.push(this.memory.events[over.push.event]!);
      at = over.push.from;
    }
  }
}

/** Whether anything in a scene can be scrolled. */
export const scrollsIn = onceFor(
  ({ scene, items }: SceneProgram) => (scene.contentHeight ?? 0) > scene.height || items.some(({ layer }) => layer.scroll !== undefined)
);

const branchesIn = (reports: readonly Report[]): string[] =>
  reports.flatMap((report) => report.fired.map((fired) => branchKey(fired.thread, fired.branch)));

const threadsIn = (reports: readonly Report[]): string[] => reports.flatMap((report) => report.fired.map((fired) => fired.thread));

const HURRIED = 'not tried: anything a third time before what it started has ended';

/** Events that scroll everything on the screen back to where it begins. */
const backToTop = (program: Program, run: RunState): RunEvent[] =>
  liveRootsOf(program, run).flatMap((scene) =>
    Object.entries(run.roots[scene]?.scroll ?? {}).flatMap(([key, { x, y }]) =>
      x || y ? { type: 'scroll' as const, layer: key || null, x: 0, y: 0 } : []
    )
  );
