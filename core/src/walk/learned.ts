import type { Node } from '../program/node.ts';
import type { Read, SlotName } from '../run/notebook.ts';
import type { Reading, Slot, Slots } from './slots.ts';

/**
 * What was learned of one question from one run holds wherever the same slots hold the same values. A question's answers stand in a
 * tree over the slots that were read for them, in the order in which they were: what is read next follows from what was read so far.
 */

/** Stands for the back stack in a tree: what is told apart is the frame on its top. */
export const BACK = -2;

/** Stands for a test: what is told apart is what came of it. */
const TEST = -3;

/** Where something stands in a tree: the value that leads to it from what was read before. */
interface Standing<T> {
  readonly from: Branching<T> | null;
  readonly value: number;
}

interface Branching<T> extends Standing<T> {
  readonly isAnswer: false;
  readonly column: number;
  readonly test: Tested | null;
  readonly next: Numbered<Tree<T>>;
}

/** An answer where it stands in a tree. */
export interface Leaf<T> extends Standing<T> {
  readonly isAnswer: true;
  readonly answer: T;
  readonly in: Answers<T>;
}

type Tree<T> = Branching<T> | Leaf<T>;

/** A map by numbers: those that are small and whole, as most are, stand in a list. */
class Numbered<T> {
  private readonly few: (T | undefined)[] = [];
  private readonly others = new Map<number, T>();

  get(number: number): T | undefined {
    if (number >= 0 && number < this.few.length) return this.few[number];
    return this.others.size > 0 ? this.others.get(number) : undefined;
  }

  set(number: number, value: T): void {
    if (!(number >= 0 && number < FEW && Number.isInteger(number))) {
      this.others.set(number, value);
      return;
    }
    while (this.few.length < number) this.few.push(undefined);
    this.few[number] = value;
  }

  *[Symbol.iterator](): Iterator<readonly [number, T]> {
    for (const [number, value] of this.few.entries()) if (value !== undefined) yield [number, value];
    yield* this.others;
  }
}

const FEW = 256;

/** What was read, and what it was: a column, or a test. */
export interface Found {
  readonly of: number | Tested;
  readonly value: number;
}

/** All that was read and tested for an answer, in order. */
export function pathTo<T>(leaf: Leaf<T>): readonly Found[] {
  const path: Found[] = [];
  let at: Standing<T> = leaf;
  for (; at.from; at = at.from) path.push({ of: at.from.test ?? at.from.column, value: at.value });
  return path.reverse();
}

/** Answers in a tree over what was read for them. */
class Answers<T> {
  tree: Tree<T> | null = null;

  /** All answers, with the values that lead to them by their columns. */
  *all(
    tree = this.tree,
    path: ReadonlyMap<number, number> = new Map()
  ): Iterable<{ readonly path: ReadonlyMap<number, number>; readonly answer: T }> {
    if (!tree) return;
    if (tree.isAnswer) yield { path, answer: tree.answer };
    else for (const [value, next] of tree.next) yield* this.all(next, new Map(path).set(tree.column, value));
  }

  find(reading: Reading): T | undefined {
    let tree: Tree<T> | null | undefined = this.tree;
    while (tree && !tree.isAnswer) {
      const { column } = tree;
      const value: number | undefined = column >= 0 ? reading.at(column) : column === BACK ? reading.top : tree.test!.find(reading);
      if (value === undefined) return undefined;
      tree = tree.next.get(value);
    }
    return tree?.answer;
  }
}

/** The way into a tree to where an answer is put. */
class Placing<T> {
  private from: Branching<T> | null = null;
  private value = 0;

  constructor(private readonly answers: Answers<T>) {}

  private get here(): Tree<T> | undefined {
    return this.from ? this.from.next.get(this.value) : (this.answers.tree ?? undefined);
  }

  private put<K extends Tree<T>>(tree: K): K {
    if (this.from) this.from.next.set(this.value, tree);
    else this.answers.tree = tree;
    return tree;
  }

