import type { Binding } from '../program/binding.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Instance } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { Beside } from '../once.ts';
import { rootOfKey, valueIn } from '../run/environment.ts';
import { Notebook } from '../run/notebook.ts';
import type { RunState } from '../run/state.ts';
import { watchedRun } from '../run/watched.ts';
import { Tested, type Shelf } from './learned.ts';
import type { Reading, Slot } from './slots.ts';

/**
 * What bindings give follows from the run they are in wherever each thing that they read makes them read again: then it is no part of a
 * state, but worked out of it by whoever asks. So what comes of an event does not depend on all that bindings read in its wake.
 */

const known = new Beside<Expansion, ReadonlyMap<string, Binding>>();

/** The bindings of a scene that follow, by their keys. */
export function followingIn(program: Program, scene: string): ReadonlyMap<string, Binding> {
  const sceneProgram = program.scenes.get(scene);
  if (!sceneProgram) return NONE;
  const expansion = expand(program, sceneProgram);
  let found = known.get(expansion);
  if (!found) {
    const following = expansion.bindings.filter(
      ({ what, reads }) => what !== 'text' && [...reads].every((key) => isReadAgain(program, expansion, key))
    );
    known.set(expansion, (found = new Map(following.map((binding) => [binding.key, binding] as const))));
  }
  return found;
}

const NONE: ReadonlyMap<string, Binding> = new Map();

/** Whether something is in the scene itself, or everywhere, and whoever reads it does so again whenever it changes. */
function isReadAgain(program: Program, { root, byKey, instances }: Expansion, key: string): boolean {
  if (key === 'frame.name' || key === 'pad.button') return true;
  const scene = root.scene.id;
  const dot = key.lastIndexOf('.');
  if (dot < 0) return program.variables.get(key)?.scene === null || rootOfKey(program, key) === scene;
  const [at, property] = [key.slice(0, dot), key.slice(dot + 1)];
  if (property === 'state') return isUnbound(instances.get(at === scene ? '' : at));
  const layer = byKey.get(at)?.layer;
  return layer !== undefined && (property === 'selected' || property === 'value') && layer.bindings?.selected === undefined;
}

/** Whether no binding says in which state an instance is, or one that it stands in. */
function isUnbound(instance: Instance | undefined): boolean {
  for (let at: Instance | null | undefined = instance; at; at = at.outer)
    if (at.scene.scene.stateIs !== undefined || at.placement?.layer.bindings?.state !== undefined) return false;
  return instance !== undefined;
}

/** How what a binding gives is known: it follows, or it is kept; null where the piece has no such binding. */
export function boundAs(program: Program, { scene, key }: Pick<Slot, 'scene' | 'key'>): 'follows' | 'kept' | null {
  if (followingIn(program, scene!).has(key)) return 'follows';
  const sceneProgram = program.scenes.get(scene!);
  return sceneProgram && expand(program, sceneProgram).bindings.some((binding) => binding.key === key) ? 'kept' : null;
}

/** What is asked of whoever keeps account of what is known. */
export interface Following {
  readonly shelf: Shelf;
  /** The run that a state stands for, but for what follows in it. */
  readonly runOf: (reading: Reading) => RunState;
  readonly numberOf: (value: unknown) => number;
  /** Does something with a program that notes the scenes it is asked for. */
  readonly noting: <T>(make: (program: Program) => T) => { readonly made: T; readonly scenes: ReadonlySet<string> };
}

/** What a binding is worked out of, besides what that is just now. */
const wordsOf = (binding: Binding | undefined): string => (binding ? JSON.stringify([binding.source, [...binding.reads]]) : '');

/** What one binding gives in each state, as far as it was asked for. */
export class Followed extends Tested {
  private readonly scenes = new Set<string>();

  constructor(
    private binding: Binding | undefined,
    private readonly following: Following
  ) {
    super(null, following.shelf);
  }

  override find(reading: Reading): number {
    return super.find(reading) ?? this.workOut(reading).came;
  }

  private workOut(reading: Reading): { readonly came: number; readonly columns: readonly number[] } {
    const { binding, following } = this;
    if (!binding) return { came: 0, columns: [] };
    const run = following.runOf(reading);
    const notes = new Notebook(run);
    const { made, scenes } = following.noting((program) => valueIn(program, watchedRun(notes, run), binding.instance, binding.source));
    for (const scene of scenes) this.scenes.add(scene);
    const columns = following.shelf.columnsOf(notes.reads as readonly string[], this);
    const came = following.numberOf(made.ok ? made.value : null);
    this.keep(reading, columns, came);
    return { came, columns };
  }

  /** Goes on with the binding of an edited piece; false where it gives, or reads, anything else than before. */
  goOn(binding: Binding | undefined, isEdited: (scene: string) => boolean): boolean {
    const isSame = this.binding === binding || wordsOf(this.binding) === wordsOf(binding);
    this.binding = binding;
    if (isSame && ![...this.scenes].some(isEdited)) return true;
    const old = [...this.all()];
    this.scenes.clear();
    this.forget();
    return old.every(({ path, answer }) => {
      const { came, columns } = this.workOut({ at: (column) => path.get(column) ?? 0, top: 0 });
      return came === answer && columns.every((column) => path.has(column));
    });
  }
}
