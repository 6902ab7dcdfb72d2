import type { Activity, RootRun, RunState } from './state.ts';

/** What a root keeps by keys, each entry of which is one slot of the run. */
export const RECORDS = ['states', 'changes', 'flags', 'values', 'variables', 'heads', 'present', 'scroll', 'media', 'bound'] as const;

export type RecordKind = (typeof RECORDS)[number];

export const isRecord = (field: string): field is RecordKind => (RECORDS as readonly string[]).includes(field);

/**
 * A run as the engine holds it. Everything in it that can differ is a slot: a field of the run, or of a root, or an entry of a root's
 * records. What is read is read from `run`; whatever is changed goes through a method, so that a store may note both.
 */
export interface Store {
  /** The run as it is now. What was read from it before stays as it was. */
  readonly run: RunState;
  /** Sets fields of the run itself. */
  put(change: Partial<Omit<RunState, 'roots' | 'variables' | 'back'>>): void;
  /** Sets a variable of the piece. */
  setVariable(key: string, value: RunState['variables'][string]): void;
  /** Puts one more frame on the back stack, which is not looked at; at most so many stay. */
  pushBack(frame: string, most: number): void;
  /** Leaves so many frames on the back stack. */
  cutBack(length: number): void;
  /** Puts a scene on the screen as it begins, or as it was left. */
  enter(root: RootRun): void;
  /** Takes a scene off the screen, and all that it was like with it; or keeps it as it was but for some fields. */
  leave(scene: string, kept: Partial<RootRun> | null): void;
  /** Sets whole fields of a root, where it is there. */
  setRoot(scene: string, change: Partial<RootRun>): void;
  /** Timers of a scene end: all of them, or those of an instance that wait only while it is in a state. */
  endTimers(scene: string, instance: string | null): void;
  /** Steps begin to wait. */
  startSteps(activity: Activity): void;
  /** Steps that waited go on: they wait no longer. */
  takeSteps(id: number): void;
  /** Steps that wait in a scene end, but for those that last. */
  endSteps(scene: string): void;
  /** Sets one entry of one of a root's records, where it is there. */
  set<K extends RecordKind>(scene: string, kind: K, key: string, value: RootRun[K][string]): void;
  /** Sets what a binding gives, which nobody is told of. */
  bind(scene: string, key: string, compute: () => RootRun['bound'][string]): void;
  /** Asks something of the run of which nothing counts but whether it is so. */
  isSo(asked: (run: RunState) => boolean): boolean;
  /** Another store that goes on from here by itself; from a run that one of them gave, if it is given. */
  fork(run?: RunState): Store;
}

/** A store of plain data that never changes: what was read before can be kept, compared and gone back to. */
export class PlainStore implements Store {
  constructor(public run: RunState) {}

  put(change: Partial<Omit<RunState, 'roots' | 'variables' | 'back'>>): void {
    this.run = { ...this.run, ...change };
  }

  setVariable(key: string, value: RunState['variables'][string]): void {
    this.run = { ...this.run, variables: { ...this.run.variables, [key]: value } };
  }

  pushBack(frame: string, most: number): void {
    this.run = { ...this.run, back: [...this.run.back, frame].slice(-most) };
  }

  cutBack(length: number): void {
    this.run = { ...this.run, back: this.run.back.slice(0, length) };
  }

  enter(root: RootRun): void {
    this.run = { ...this.run, roots: { ...this.run.roots, [root.scene]: root } };
  }

  leave(scene: string, kept: Partial<RootRun> | null): void {
    if (kept) return this.setRoot(scene, kept);
    const { [scene]: _left, ...others } = this.run.roots;
    this.run = { ...this.run, roots: others };
  }

  setRoot(scene: string, change: Partial<RootRun>): void {
    const old = this.run.roots[scene];
    if (old) this.run = { ...this.run, roots: { ...this.run.roots, [scene]: { ...old, ...change } } };
  }

  endTimers(scene: string, instance: string | null): void {
    const root = this.run.roots[scene];
    const timers = timersWithout(root, instance);
    if (root && timers.length !== root.timers.length) this.setRoot(scene, { timers });
  }

  startSteps(activity: Activity): void {
    this.put({ count: this.run.count + 1, activities: [...this.run.activities, activity] });
  }

  takeSteps(id: number): void {
    this.put({ activities: this.run.activities.filter((one) => one.id !== id) });
  }

  endSteps(scene: string): void {
    const activities = stepsWithout(this.run, scene);
    if (activities.length !== this.run.activities.length) this.put({ activities });
  }

  set<K extends RecordKind>(scene: string, kind: K, key: string, value: RootRun[K][string]): void {
    const old = this.run.roots[scene];
    if (old) this.setRoot(scene, { [kind]: { ...old[kind], [key]: value } });
  }

  bind(scene: string, key: string, compute: () => RootRun['bound'][string]): void {
    const value = compute();
    if (this.run.roots[scene]!.bound[key] !== value) this.set(scene, 'bound', key, value);
  }

  isSo(asked: (run: RunState) => boolean): boolean {
    return asked(this.run);
  }

  fork(run = this.run): Store {
    return new PlainStore(run);
  }
}

/** The timers of a root without all, or without those of an instance that wait only while it is in a state. */
export const timersWithout = (root: RootRun | undefined, instance: string | null): RootRun['timers'] =>
  instance === null ? [] : (root?.timers ?? []).filter((timer) => timer.instance !== instance || timer.state === null);

/** What waits besides the steps of a scene that is left. */
export const stepsWithout = ({ activities }: RunState, scene: string): RunState['activities'] =>
  activities.filter((activity) => activity.root !== scene || activity.lasting);