  /**
   * Goes on where something is read next. That follows from what was read so far, but for what is tested so often that it counts as read,
   * which may come sooner in one run than in another: what is read there stands beside the tree then, and is asked for again.
   */
  private branch(column: number, makeTest: () => Tested | null): Branching<T> {
    const { here, from, value } = this;
    if (here && !here.isAnswer && here.column === column) return here;
    const made: Branching<T> = { isAnswer: false, column, test: makeTest(), next: new Numbered<Tree<T>>(), from, value };
    return here ? made : this.put(made);
  }

  /** Goes on by the value of a column. */
  by(column: number, value: number): void {
    this.from = this.branch(column, () => null);
    this.value = value;
  }

  /** Goes on by what came of a test. */
  byTest(came: number, about: Node | null, shelf: Shelf): Tested {
    this.from = this.branch(TEST, () => new Tested(about, shelf));
    this.value = came;
    return this.from.test!;
  }

  /** Puts an answer here, unless there is one: that is given. */
  end(answer: T): Leaf<T> {
    const { here, from, value } = this;
    if (here?.isAnswer) return here;
    const leaf: Leaf<T> = { isAnswer: true, answer, in: this.answers, from, value };
    return here ? leaf : this.put(leaf);
  }
}

const valueIn = (reading: Reading, column: number): number => (column === BACK ? reading.top : reading.at(column));

/** What comes of something, by what it is worked out of: nothing else of that counts. */
export class Tested extends Answers<number> {
  private readonly asked: number[] = [];
  private came: number | null = null;
  /** Whether it came out in different ways. */
  varies = false;

  constructor(
    /** The layer for which it was tested, if for one. */
    readonly about: Node | null,
    private readonly shelf: Shelf
  ) {
    super();
  }

  /** What tells it from what else is tested. */
  get words(): string {
    return this.asked.join(' ');
  }

  /** The columns that it was worked out of. */
  get columns(): readonly number[] {
    return this.shelf.sourcesOf(this.asked);
  }

  forget(): void {
    this.tree = null;
    this.shelf.forgotten++;
  }

  /** The columns that are asked for to know what comes of it in a state. */
  *askedIn(reading: Reading): Iterable<number> {
    let tree = this.tree;
    while (tree && !tree.isAnswer) {
      yield tree.column;
      tree = tree.next.get(valueIn(reading, tree.column)) ?? null;
    }
  }

  keep(reading: Reading, columns: readonly number[], value: number): void {
    this.came ??= value;
    if (this.came !== value) this.varies = true;
    const placing = new Placing(this);
    for (const column of columns) {
      if (!this.asked.includes(column)) this.asked.push(column);
      placing.by(column, valueIn(reading, column));
    }
    placing.end(value);
  }
}

export class Learned<T> implements Question {
  private answers = new Answers<T>();
  /** The piece has been edited where it asks: what was answered before may be another now. */
  isStale = false;

  constructor(private readonly shelf: Shelf) {}

  /** The answer for a state; undefined where it has to be asked for. */
  find(reading: Reading): T | undefined {
    return this.answers.find(reading);
  }

  /** Keeps an answer by what was read for it; where there is one already, that stands. */
  add(reading: Reading, reads: Iterable<Read>, answer: T): Leaf<T> {
    const known = new Set<number>();
    const placing = new Placing(this.answers);
    for (const read of reads) {
      const columns = this.shelf.columnsOf(typeof read === 'string' ? read : read.reads, this).filter((column) => !known.has(column));
      if (typeof read !== 'string') {
        if (columns.length) placing.byTest(read.came, read.about, this.shelf).keep(reading, columns, read.came);
        continue;
      }
      for (const column of columns) {
        known.add(column);
        placing.by(column, valueIn(reading, column));
      }
    }
    return placing.end(answer);
  }

  /** Nothing that was taken for granted for an answer has become another since. */
  isSo = (leaf: Leaf<T>): boolean => leaf.in === this.answers;

  forget(): void {
    this.answers = new Answers();
    this.shelf.forgotten++;
  }
}

/** What was learned, to be forgotten where it may be no more so. */
export interface Forgetting {
  forget(): void;
}

