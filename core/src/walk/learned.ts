import type { SlotName } from '../run/recording.ts';
import type { Slot, Slots } from './slots.ts';

/**
 * What was learned of one question from one run holds wherever the same slots hold the same values. A question's answers stand in a
 * tree over the slots that were read for them, in the order in which they were: what is read next follows from what was read so far.
 */

/** Stands for the back stack in a tree: what is told apart is the frame on its top. */
const BACK = -2;

type Branching<T> = { readonly column: number; readonly next: Map<number, Tree<T>> };
type Tree<T> = Branching<T> | { readonly answer: T };

/** What is read next follows from what was read so far, so no other can stand here. */
function branchingOn<T>(tree: Tree<T>, column: number): Branching<T> {
  if ('answer' in tree || tree.column !== column) throw new Error('The same was read of two runs, and then not the same.');
  return tree;
}

/** Gives the number that a state has in a column, and the number of the frame on the top of its back stack. */
export interface Reading {
  readonly at: (column: number) => number;
  readonly top: number;
}

export class Learned<T> implements Question {
  private tree: Tree<T> | null = null;
  /** The piece has been edited where it asks: what was answered before may be another now. */
  isStale = false;

  constructor(private readonly shelf: Shelf) {}

  /** The answer for a state; undefined where it has to be asked for. */
  find({ at, top }: Reading): T | undefined {
    let tree = this.tree;
    while (tree) {
      if ('answer' in tree) return tree.answer;
      tree = tree.next.get(tree.column === BACK ? top : at(tree.column)) ?? null;
    }
    return undefined;
  }

  /** Keeps an answer, and what was read for it: the columns are given back. */
  add(reading: Reading, reads: Iterable<SlotName>, answer: T): readonly number[] {
    const columns = this.shelf.columnsOf(reads, this);
    const valueOf = (column: number) => (column === BACK ? reading.top : reading.at(column));
    const leaf: Tree<T> = { answer };
    if (columns.length === 0) {
      this.tree = leaf;
      return columns;
    }
    this.tree ??= { column: columns[0]!, next: new Map() };
    let tree = branchingOn(this.tree, columns[0]!);
    columns.forEach((column, i) => {
      const value = valueOf(column);
      const below = columns[i + 1];
      if (below === undefined) return void tree.next.set(value, leaf);
      let next = tree.next.get(value);
      if (!next) tree.next.set(value, (next = { column: below, next: new Map() }));
      tree = branchingOn(next, below);
    });
    return columns;
  }

  forget(): void {
    this.tree = null;
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

  constructor(private readonly slots: () => Slots) {}

  /** One name for many slots that were read together. */
  bundle(reads: Iterable<SlotName>): SlotName {
    const name = `@${++this.bundled}`;
    this.bundles.clear();
    this.bundles.set(name, new Bundle([...reads]));
    return name;
  }

  /** A slot has become another than it began for the first time. */
  opened({ name, scene, kind }: Slot): void {
    for (const one of [name, ...(scene === null ? [] : [`${scene}|${kind}|*`])]) {
      for (const question of this.granted.get(one) ?? []) question.forget();
      this.granted.delete(one);
    }
  }

  columnsOf(reads: Iterable<SlotName>, question: Forgetting): number[] {
    const columns = new Set<number>();
    for (const name of reads) {
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
      const at = name.lastIndexOf('|');
      const bar = name.lastIndexOf('|', at - 1);
      const kind = name.slice(bar + 1, at);
      for (const slot of this.slots().of(name.slice(0, bar))) if (slot.kind === kind) columns.add(slot.column);
      this.grant(name, question);
    } else {
      const { column } = this.slots().named(name);
      if (column >= 0) columns.add(column);
      else this.grant(name, question);
    }
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
