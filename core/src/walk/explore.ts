import type { Program } from '../program/program.ts';
import type { RunEvent } from '../run/state.ts';
import { Ambient } from './ambient.ts';
import type { Exploration, ExploreOptions, Exploring, Within } from './exploration.ts';
import { Explorer, startsOf, type Start } from './explorer.ts';
import { Memory } from './memory.ts';
import { slicesOf, wordsOf, type Slices } from './slices.ts';
import { tellingOf, type Telling } from './telling.ts';
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
export function exploring(program: Program, earlier: Exploring | null = null, slicedFrom = SLICED_FROM): Exploring {
  return new Sliced(program, earlier instanceof Sliced ? earlier : null, slicedFrom);
}

/** Explores as far as is usual, or as far as one likes. */
export function explore(program: Program, options: ExploreOptions = {}): Exploration {
  const begun = exploring(program, null, options.slicedFrom);
  begun.on(options.maxStates ?? begun.usual, options.shouldStop);
  return begun.result();
}

/** The events that lead from a start to a state, in order. */
export const routeTo = (exploration: Pick<Exploration, 'routeTo'>, state: number): RunEvent[] => exploration.routeTo(state);

/** Where a route begins. */
export function startOf(exploration: Pick<Exploration, 'states'>, state: number): string {
  return exploration.states[state]!.start;
}

/** So many states are met before what tells them apart is cut into slices. */
const SLICED_FROM = 1000;

/** So many states of each slice are followed before it is seen whether they are cut rightly; then so many times more. */
const FIRST_DEPTH = 500;
const DEEPER = 4;

/** So often slices are cut anew, because more was found to depend on each other; then all of it is explored together. */
const MOST_ROUNDS = 40;

const NOTHING: ReadonlySet<number> = new Set();

const cutAs = (left: ReadonlySet<number>): string => [...left].sort((a, b) => a - b).join(' ');

/** Explores a piece as a whole, and where it is large in slices. */
class Sliced implements Exploring {
  readonly usual = USUAL_STATES;
  readonly memory: Memory;
  private readonly telling: Telling;
  private readonly ambient: Ambient;
  private readonly starts: readonly Start[];
  private readonly whole: Explorer;
  /** The effort that was made before. */
  private readonly spent: number;
  /** The core, and each slice with it. */
  private explorers: readonly Explorer[];
  private slices: Slices | null = null;
  /** All that explored anything so far: what was found in one cut counts for every other. */
  private met: ReadonlySet<Explorer> = new Set();
  private rounds = 0;
  /** So far every slice is followed before it is looked at again how they are cut. */
  private depth = FIRST_DEPTH;
  private most = 0;

  constructor(
    program: Program,
    earlier: Sliced | null,
    /** So many states are met before it is cut into slices, or that is tried again. */
    private slicedFrom: number
  ) {
    this.telling = tellingOf(program);
    this.ambient = new Ambient(program);
    const goesOn = earlier?.memory.goOn(program, this.telling, this.ambient) === true;
    this.memory = goesOn ? earlier!.memory : new Memory(program, this.telling, this.ambient);
    this.starts = startsOf(program, this.telling, this.ambient);
    const isKept = goesOn && earlier!.slices === null && earlier!.whole.holds(this.starts, this.telling, this.ambient);
    this.whole = isKept ? earlier!.whole : this.explorer(NOTHING);
    this.explorers = [this.whole];
    this.spent = this.memory.effort;
  }

  private explorer = (left: ReadonlySet<number>) => new Explorer(this.memory, this.starts, this.telling, this.ambient, left);

