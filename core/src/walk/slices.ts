import type { Explorer, Use } from './explorer.ts';
import { groupedBy } from '../grouped.ts';
import type { Group } from './at-will.ts';
import type { Node } from '../program/node.ts';
import type { Found } from './learned.ts';
import type { Memory } from './memory.ts';
import { coreWords, isInCore, isOutcome, isSeen, type Outcome, type Seen } from './outcome.ts';
import type { Reading, Slot } from './slots.ts';
import { columnOfWait } from './times.ts';
import { ends, waitOfHead } from './waits.ts';

/**
 * What tells states apart, cut into slices that can be explored by themselves. Some of it decides where one can be, what can be done
 * there and when: the core, with all that it depends on. The rest depends on the core, and nothing depends on it but itself: sixty seats
 * that are taken or free are sixty times two states, not two to the sixtieth.
 *
 * What depends on what is found out by comparing: where the same comes of an event in the core whatever was read besides, it does not
 * depend on that. That is so of all there is once whatever is read together has been explored together, with the core.
 */
export interface Slices {
  /** What is left out where only the core is explored. */
  readonly all: ReadonlySet<number>;
  /** For each slice, what is left out where it is explored with the core. */
  readonly others: readonly ReadonlySet<number>[];
  /** For each slice what it is, where the core depends on some of it that is taken to be set at will; null where it does not. */
  readonly free: readonly (Group | null)[];
  /** How many tests have come out in different ways so far. */
  readonly varying: number;
}

/** Fields of the run itself: where one is, what lies over it, what waits. */
const CORE = ['frame', 'overlays', 'activities', 'over', 'focus', 'pressed', 'pad'] as const;

/** Answers to one question that are compared with each other; where there are more, all that was read for them counts. */
const MOST_COMPARED = 400;

/** What people set. */
const SETTABLE: ReadonlySet<string> = new Set(['variable', 'variables', 'values', 'flags', 'states', 'changes']);

/** What goes on by itself. */
const TIMED: ReadonlySet<string> = new Set(['heads', 'since', 'present', 'media']);

/**
 * The slices that everything that was found so far allows; null where there are fewer than two. Where it is known of some columns that they
 * cannot be set at will, all others that people set are taken to be so, and are no part of the core; null where there are none.
 */
export function slicesOf(
  memory: Memory,
  explorers: readonly Explorer[],
  fixed: ReadonlySet<number> | null = null,
  /** Columns that are part of the core though it does not depend on them; more of them, where that cuts the rest into smaller slices. */
  hubs = new Set<number>()
): Slices | null {
  const uses = [...new Map(explorers.flatMap((one) => one.uses.map((use) => [use.answer, use] as const))).values()];
  const known = uses.filter(({ answer }) => memory.isSo(answer));
  const waits = new Waits(memory);
  const core = coreOf(memory, waits, known, uses, hubs);
  const freed = fixed
    ? [...core].filter((column) => !fixed.has(column) && !hubs.has(column) && SETTABLE.has(memory.slots.columns[column]?.kind ?? ''))
    : [];
  if (fixed && freed.length === 0) return null;
  for (const column of freed) core.delete(column);
  const outcomes = known.flatMap(({ answer }) => (isOutcome(answer) ? answer : []));
  const started = outcomes.flatMap(({ columns, starts }) => [...columns, ...starts.map(({ wait }) => columnOfWait(wait))]);
  const touched = [...started, ...waits.all(known), ...waits.heads.flat(), ...freed];
  const rest = [...new Set(touched)].filter((column) => !core.has(column));
  const joined: (readonly number[])[] = [];
  const join = (columns: Iterable<number>) => void joined.push([...columns]);
  const isOwn = (column: number) => core.has(column);
  const hits = (outcome: Outcome) => memory.times.endedBy(outcome, isOwn).length > 0;
  for (const { answer, question } of known) {
    const reads = memory.readsOf(answer).map(waits.ownOf);
    const written = isOutcome(answer) ? [...answer.columns, ...waits.of(answer, question)] : [];
    if (isSeen(answer)) joinSeen(join, memory, answer);
    // What is set at will decides whether something happens to the core; what else happens with it does, whatever was set.
    else if (reads.every((column) => core.has(column) || freed.includes(column)) && isOutcome(answer) && isInCore(answer, isOwn, hits)) {
      join(reads);
      join(written);
    } else join([...reads, ...written]);
    for (const { of } of memory.pathOf(answer)) if (typeof of !== 'number') join(of.columns.map(waits.ownOf));
  }
  for (const columns of offered(memory, waits, known, core)) join(columns);
  for (const head of waits.heads) join(head);
  const groups = new Groups(rest, joined);
  // What goes on by itself nobody sets.
  const isTimed = (group: readonly number[]) => group.some((column) => column < 0 || TIMED.has(memory.slots.columns[column]?.kind ?? ''));
  const timed = groups.all.filter(isTimed).flatMap((group) => group.filter((column) => freed.includes(column)));
  if (timed.length) return slicesOf(memory, explorers, new Set([...fixed!, ...timed]), hubs);
  const countOf = (column: number) => memory.slots.columns[column]?.values.length ?? MOMENTS;
  const hub = hubIn(groups.all, joined, countOf);
  if (hub !== null) return slicesOf(memory, explorers, fixed, hubs.add(hub));
  const sizes = groups.all.map((group) => sizeOf(group, countOf));
  // One by one they have to be fewer than all together.
  if (sizes.reduce((all, size) => Math.min(all * size, 1e9), 1) <= 1 + sizes.reduce((all, size) => all + size, 0)) return null;
  const tests = new Set(known.flatMap(({ answer }) => memory.pathOf(answer).flatMap(({ of }) => (typeof of === 'number' || !of.varies ? [] : of))));
  const others = groups.all.map((group) => new Set(rest.filter((column) => !group.includes(column))));
  const free = groups.all.map((group) => (group.some((column) => freed.includes(column)) ? new Set(group) : null));
  return { all: new Set(rest), others, free, varying: tests.size };
}

