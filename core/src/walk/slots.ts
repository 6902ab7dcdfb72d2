import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { emptyRoot, liveRootsOf } from '../run/environment.ts';
import type { SlotName } from '../run/notebook.ts';
import type { Changes, Playhead, Pressed, RootRun, RunState } from '../run/state.ts';
import { RECORDS, type RecordKind } from '../run/store.ts';
import { beginningsOf } from './beginnings.ts';
import { beyondOf } from './counters.ts';
import type { Telling } from './telling.ts';
import { comesToOne, passedOf, unitsIn } from './waits.ts';

/**
 * Settled runs as rows of numbers: a column for each slot that is ever other than it began, and in it the number of its value. 0 is as
 * it begins, so that equal runs are equal rows. The back stack is no part of a row; of what waits for its time a row has the zone alone.
 */

export interface Slot {
  readonly name: SlotName;
  /** The scene it belongs to; null for the run itself. */
  readonly scene: string | null;
  readonly kind: string;
  readonly key: string;
  /** Its place in rows; -1 while it was never anything else than it began. */
  column: number;
  /** Where its value follows from other slots, and stands in no row. */
  follows: Follows | null;
  /** Its values by their numbers; the first is as it begins. */
  readonly values: unknown[];
  readonly numbers: Map<string, number>;
  /** Its values as the texts that tell them apart. */
  readonly texts: string[];
}

/** What follows from a state, as a number of a value, and the columns that it was worked out of. */
export interface Follows {
  find(reading: Reading): number;
  readonly columns: readonly number[];
}

/** Gives the number that a state has in a column, and the number of the frame on the top of its back stack. */
export interface Reading {
  at(column: number): number;
  readonly top: number;
}

/** A column that was looked at, and the number that stood there. */
export type Looked = readonly [column: number, number: number];

/** What is as it begins. */
export const INITIAL = 0;

/** A slot's name taken apart. */
function partsOf(name: SlotName): Pick<Slot, 'scene' | 'kind' | 'key'> {
  const at = name.indexOf('|');
  if (at < 0) return { scene: null, kind: name, key: '' };
  const scene = name.slice(0, at);
  if (scene === 'v') return { scene: null, kind: 'variable', key: name.slice(at + 1) };
  const next = name.indexOf('|', at + 1);
  return next < 0 ? { scene, kind: name.slice(at + 1), key: '' } : { scene, kind: name.slice(at + 1, next), key: name.slice(next + 1) };
}

/** The variable that a key is of, in whichever placement. */
export const variableOf = (key: string): string => key.slice(key.lastIndexOf(':') + 1);

const FIELDS = ['frame', 'overlays', 'over', 'focus', 'pressed', 'activities', 'pad'] as const;

export class Slots {
  private readonly byName = new Map<SlotName, Slot>();
  /** The slots that have a column, by it. */
  readonly columns: Slot[] = [];
  private readonly byScene = new Map<string, Slot[]>();
  /** The slots that say how long ago playheads under way came to where they were last. */
  readonly passing: Slot[] = [];
  /** What their values follow from, by their columns. */
  readonly following: (Follows | null)[] = [];
  /** The slots of what bindings give that says which state something is in. */
  readonly entering: Slot[] = [];

  readonly activities = this.named('activities');

  constructor(
    private program: Program,
    private telling: Telling,
    /** Told of a slot that has become another than it began for the first time. */
    private readonly opened: (slot: Slot) => void,
    /** What the value of a slot follows from, where it does. */
    private readonly followed: (slot: Slot) => Follows | null = () => null
  ) {}

  /** The same slots of an edited piece. */
  goOn(program: Program, telling: Telling): void {
    this.program = program;
    this.telling = telling;
  }

  named(name: SlotName): Slot {
    let slot = this.byName.get(name);
    if (!slot)
      this.byName.set(name, (slot = { name, ...partsOf(name), column: -1, follows: null, values: [undefined], numbers: new Map(), texts: [''] }));
    return slot;
  }

  /** The slots with a column that belong to a scene. */
  of(scene: string): readonly Slot[] {
    return this.byScene.get(scene) ?? NO_SLOTS;
  }

  /** The number of a value of a slot. */
  numberOf(slot: Slot, value: unknown): number {
    const cleaned = this.cleaned(slot, value);
    if (cleaned === undefined) return INITIAL;
    return this.keep(slot, JSON.stringify(this.told(slot, cleaned)), cleaned);
  }

