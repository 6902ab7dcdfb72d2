import { Beside } from '../once.ts';
import { begin } from './run.ts';
import { clipFrames } from './played.ts';
import type { RootRun, RunState } from './state.ts';
import { byOrder } from '../piece/piece.ts';
import { expand } from '../program/expand.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import type { Value } from '../expression/ast.ts';
import { resolveRoot, resolveScreen, stateOf, type Screen } from './resolve.ts';

/** How a scene is to be looked at without running it. */
export interface Still {
  /** Keys of layers that are shown hovered, and pressed. */
  readonly over?: readonly string[];
  readonly pressed?: boolean;
  readonly focus?: string | null;
  /** The state of the scene. */
  readonly state?: string | null;
  /** Layers shown selected or disabled, whatever they begin as. */
  readonly selected?: readonly string[];
  readonly disabled?: readonly string[];
  /** The timeline frame to stand at. */
  readonly frame?: number;
}

interface Beginning {
  readonly run: RunState;
  /** Worked out when it is first asked for: while something is changed, other moments of it are looked at. */
  screen: Screen | null;
  readonly variables: Program['variables'];
  /** Parts and sheets that it was made with, by id; undefined for those that were not there. */
  readonly with: readonly (readonly [id: string, scene: SceneProgram | undefined])[];
}

const known = new Beside<SceneProgram, Beginning>();

/** The run at the beginning of a scene and its screen, made anew only when the scene, or what is in it, has changed. */
function beginning(program: Program, scene: SceneProgram): Beginning | null {
  const old = known.get(scene);
  if (old && old.variables === program.variables && old.with.every(([id, one]) => program.scenes.get(id) === one)) return old;
  const run = begin(program, scene.scene.id)?.run;
  if (!run) return null;
  const sheets = (scene.scene.carries ?? []).map(({ sheet }) => sheet);
  const seen = [scene, ...sheets.flatMap((sheet) => program.scenes.get(sheet) ?? [])].map((one) => expand(program, one));
  const ids = [...sheets, ...seen.flatMap(({ parts, missing }) => [...parts.map((part) => part.scene.id), ...missing])];
  return known.set(scene, { run, screen: null, variables: program.variables, with: ids.map((id) => [id, program.scenes.get(id)]) });
}

const isPlain = (still: Still) =>
  Object.values(still).every((value) => value === undefined || value === null || value === false || (Array.isArray(value) && value.length === 0));

/** A scene as it is when it begins, or as asked for; null where it is not in the piece. The same question gives the same screen. */
export function stillScreen(program: Program, scene: string, still: Still = {}): Screen | null {
  const sceneProgram = program.scenes.get(scene);
  const begun = sceneProgram && beginning(program, sceneProgram);
  if (!begun) return null;
  if (!isPlain(still)) return resolveScreen(program, posed(program, begun.run, scene, still));
  return (begun.screen ??= resolveScreen(program, begun.run));
}

/** The run in which a scene looks as asked for, to go on from; null where it is not in the piece. */
export function stillRun(program: Program, scene: string, still: Still = {}): RunState | null {
  const sceneProgram = program.scenes.get(scene);
  const begun = sceneProgram && beginning(program, sceneProgram);
  return begun ? posed(program, begun.run, scene, still) : null;
}

/** The state that a scene begins in by itself; null for one without states, or that is not there. */
export function stateAtFirst(program: Program, scene: string): string | null {
  const sceneProgram = program.scenes.get(scene);
  const begun = sceneProgram && beginning(program, sceneProgram);
  return begun ? stateOf(begun.run.roots[scene]!, expand(program, sceneProgram).instances.get('')!) : null;
}

/** The variables on which it depends how a scene looks as it begins, in the order of the piece. */
export function variablesSeen(program: Program, scene: string): string[] {
  const sceneProgram = program.scenes.get(scene);
  if (!sceneProgram) return [];
  const read = new Set(expand(program, sceneProgram).bindings.flatMap(({ reads }) => Array.from(reads, (key) => key.split(':').at(-1)!)));
  const seen = [...program.variables.values()].filter(({ id }) => read.has(id));
  return seen.sort(byOrder).map(({ id }) => id);
}

