import type { Node } from '../program/node.ts';
import type { KnownScreen } from './known-screen.ts';
import { Notebook, type Read, type SlotName } from './notebook.ts';
import { Sightings } from './sightings.ts';
import type { Activity, RootRun, RunState } from './state.ts';
import { isRecord, stepsWithout, timersWithout, type RecordKind, type Store } from './store.ts';
import { watchedRun } from './watched.ts';

/**
 * A store that notes which slots of the run it began with were read. What is overwritten counts as read, so that wherever the same
 * slots hold the same values, the same comes of the same event; only what a scene was like that is taken off the screen goes unread.
 */

/** What is said to wait no longer, whether it waited or not. */
export type Ended =
  /** Timers of a scene: all, with its playheads, or those of an instance that wait only while it is in a state. */
  | { readonly what: 'timers'; readonly scene: string; readonly instance: string | null }
  /** Steps in a scene, but for those that last. */
  | { readonly what: 'steps'; readonly scene: string };

export class RecordingStore implements Store {
  private seen: RunState | null = null;
  /** What has ended; of what waited in the run it began with that is not read. */
  readonly ended: Ended[] = [];

  private constructor(
    private readonly notes: Notebook,
    private now: RunState
  ) {}

  /**
   * A store that begins with a run; where everything stands in it need not be worked out if it is known. `follows` tells of which
   * bindings what they give always follows from the run they are in.
   */
  static on(base: RunState, known: KnownScreen | null = null, follows: (name: SlotName) => boolean = () => false): RecordingStore {
    const notes = new Notebook(base, follows);
    if (known) {
      const sightings = new Sightings(notes, known);
      notes.standing = (run, watched) => sightings.of(run, watched);
    }
    return new RecordingStore(notes, base);
  }

  get run(): RunState {
    return (this.seen ??= watchedRun(this.notes, this.now));
  }

  /** The run as it is now, to be looked at without a note. */
  get plain(): RunState {
    return this.now;
  }

  /** Slots of the run it began with that were read, in the order in which they were. */
  get reads(): readonly Read[] {
    return this.notes.reads;
  }

  /** States that were set on the way, whether they stayed or not. */
  get entered(): Notebook['entered'] {
    return this.notes.entered;
  }

  get isDeep(): boolean {
    return this.notes.isDeep;
  }

  /** What is tested from now on is noted as being about a layer. */
  about = (node: Node | null): void => void (this.notes.about = node);

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
    this.ended.push({ what: 'timers', scene: root.scene, instance: null });
    const made = this.bare(root);
    const old = this.run.roots[root.scene];
    if (!old || this.notes.fresh.has(this.notes.raw(old))) this.notes.fresh.add(made);
    this.take({ ...this.now, roots: { ...this.now.roots, [root.scene]: made } });
  }

  leave(scene: string, kept: Partial<RootRun> | null): void {
    this.ended.push({ what: 'timers', scene, instance: null });
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

  endTimers(scene: string, instance: string | null): void {
    this.ended.push({ what: 'timers', scene, instance });
    const root = this.now.roots[scene];
    const timers = timersWithout(root, instance);
    if (root && timers.length !== root.timers.length) this.change(scene, { timers });
  }

  startSteps(activity: Activity): void {
    // Those that wait for a playhead stand in the run; those that wait for their time beside it.
    if (activity.head) void this.run.activities;
    this.take({ ...this.now, count: this.now.count + 1, activities: [...this.now.activities, activity] });
  }

  takeSteps(id: number): void {
    const activities = this.now.activities.filter((one) => one.id !== id);
    if (activities.length !== this.now.activities.length) this.take({ ...this.now, activities });
  }

  endSteps(scene: string): void {
    this.ended.push({ what: 'steps', scene });
    if (!this.isSo((run) => stepsWithout(run, scene).length !== run.activities.length)) return;
    const activities = stepsWithout(this.now, scene);
    void this.run.activities;
    this.take({ ...this.now, activities });
  }

  set<K extends RecordKind>(scene: string, kind: K, key: string, value: RootRun[K][string]): void {
    const old = this.run.roots[scene];
    if (!old) return;
    void old[kind][key];
    if (kind === 'states') this.notes.entered.push([scene, key, value as string]);
    this.change(scene, { [kind]: { ...this.now.roots[scene]![kind], [key]: value } });
  }

  bind(scene: string, key: string, compute: () => RootRun['bound'][string]): void {
    const name = `${scene}|bound|${key}`;
    if (!this.notes.follows(name)) {
      const value = compute();
      if (this.run.roots[scene]!.bound[key] !== value) this.set(scene, 'bound', key, value);
      return;
    }
    const reads: SlotName[] = [];
    const value = this.notes.sorted((one) => reads.push(one), compute);
    this.notes.computed.set(name, reads);
    this.change(scene, { bound: { ...this.now.roots[scene]!.bound, [key]: value } });
  }

  isSo(asked: (run: RunState) => boolean): boolean {
    return this.notes.test(() => Number(asked(this.run))) > 0;
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