  /** The number of a value of a slot that is not as it begins, by the text that tells it from others. */
  keep(slot: Slot, text: string, value: unknown): number {
    let number = slot.numbers.get(text);
    if (number !== undefined) return number;
    slot.numbers.set(text, (number = slot.values.length));
    slot.values.push(value);
    slot.texts.push(text);
    if (slot.column < 0) {
      slot.column = this.columns.length;
      this.columns.push(slot);
      if (slot.kind === 'since') this.passing.push(slot);
      slot.follows = this.followed(slot);
      this.following.push(slot.follows);
      if (slot.kind === 'bound' && (slot.key === ':stateIs' || slot.key.endsWith(':state'))) this.entering.push(slot);
      if (slot.scene !== null) {
        const list = this.byScene.get(slot.scene);
        if (list) list.push(slot);
        else this.byScene.set(slot.scene, [slot]);
      }
      this.opened(slot);
    }
    return number;
  }

  /** A value without what is as it begins; undefined where all of it is, or where nothing in the piece can tell, as with what texts say. */
  private cleaned({ scene, kind, key }: Slot, value: unknown): unknown {
    if (kind === 'pad') return this.telling.pad && value !== -1 ? value : undefined;
    if (kind === 'scroll') return this.telling.scroll ? value : undefined;
    if (kind === 'bound' && key.includes('|')) return undefined;
    // Being away and never having been there are one.
    if (kind === 'present' || kind === 'focus') return value || undefined;
    // Since when it is held stands with what waits.
    if (kind === 'pressed') return value ? { ...(value as Pressed), at: 0 } : undefined;
    if (kind === 'activities') return endingWith(this.program, value as RunState['activities']);
    if (Array.isArray(value)) return value.length ? value : undefined;
    if (kind === 'heads') return { ...(value as Playhead), since: 0 };
    return this.changed(scene, kind, key, value);
  }

  private changed(scene: string | null, kind: string, key: string, value: unknown): unknown {
    if (value === undefined) return undefined;
    if (kind === 'variable' || kind === 'variables') {
      const id = variableOf(key);
      return this.telling.shownOnly.has(id) || this.program.variables.get(id)?.initial === value ? undefined : value;
    }
    const sceneProgram = scene === null ? undefined : this.program.scenes.get(scene);
    if (!sceneProgram) return value;
    const first = beginningsOf(expand(this.program, sceneProgram));
    if (kind === 'states') return first.state(key) === value ? undefined : value;
    if (kind === 'flags') return first.flag(key) === value ? undefined : value;
    if (kind === 'values') return first.value(key) === value ? undefined : value;
    if (kind !== 'changes') return value;
    const numbers = Object.entries(value as Changes).filter(([name, number]) => first.number(key, name) !== number);
    return numbers.length ? Object.fromEntries(numbers) : undefined;
  }

  /** What tells a value from others of its slot. */
  private told({ kind, key }: Slot, value: unknown): unknown {
    if (kind === 'variable' || kind === 'variables') {
      const counter = this.telling.counters.get(variableOf(key));
      return (counter && beyondOf(counter, value)) ?? value;
    }
    if (kind === 'changes')
      return Object.entries(value as Changes)
        .map(([name, number]) => [name, toThousandths(number)] as const)
        .sort(([a], [b]) => (a < b ? -1 : 1));
    if (kind !== 'heads') return value;
    const head = value as Playhead;
    return [head.at, head.playing, Math.min(2, head.visits), head.rounds ?? 0];
  }

  /** What a settled run has that is not as it begins, as numbers of slots and values. */
  *valuesOf(run: RunState): Iterable<readonly [slot: Slot, value: number]> {
    const live = new Set(liveRootsOf(this.program, run));
    for (const field of FIELDS) yield* this.one(field, run[field]);
    for (const [key, value] of Object.entries(run.variables)) yield* this.one(`v|${key}`, value);
    for (const root of Object.values(run.roots)) yield* this.valuesIn(root, live.has(root.scene));
  }

  private *valuesIn(root: RootRun, isLive: boolean): Iterable<readonly [slot: Slot, value: number]> {
    const { scene } = root;
    // That what is on the screen is there, the frame and what lies over it say.
    if (!isLive) yield* this.one(`${scene}|here`, true);
    for (const kind of RECORDS) for (const [key, value] of Object.entries(root[kind])) yield* this.one(`${scene}|${kind}|${key}`, value);
  }

  private *one(name: SlotName, value: unknown): Iterable<readonly [slot: Slot, value: number]> {
    const slot = this.named(name);
    const number = this.numberOf(slot, value);
    if (number !== INITIAL && !slot.follows) yield [slot, number];
  }

  /** What an event has made of a run, as far as it differs: all of a scene that was cleared, else only what is another now. */
  *changesBetween(before: RunState, after: RunState, isCleared: (scene: string) => boolean): Iterable<readonly [slot: Slot, value: number]> {
    const [wasLive, live] = [before, after].map((run) => new Set(liveRootsOf(this.program, run))) as [Set<string>, Set<string>];
    for (const field of FIELDS) if (before[field] !== after[field]) yield* this.set(field, after[field]);
    yield* this.recordBetween('v', before.variables, after.variables);
    for (const root of Object.values(after.roots)) {
      const old = before.roots[root.scene];
      const isLive = live.has(root.scene);
      if (old && !isCleared(root.scene) && isLive !== wasLive.has(root.scene)) yield* this.set(`${root.scene}|here`, isLive ? undefined : true);
      if (!old || isCleared(root.scene)) yield* this.valuesIn(root, isLive);
      else if (old !== root) {
        for (const kind of RECORDS) yield* this.recordBetween(`${root.scene}|${kind}`, old[kind], root[kind]);
      }
    }
  }

