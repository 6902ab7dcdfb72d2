import type { Program } from '../program/program.ts';
import type { RunEvent } from '../run/state.ts';
import { Ambient } from './ambient.ts';
import type { Group } from './at-will.ts';
import type { Exploration, ExploreOptions, Exploring, Within } from './exploration.ts';
import { Explorer, startsOf, type Start } from './explorer.ts';
import { Memory } from './memory.ts';
import { withMidway } from './midway.ts';
import { slicesOf, wordsOf, type Slices } from './slices.ts';
import { tellingOf, withBackFrom, type Telling } from './telling.ts';
import { Views } from './views.ts';
import { ways, type Way } from './ways.ts';

/** States that a piece is explored to where nobody says how far. */
export const USUAL_STATES = 100_000;

/** Most states are like others but for little. Of those that are not, and take long, there are to be so many at most; where more states are asked for, a share of them. */
const MOST_EFFORT = 25_000;
const EFFORT_SHARE = 1 / 4;

/**
 * Begins to explore. Breadth first, so that parents give short routes. What was learned before of the piece is taken over from an earlier
 * exploration, which ends with it.
 */
export function exploring(program: Program, earlier: Exploring | null = null, slicedFrom = SLICED_FROM, freedFrom = FREED_FROM): Exploring {
  return new Sliced(program, earlier instanceof Sliced ? earlier : null, slicedFrom, freedFrom);
}

/** Explores as far as is usual, or as far as one likes. */
export function explore(program: Program, options: ExploreOptions = {}): Exploration {
  const begun = exploring(program, null, options.slicedFrom, options.freedFrom);
  begun.on(options.maxStates ?? begun.usual, options.shouldStop);
  return begun.result();
}

/** The events that lead from a start to a state, in order. */
export const routeTo = (exploration: Pick<Exploration, 'routeTo'>, state: number): RunEvent[] => exploration.routeTo(state);

/** The route to a state: where it begins, and what is done. */
export const routeOf = (
  exploration: Pick<Exploration, 'states' | 'routeTo'>,
  state: number
): { readonly from: string; readonly events: RunEvent[] } => ({
  from: startOf(exploration, state),
  events: exploration.routeTo(state),
});

/** Where a route begins. */
export function startOf(exploration: Pick<Exploration, 'states'>, state: number): string {
  return exploration.states[state]!.start;
}

/** So many states are met before what tells them apart is cut into slices. */
const SLICED_FROM = 1000;

/** So many states of all slices are met before what people can set at will is left out of the core. */
const FREED_FROM = 20_000;

/** So many times as many states are followed then: slices of which each has the core in it are many, and small. */
const FREED_SHARE = 4;

/** So many states of each slice are followed before it is seen whether they are cut rightly; then so many times more. */
const FIRST_DEPTH = 500;
const DEEPER = 4;

/** So often slices are cut anew, because more was found to depend on each other; then all of it is explored together. */
const MOST_ROUNDS = 40;

/** So often exploring begins anew for frames of which it matters what they were come to from; then that is told apart for all of them. */
const MOST_BEGUN = 12;

const NOTHING: ReadonlySet<number> = new Set();

const cutAs = ({ left, free }: Pick<Explorer, 'left' | 'free'>): string =>
  JSON.stringify([left, ...free].map((set) => [...set].sort((a, b) => a - b)));

type Stopped = ReturnType<Exploring['on']>;

/** So much is followed at most. */
interface Most {
  readonly states: number;
  readonly effort: number;
  readonly shouldPause?: ((states: number) => boolean) | undefined;
}

/** Explores a piece in the slices that it can be cut into, cut anew as more is found to depend on each other. */
class Cutting {
  slices: Slices | null = null;
  private rounds = 0;
  /** So far every slice is followed before it is looked at again how they are cut. */
  private depth = FIRST_DEPTH;
  /** All that explored anything so far: what was found in one cut counts for every other. */
  private met: ReadonlySet<Explorer>;
  /** What was taken into the core so that the rest falls apart. */
  private readonly hubs = new Set<number>();

