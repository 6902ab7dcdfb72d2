import type { Node } from '../program/node.ts';
import { startFrames, type Program } from '../program/program.ts';
import { begin } from '../run/run.ts';
import type { Report, RunEvent, RunState } from '../run/state.ts';
import { PlainStore } from '../run/store.ts';
import { listWords } from '../words.ts';
import type { Ambient } from './ambient.ts';
import { Account } from './account.ts';
import { AtWill, type Group } from './at-will.ts';
import { Asking, branchesIn, threadsIn, type Here } from './asking.ts';
import { AS_BEFORE, Clock, TIMELESS, type Due, type Landing } from './clock.ts';
import { Decisions } from './decisions.ts';
import { Edges, type Deed } from './edges.ts';
import { Effects, type Effect } from './effects.ts';
import { Entered, statesTold } from './entered.ts';
import type { Exploration, Levels, Within } from './exploration.ts';
import { Hindsight } from './hindsight.ts';
import { THIRD_TIME } from './hurry.ts';
import { longer } from './ints.ts';
import type { Moment } from './moment.ts';
import type { First, Sought, Timed } from './moves.ts';
import { leavesPiece } from './leaving.ts';
import type { Memory } from './memory.ts';
import { Met } from './met.ts';
import { isMidwayCut } from './midway.ts';
import type { Outcome, Seen, Started } from './outcome.ts';
import { NOTHING_BEYOND, Overfull, type Owed } from './overfull.ts';
import { Routes } from './routes.ts';
import { Lanes, type Lane } from './lanes.ts';
import { Looks, type Look } from './looks.ts';
import { INITIAL, type Reading } from './slots.ts';
import { settle } from './settle.ts';
import { areApart, threadOf } from './race.ts';
import { Returns, type Return } from './returns.ts';
import { Reader } from './reader.ts';
import { onItsWay } from './sights.ts';
import { EMPTY, type Push } from './stacks.ts';
import { Stairs, type Stair } from './stairs.ts';
import { Swings } from './swings.ts';
import type { Telling } from './telling.ts';
import { columnOfWait } from './times.ts';
import { scenesOf, Views } from './views.ts';
import { Whereabouts } from './whereabouts.ts';
import { Waiting } from './waiting.ts';
import { waitingIn } from './waits.ts';
import { isDueNow } from './zones.ts';

/**
 * Exploring is the engine, remembered: what comes of an event is asked of the engine once for each different situation, and noted with
 * what it read of the run. Wherever the same holds again the same comes of it. So exploring cannot say anything else than the engine.
 */

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
  return JSON.stringify(one) === JSON.stringify(other);
}

/** Explores a piece, all of it or without some of what tells its states apart. */
export class Explorer {
  private readonly reader: Reader;
  private readonly where: Whereabouts;