/** What decides, beside the core, whether something can be done, with what comes of that. */
function* offered(memory: Memory, waits: Waits, uses: readonly Use[], core: ReadonlySet<number>): Iterable<readonly number[]> {
  const written = new Map<Use['question'], number[]>();
  for (const { answer, question } of uses) {
    if (!isOutcome(answer)) continue;
    const own = written.get(question) ?? written.set(question, []).get(question)!;
    own.push(...[...answer.columns, ...waits.of(answer, question)].filter((column) => !core.has(column)));
  }
  const asked = uses.filter(({ question }) => question === 'events');
  for (const all of groupedBy(asked, ({ frame }) => frame).values()) {
    const offers = all.map(({ answer }) => new Set(answer as readonly number[]));
    const varying = [...new Set(offers.flatMap((one) => [...one]))].filter(
      (event) => (written.get(event)?.length ?? 0) > 0 && !offers.every((one) => one.has(event))
    );
    if (varying.length === 0) continue;
    const paths = all.map((use) => pathIn(memory, use));
    // Those that are there and gone together are so for the same reason.
    const together = groupedBy(varying, (event) => offers.map((one) => (one.has(event) ? '1' : '0')).join(''));
    for (const [words, events] of together) {
      const causes = [...causesOf([...words], paths, core)].map(waits.ownOf);
      if (causes.length > 0) for (const event of events) yield [...causes, ...written.get(event)!];
    }
  }
}

/** The columns beside the core that make it come out otherwise. */
function causesOf(words: readonly string[], paths: readonly Path[], core: ReadonlySet<number>): ReadonlySet<number> {
  const found = new Set<number>();
  const columnsOf = (of: Found['of']) => (typeof of === 'number' ? [of] : of.columns);
  const isKnown = (of: Found['of']) => columnsOf(of).every((column) => column < 0 || core.has(column) || found.has(column));
  for (let size = -1; size !== found.size;) {
    size = found.size;
    const causes = causeIn(words, paths, isKnown);
    if (!causes) break;
    const least =
      causes.length > 0
        ? [causes.reduce((a, b) => (columnsOf(b).length < columnsOf(a).length ? b : a))]
        : paths.flatMap(({ found: all }) => [...all.values()].map(({ of }) => of));
    for (const column of least.flatMap(columnsOf)) if (column >= 0 && !core.has(column)) found.add(column);
  }
  return found;
}

/** How many ways there are for some columns to stand together, at most. */
const sizeOf = (columns: readonly number[], countOf: (column: number) => number): number =>
  columns.reduce((size, column) => Math.min(size * countOf(column), 1e12), 1);

/**
 * A column on which so much else depends that all of it has to be explored together, though little of it depends on each other: whether a
 * menu is open. With that in the core there is less to explore. Null where there is none.
 */
function hubIn(groups: readonly (readonly number[])[], joined: readonly (readonly number[])[], countOf: (column: number) => number): number | null {
  const total = (all: readonly (readonly number[])[]) => all.reduce((sum, group) => sum + sizeOf(group, countOf), 0);
  const largest = groups.reduce((a, b) => (sizeOf(b, countOf) > sizeOf(a, countOf) ? b : a), [] as readonly number[]);
  if (largest.length < LEAST_JOINED) return null;
  const isIn = new Set(largest);
  const own = joined.map((columns) => columns.filter((column) => isIn.has(column))).filter(({ length }) => length > 1);
  const beside = new Map(largest.map((column) => [column, new Set<number>()]));
  for (const columns of own)
    if (columns.length <= MOST_BESIDE) for (const column of columns) for (const other of columns) beside.get(column)!.add(other);
  const candidates = largest.toSorted((a, b) => beside.get(b)!.size - beside.get(a)!.size).slice(0, MOST_HUBS);
  const others = total(groups.filter((group) => group !== largest));
  const cost = (hub: number) => {
    const rest = new Groups(
      largest.filter((column) => column !== hub),
      own
    );
    return countOf(hub) * (others + total(rest.all));
  };
  const costs = candidates.map((hub) => ({ hub, cost: cost(hub) }));
  const best = costs.reduce((a, b) => (b.cost < a.cost ? b : a));
  return best.cost * LESS < others + total([largest]) ? best.hub : null;
}

