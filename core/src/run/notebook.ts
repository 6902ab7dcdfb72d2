import type { Node } from '../program/node.ts';
import type { Screen, Stood } from './resolve.ts';
import type { RootRun, RunState } from './state.ts';

/**
 * Slots as they are named: a field of the run, `v|variable`, `scene|here`, `scene|timers`, `scene|kind|key`; `scene|kind|*` is all of a
 * kind, and `@` with a number stands for many together.
 */
export type SlotName = string;

/** Something that was worked out of slots, and of which only what came of it counts. */
export interface Test {
  readonly reads: readonly SlotName[];
  readonly came: number;
  /** The layer that it was worked out for, where somebody said. */
  readonly about: Node | null;
}

export type Read = SlotName | Test;

/** So often something is worked out of the same slots before they simply count as read. */
const MOST_TESTS = 24;

/** What several stores note together that answer to one event. */
export class Notebook {
  readonly reads: Read[] = [];
  private readonly names = new Set<SlotName>();
  /** What is read for a test goes here, or by whoever sorts it. */
  private into: ((name: SlotName) => void) | null = null;
  /** How often something was worked out of the same slots. */
  private readonly tested = new Map<string, number>();
  /** More of the back stack was asked for than the run had of it. */
  isDeep = false;
  /** Roots that came onto the screen since, as they are now. */
  readonly fresh = new WeakSet<RootRun>();
  readonly raws = new WeakMap<object, object>();
  /** The layer that is looked at for its own sake. */
  about: Node | null = null;
  /** Gives where everything stands in a run, where that is known of the one it began with. */
  standing: ((run: RunState, watched: RunState) => Screen<Stood>) | null = null;

  /** States that were set, whether they stayed or not: of which scene on the screen, of what in it, and which. */
  readonly entered: (readonly [scene: string, key: string, state: string])[] = [];

  /** What was read to work out what bindings give now: it counts for those who ask what that is. */
  readonly computed = new Map<SlotName, readonly SlotName[]>();

  constructor(
    readonly base: RunState,
    /** Whether what a binding gives always follows from the run it is in. */
    readonly follows: (name: SlotName) => boolean = () => false
  ) {}

  note(name: SlotName): void {
    if (this.names.has(name)) return;
    if (this.into) return this.into(name);
    this.names.add(name);
    this.reads.push(name);
  }

  /** What is read to work something out counts as far as what comes of it, a number. */
  test(workOut: () => number): number {
    if (this.into) return workOut();
    const reads = new Set<SlotName>();
    const came = this.sorted((name) => reads.add(name), workOut);
    if (reads.size === 0) return came;
    const words = [...reads].join(' ');
    const times = (this.tested.get(words) ?? 0) + 1;
    this.tested.set(words, times);
    if (times > MOST_TESTS) this.plainly(reads);
    else this.reads.push({ reads: [...reads], came, about: this.about });
    return came;
  }

  get isTesting(): boolean {
    return this.into !== null;
  }

  noteAll(names: Iterable<SlotName>): void {
    for (const name of names) this.note(name);
  }

  /** Does something of which whatever is read is given to somebody. */
  sorted<T>(into: (name: SlotName) => void, make: () => T): T {
    const before = this.into;
    this.into = into;
    try {
      return make();
    } finally {
      this.into = before;
    }
  }

  /** Notes as if nothing was tested just now. */
  plainly(names: Iterable<SlotName>): void {
    const before = this.into;
    this.into = null;
    for (const name of names) this.note(name);
    this.into = before;
  }

  raw<T extends object>(value: T): T {
    return (this.raws.get(value) as T | undefined) ?? value;
  }
}
