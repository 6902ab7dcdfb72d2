import type { Layer, Piece, Scene, Thread, Variable } from '../../piece/piece.ts';
import { DeltaSchema, LayerSchema, SceneSchema, ThreadSchema, VariableSchema, type Delta } from '../../piece/schema.ts';
import { renamedIn, renamedPath } from '../../piece/visit.ts';
import type { Step } from '../../vocabulary/steps/all.ts';

/** Copies in which ids of copied things are those of their copies: wherever a field names something, as keys, and in expressions. */

type Names = ReadonlyMap<string, string>;

export const renamedLayer = <T extends Partial<Layer>>(layer: T, names: Names): T => renamedIn(LayerSchema, layer, names);
export const renamedThread = <T extends Partial<Thread>>(thread: T, names: Names): T => renamedIn(ThreadSchema, thread, names);
export const renamedScene = (scene: Scene, names: Names): Scene => renamedIn(SceneSchema, scene, names);
export const renamedVariable = (variable: Variable, names: Names): Variable => renamedIn(VariableSchema, variable, names);
export const renamedDelta = (delta: Delta, names: Names): Delta => renamedIn(DeltaSchema, delta, names);

/** Every table of a piece, each entity renamed; its own id as well. */
export const renamedTables = (piece: Piece, names: Names) => ({
  scenes: [...piece.scenes.values()].map((scene) => renamedScene(scene, names)),
  variables: [...piece.variables.values()].map((variable) => renamedVariable(variable, names)),
  layers: [...piece.layers.values()].map((layer) => renamedLayer(layer, names)),
  threads: [...piece.threads.values()].map((thread) => renamedThread(thread, names)),
});

export { renamedPath };

/** A thread with each of its steps as it is to be. */
export const withSteps = <T extends Pick<Thread, 'branches'>>(thread: T, of: (step: Step) => Step): T => ({
  ...thread,
  branches: thread.branches.map((branch) => ({ ...branch, steps: branch.steps.map(of) })),
});

/** A thread that leads to one frame where it led to another; itself where it did not. */
export function ledTo(thread: Thread, old: string, frame: string): Thread {
  const isThere = (step: Step) => step.do === 'go' && step.target.to === 'frame' && step.target.frame === old;
  if (!thread.branches.some(({ steps }) => steps.some(isThere))) return thread;
  return withSteps(thread, (step) => (isThere(step) ? ({ ...step, target: { to: 'frame', frame } } as Step) : step));
}