/** So many columns are joined at least, where it is asked what joins them; and so many are tried. */
const LEAST_JOINED = 4;
const MOST_HUBS = 6;
/** Of what joins more at once no one column is the hub. */
const MOST_BESIDE = 200;

/** So many times less there is to be to explore. */
const LESS = 4;

/** In so many ways something waits, or does not, by and large. */
const MOMENTS = 4;

/** What waits, as columns of what depends on what. */
class Waits {
  private readonly passing: ReadonlyMap<number, number>;
  /** What there is of each playhead: where it is, whether it is there, and that it is under way. */
  readonly heads: readonly (readonly number[])[];

  constructor(private readonly memory: Memory) {
    const { slots, times } = memory;
    const waitOf = ({ scene, key }: Slot) => columnOfWait(times.numberOf(waitOfHead(scene!, key)));
    this.passing = new Map(slots.passing.map((slot) => [slot.column, waitOf(slot)] as const));
    this.heads = slots.columns.flatMap((slot) => {
      if (slot.kind !== 'heads') return [];
      const { column } = slots.named(`${slot.scene!}|present|${slot.key}`);
      return [[slot.column, ...(column < 0 ? [] : [column]), waitOf(slot)]];
    });
  }

  /** All that was due. */
  all = (uses: readonly Use[]): readonly number[] =>
    uses.flatMap(({ question }) => {
      const due = this.memory.dueOf(question);
      return due === undefined ? [] : columnOfWait(due);
    });

  /** A column; where it says how far a playhead has come, that of the playhead being under way. */
  ownOf = (column: number): number => this.passing.get(column) ?? column;

  /** What an outcome starts and ends of what waits, and what was due. */
  of({ starts, ended, endedHeads }: Outcome, question: Use['question']): readonly number[] {
    const { times } = this.memory;
    const due = this.memory.dueOf(question);
    const inside = ended.filter((one) => one.what === 'timers' && one.instance !== null);
    const gone = inside.length ? [...times.waits.keys()].filter((wait) => inside.some((one) => ends(one, times.waits[wait]!))) : [];
    return [...starts.map(({ wait }) => wait), ...endedHeads, ...gone, ...(due === undefined ? [] : [due])].map(columnOfWait);
  }
}

/** Each layer is looked at by itself, but with those that stand near it. */
function joinSeen(join: (columns: Iterable<number>) => void, memory: Memory, seen: Seen): void {
  const reads = memory.readsAbout(seen);
  const all = reads.get(null)!;
  const of = (node: Node) => reads.get(node) ?? [];
  for (const columns of reads.values()) join([...all, ...columns]);
  for (const { a, b } of seen.near) join([...of(a), ...of(b)]);
}

/** What decides what happens to itself. */
function coreOf(memory: Memory, waits: Waits, uses: readonly Use[], all: readonly Use[], hubs: ReadonlySet<number>): Set<number> {
  const core = new Set<number>([...CORE.map((name) => memory.slots.named(name).column), ...hubs]);
  const questions = groupedBy(uses, ({ question, frame }) => (typeof question === 'number' ? question : `${question} ${frame}`));
  const sizeOf = (of: Found['of']) => (typeof of === 'number' ? (memory.slots.columns[of]?.values.length ?? Infinity) : of.columns.length + 1);
  const isCore = (of: Found['of']) => (typeof of === 'number' ? of < 0 || core.has(of) : of.columns.every((column) => core.has(column)));
  const { times } = memory;
  const isOwn = (column: number) => core.has(column);
  const endedBy = (outcome: Outcome) => times.endedBy(outcome, isOwn);
  const hits = (outcome: Outcome) => endedBy(outcome).length > 0;
  // Of what can be done only that counts of which ever something comes in the core.
  const leading = new Set<number>();
  const wordsOf = ({ answer, question }: Use) =>
    isOutcome(answer)
      ? coreWords(answer, isOwn, endedBy)
      : question === 'events'
        ? String((answer as readonly number[]).filter((one) => leading.has(one)))
        : '';
  const compared = [...questions.values()].map((all) => ({ all, paths: all.map((use) => pathIn(memory, use)) }));
  const add = (of: Found['of']) => {
    for (const column of typeof of === 'number' ? [of] : of.columns) core.add(column).add(waits.ownOf(column));
  };
  for (let size = -1; size !== core.size;) {
    size = core.size;
    // What does something to the core when it is due is part of it; that it did counts, though it may have to be asked again.
    for (const { answer, question } of all) {
      if (!isOutcome(answer) || typeof question !== 'number' || !isInCore(answer, isOwn, hits)) continue;
      leading.add(question);
      const due = memory.dueOf(question);
      if (due !== undefined) core.add(columnOfWait(due));
    }
    for (const head of waits.heads) if (head.some((column) => core.has(column))) for (const column of head) core.add(column);
    for (const { all, paths } of compared)
      for (;;) {
        const causes = causeIn(all.map(wordsOf), paths, isCore);
        if (!causes) break;
        const known = core.size;
        if (causes.length > 0) add(causes.reduce((a, b) => (sizeOf(b) < sizeOf(a) ? b : a)));
        else for (const { found } of paths) for (const { of } of found.values()) add(of);
        if (core.size === known) break;
      }
  }
  return core;
}

