import type { Layer, Scene } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { keysRead, type Read } from './reads.ts';
import { rangeOf, type Range } from './values.ts';

/** What a person sets a number with: a field, or a layer that is dragged along, by its name. `key` names what holds the number. */
export interface Knob {
  readonly name: string;
  readonly layer: Layer;
  readonly key: string;
  readonly range: Range;
}

/** Fields for numbers, each with a place of its own for what is put in, and what is dragged by hand alone. */
export function knobsIn(program: Program, read: readonly Read[], layers: readonly Layer[]): Map<string, Knob> {
  const knobs = new Map<string, Knob>();
  const shared = new Set<string>();
  const asked = keysRead(read);
  for (const layer of layers) {
    if (layer.drag && (asked.has(`${layer.id}.x`) || asked.has(`${layer.id}.y`)))
      for (const knob of dragsOf(program, layer)) knobs.set(knob.key, knob);
    const { kind, variable } = layer.field ?? {};
    if (kind !== 'number' && kind !== 'slider') continue;
    const key = variable ?? `${layer.id}.value`;
    if (knobs.has(key)) shared.add(key);
    const range = rangeOf(layer.field!);
    if (isHeldWhole(program, variable, range)) knobs.set(key, { name: `${layer.id}.value`, layer, key, range });
    else shared.add(key);
  }
  for (const key of shared) knobs.delete(key);
  return knobs;
}

/** Where a layer can be dragged to that comes to rest wherever it is let go, and that nothing else moves. */
function dragsOf({ piece }: Program, layer: Layer): Knob[] {
  const { axis, bounds, snap, inertia } = layer.drag!;
  const scene = piece.scenes.get(layer.scene);
  if (!scene || snap?.length || inertia || layer.bindings?.x || layer.bindings?.y || isPosed(layer) || isMovedIn(piece, scene, layer.id)) return [];
  const { x, y, width, height, rotation = 0, scale = 1 } = layer.pose;
  const isUpright = scene.use === 'frame' && layer.parent === null && rotation === 0 && scale === 1;
  const { left, right, top, bottom } = bounds ?? {};
  const along = (key: 'x' | 'y', at: number, size: number, room: number, by?: number, to?: number): Knob[] => {
    if (axis !== 'both' && axis !== key) return [];
    const ends =
      by === undefined || to === undefined ? (isUpright ? [Math.min(HELD, size) - size, room - Math.min(HELD, size)] : null) : [at + by, at + to];
    if (!ends || ends[0]! > ends[1]!) return [];
    const name = `${layer.id}.${key}`;
    return [{ name, layer, key: name, range: { least: ends[0], most: ends[1], steps: null } }];
  };
  return [...along('x', x, width, scene.width, left, right), ...along('y', y, height, Math.max(scene.height, scene.contentHeight ?? 0), top, bottom)];
}

/** Whether a look brings a layer elsewhere. */
const isPosed = ({ looks }: Layer): boolean => Object.values(looks ?? {}).some((look) => look?.pose);

/** Whether states, keyframes or steps bring a layer elsewhere. */
function isMovedIn(piece: Program['piece'], { states, timeline }: Scene, id: string): boolean {
  const isInState = Object.values(states ?? {}).some(({ deltas }) => deltas[id]?.pose);
  const isOnTrack = Object.values(timeline?.tracks ?? {}).some(({ layer }) => layer === id);
  const isInStep = [...piece.threads.values()].some(({ branches }) =>
    branches.some(({ steps }) => steps.some((step) => textsIn(step).some((value) => value === id || value.endsWith(`/${id}`))))
  );
  return isInState || isOnTrack || isInStep;
}

/** The texts that stand in a step. */
const textsIn = (value: unknown): string[] =>
  typeof value === 'string' ? [value] : value && typeof value === 'object' ? Object.values(value).flatMap(textsIn) : [];

/** So much of what is dragged stays where it can be taken again, in CSS px. */
export const HELD = 24;

/** Whether a variable that mirrors a field can be all that is put into that. */
function isHeldWhole(program: Program, id: string | undefined, { least, most }: Range): boolean {
  const variable = id === undefined ? undefined : program.variables.get(id);
  if (!variable) return id === undefined;
  const { type, scene, min = -Infinity, max = Infinity, step } = variable;
  return type === 'number' && scene === null && step === undefined && min <= (least ?? -Infinity) && max >= (most ?? Infinity);
}

/** Whether they stand in one scene, and there is nothing that keeps one of them from being filled while another can be. */
export function areThereTogether({ piece }: Program, of: readonly Knob[]): boolean {
  const scenes = new Set(of.map(({ layer }) => layer.scene));
  return scenes.size === 1 && of.every(({ layer }) => isThereAlways(piece, layer));
}

function isThereAlways(piece: Program['piece'], layer: Layer): boolean {
  const scene = piece.scenes.get(layer.scene);
  const touched = new Set([
    ...Object.values(scene?.states ?? {}).flatMap(({ deltas }) => Object.keys(deltas)),
    ...Object.values(scene?.timeline?.spans ?? {}).map((span) => span.layer),
  ]);
  for (let at: Layer | undefined = layer; at; at = at.parent === null ? undefined : piece.layers.get(at.parent))
    if (at.hidden || at.disabled || at.bindings?.shown || at.bindings?.enabled || touched.has(at.id)) return false;
  return true;
}
