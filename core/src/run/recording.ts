import { STANDING, type Screen, type Stood } from './resolve.ts';
import type { RootRun, RunState } from './state.ts';
import { RECORDS, type RecordKind, type Store } from './store.ts';

/**
 * A store that notes which slots of the run it began with were read. What is overwritten counts as read, so that wherever the same
 * slots hold the same values, the same comes of the same event; only what a scene was like that is taken off the screen goes unread.
 */

/**
 * Slots as they are named: a field of the run, `v|variable`, `scene|here`, `scene|timers`, `scene|kind|key`; `scene|kind|*` is all of a
 * kind, and `@` with a number stands for many together.
 */
export type SlotName = string;

/** Where everything stands in a run, with one name for all slots that were read for it. */
export interface KnownScreen {
  readonly screen: Screen<Stood>;
  readonly reads: SlotName;
}

/** What several stores note together that answer to one event. */
class Notebook {
  readonly reads = new Set<SlotName>();
  /** More of the back stack was asked for than the run had of it. */
  isDeep = false;
  /** Roots that came onto the screen since, as they are now. */
  readonly fresh = new WeakSet<RootRun>();
  readonly raws = new WeakMap<object, object>();

  constructor(
    readonly base: RunState,
    /** Where everything stands in that run, and what was read for it. */
    readonly standing: KnownScreen | null
  ) {}

  stands(): Screen<Stood> {
    this.reads.add(this.standing!.reads);
    return this.standing!.screen;
  }

  raw<T extends object>(value: T): T {
    return (this.raws.get(value) as T | undefined) ?? value;
  }
}

const isRecord = (field: string): field is RecordKind => (RECORDS as readonly string[]).includes(field);

/** Not told apart: times count from the event on. */
const UNNOTED: ReadonlySet<string> = new Set(['clock', 'count', 'scene', 'entered']);

export class RecordingStore implements Store {
  private seen: RunState | null = null;

  private constructor(
    private readonly notes: Notebook,
    private now: RunState
  ) {}

  /** A store that begins with a run; where everything stands in it need not be worked out if it is known. */
  static on = (base: RunState, standing: KnownScreen | null = null): RecordingStore => new RecordingStore(new Notebook(base, standing), base);

  get run(): RunState {
    return (this.seen ??= watchedRun(this.notes, this.now));
  }

  /** The run as it is now, to be looked at without a note. */
  get plain(): RunState {
    return this.now;
  }

  /** Slots of the run it began with that were read, in the order in which they were. */
  get reads(): Iterable<SlotName> {
    return this.notes.reads;
  }

  get isDeep(): boolean {
    return this.notes.isDeep;
  }

  /** Whether nothing is left of what a scene was like at the beginning, read or not. */
  isCleared(scene: string): boolean {
    const root = this.now.roots[scene];
    return !root || this.notes.fresh.has(root);
  }

  private take(next: RunState): void {
    this.now = next;
    this.seen = null;
  }

  put(change: Partial<Omit<RunState, 'roots' | 'variables' | 'back'>>): void {
    for (const field in change) void this.run[field as 'frame'];
    this.take({ ...this.now, ...change });
  }

  setVariable(key: string, value: RunState['variables'][string]): void {
    void this.run.variables[key];
    this.take({ ...this.now, variables: { ...this.now.variables, [key]: value } });
  }

  pushBack(frame: string): void {
    this.take({ ...this.now, back: [...this.now.back, frame] });
  }

  cutBack(length: number): void {
    this.take({ ...this.now, back: this.now.back.slice(0, length) });
  }

  enter(root: RootRun): void {
    const made = this.bare(root);
    const old = this.run.roots[root.scene];
    if (!old || this.notes.fresh.has(this.notes.raw(old))) this.notes.fresh.add(made);
    this.take({ ...this.now, roots: { ...this.now.roots, [root.scene]: made } });
  }

  leave(scene: string, kept: Partial<RootRun> | null): void {
    if (kept) return this.setRoot(scene, kept);
    if (!this.run.roots[scene]) return;
    const { [scene]: _left, ...roots } = this.now.roots;
    this.take({ ...this.now, roots });
  }