  constructor(
    private readonly memory: Memory,
    private readonly explorer: (left: ReadonlySet<number>, free: readonly Group[]) => Explorer,
    /** The core, and each slice with it. */
    public explorers: readonly Explorer[],
    met: Iterable<Explorer>,
    /** Columns that cannot be set at will; null where nothing is taken to be. */
    private readonly fixed: Set<number> | null
  ) {
    this.met = new Set(met);
  }

  get all(): ReadonlySet<Explorer> {
    return new Set([...this.met, ...this.explorers]);
  }

  /** The slices that all that was found so far allows; null where it is cut no more. */
  private get now(): Slices | null {
    return this.rounds < MOST_ROUNDS ? slicesOf(this.memory, [...this.all], this.fixed, this.hubs) : null;
  }

  /** Whether there is anything to cut, as of now; then it is. */
  cut(slices = this.now): boolean {
    if (!slices) return false;
    this.met = this.all;
    // A slice that is cut as before, and of which nothing has to be asked again, is explored already.
    const known = new Map(this.settled.map((one) => [cutAs(one), one]));
    this.rounds++;
    this.slices = slices;
    this.depth = FIRST_DEPTH;
    const free = slices.free.flatMap((group) => group ?? []);
    this.explorers = [slices.all, ...slices.others].map((left) => {
      const own = free.filter((group) => [...group].every((column) => left.has(column)));
      return known.get(cutAs({ left, free: own })) ?? this.explorer(left, own);
    });
    return true;
  }

  /** Those of which nothing has to be asked again since something turned out to be able to change. */
  private get settled(): readonly Explorer[] {
    return this.explorers.filter(({ uses }) => uses.every(({ answer }) => this.memory.isSo(answer)));
  }

  /** Follows the slices until their end, and until they are cut rightly; `uncut` says that they can be cut no more. */
  on(most: Most): Stopped | 'uncut' {
    for (;;) {
      const stopped = this.onAll(most);
      if (stopped === 'paused') return stopped;
      const { now } = this;
      const isCutSo = wordsOf(now) === wordsOf(this.slices) && this.settled.length === this.explorers.length;
      if (isCutSo && stopped === 'deeper') this.depth *= DEEPER;
      else if (stopped !== 'deeper' && isCutSo && (stopped === 'limit' || this.isFree())) return stopped;
      // What turned out not to be set at will makes another cut.
      else if (!this.cut(isCutSo ? this.now : now)) return 'uncut';
    }
  }

  /** Whether all that was taken to be set at will can be; what cannot is fixed from now on. */
  private isFree(): boolean {
    if (!this.fixed) return true;
    const doubted = this.explorers.flatMap((one) => [...one.unfree].flatMap((group) => [...group]));
    const others = this.slices!.free.flatMap((group, i) => (group ? this.explorers[i + 1]!.notSetAtWill(group) : []));
    for (const column of [...doubted, ...others]) this.fixed.add(column);
    return doubted.length + others.length === 0;
  }

  /** All slices, one after the other, to so many states in all, and of each: some have more then, which lie deeper. */
  private onAll({ states: maxStates, effort, shouldPause }: Most): Stopped | 'deeper' {
    let isDeeper = false;
    for (const one of this.explorers) {
      const others = this.explorers.reduce((all, other) => all + (other === one ? 0 : other.count), 0);
      const left = Math.max(0, maxStates - others);
      const stopped = one.on(Math.min(left, this.depth), effort, shouldPause && ((states) => shouldPause(others + states)));
      if (stopped === 'paused' || (stopped === 'limit' && (left <= this.depth || this.memory.effort > effort))) return stopped;
      isDeeper ||= stopped === 'limit';
    }
    return isDeeper ? 'deeper' : 'end';
  }
}

/** Explores a piece as a whole, and where it is large in slices. */
class Sliced implements Exploring {
  readonly usual = USUAL_STATES;
  readonly memory: Memory;
  private telling: Telling;
  private readonly ambient: Ambient;
  private readonly starts: readonly Start[];
  private whole: Explorer;
  /** The effort that was made before. */
  private readonly spent: number;
  /** Cut into slices, where it is. */
  private cutting: Cutting | null = null;
  /** The same where what people can set at will is no part of the core; `false` where that was tried, and is not so. */
  private freely: Cutting | false | null = null;
  /** That, once it is shown to be so. */
  private freed: Cutting | null = null;
  private isUncut = false;
  private most = 0;
  /** So often it was begun anew for that. */
  private begun = 0;