/** A question, whatever its answers are. */
export interface Question extends Forgetting {
  isStale: boolean;
}

/**
 * Slots that were never other than they began need not be looked at. The shelf keeps account of which questions took that for granted,
 * and has them forget what they know when it is so no more.
 */
export class Shelf {
  private readonly granted = new Map<SlotName, Set<Forgetting>>();
  private readonly bundles = new Map<SlotName, Bundle>();
  private bundled = 0;
  /** So often something was forgotten. */
  forgotten = 0;

  constructor(private readonly slots: () => Slots) {}

  /** One name for many slots that were read together. */
  bundle = (reads: readonly SlotName[]): SlotName => {
    const name = `@${++this.bundled}`;
    this.bundles.clear();
    this.bundles.set(name, new Bundle(reads));
    return name;
  };

  /** Whether any of what a name stands for was ever other than it began. */
  isOpen = (name: SlotName): boolean =>
    name === 'back' || (name.endsWith('|*') ? this.openedAs(name).length > 0 : this.slots().named(name).column >= 0);

  /** A slot has become another than it began for the first time. */
  opened({ name, scene, kind }: Slot): void {
    for (const one of [name, ...(scene === null ? [] : [`${scene}|${kind}|*`])]) {
      for (const question of this.granted.get(one) ?? []) question.forget();
      this.granted.delete(one);
    }
  }

  /** Columns, and for what follows from others those that it was worked out of. */
  sourcesOf(columns: readonly number[]): readonly number[] {
    const all = this.slots().columns;
    const follows = (column: number) => all[column]?.follows;
    if (!columns.some(follows)) return columns;
    return [...new Set(columns.flatMap((column) => follows(column)?.columns ?? column))];
  }

  /** The columns of what names stand for. */
  columnsOf(names: SlotName | readonly SlotName[], question: Forgetting): number[] {
    const columns = new Set<number>();
    for (const name of typeof names === 'string' ? [names] : names) {
      const bundle = name.startsWith('@') ? this.bundles.get(name)! : null;
      if (!bundle) this.look(name, columns, question);
      else for (const column of bundle.columnsFor(this, question)) columns.add(column);
    }
    return [...columns];
  }

  /** The columns of what a name stands for; what has none is taken for granted. */
  look(name: SlotName, columns: Set<number>, question: Forgetting): void {
    if (name === 'back') return void columns.add(BACK);
    // What is on the screen is told by the frame and what lies over it; of what is not, whether it is kept.
    if (name.endsWith('|here')) for (const field of ['frame', 'overlays']) this.look(field, columns, question);
    if (name.endsWith('|*')) {
      for (const { column } of this.openedAs(name)) columns.add(column);
      this.grant(name, question);
    } else {
      const { column } = this.slots().named(name);
      if (column >= 0) columns.add(column);
      else this.grant(name, question);
    }
  }

  /** The slots of one kind in a scene that were ever other than they began. */
  private openedAs(name: SlotName): readonly Slot[] {
    const [, scene, kind] = /^(.*)\|([^|]*)\|\*$/.exec(name)!;
    return this.slots()
      .of(scene!)
      .filter((slot) => slot.kind === kind);
  }

  private grant(name: SlotName, question: Forgetting): void {
    const set = this.granted.get(name);
    if (set) set.add(question);
    else this.granted.set(name, new Set([question]));
  }
}

/** Slots that were read together, for several questions. */
class Bundle implements Forgetting {
  private columns: ReadonlySet<number> | null = null;
  private readonly questions = new Set<Forgetting>();

  constructor(private readonly reads: readonly SlotName[]) {}

  columnsFor(shelf: Shelf, question: Forgetting): ReadonlySet<number> {
    this.questions.add(question);
    if (this.columns) return this.columns;
    const columns = new Set<number>();
    for (const name of this.reads) shelf.look(name, columns, this);
    return (this.columns = columns);
  }

  forget(): void {
    this.columns = null;
    for (const question of this.questions) question.forget();
    this.questions.clear();
  }
}