  setRoot(scene: string, change: Partial<RootRun>): void {
    const old = this.run.roots[scene];
    if (!old) return;
    for (const field in change) {
      const value = old[field as keyof RootRun];
      if (isRecord(field)) void Object.keys(value);
    }
    this.change(scene, this.bare(change));
  }

  set<K extends RecordKind>(scene: string, kind: K, key: string, value: RootRun[K][string]): void {
    const old = this.run.roots[scene];
    if (!old) return;
    void old[kind][key];
    this.change(scene, { [kind]: { ...this.now.roots[scene]![kind], [key]: value } });
  }

  fork(run?: RunState): RecordingStore {
    return new RecordingStore(this.notes, run ? this.notes.raw(run) : this.now);
  }

  private change(scene: string, change: Partial<RootRun>): void {
    const old = this.now.roots[scene]!;
    const made = { ...old, ...change };
    if (this.notes.fresh.has(old)) this.notes.fresh.add(made);
    this.take({ ...this.now, roots: { ...this.now.roots, [scene]: made } });
  }

  /** Without anything that watches. */
  private bare<T extends Partial<RootRun>>(root: T): T {
    return Object.fromEntries(Object.entries(root).map(([field, value]) => [field, typeof value === 'object' ? this.notes.raw(value) : value])) as T;
  }
}

function watchedRun(notes: Notebook, target: RunState): RunState {
  const { base } = notes;
  let roots: RunState['roots'] | null = null;
  let variables: RunState['variables'] | null = null;
  const made = new Proxy(target, {
    get(_, field: keyof RunState | typeof STANDING) {
      if (field === STANDING) return target === base && notes.standing ? () => notes.stands() : undefined;
      if (field === 'roots') return (roots ??= watchedRoots(notes, target.roots));
      if (field === 'variables') return (variables ??= watchedRecord(notes, 'v', target.variables, base.variables));
      const value = target[field];
      if (field === 'back') {
        if (value === base.back) notes.reads.add('back');
        else if (target.back.length === 0 && base.back.length > 0) notes.isDeep = true;
      } else if (!UNNOTED.has(field) && value === base[field]) notes.reads.add(field);
      return value;
    },
  });
  notes.raws.set(made, target);
  return made;
}

function watchedRoots(notes: Notebook, target: RunState['roots']): RunState['roots'] {
  const known = new Map<string, RootRun>();
  return new Proxy(target, {
    get(_, scene: string) {
      const root = target[scene];
      if (root && notes.fresh.has(root)) return root;
      if (!root && notes.base.roots[scene]) return undefined;
      notes.reads.add(`${scene}|here`);
      if (!root) return undefined;
      let made = known.get(scene);
      if (!made) known.set(scene, (made = watchedRoot(notes, root)));
      return made;
    },
    ownKeys() {
      throw new Error('What is on the screen is told by the frame and what lies over it, not by all that is kept.');
    },
  });
}

function watchedRoot(notes: Notebook, target: RootRun): RootRun {
  const { scene } = target;
  const base = notes.base.roots[scene]!;
  const known = new Map<string, object>();
  const made = new Proxy(target, {
    get(_, field: keyof RootRun) {
      const value = target[field];
      if (UNNOTED.has(field)) return value;
      if (!isRecord(field)) {
        if (value === base[field]) notes.reads.add(`${scene}|${field}`);
        return value;
      }
      let record = known.get(field);
      if (!record)
        known.set(
          field,
          (record = watchedRecord(notes, `${scene}|${field}`, value as Record<string, unknown>, base[field] as Record<string, unknown>))
        );
      return record;
    },
  });
  notes.raws.set(made, target);
  return made;
}

function watchedRecord<T extends Readonly<Record<string, unknown>>>(notes: Notebook, name: string, target: T, base: T): T {
  const made = new Proxy(target, {
    get(_, key) {
      if (typeof key !== 'string') return undefined;
      const value = target[key];
      if (value === base[key]) notes.reads.add(`${name}|${key}`);
      return value;
    },
    has(_, key) {
      notes.reads.add(`${name}|${String(key)}`);
      return key in target;
    },
    ownKeys() {
      notes.reads.add(`${name}|*`);
      return Reflect.ownKeys(target);
    },
  });
  notes.raws.set(made, target);
  return made;
}