const looked = new Beside<ReadonlyMap<string, Value>, { readonly of: Program['variables']; readonly variables: Program['variables'] }>();

/** The program in which some variables begin with other values, to look at; its variables are the same as long as they follow from the same. */
export function lookedAtWith(program: Program, values: ReadonlyMap<string, Value>): Program {
  const of = program.variables;
  const old = looked.get(values);
  if (old?.of === of) return { ...program, variables: old.variables };
  const begun = [...of].map(([id, variable]) => [id, values.has(id) ? { ...variable, initial: values.get(id)! } : variable] as const);
  return { ...program, variables: looked.set(values, { of, variables: new Map(begun) }).variables };
}

/** One layer of a scene by itself, at the corner of a screen of its size. */
export function stillLayer(program: Program, scene: string, layer: string, still: Still = {}): Screen | null {
  const sceneProgram = program.scenes.get(scene);
  const begun = sceneProgram && beginning(program, sceneProgram);
  const item = sceneProgram?.byId.get(layer);
  if (!begun || !item) return null;
  const run = posed(program, begun.run, scene, still);
  const { x, y, width, height } = item.box;
  const { tops } = resolveRoot(program, run, run.roots[scene]!, { x: -x, y: -y }, expand(program, sceneProgram));
  const found = find(tops, layer);
  if (!found) return null;
  const { origin } = found;
  const top = { ...found.shown, parent: null, x: found.shown.x + origin.x - x, y: found.shown.y + origin.y - y };
  const all = [top, ...descendants(top.children)];
  const surface = {
    scene,
    kind: 'frame' as const,
    x: 0,
    y: 0,
    width,
    height,
    background: null,
    scrim: null,
    scroll: { x: 0, y: 0 },
    expansion: expand(program, sceneProgram),
    tops: [top],
    all,
  };
  return { frame: scene, width, height, surfaces: [surface] };
}

type ShownList = ReturnType<typeof resolveRoot>['tops'];

function find(tops: ShownList, layer: string): { shown: ShownList[number]; origin: { x: number; y: number } } | null {
  const open = tops.map((shown) => ({ shown, origin: { x: 0, y: 0 } }));
  for (const one of open) {
    if (one.shown.node.key === layer) return one;
    const origin = { x: one.origin.x + one.shown.x, y: one.origin.y + one.shown.y };
    open.push(...one.shown.children.map((shown) => ({ shown, origin })));
  }
  return null;
}

const descendants = (list: ShownList): ShownList[number][] => list.flatMap((shown) => [shown, ...descendants(shown.children)]);

/** The playheads of a scene and of all parts in it when the scene has played to a frame. */
function headsAt(program: Program, { clock }: RunState, { scene, heads }: RootRun, frame: number): RootRun['heads'] {
  const { instances } = expand(program, program.scenes.get(scene)!);
  const clips = [...clipFrames(instances.values(), frame)].map(([key, at]) => [key, { at, since: clock, playing: false, visits: 1 }] as const);
  return { ...heads, ...Object.fromEntries(clips), '': { ...heads['']!, at: frame, since: clock, playing: false } };
}

function posed(
  program: Program,
  run: RunState,
  scene: string,
  { over = [], pressed = false, focus = null, state, selected, disabled, frame }: Still
): RunState {
  const root = run.roots[scene];
  if (!root) return run;
  const flags = { ...root.flags };
  for (const key of selected ?? []) flags[`${key}.selected`] = true;
  for (const key of disabled ?? []) flags[`${key}.enabled`] = false;
  const states = state ? { ...root.states, '': state } : root.states;
  const heads = frame === undefined || !root.heads[''] ? root.heads : headsAt(program, run, root, frame);
  // A state that is asked for is looked at whatever its scene would be in.
  const bound = state && ':stateIs' in root.bound ? { ...root.bound, ':stateIs': null } : root.bound;
  const press = pressed && over.length ? { node: over[0]!, scene, from: { x: 0, y: 0 }, at: 0, drag: null, spent: false } : null;
  return { ...run, over, pressed: press, focus, roots: { ...run.roots, [scene]: { ...root, flags, states, heads, bound } } };
}