/** What was read and tested for an answer, and in what state: tests of the same are alike wherever they were made. */
interface Path {
  readonly found: ReadonlyMap<string, Found>;
  readonly here: Reading;
}

function pathIn(memory: Memory, { answer, here }: Use): Path {
  const path = new Map<string, Found>();
  const times = new Map<string, number>();
  for (const one of memory.pathOf(answer)) {
    const words = typeof one.of === 'number' ? String(one.of) : `test ${one.of.words}`;
    const time = (times.get(words) ?? 0) + 1;
    times.set(words, time);
    path.set(`${words} ${time}`, one);
  }
  return { found: path, here };
}

/**
 * What it is that makes something else come of it in the core, as far as can be told: what alone is not the same for two answers, else
 * what is not the same for most. None where it is not found out; null where nothing has to be.
 */
function causeIn(words: readonly string[], paths: readonly Path[], isCore: (of: Found['of']) => boolean): readonly Found['of'][] | null {
  if (words.every((one) => one === words[0])) return null;
  if (words.length > MOST_COMPARED) return paths.some(({ found: all }) => [...all.values()].some(({ of }) => !isCore(of))) ? [] : null;
  const found = new Map<string, { readonly of: Found['of']; times: number }>();
  let isDiffering = false;
  for (let i = 0; i < words.length; i++)
    for (let j = i + 1; j < words.length; j++) {
      if (words[i] === words[j]) continue;
      const differing = differingOn(paths[i]!, paths[j]!, isCore);
      if (!differing) continue;
      isDiffering = true;
      if (differing.size < 2) return [...differing.values()];
      for (const [key, of] of differing) {
        const known = found.get(key);
        if (known) known.times++;
        else found.set(key, { of, times: 1 });
      }
    }
  const most = Math.max(...[...found.values()].map(({ times }) => times));
  return isDiffering ? [...found.values()].flatMap(({ of, times }) => (times === most ? of : [])) : null;
}

/** What was read both times and not the same; null where the core itself was not the same. */
function differingOn(one: Path, other: Path, isCore: (of: Found['of']) => boolean): ReadonlyMap<string, Found['of']> | null {
  const differing = new Map<string, Found['of']>();
  for (const [words, { of, value }] of one.found) {
    const also = other.found.get(words);
    if (also === undefined || also.value === value) continue;
    if (!isCore(of)) differing.set(words, of);
    // A test of the core comes out otherwise, too, where something else was tested for by what was read before.
    else if (typeof of === 'number' || of.columns.some((column) => one.here.at(column) !== other.here.at(column))) return null;
  }
  return differing;
}

/** Columns that belong together. */
class Groups {
  private readonly roots: Map<number, number>;

  constructor(
    private readonly columns: readonly number[],
    joined: Iterable<readonly number[]>
  ) {
    this.roots = new Map(columns.map((column) => [column, column]));
    for (const one of joined) this.join(one);
  }

  private rootOf(column: number): number {
    let at = column;
    while (this.roots.get(at) !== at) at = this.roots.get(at)!;
    return at;
  }

  private join(columns: Iterable<number>): void {
    const [first, ...others] = [...columns].filter((column) => this.roots.has(column));
    for (const other of others) this.roots.set(this.rootOf(other), this.rootOf(first!));
  }

  get all(): readonly (readonly number[])[] {
    return [...groupedBy(this.columns, (column) => this.rootOf(column)).values()];
  }
}

/** The same slices as one text to compare. */
export const wordsOf = (slices: Slices | null): string =>
  slices === null
    ? ''
    : JSON.stringify([
        slices.varying,
        [...slices.all].sort(),
        slices.others.map((one) => [...one].sort()).sort(),
        slices.free.map((one) => one && [...one].sort()).sort(),
      ]);