  constructor(
    given: Program,
    earlier: Sliced | null,
    /** So many states are met before it is cut into slices, or that is tried again; and before anything is taken to be set at will. */
    private slicedFrom: number,
    private readonly freedFrom: number
  ) {
    const program = withMidway(given);
    const telling = tellingOf(program);
    this.ambient = new Ambient(program);
    const goesOn = earlier?.memory.goOn(program, telling, this.ambient) === true;
    this.memory = goesOn ? earlier!.memory : new Memory(program, telling, this.ambient);
    this.telling = withBackFrom(telling, program, this.memory.backFrom);
    this.starts = startsOf(program, this.telling, this.ambient);
    const isKept = goesOn && earlier!.cutting === null && earlier!.whole.holds(this.starts, this.telling, this.ambient);
    this.whole = isKept ? earlier!.whole : this.explorer(NOTHING);
    this.spent = this.memory.effort;
  }

  private explorer = (left: ReadonlySet<number>, free?: readonly Group[]) =>
    new Explorer(this.memory, this.starts, this.telling, this.ambient, left, free);

  /** The core, and each slice with it; or the whole. */
  private get explorers(): readonly Explorer[] {
    return (this.freed ?? this.cutting)?.explorers ?? [this.whole];
  }

  on(maxStates: number, shouldPause?: (states: number) => boolean): Stopped {
    for (;;) {
      const stopped = this.onFrom(maxStates, (states) => this.isBackMissed || shouldPause?.(states) === true);
      if (!this.isBackMissed) return stopped;
      this.beginAnew();
    }
  }

  /** Whether it turned out of a frame that it matters what it was come to from, where that is not told apart. */
  private get isBackMissed(): boolean {
    const { looksBack } = this.telling;
    return looksBack !== null && [...this.memory.backFrom].some((frame) => !looksBack.has(frame));
  }

  /** All that was met was met too much alike; what was learned is so. */
  private beginAnew(): void {
    const { backFrom, watched } = this.memory;
    if (++this.begun > MOST_BEGUN) for (const frame of watched.frames) backFrom.add(frame);
    this.telling = withBackFrom(this.telling, watched, backFrom);
    this.whole = this.explorer(NOTHING);
    this.cutting = this.freely = this.freed = null;
    this.isUncut = false;
  }

  private onFrom(maxStates: number, shouldPause: (states: number) => boolean): Stopped {
    this.most = maxStates;
    this.ways.clear();
    if (this.freed) return 'end';
    if (this.freely === null) {
      const first = Math.max(this.freedFrom, this.slicedFrom);
      const stopped = this.plainly(Math.min(maxStates, first), shouldPause);
      if (stopped !== 'limit' || maxStates <= first) return stopped;
      const freely = new Cutting(this.memory, this.explorer, this.explorers, this.cutting?.all ?? [], new Set());
      this.freely = freely.cut() && freely;
    }
    if (this.freely) {
      const stopped = this.freely.on({ states: maxStates * FREED_SHARE, effort: this.mostEffort * FREED_SHARE, shouldPause });
      if (stopped === 'end') this.freed = this.freely;
      if (stopped === 'end' || stopped === 'paused') return stopped;
      this.freely = false;
    }
    return this.plainly(maxStates, shouldPause);
  }

  /** With all that decides anything in the core. */
  private plainly(maxStates: number, shouldPause?: (states: number) => boolean): Stopped {
    for (;;) {
      if (this.cutting) {
        const stopped = this.cutting.on({ states: maxStates, effort: this.mostEffort, shouldPause });
        if (stopped !== 'uncut') return stopped;
        this.cutting = null;
        this.isUncut = true;
      }
      const states = this.isUncut ? maxStates : Math.min(maxStates, this.slicedFrom);
      const stopped = this.whole.on(states, this.mostEffort, shouldPause);
      if (stopped !== 'limit' || states === maxStates) return stopped;
      const cutting = new Cutting(this.memory, this.explorer, [this.whole], [], null);
      if (cutting.cut()) this.cutting = cutting;
      else this.slicedFrom *= 4;
    }
  }