  on(maxStates: number, shouldPause?: (states: number) => boolean): ReturnType<Exploring['on']> {
    this.most = maxStates;
    this.ways.clear();
    for (;;) {
      const isSliced = this.slices !== null;
      const isWhole = !isSliced && this.rounds >= MOST_ROUNDS;
      const most = isSliced || isWhole ? maxStates : Math.min(maxStates, this.slicedFrom);
      const stopped = this.onAll(most, isSliced ? this.depth : Infinity, shouldPause);
      if (stopped === 'paused') return stopped;
      if (!isSliced && stopped !== 'deeper' && (stopped === 'end' || isWhole || maxStates <= this.slicedFrom)) return stopped;
      this.met = new Set([...this.met, ...this.explorers]);
      const slices = this.rounds < MOST_ROUNDS ? slicesOf(this.memory, [...this.met]) : null;
      // Whatever was asked before something turned out to be able to change is asked again, and may depend on more.
      const settled = this.explorers.filter(({ uses }) => uses.every(({ answer }) => this.memory.isSo(answer)));
      if (isSliced && wordsOf(slices) === wordsOf(this.slices) && settled.length === this.explorers.length) {
        if (stopped !== 'deeper') return stopped;
        this.depth *= DEEPER;
        continue;
      }
      if (!isSliced && slices === null) {
        this.slicedFrom *= 4;
        continue;
      }
      this.rounds = slices ? this.rounds + 1 : MOST_ROUNDS;
      this.slices = slices;
      this.depth = FIRST_DEPTH;
      // A slice that is cut as before, and of which nothing has to be asked again, is explored already.
      const known = new Map(isSliced ? settled.map((one) => [cutAs(one.left), one]) : []);
      this.explorers = slices ? [slices.all, ...slices.others].map((left) => known.get(cutAs(left)) ?? this.explorer(left)) : [this.whole];
    }
  }

  private get mostEffort(): number {
    return this.spent + Math.max(MOST_EFFORT, this.most * EFFORT_SHARE);
  }

  /** All slices, one after the other, to so many states in all, and of each: some have more then, which lie deeper. */
  private onAll(maxStates: number, depth: number, shouldPause?: (states: number) => boolean): ReturnType<Exploring['on']> | 'deeper' {
    let isDeeper = false;
    for (const one of this.explorers) {
      const others = this.explorers.reduce((all, other) => all + (other === one ? 0 : other.count), 0);
      const left = Math.max(0, maxStates - others);
      const stopped = one.on(Math.min(left, depth), this.mostEffort, shouldPause && ((states) => shouldPause(others + states)));
      if (stopped === 'paused' || (stopped === 'limit' && (left <= depth || this.memory.effort > this.mostEffort))) return stopped;
      isDeeper ||= stopped === 'limit';
    }
    return isDeeper ? 'deeper' : 'end';
  }

  private readonly ways = new Map<Way, Within>();

  /** What was learned is true whoever does it, so little has to be asked anew. */
  private by(way: Way, asked: readonly string[] | null): Within {
    const known = this.ways.get(way);
    if (known) return known;
    const allows = ways[way].allows(this.memory.watched);
    let missing = asked;
    const parts: Within[] = [];
    for (const one of this.explorers) {
      // Nobody comes to more in one way than in all.
      const here = missing?.filter((id) => one.hasMet(id));
      if (here?.length === 0) continue;
      const other = new Explorer(this.memory, this.starts, this.telling, this.ambient, one.left, allows);
      const isEnough = () => here !== undefined && hasMetAll(other, here);
      other.on(this.most, Infinity, isEnough);
      parts.push(isEnough() ? { ...other.within, isComplete: true } : other.within);
      missing = missing?.filter((id) => !other.hasMet(id)) ?? null;
    }
    const within: Within = {
      reached: new Set(parts.flatMap(({ reached }) => [...reached])),
      fired: new Set(parts.flatMap(({ fired }) => [...fired])),
      isComplete: parts.every(({ isComplete }) => isComplete),
    };
    // What was only looked for is no answer to whoever asks for more.
    if (asked) return within;
    this.ways.set(way, within);
    return within;
  }

  result(): Exploration {
    const count = this.explorers.reduce((sum, one) => sum + one.count, 0);
    const isSpent = this.memory.effort > this.mostEffort;
    const unended = count > this.most ? `stopped at ${this.most} states` : isSpent ? `stopped at ${count} states` : 'stopped before the end';
    const by: Exploration['by'] = (way, asked) => this.by(way, asked ?? null);
    const [core, ...slices] = this.explorers.map((one) => ({ ...one.result(unended), by }));
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
      races: all.flatMap((one) => one.races),
      views,
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
