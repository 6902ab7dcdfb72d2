import { ExpressionError, type At, type ExpressionFault, type Property, type Special, type Value } from '../expression/ast.ts';
import { compileAst, type Environment } from '../expression/compile.ts';
import { placeOf, variableKey } from '../program/binding.ts';
import { expand } from '../program/expand.ts';
import type { Instance, Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { fail, ok, type Result } from '../result.ts';
import { isSelected, isShown, enabledWithin, poseOf, stateOf } from './resolve.ts';
import { currentFrame, sectionAt } from './playhead.ts';
import type { RootRun, RunState } from './state.ts';

/** Ids of the scenes on the screen, from back to front. */
export const liveRootsOf = (program: Program, run: RunState): string[] => scenesOn(program, run, (sheet) => run.roots[sheet] !== undefined);

/** The same of a frame and what lies over it; of the sheets that it carries those that are there. */
export function scenesOn(
  program: Program,
  { frame, overlays }: Pick<RunState, 'frame' | 'overlays'>,
  isThere: (sheet: string) => boolean = () => true
): string[] {
  const { carries = [] } = program.scenes.get(frame)?.scene ?? {};
  const sheets = (place: 'over' | 'under') => carries.filter((one) => one.place === place && isThere(one.sheet)).map((one) => one.sheet);
  return [...sheets('under'), frame, ...sheets('over'), ...overlays.map((overlay) => overlay.frame)];
}

/** A run on a frame before anything is on the screen. */
export const emptyRun = (frame: string): RunState => ({
  frame,
  back: [],
  clock: 0,
  roots: {},
  overlays: [],
  variables: {},
  pointer: null,
  over: [],
  pressed: null,
  clicked: null,
  focus: null,
  activities: [],
  pad: -1,
  count: 0,
});

/** A scene that is not on the screen, as it would begin. */
export const emptyRoot = (scene: string, entered: number): RootRun => ({
  scene,
  entered,
  states: NONE,
  changes: NONE,
  flags: NONE,
  values: NONE,
  variables: NONE,
  heads: NONE,
  present: NONE,
  scroll: NONE,
  media: NONE,
  timers: [],
  bound: NONE,
});

const NONE: Readonly<Record<string, never>> = {};

/** Where a node or a scene is: its scene on the screen (as it would begin, if it is not there), and the node itself. */
export interface Place {
  readonly root: RootRun;
  readonly isOn: boolean;
  readonly node: Node | null;
  readonly instance: Instance;
}

/** Finds a node by its key, or a scene by its id; null where neither is in the piece. */
export function findPlace(program: Program, run: RunState, key: string): Place | null {
  const first = key.split('/', 1)[0]!;
  const scene = program.piece.layers.get(first)?.scene ?? (program.scenes.has(key) ? key : null);
  const sceneProgram = scene === null ? undefined : program.scenes.get(scene);
  if (!sceneProgram || scene === null) return null;
  const expansion = expand(program, sceneProgram);
  const live = run.roots[scene];
  const root = live ?? emptyRoot(scene, run.clock);
  if (key === scene) return { root, isOn: live !== undefined, node: null, instance: expansion.instances.get('')! };
  const node = expansion.byKey.get(key);
  return node ? { root, isOn: live !== undefined, node, instance: node.inside ?? node.instance } : null;
}

const refuse = (sentence: string, at: Partial<At>): never => {
  throw new ExpressionError({ code: 'missing', sentence, from: at.from ?? 0, to: at.to ?? 0 });
};

/** What expressions of an instance see of a run. */
export function environmentOf(program: Program, run: RunState, instance: Instance): Environment {
  return {
    read: (id, property, at) =>
      property === null ? readVariable(program, run, instance, id, at) : readProperty(program, run, placeOf(program, instance, id), property, at),
    nameOf: (id, at) => {
      const [scene, inner] = id.split('/') as [string, string | undefined];
      const found = program.piece.scenes.get(scene);
      const name = inner === undefined ? found?.name : (found?.states?.[inner]?.name ?? found?.timeline?.labels?.[inner]?.name);
      return name ?? refuse('This names something that is not there.', at);
    },
    special: (what: Special) => (what === 'pad.button' ? run.pad : (program.piece.scenes.get(run.frame)?.name ?? '')),
  };
}

function readVariable(program: Program, run: RunState, instance: Instance, id: string, at: Partial<At>): Value {
  const variable = program.variables.get(id);
  if (!variable) return refuse('This variable is not there.', at);
  const key = variableKey(program, instance, id);
  return valueOfVariable(program, run, id, key);
}

/** The value of a variable by its key: what was set, else how it begins. */
export function valueOfVariable(program: Program, run: RunState, id: string, key: string): Value {
  const variable = program.variables.get(id)!;
  const set = variable.scene === null ? run.variables[key] : run.roots[rootOfKey(program, key)]?.variables[key];
  return set ?? variable.initial;
}

/** The scene on the screen in which a scene's variable is kept. */
export function rootOfKey(program: Program, key: string): string {
  if (key.startsWith(':')) return key.slice(1, key.indexOf(':', 1));
  return program.piece.layers.get(key.split(/[/:]/, 1)[0]!)?.scene ?? '';
}

function readProperty(program: Program, run: RunState, key: string, property: Property, at: Partial<At>): Value {
  const place = findPlace(program, run, key);
  if (!place) return refuse('This names something that is not there.', at);
  const { root, node, instance } = place;
  if (property === 'state') return nameOfState(root, instance);
  if (property === 'section') return nameOfSection(program, run, root, instance);
  if (!node) return refuse(`A scene has no .${property}.`, at);
  switch (property) {
    case 'selected':
      return isSelected(root, node);
    case 'enabled':
      return enabledWithin(root, node);
    case 'shown':
      return shownWithin(program, run, root, node);
    case 'value':
      return valueOfField(root, node) ?? refuse(`${node.layer.name} is no field.`, at);
    case 'x':
    case 'y':
      return poseOf(program, run, root, node)[property];
  }
}

export function shownWithin(program: Program, run: RunState, root: RootRun, node: Node): boolean {
  for (let at: Node | null = node; at; at = at.parent) if (!isShown(program, run, root, at)) return false;
  return true;
}

/** The name of the state an instance is in; '' for one without states. */
export function nameOfState(root: RootRun, instance: Instance): string {
  const state = stateOf(root, instance);
  return instance.scene.states.find(({ id }) => id === state)?.name ?? '';
}

/** The label of the section an instance's timeline is in; '' before the first label or without a timeline. */
export function nameOfSection(program: Program, run: RunState, root: RootRun, instance: Instance): string {
  const { timeline } = instance.scene.scene;
  const frame = currentFrame(program, run, root, instance);
  const label = timeline && frame !== null ? sectionAt(timeline, frame)?.label : null;
  return (label && timeline?.labels?.[label]?.name) || '';
}

/** What stands in a field; undefined for a layer that is none. */
export function valueOfField(root: RootRun, node: Node): Value | undefined {
  const { field } = node.layer;
  if (!field) return undefined;
  if (field.kind === 'checkbox' || field.kind === 'switch') return isSelected(root, node);
  return root.values[node.key] ?? field.value ?? (field.kind === 'number' || field.kind === 'slider' ? (field.min ?? 0) : '');
}

/** What a stored expression gives in a run, or why it gives nothing. */
export function valueIn(program: Program, run: RunState, instance: Instance, stored: string): Result<Value, ExpressionFault> {
  const parsed = program.parse(stored);
  if (!parsed.ok) return parsed;
  try {
    return ok(compileAst(parsed.value)(environmentOf(program, run, instance)));
  } catch (error) {
    if (error instanceof ExpressionError) return fail(error.fault);
    throw error;
  }
}