  private readonly deeds: Deed[] = [];
  private readonly met: Met;
  private readonly edges = new Edges(this.deeds, () => this.met.length);
  /** What waits where somebody begins, by start frames. */
  private readonly firsts = new Map<string, readonly First[]>();
  private readonly leavesFrom = new Set<string>();
  private readonly account = new Account();
  private readonly races = new Map<string, Exploration['races'][number]>();
  private readonly landed: Outcome[] = [];
  private readonly entered = new Entered(() => this.program);
  /** What states are called, as of when those that were come into were last told. */
  private told: ReturnType<typeof statesTold> | null = null;
  private asking: Asking;
  private readonly clock: Clock;
  private readonly effects: Effects;
  private readonly atWill: AtWill;
  /** What was taken to be set at will, and is not. */
  readonly unfree = new Set<Group>();
  private readonly decisions = new Decisions<Told>();
  private readonly looks: Looks;
  private readonly routes: Routes;
  private views = new Views();
  private readonly gaps = new Set<string>();
  /** States in which something was not tried: in too much of a hurry, one loop too many, or more than can be put into fields. */
  private readonly partial = new Set<number>();
  /** Those of them in which it was for something else than the hurry. */
  private readonly leftOtherwise = new Set<number>();
  /** States in which a number counts on beyond what is followed. */
  private readonly turned = new Set<number>();
  private readonly swings: Swings;
  /** What that was. */
  private readonly untaken = new Set<string>();
  /** What came of loops without end, as far as it is followed. */
  private readonly loops = new Set<Outcome>();
  /** What came of each event the last time: what it sets off is known then. */
  private last: Int32Array<ArrayBuffer> = new Int32Array(1 << 8).fill(NONE_YET);
  private readonly returns: Returns;
  private readonly lanes: Lanes;
  private readonly stairs: Stairs;
  private readonly waiting: Waiting;
  private readonly overfull: Overfull;
  /** All that came of events, and was found to do and to see, in the states that were followed, with where it first was. */
  readonly uses: Use[] = [];
  private readonly used = new Set<Answer>();
  private readonly seenMoving = new Set<Answer>();
  /** What the starts are, as one text to compare. */
  private readonly begun: string;
  /** What was done in a state that is told elsewhere. */
  private readonly stirs = new Edges(this.deeds, () => this.met.length);
  /** What knows the edges of states that are part of others. */
  private readonly likeWholes = this.edges.likeThoseOf((state) => this.met.joins.wholeOf(state)!);
  private readonly stirLikeWholes = this.stirs.likeThoseOf((state) => this.met.joins.wholeOf(state)!);
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
    /** Of those, what can be set at will wherever something depends on it. */
    readonly free: readonly Group[] = NONE,
    /** What is not done at all. */
    private readonly isAllowed: (event: RunEvent) => boolean = ALWAYS
  ) {
    this.asking = new Asking(memory, telling, ambient);
    this.reader = new Reader(memory);
    this.met = new Met(this.reader, memory.times, this.deeds, () => !this.telling.back && !this.clock.isExact);
    this.returns = new Returns(this.reader, this.met, (to, below, isNew) => this.comeBack(to, below, isNew));
    this.looks = new Looks(memory, this.reader, () => this.asking);
    this.swings = new Swings(this.reader.rows, telling.swings, telling.floors);
    this.clock = new Clock(memory, left);
    this.where = new Whereabouts(memory, this.reader, this.clock, left, () => ({ telling: this.telling, ambient: this.ambient }));
    this.effects = new Effects(memory, this.clock, left, this.edges, new Set(free.flatMap((group) => [...group])));
    this.lanes = new Lanes(memory, this.reader, this.met);
    const isBackAsked = (row: number) => this.isBackAsked(row);
    this.stairs = new Stairs({ memory, reader: this.reader, met: this.met, returns: this.returns, isBackAsked });
    const { reader, clock, effects, looks, account, lanes } = this;
    this.waiting = new Waiting({ memory, reader, clock, effects, looks, account, lanes });
    this.atWill = new AtWill(memory, this.reader, () => this.asking, isAllowed);
    const { met, firsts, atWill } = this;
    const came = () => this.uses.flatMap(({ question, answer }) => (typeof question === 'number' ? (answer as Outcome) : []));
    const isSeen = (row: number, here: Here, waits: readonly Started[]) => this.isKnown(row, here, waits);
    this.overfull = new Overfull({ memory, reader, met, clock, effects, atWill, isAllowed, isSeen, came });
    const { stackOf, stacks } = this.reader;
    const hindsight = new Hindsight(met, this.reader, this.clock);
    this.routes = new Routes({ met, hindsight, stackOf, stacks, firsts }, () => ({
      program: this.program,
      tellsScroll: this.telling.scroll,
      isAt: (state, run) => this.where.isAt(state, run),
      setBefore: (run, sought) => this.setBefore(run, sought),
    }));
    this.begun = this.wordsOf(starts);
    if (isMidwayCut(this.program)) this.gaps.add('all that may be pressed on its way');
    for (const { frame, run, reports, acted } of starts) {
      this.account.begin(threadsIn(reports), branchesIn(reports), acted);
      if (leavesPiece(reports)) this.leavesFrom.add(frame);
      for (const [slot, value] of this.memory.slots.valuesOf(run)) this.entered.set(slot, value);
      const waiting = waitingIn(this.program, run, this.ambient);
      this.firsts.set(frame, this.clock.firstOf(waiting));
      const row = this.rowWith(this.where.rowOfRun(run), this.clock.begun(waiting));
      const pushed = this.telling.back && this.isBackAsked(row) ? run.back : [];
      const { top, below } = this.put(row, EMPTY, pushed);
      if (pushed.length) this.reader.stacks.lay(top, below);
      this.met.begin(frame, row, top, pushed.length > 0);
    }
  }

  private get program(): Program {
    return this.memory.watched;
  }

  private wordsOf = (starts: readonly Start[]): string =>
    JSON.stringify(
      starts.map(({ frame, run, reports, acted }) => [
        frame,
        this.where.rowOfRun(run),
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
    if (!this.memory.isFollowedAlike || this.next < this.met.length || this.wordsOf(starts) !== this.begun) return false;
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

  /** Whether a scene was on the screen, or a thread fired. */
  hasMet(id: string): boolean {
    return this.met.reached.has(id) || this.account.fired.has(id);
  }

  get count(): number {
    return this.met.length;
  }

  /** Follows states until there are so many, or so much effort was made in all. */
  on(maxStates: number, mostEffort: number, shouldPause?: (states: number) => boolean): 'end' | 'limit' | 'paused' {
    for (; this.next < this.met.length; this.next++) {
      if (this.met.length > maxStates || this.memory.effort > mostEffort) return 'limit';
      if (shouldPause && this.next % 4 === 3 && shouldPause(this.met.length)) return 'paused';
      this.met.following = this.next;
      const whole = this.met.joins.wholeOf(this.next);
      if (whole === null) this.expand(this.next);
      else this.followLike(this.next, whole);
    }
    this.settleOwed();
    return 'end';
  }

  /** What is known so far; `unended` says in words why it is not at its end, where it is not. */
  result(unended: string, by: Exploration['by']): Exploration {
    const { met, moves, edges, leavesFrom, next } = this;
    const { reached } = met;
    const unfollowed = new Set([...this.partial, ...this.turned, ...Array.from({ length: met.length - next }, (_, i) => next + i)]);
    const beyond = this.beyond;
    for (const state of beyond.keys()) unfollowed.delete(state);
    const { notTried } = this;
    const untaken = notTried.length ? `not tried: ${listWords(notTried)}` : null;
    const left = next === met.length ? null : unended;
    const gaps = [...this.gaps, ...(left === null ? this.unlikeCounts() : [])];
    const cut = [left, untaken, gaps.length ? `not tried: ${listWords(gaps)}` : null].filter((part) => part !== null).join('; ') || null;
    const { entered, views, ambient } = this;
    const { fired, branches, acted, endless, failed, places, together } = this.account;
    const runOf = (state: number) => this.reader.runOf(state);
    const levels: Levels = {
      rowOf: (state) => this.reader.rowOf.at(state),
      stackOf: (state) => this.reader.stackOf.at(state),
      at: (row, stack) => met.at(row, stack),
      below: this.reader.stacks.belowOf,
    };
    const races = [...this.races.values()];
    const numberIn = (column: number) => (state: number) => this.reader.glanceAt(state).at(column);
    const slots = () => this.memory.slots.columns.map((slot) => ({ ...slot, numberIn: numberIn(slot.column) }));
    const stateOf = (run: RunState) => this.where.stateFor(run);
    const told = {
      together,
      places,
      stateOf,
      fired,
      branches,
      acted,
      endless,
      failed,
      races,
      entered: entered.all,
      slots,
      by,
      standingIn: (scene: string) => ambient.standingIn(scene),
      stirring: () => ambient.stirring,
      views,
      isFreed: false,
      slices: [],
    };
    const found = {
      count: met.length,
      left: met.length - next,
      moves,
      edges,
      reached,
      leavesFrom,
      unfollowed,
      beyond,
      stirs: this.stirs,
      ...told,
    };
    const routes = {
      routeTo: (state: number, stack?: readonly number[], more?: readonly Timed[]) => this.routes.to(state, stack, more),
      eventsFrom: (run: RunState, state: number, steps: readonly Timed[]) =>
        this.routes.timed(steps, this.where.inOrder(run, state) ?? [], () => run),
    };
    return {
      cut,
      gaps,
      get states() {
        return met.list;
      },
      ...found,
      runOf,
      levels: this.telling.back ? levels : null,
      ...routes,
    };
  }

  /** The same in short. */
  get within(): Within {
    const isEnded = this.next === this.met.length && this.notTried.length === 0 && this.gaps.size === 0;
    const isComplete = isEnded && this.unlikeCounts().length === 0;
    return { reached: new Set(this.met.reached.keys()), fired: this.account.fired, isComplete };
  }

  /** Of numbers that count on beyond what is followed, those of which something else could come there, as phrases. */
  private unlikeCounts(): readonly string[] {
    const { rowOf, stackOf } = this.reader;
    const { columns } = this.memory.slots;
    const unlike = [...(this.turned.size ? this.swings.unlike(rowOf, stackOf, columns) : NONE), ...this.swings.under(rowOf, columns)];
    if (unlike.length === 0) return NONE;
    return [`how far ${listWords(unlike.map((id) => this.program.variables.get(id)?.name ?? 'a number'))} can count`];
  }

  // ── following ──────────────────────────────────────────────────────────────

  /** A state that is part of another one, which was followed: nothing else comes of what is done in it. */
  private followLike(state: number, whole: number): void {
    this.edges.leadAs(state, this.likeWholes);
    this.stirs.leadAs(state, this.stirLikeWholes);
    for (const left of [this.partial, this.leftOtherwise, this.turned]) if (left.has(whole)) left.add(state);
  }

  private expand(state: number): void {
    const row = this.reader.rowOf.at(state);
    const zone = this.reader.zoneIn(row);
    const { isQuick } = this;
    if (isQuick && zone === 0 && this.goQuickly(state, row)) return;
    const lane = isQuick && zone !== 0 && this.reader.stackOf.at(state) === EMPTY ? this.waiting.laneIn(row, zone) : null;
    if (lane?.isLooked && this.goAlong(lane, state, row)) return;
    const glance = this.reader.glanceAt(state);
    // One for all that is asked of this state: what is asked next may be worked out of what was before.
    let kept: Here | null = null;
    const here = () => (kept ??= this.reader.hereIn(state));
    const { memory } = this;
    const look = this.looks.in(state, row, glance, here);
    const { seen, events } = look;
    if (memory.slots.entering.length) this.entered.meet(memory.slots, this.reader.rootsIn(row), glance, this.isOwn);
    const isMoving = this.isMoving(zone, glance);
    const untried = this.untriedAmong(events);
    look.isPlain = untried.length === 0;
    if (isMoving || !look.isUsed) {
      if (this.use(seen, 'seen', state, here, isMoving)) {
        this.see(seen, state, isMoving);
        if (seen.isCut) this.gaps.add('layers beyond the first 20,000 of a frame');
      }
      this.use(events, 'events', state, here);
      look.isUsed ||= !isMoving;
    }
    if (lane) lane.isLooked = look.isPlain;
    for (const phrase of untried) this.leave(state, phrase);
    const done = this.tryAll(state, row, zone, look, here, lane);
    for (const group of this.atWill.setIn(row, this.free)) this.trySet(state, row, group);
    if (this.left.size) this.stirByTimers(state);
    if (zone === 0) return;
    for (const [i, due] of this.clock.duesIn(zone, this.reader.rootsIn(row)).entries()) {
      if (events.length + i < done) continue;
      const then = due.passed.size ? this.reader.hereIn(state, due.passed) : here();
      this.moves++;
      const effect = this.effects.of(memory.outcomeOf(due.event, then, () => this.asking.learn(then, due.event)));
      if (effect.isFree && !this.effects.isOutside(effect)) this.doubt(effect);
      this.follow(state, due.event, then, effect, due);
      if (lane) this.waiting.keep(lane, events.length + i, row, then, effect, due.event, due);
    }
  }

  /** Whether there is nothing to do about a state but to look, and to try what can be done. */
  private get isQuick(): boolean {
    const { slots } = this.memory;
    const isWhole = this.left.size === 0 && this.free.length === 0 && this.isAllowed === ALWAYS;
    return isWhole && !this.swings.isOpen && slots.entering.length === 0 && slots.activities.column < 0 && slots.passing.length === 0;
  }

  /** Follows all from a state in which nothing waits, where it is known what there is to see and where that leads; false where it is not. */
  private goQuickly(state: number, row: number): boolean {
    const look = this.looks.atOnce(row);
    if (!look?.isUsed || !look.isPlain) return false;
    if (this.telling.back) return this.goOver(this.stairs.for(look, this.reader.stackOf.at(state)), state, row);
    if (!look.lane?.isNow) look.lane = this.lanes.for(look.events, 0);
    return this.goAlong(look.lane, state, row);
  }

  /** Goes along a lane in a state; whether it is known to its end, and so the edges of the state are. */
  private goAlong(lane: Lane, state: number, row: number): boolean {
    this.lanes.go(lane, state, row, this.last);
    if (!lane.isAtEnd) return false;
    this.edges.leadAs(state, lane);
    this.moves += lane.at;
    return true;
  }

  /** Goes along a stair in a state; false where nothing of that counts, as it is not known to its end. */
  private goOver(stair: Stair, state: number, row: number): boolean {
    if (stair.isSlowSomewhere || !this.returns.isWhole || !stair.go(state, row, this.last)) return false;
    this.edges.leadAs(state, stair);
    this.moves += stair.length;
    return true;
  }

  /**
   * All that can be done in a state: this is gone through more than anything else, and has to stay short. Gives how much was tried: with
   * what is due, where that was gone along too.
   */
  private tryAll(state: number, row: number, zone: number, look: Look, here: () => Here, waiting: Lane | null): number {
    const { memory, effects, edges, met } = this;
    const { events } = look;
    const isStill = this.clock.isStill(zone);
    const decisions = this.decisions.asOf(memory.version);
    const { rows } = this.reader;
    const glance = this.reader.glanceAt(state);
    const isAnyone = this.isAllowed === ALWAYS;
    const isAlone = this.reader.stackOf.at(state) === EMPTY && !this.swings.isOpen;
    const isOver = this.telling.back && zone === 0 && this.isQuick;
    const lane = waiting ?? (isStill && isAlone && isAnyone && !isOver ? this.lanes.for(events, zone) : null);
    const stair = isOver ? this.stairs.for(look, this.reader.stackOf.at(state)) : null;
    if (lane) {
      if (this.goAlong(lane, state, row)) return lane.at;
      this.moves += lane.at;
      lane.each(state, (to, how) => edges.add(state, to, how >> 1), lane.at);
    }
    const from = lane?.at ?? 0;
    for (let i = from; i < events.length; i++) {
      const event = events[i]!;
      if (!isAnyone && !this.isAllowed(memory.events[event]!)) continue;
      this.moves++;
      const decided = isStill ? decisions.find(event, rows, row) : -1;
      if (decided >= 0) {
        const decision = decisions.answers[decided]!;
        const told = decision.effect;
        if (this.isTold(told, event, zone)) {
          if (decision.ordered !== rows.ordered) {
            decision.leap = rows.leap(decision.looked, told.columns, told.values);
            decision.ordered = rows.ordered;
          }
          if (lane?.isNow && decision.leap !== null)
            lane.keep(i, row, decision.looked.keys(), decision.leap, told, told.deed, this.account.isFull(told));
          const known = decision.leap === null ? -1 : rows.leapt(row, decision.leap, told.columns, told.values);
          const next = known >= 0 ? known : rows.with(row, told.columns, told.values);
          this.setLast(event, told);
          const to = isAlone ? met.alone(next) : -1;
          if (to < 0) this.followTold(state, next, told);
          else if (to !== state) edges.add(state, to, told.deed);
          if (stair?.isNow) stair.keepAs(i, row, decision.looked.keys(), told, this.account.isFull(told));
          continue;
        }
      }
      const known = memory.knownOutcome(event, glance);
      const effect = known ? effects.of(known) : this.learn(event, here);
      if (isStill && decided < 0 && this.isTold(effect, event, zone)) this.decide(event, effect, glance);
      if (effect.isPlain && isStill && isFree(effect, zone)) this.followPlainly(state, row, event, effect, here);
      else if (zone === 0 && this.isSettled(effect, event)) this.goOnOrBack(state, row, event, effect);
      else {
        this.follow(state, event, here(), effect, null);
        if (waiting) this.waiting.keep(waiting, i, row, here(), effect, event, null);
      }
      this.reader.glanceAt(state);
      decisions.asOf(memory.version);
      if (stair && !stair.isSlow(i)) this.keepOver(stair, i, state, effect, event);
    }
    return Math.max(from, events.length);
  }

  /** Keeps where an event leads over stacks, where there is nothing more to be told of it. */
  private keepOver(stair: Stair, i: number, state: number, effect: Effect, event: number): void {
    if (!stair.isNow || !(this.isTold(effect, event, 0) || this.isSettled(effect, event))) return;
    const looked = this.memory.lookedAt(effect.outcome, this.reader.glanceAt(state), true);
    const columns = looked?.map(([column]) => column);
    if (columns) stair.keepAs(i, this.reader.rowOf.at(state), columns, effect, this.account.isFull(effect));
  }

  private setLast(event: number, { number }: Effect): void {
    while (this.last.length <= event) this.last = longer(this.last).fill(NONE_YET, this.last.length);
    this.last[event] = number;
  }

  /** What can be done once something is set that can be, at will: from all that it can be set to, as far as that makes a difference. */
  private trySet(state: number, row: number, group: Group): void {
    const rows = this.atWill.rowsFrom(row, group);
    if (!rows) return void this.unfree.add(group);
    const { memory, reader } = this;
    for (const set of rows.slice(1)) {
      const here = reader.hereOf(set, reader.stackOf.at(state));
      const events = this.atWill.eventsIn(here, set);
      this.use(events, 'events', state, () => here);
      for (const event of events) {
        if (!this.isAllowed(memory.events[event]!)) continue;
        const effect = this.effects.of(this.atWill.outcomeOf(event, here));
        if (!effect.isFree) continue;
        this.useOnce(effect, event, state, () => here);
        if (this.effects.isOutside(effect)) continue;
        this.moves++;
        this.follow(state, event, here, effect, null);
      }
    }
  }

  /** What something depends on where nobody can set it before, is not set at will. */
  private doubt({ outcome }: Effect): void {
    for (const group of this.groupsReadBy(outcome)) this.unfree.add(group);
  }

  private groupsReadBy(outcome: Outcome): readonly Group[] {
    const reads = this.memory.readsOf(outcome);
    return this.free.filter((group) => reads.some((column) => group.has(column)));
  }

  /** What to do in a run so that what is sought comes of an event, where that depends on what can be set at will. */
  private setBefore(run: RunState, { event, outcome }: Sought): readonly RunEvent[] {
    const words = this.atWill.wordsFor(outcome, this.left);
    const isIt = (here: Here) => this.atWill.wordsFor(this.atWill.outcomeOf(event, here), this.left) === words;
    return this.atWill.wayTo(this.where.fullRowOf(run), run.back.at(-1) ?? '', this.groupsReadBy(outcome), isIt) ?? NONE;
  }

  /** Of what is explored here besides the core, the columns that cannot be set at will; none where all can. */
  notSetAtWill(group: Group): readonly number[] {
    const { reader } = this;
    const atWill = new AtWill(this.memory, reader, () => this.asking, this.isAllowed);
    const held = atWill.heldAgainst(group, (row) => this.clock.duesIn(reader.zoneIn(row), reader.rootsIn(row)));
    for (let state = 0; state < this.met.length; state++) {
      const unlike = held(reader.rowOf.at(state), reader.stackOf.at(state));
      if (unlike.length) return unlike;
    }
    return NONE;
  }

  /** Keeps which effect of which all was told an event has, to be found at once from now on. */
  private decide(event: number, effect: Effect, glance: Here): void {
    if (effect.isWide) return;
    const looked = this.memory.lookedAt(effect.outcome, glance);
    const told = looked && { effect, looked: new Map(looked), leap: null, ordered: -1 };
    effect.isWide = !told || !this.decisions.asOf(this.memory.version).keep(event, looked, told);
  }

  private learn(event: number, here: () => Here): Effect {
    return this.effects.of(this.memory.outcomeOf(event, here(), () => this.asking.learn(here(), event)));
  }

  /** Whether there is nothing more to be told of an effect, but for where it leads. */
  private isTold(effect: Effect, event: number, zone: number): boolean {
    return effect.isTold && isFree(effect, zone) && (this.account.isFull(effect) || this.last[event] === effect.number);
  }

  /** Comes to a row by an effect of which all else was told: most moves by far are such. */
  private followTold(state: number, next: number, effect: Effect): void {
    if (next === this.reader.rowOf.at(state) || this.isTurned(state, next)) return;
    const own = this.reader.stackOf.at(state);
    const stack = own === EMPTY || this.isBackAsked(next) ? own : EMPTY;
    const to = this.met.come(next, stack, state, this.effects.deed(effect), null, false);
    if (to !== state) this.edges.add(state, to, effect.deed);
  }

  /** What has nothing to do with time, nor with what was come from: most of what is done, and the same each time. */
  private followPlainly(state: number, row: number, event: number, effect: Effect, here: () => Here): void {
    this.effects.step(effect, event, this.memory.events[event]!, TIMELESS.move);
    if (this.effects.isOutside(effect)) return this.stir(state, event, effect, here);
    this.note(state, event, effect, effect.step!, here);
    const next = this.reader.rows.with(row, effect.columns, effect.values);
    if (this.isTurned(state, next)) return this.account.move(effect);
    const stack = this.isBackAsked(next) ? this.reader.stackOf.at(state) : EMPTY;
    const to = this.met.come(next, stack, state, this.effects.deed(effect), null, false);
    if (to !== state) {
      this.account.move(effect);
      this.edges.add(state, to, this.effects.deed(effect));
    }
    const isMoveTold = effect.hasMoved || effect.outcome.clearing.length === 0;
    effect.isTold = effect.isUsed && effect.isEntered && !effect.isElsewhere && isMoveTold;
  }

  /** Whether there is nothing more to be told of an effect that leads on from frame to frame, or back, but for where it leads. */
  private isSettled(effect: Effect, event: number): boolean {
    if (!effect.isSimple || !effect.isUsed || !effect.isEntered || !effect.hasMoved || effect.isElsewhere) return false;
    const { starts, pushed, isTaken } = effect.outcome;
    if (starts.length > 0 || pushed.length !== (isTaken ? 0 : 1) || effect.move !== TIMELESS.move || this.swings.isOpen) return false;
    return this.account.isFull(effect) || this.last[event] === effect.number;
  }

  /** The same, followed. */
  private goOnOrBack(state: number, row: number, event: number, effect: Effect): void {
    this.setLast(event, effect);
    const next = this.reader.rows.with(row, effect.columns, effect.values);
    const deed = this.effects.deed(effect);
    const { isTaken, pushed, threads } = effect.outcome;
    if (isTaken) return this.goBack(state, next, effect, deed);
    this.arrive(state, deed, { row: next, step: effect.step!, threads, effect, isTaken, stack: this.reader.stackOf.at(state), over: null, pushed });
  }

  /** Whether steps wait that will change what is seen. */
  private isMoving(zone: number, here: Reading): boolean {
    return this.isMovingBy(zone === 0 ? NONE : this.memory.times.zone(zone).waits, here);
  }

  private isMovingBy(waits: readonly number[], here: Reading): boolean {
    const { times, slots } = this.memory;
    const { column } = slots.activities;
    return (column >= 0 && here.at(column) !== INITIAL) || waits.some((wait) => times.waits[wait]!.kind === 'steps');
  }

  /** Whether all that is seen in a row while something waits was seen, and what states it shows is known. */
  private isKnown(row: number, here: Here, waits: readonly Started[]): boolean {
    const { memory, reader } = this;
    const isMoving = this.isMovingBy(
      waits.map(({ wait }) => wait),
      here
    );
    // Where more is told apart since a row was met, what is seen there is the same, and need not be asked anew.
    if (isMoving || this.met.alone(row) < 0) {
      const seen = memory.seenIn(reader.frameIn(row), here, () => this.asking.look(here));
      if (!this.used.has(seen) && !(isMoving && this.seenMoving.has(seen))) return false;
    }
    return memory.slots.entering.length === 0 || this.entered.isMet(memory.slots, reader.rootsIn(row), here, this.isOwn);
  }

  private momentAt(state: number): Moment {
    return { start: this.met.startOf(state), route: (...more) => this.routes.to(state, [], more), run: () => this.reader.runOf(state) };
  }

  private follow(state: number, event: number, here: Here, effect: Effect, due: Due | null): void {
    const { outcome } = effect;
    const landing = this.clock.land(this.reader.zoneIn(this.reader.rowOf.at(state)), due, outcome, here);
    const step = this.effects.step(effect, event, due ? this.clock.waitFor(due) : this.memory.events[event]!, landing.move);
    if (this.effects.isOutside(effect)) return this.stir(state, event, effect, () => here);
    this.note(state, event, effect, step, () => here);
    if (due) this.noteRaces(state, event, here, effect, due);
    // Who opens a link in the same tab is gone.
    if (outcome.leaves) return void this.leavesFrom.add(this.met.frameOf(state));
    if (!this.isTaken(state, this.reader.rowOf.at(state), effect, landing)) return;
    const row = this.rowBy(this.reader.rowOf.at(state), effect, landing);
    const stack = this.reader.stackOf.at(state);
    const deed = this.effects.deed(effect, step);
    const { threads, isTaken, pushed } = outcome;
    const isReturn = isTaken && !due && pushed.length === 0 && this.reader.zoneIn(row) === 0 && !this.swings.isOpen;
    if (isReturn) return this.goBack(state, row, effect, deed);
    const come = (stack: number, over: Push | null): void => {
      const arrival: Arrival = { row, step, threads, effect, isTaken, stack, over, pushed };
      // What is due with it at that moment follows at once.
      if (due) this.goOn(state, arrival);
      else this.arrive(state, deed, arrival);
    };
    const { stacks } = this.reader;
    if (isTaken) stacks.whatLiesBelow(stack, (below) => come(below, stacks.pushOn(stack, below)));
    else come(stack, null);
  }

  /** Goes back over where a frame was come from: to one row over each of the stacks that can lie below. */
  private goBack(state: number, row: number, effect: Effect, deed: number): void {
    this.edges.leadAs(state, this.returns);
    this.returns.add({ state, row, isAsked: this.isBackAsked(row), deed, effect });
  }

  private comeBack({ state, row, isAsked, deed, effect }: Return, below: number, isNew: boolean): void {
    const { met } = this;
    const known = isNew ? -1 : met.standing(row, isAsked ? below : EMPTY);
    const come = () => (isAsked ? met.comeBack(row, below, state, deed) : met.come(row, EMPTY, state, deed, this.pushOver(state, below), false));
    if ((known < 0 ? come() : known) !== state) this.account.move(effect);
  }

  private pushOver(state: number, below: number): Push | null {
    const { stacks, stackOf } = this.reader;
    return stacks.pushOn(stackOf.at(state), below);
  }

  /** Whether what comes of something is followed on; where it is not, the state is told to be followed only in part. */
  private isTaken(state: number, row: number, effect: Effect, landing: Landing): boolean {
    const { outcome } = effect;
    const isHurry = outcome.isHurry || landing.isFull === 'not followed';
    const left = isHurry ? THIRD_TIME : this.isLooping(outcome) ? LOOPING : null;
    if (left !== null) {
      this.leave(state, left);
      return false;
    }
    if (!landing.isFull) return true;
    // No more waits than before.
    const next = outcome.isTaken || outcome.pushed.length > 0 ? -1 : this.rowBy(row, effect, landing);
    if (next !== row) this.overfull.owe({ state, row: next });
    return false;
  }

  /** Leaves what had to be met otherwise, and was not. */
  private settleOwed(): void {
    const { stackOf } = this.reader;
    const isMet = ({ state, row }: Owed) => this.met.standing(row, this.isBackAsked(row) ? stackOf.at(state) : EMPTY) >= 0;
    for (const { state } of this.overfull.settle(isMet)) this.leave(state, THIRD_TIME);
  }

  /** Whether what was started more often than is followed is known to lead to nothing new. */
  private get isNothingNew(): boolean {
    if (!this.untaken.has(THIRD_TIME) || this.next < this.met.length) return false;
    return !this.swings.isOpen && this.free.length === 0 && this.overfull.isNothingNew;
  }

  /** Where what was started more often than is followed leads to nothing new: states like all that it leads to. */
  private get beyond(): ReadonlyMap<number, readonly number[]> {
    if (this.telling.back || !this.isNothingNew) return NOTHING_BEYOND;
    return this.overfull.beyond(() => [...this.partial].filter((state) => !this.turned.has(state) && !this.leftOtherwise.has(state)));
  }

  /** What was not tried, and could lead to something else. */
  private get notTried(): readonly string[] {
    return [...this.untaken].filter((one) => one !== THIRD_TIME || !this.isNothingNew);
  }

  /** Whether a number counts on in a row further than it is followed. */
  private isTurned(from: number, row: number): boolean {
    const isBeyond = this.swings.isBeyond(this.reader.rowOf.at(from), row, this.memory.slots.columns);
    if (isBeyond) this.turned.add(from);
    return isBeyond;
  }

  /** A state is followed only in part. */
  private leave(state: number, what: string): void {
    this.partial.add(state);
    this.untaken.add(what);
    if (what === THIRD_TIME) this.overfull.leave(state);
    else this.leftOtherwise.add(state);
  }

  private readonly untried = new Map<readonly number[], readonly string[]>();

  /** What more could be done, as phrases, with the layers that some events are about. */
  private untriedAmong(events: readonly number[]): readonly string[] {
    const { untried } = this.telling;
    if (untried.size === 0) return NONE;
    let phrases = this.untried.get(events);
    if (!phrases) {
      const layers = events.flatMap((number) => layerAsked(this.memory.events[number]!) ?? []);
      this.untried.set(events, (phrases = [...new Set(layers.flatMap((id) => untried.get(id) ?? []))]));
    }
    return phrases;
  }

  /** A loop without end is stopped somewhere; where it is stopped each time at something else, there is no end to that either. */
  private isLooping(outcome: Outcome): boolean {
    if (outcome.endless.length === 0 || this.loops.has(outcome)) return false;
    if (this.loops.size < MOST_LOOPS) this.loops.add(outcome);
    return !this.loops.has(outcome);
  }

  /** Something is done in a state that is told elsewhere. */
  private stir(state: number, event: number, effect: Effect, here: () => Here): void {
    const { outcome } = effect;
    this.useOnce(effect, event, state, here);
    if (outcome.columns.length > 0 || outcome.starts.length > 0) this.stirs.add(state, state, this.effects.deed(effect));
  }

  /** Timers of what is on the screen that are explored elsewhere. */
  private stirByTimers(state: number): void {
    const roots = this.reader.rootsIn(this.reader.rowOf.at(state));
    this.memory.times.waits.forEach((wait, number) => {
      if (wait.kind !== 'timer' || !this.left.has(columnOfWait(number)) || !roots.includes(wait.scene)) return;
      this.stirs.add(state, state, this.stirs.deed({ event: { type: 'wait', ms: 0 }, moves: [] }, [wait.timer.thread]));
    });
  }

  /** Lets all that is due at one moment happen, before anybody can do anything. */
  private goOn(state: number, begun: Arrival): void {
    let { row, step, threads } = begun;
    let { isTaken } = begun;
    const { stack, over, effect } = begun;
    const pushed = [...begun.pushed];
    for (let i = 0; i < MOST_AT_ONCE; i++) {
      const due = this.clock.dueAtOnce(this.reader.zoneIn(row), this.reader.rootsIn(row));
      if (!due) break;
      const here = this.reader.hereOf(row, stack, due.passed, pushed.at(-1));
      const next = this.memory.outcomeOf(due.event, here, () => this.asking.learn(here, due.event));
      const isBelowAsked = next.isTaken && pushed.length === 0;
      // One way back over another is not followed at once.
      if (isBelowAsked && over) break;
      const landing = this.clock.land(this.reader.zoneIn(row), due, next, here);
      step = { event: step.event, moves: [...step.moves, landing.move] };
      threads = [...threads, ...next.threads];
      const then = this.effects.of(next);
      if (then.isFree) this.doubt(then);
      this.note(state, due.event, then, step, () => here);
      if (next.leaves) return void this.leavesFrom.add(this.reader.frameIn(row));
      if (!this.isTaken(state, row, then, landing)) return;
      row = this.rowBy(row, then, landing);
      if (isBelowAsked) {
        const come = { row, step, threads, effect, isTaken: true, pushed: next.pushed };
        const { stacks } = this.reader;
        return stacks.whatLiesBelow(stack, (below) => this.goOn(state, { ...come, stack: below, over: stacks.pushOn(stack, below) }));
      }
      isTaken ||= next.isTaken;
      if (next.isTaken) pushed.pop();
      pushed.push(...next.pushed);
    }
    const deed = step === effect.step ? this.effects.deed(effect) : this.edges.deed(step, threads);
    this.arrive(state, deed, { row, step, threads, effect, isTaken, stack, over, pushed });
  }

  private note(state: number, event: number, effect: Effect, step: Timed, here: () => Here): void {
    const { outcome } = effect;
    if (effect.number !== this.last[event]) {
      this.setLast(event, effect);
      this.useOnce(effect, event, state, here);
      if (!effect.isElsewhere && !this.account.isFull(effect)) this.account.keep(effect, state, step, this.ambient, () => this.momentAt(state));
    }
    if (outcome.isDeep) this.gaps.add('a “back” that follows another one in answer to one event');
    if (effect.isElsewhere || effect.isEntered) return;
    effect.isEntered = true;
    this.landed.push(outcome);
    this.enter(outcome);
  }

  /** The states that an outcome brings anything into, for a moment or to stay. */
  private enter({ entered, columns, values }: Outcome): void {
    for (const [scene, key, state] of entered) this.entered.come(scene, key, state);
    columns.forEach((column, i) => this.entered.set(this.memory.slots.columns[column]!, values[i]!));
  }

  /** Things that are due at one moment, and lead to different places: each is held against what would come of the other one first. */
  private noteRaces(state: number, event: number, here: Here, effect: Effect, due: Due): void {
    const { memory } = this;
    due.zone.waits.forEach((other, at) => {
      if (at === due.at || !isDueNow(due.zone, at)) return;
      const rivalEvent = memory.dueNumber(other);
      const rival = this.effects.of(memory.outcomeOf(rivalEvent, here, () => this.asking.learn(here, rivalEvent)));
      const key = `${event} ${effect.number} ${rival.number}`;
      if (this.raced.has(key)) return;
      this.raced.add(key);
      this.useOnce(rival, rivalEvent, state, () => here);
      this.noteRace(state, due, effect, other, rival);
    });
  }

  private noteRace(state: number, due: Due, effect: Effect, other: number, rival: Effect): void {
    const { times, slots } = this.memory;
    const row = this.reader.rowOf.at(state);
    const from = { column: this.reader.frameColumn, number: this.reader.frameNumberIn(row), frame: this.reader.frameIn(row) };
    if (!areApart(effect, rival, from, slots.columns)) return;
    const { piece } = this.program;
    const [one, two] = [threadOf(piece, times.waits[due.wait]!, effect), threadOf(piece, times.waits[other]!, rival)];
    if (one === null || two === null || one === two) return;
    const key = `${one} ${two}`;
    if (!this.races.has(key)) this.races.set(key, { threads: [one, two], ms: this.clock.waitFor(due).ms, at: this.momentAt(state) });
  }

  private readonly raced = new Set<string>();

  /** The row that comes of an effect, with what waits then. */
  private rowBy(row: number, { columns, values }: Effect, landing: Landing): number {
    return this.rowWith(this.reader.rows.with(row, columns, values), landing);
  }

  private rowWith(row: number, { zone, columns, values }: Pick<Landing, 'zone' | 'columns' | 'values'>): number {
    const { column } = this.memory.times;
    return column < 0 || zone === AS_BEFORE ? row : this.reader.rows.with(row, [...columns, column], [...values, zone]);
  }

  private isOwn = (column: number): boolean => !this.left.has(column);

  /** What is seen as far as it depends on nothing that is left as it begins here. */
  private ownOf(seen: Seen): Pick<Seen, 'sights' | 'crowds'> {
    const away = new Set<Node | null>();
    if (this.left.size)
      for (const [node, columns] of this.memory.readsAbout(seen)) if (columns.some((column) => this.left.has(column))) away.add(node);
    if (away.size === 0) return seen;
    if (away.has(null)) return { sights: [], crowds: [] };
    return { sights: seen.sights.filter(({ node }) => !away.has(node)), crowds: seen.crowds.filter(({ a, b }) => !away.has(a) && !away.has(b)) };
  }

  /** Keeps account of an answer; false where that was done before. */
  private use(answer: Answer, question: Question, state: number, here: () => Here, isMoving = false): boolean {
    const used = isMoving ? this.seenMoving : this.used;
    if (used.has(answer)) return false;
    used.add(answer);
    this.uses.push({ answer, frame: this.met.frameOf(state), asked: this.memory.questionOf(answer), question, state, here: here(), isMoving });
    return true;
  }

  /** The same of what came of an event, which is met again and again. */
  private useOnce(effect: Effect, event: number, state: number, here: () => Here): void {
    if (effect.isUsed) return;
    effect.isUsed = true;
    this.use(effect.outcome, event, state, here);
    if (this.telling.looksBack) this.askBack(effect.outcome, here(), this.telling.looksBack);
  }

  /** Comes to a state, new or known, from one that is followed. */
  private arrive(from: number, deed: number, { row, effect, isTaken, stack, over, pushed }: Arrival): void {
    if (this.isTurned(from, row)) return this.account.move(effect);
    // Where nobody asks for it, it is all one what was come from.
    const isAsked = this.isBackAsked(row);
    const { top, below } = isAsked ? this.put(row, stack, pushed) : { top: EMPTY, below: stack };
    const isPut = isAsked && pushed.length > 0;
    const to = this.met.come(row, top, from, deed, over, isPut);
    const { stacks } = this.reader;
    if (isPut && isTaken) stacks.lay(top, below);
    else if (isPut) stacks.lay(top, below, from, deed, to);
    if (to === from) return;
    this.account.move(effect);
    this.edges.add(from, to, deed, over !== null || (isTaken && stack !== this.reader.stackOf.at(from)));
  }

  private isBackAsked(row: number): boolean {
    const { looksBack } = this.telling;
    return looksBack === null || looksBack.has(this.reader.frameIn(row));
  }

  /** Tells the frames of which it turns out, as something comes of an event, that it matters what they were come to from. */
  private askBack(outcome: Outcome, here: Here, looksBack: ReadonlySet<string>): void {
    const { isTaken, pushed, columns, values } = outcome;
    const { frameColumn } = this.reader;
    const frame = this.reader.frameNamed(here.at(frameColumn));
    const at = columns.indexOf(frameColumn);
    const next = at < 0 ? frame : this.reader.frameNamed(values[at]!);
    const isTraceless = next !== frame && pushed.length === 0 && looksBack.has(next);
    if (!looksBack.has(frame) && (isTraceless || this.memory.isOfBack(outcome))) this.memory.backFrom.add(frame);
    if (!isTaken) return;
    // Over what lies below the frame that was gone back to it is led on.
    const { back } = here;
    if (looksBack.has(next) && !looksBack.has(back) && (next !== back || pushed.length > 0)) this.memory.backFrom.add(back);
  }

  /** Puts frames on a stack as a row is come to; how the last of them got there is for the caller to say. */
  private put(row: number, stack: number, pushed: readonly string[]): { readonly top: number; readonly below: number } {
    let [top, below] = [stack, stack];
    pushed.forEach((frame, depth) => {
      below = top;
      top = this.reader.stacks.place(row, depth, frame, this.memory.topNumber(frame));
      if (depth < pushed.length - 1) this.reader.stacks.lay(top, below);
    });
    return { top, below };
  }
}

const NONE: readonly never[] = [];

/** Of an event nothing came yet. */
const NONE_YET = -1;

const ALWAYS = () => true;

/** Whether an effect has nothing to do with what waits. */
const isFree = (effect: Effect, zone: number): boolean => (zone === 0 ? effect.outcome.starts.length === 0 : effect.isTimeless);

/** The layer into which something is put, or that is dragged or pressed. */
const layerAsked = (event: RunEvent): string | undefined =>
  event.type === 'value' || event.type === 'drag' || event.type === 'click' || event.type === 'double-click' || event.type === 'hold'
    ? event.layer?.split('/').at(-1)
    : undefined;

/** An effect of which all was told, where some columns have given numbers. */
interface Told {
  readonly effect: Effect;
  readonly looked: ReadonlyMap<number, number>;
  /** How far it leads among rows, as these count then; null where that is not the same for all of them. */
  leap: number | null;
  ordered: number;
}

/** What a state is come to with: a row, a stack with what is put on it, and over what was gone back for that. */
interface Arrival {
  readonly row: number;
  readonly step: Timed;
  readonly threads: readonly string[];
  readonly effect: Effect;
  /** Something was taken off the stack. */
  readonly isTaken: boolean;
  readonly stack: number;
  readonly over: Push | null;
  readonly pushed: readonly string[];
}

/** So much follows at one moment, before it is looked at as a state. */
const MOST_AT_ONCE = 50;

/** So many loops without end that come to different things are followed on from where they are stopped. */
const MOST_LOOPS = 10;

const LOOPING = `what comes after more than ${MOST_LOOPS} loops without end`;