  private get mostEffort(): number {
    return this.spent + Math.max(MOST_EFFORT, this.most * EFFORT_SHARE);
  }

  private readonly ways = new Map<Way, Within>();

  /** What was learned is true whoever does it, so little has to be asked anew. */
  private by(way: Way, asked: readonly string[] | null): Within {
    const known = this.ways.get(way);
    if (known) return known;
    const allows = ways[way].allows(this.memory.watched);
    let missing = asked;
    const parts: Within[] = [];
    const explored = this.explorers.map(({ left, free }) => new Explorer(this.memory, this.starts, this.telling, this.ambient, left, free, allows));
    explored.forEach((other, i) => {
      // Nobody comes to more in one way than in all.
      const here = missing?.filter((id) => this.explorers[i]!.hasMet(id));
      if (here?.length === 0) return;
      const isEnough = () => here !== undefined && hasMetAll(other, here);
      other.on(this.most, Infinity, isEnough);
      parts.push(isEnough() ? { ...other.within, isComplete: true } : other.within);
      missing = missing?.filter((id) => !other.hasMet(id)) ?? null;
    });
    const isFound = missing?.length === 0;
    const within: Within = {
      reached: new Set(parts.flatMap(({ reached }) => [...reached])),
      fired: new Set(parts.flatMap(({ fired }) => [...fired])),
      isComplete: isFound || (parts.every(({ isComplete }) => isComplete) && this.canBeSetBy(explored)),
    };
    // What was only looked for is no answer to whoever asks for more.
    if (asked) return within;
    this.ways.set(way, within);
    return within;
  }

  /** Whether what can be set at will by somebody who does everything can be by somebody who does not. */
  private canBeSetBy(explored: readonly Explorer[]): boolean {
    if (!this.freed) return true;
    return [null, ...this.freed.slices!.free].every((group, i) => {
      const one = explored[i]!;
      if (i === 0 || group) one.on(this.most, Infinity);
      return one.unfree.size === 0 && (!group || (one.within.isComplete && one.notSetAtWill(group).length === 0));
    });
  }

  result(): Exploration {
    const count = this.explorers.reduce((sum, one) => sum + one.count, 0);
    const isSpent = this.memory.effort > this.mostEffort;
    const unended = count > this.most ? `stopped at ${this.most} states` : isSpent ? `stopped at ${count} states` : 'stopped before the end';
    const by: Exploration['by'] = (way, asked) => this.by(way, asked ?? null);
    const [core, ...slices] = this.explorers.map((one) => one.result(unended, by));
    if (slices.length === 0) return core!;
    const all = [core!, ...slices];
    const views = new Views();
    for (const one of all) views.add(one.views);
    const union = <T>(of: (one: Exploration) => Iterable<T>) => new Set(all.flatMap((one) => [...of(one)]));
    return {
      ...core!,
      cut: [...new Set(all.flatMap(({ cut }) => cut ?? []))].join('; ') || null,
      count,
      left: all.reduce((sum, one) => sum + one.left, 0),
      moves: all.reduce((sum, one) => sum + one.moves, 0),
      fired: union((one) => one.fired),
      branches: union((one) => one.branches),
      acted: union((one) => one.acted),
      entered: union((one) => one.entered),
      endless: new Map(all.flatMap((one) => [...one.endless])),
      failed: new Map(all.flatMap((one) => [...one.failed])),
      races: all.flatMap((one) => one.races),
      views,
      isFreed: this.freed !== null,
      slices,
      leavesFrom: union((one) => one.leavesFrom),
      gaps: [...union((one) => one.gaps)],
    };
  }
}

/** Whether all was met; what was goes from the end of the list. */
function hasMetAll(explorer: Explorer, missing: string[]): boolean {
  while (missing.length > 0 && explorer.hasMet(missing.at(-1)!)) missing.pop();
  return missing.length === 0;
}