  private *recordBetween(
    name: string,
    old: Readonly<Record<string, unknown>>,
    now: Readonly<Record<string, unknown>>
  ): Iterable<readonly [slot: Slot, value: number]> {
    if (old === now) return;
    for (const key in now) if (now[key] !== old[key]) yield* this.set(`${name}|${key}`, now[key]);
    for (const key in old) if (!(key in now)) yield* this.set(`${name}|${key}`, undefined);
  }

  private *set(name: SlotName, value: unknown): Iterable<readonly [slot: Slot, value: number]> {
    const slot = this.named(name);
    const number = this.numberOf(slot, value);
    if (slot.column >= 0 && !slot.follows) yield [slot, number];
  }

  /** The run that a state stands for. */
  runOf(here: Reading, back: readonly string[]): RunState {
    const run = this.bareRunOf(here, back);
    const roots: Record<string, RootRun> = { ...run.roots };
    for (const scene of liveRootsOf(this.program, run)) {
      const following = this.of(scene).filter(({ follows }) => follows);
      const bound = following.map(({ column, key, values }) => [key, values[here.at(column)]] as const);
      if (bound.length) roots[scene] = { ...roots[scene]!, bound: { ...roots[scene]!.bound, ...Object.fromEntries(bound) } as RootRun['bound'] };
    }
    return { ...run, roots };
  }

  /** The same, but for what follows in it. */
  bareRunOf(here: Reading, back: readonly string[]): RunState {
    const fields: Record<string, unknown> = {};
    const variables: Record<string, RunState['variables'][string]> = {};
    const roots: Record<string, RootRun> = {};
    for (const { column, scene, kind, key, values, follows } of this.columns) {
      if (follows) continue;
      const number = here.at(column);
      if (number === INITIAL) continue;
      const value = values[number];
      if (scene === null) {
        if (kind === 'variable') variables[key] = value as string;
        else if (kind !== 'time') fields[kind] = value;
        continue;
      }
      const root = (roots[scene] ??= emptyRoot(scene, 0)) as unknown as Record<string, Record<string, unknown>>;
      if (kind !== 'here' && kind !== 'since') {
        if (root[kind] === EMPTY[kind as RecordKind]) root[kind] = {};
        root[kind]![key] = value;
      }
    }
    for (const { column, scene, key, values } of this.passing) {
      const heads = roots[scene!]?.heads as Record<string, Playhead> | undefined;
      const number = here.at(column);
      if (number !== INITIAL && heads?.[key]) heads[key] = passedOf(heads[key], (values[number] as number) / unitsIn(this.program));
    }
    const overlays = (fields['overlays'] ?? []) as RunState['overlays'];
    // Where it is only asked for a part of a state, it may be on no frame.
    const frame = (fields['frame'] ?? '') as string;
    const { carries = [] } = this.program.scenes.get(frame)?.scene ?? {};
    const live = [frame, ...carries.map(({ sheet }) => sheet), ...overlays.map(({ frame }) => frame)];
    for (const scene of live) if (this.program.scenes.has(scene)) roots[scene] ??= emptyRoot(scene, 0);
    const activities = (fields['activities'] ?? []) as RunState['activities'];
    return {
      frame: '',
      overlays: [],
      pointer: null,
      over: [],
      focus: null,
      pad: -1,
      pressed: null,
      ...fields,
      activities,
      back,
      clock: 0,
      roots,
      variables,
      clicked: null,
      count: activities.length,
    };
  }
}

/** What adding up makes of places that are computed is no difference. */
const toThousandths = (number: number): number => Math.round(number * 1000) / 1000;

/** Steps that wait for the end of a section, those once that come to one; those that wait for their time stand beside the run. */
function endingWith(program: Program, activities: RunState['activities']): RunState['activities'] | undefined {
  const waiting = activities.filter(({ head }) => head !== null).map((one) => ({ ...one, id: 0 }));
  const single = new Set<string>();
  const kept = waiting.filter((one) => {
    if (!comesToOne(program, one)) return true;
    const words = JSON.stringify(one);
    return !single.has(words) && single.add(words);
  });
  return kept.length ? kept.map((one, id) => ({ ...one, id })) : undefined;
}

const NO_SLOTS: readonly Slot[] = [];
const EMPTY = emptyRoot('', 0);
