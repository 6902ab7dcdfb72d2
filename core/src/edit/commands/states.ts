import { statesOf, type Piece, type Scene } from '../../piece/piece.ts';
import type { Delta, State } from '../../piece/schema.ts';
import { takeName } from '../../words.ts';
import { keysBetween } from '../order.ts';
import type { Operation } from '../operation.ts';
import { withReach } from '../reach/reach.ts';
import type { MakeId } from '../make-id.ts';

/** Edits of a scene's states. The first state is the layers themselves; the others hold what they change of them. */

/**
 * One more state, as another one looks; the first one if none is named. A scene without states gets two: one for how it
 * looks now, and the new one.
 */
export function addState(piece: Piece, scene: string, makeId: MakeId, options: { name?: string; from?: string | null } = {}): NewState {
  const found = piece.scenes.get(scene);
  if (!found) return { operations: [], id: null };
  const states = statesOf(found);
  const names = new Set(states.map((state) => state.name));
  const operations: Operation[] = [];
  let last = states.at(-1)?.order ?? null;
  const put = (name: string, deltas: State['deltas']): string => {
    const id = makeId();
    const order = keysBetween(last, null, 1)[0]!;
    operations.push({ op: 'set', table: 'scenes', id: scene, path: ['states', id], value: { name, order, deltas } });
    last = order;
    return id;
  };
  if (states.length === 0) put(takeName(names, 'State 1'), {});
  const from = states.find((state) => state.id === options.from);
  const id = put(takeName(names, options.name ?? `State ${names.size + 1}`), from?.deltas ?? {});
  return { operations, id };
}

export interface NewState {
  readonly operations: Operation[];
  /** Null where there is no such scene. */
  readonly id: string | null;
}

/** Takes a state away. Without the first one, the layers become what the next one shows; the others keep what they show. */
export function removeState(piece: Piece, scene: string, state: string): Operation[] {
  const found = piece.scenes.get(scene);
  if (!found?.states?.[state]) return [];
  const states = statesOf(found);
  const next = states[0]?.id === state ? states[1] : undefined;
  const gone: Operation[] = [
    { op: 'set', table: 'scenes', id: scene, path: states.length === 1 ? ['states'] : ['states', state] },
    ...(found.initial === state ? [{ op: 'set' as const, table: 'scenes' as const, id: scene, path: ['initial'] }] : []),
  ];
  if (!next) return gone;
  return [
    ...takeOver(piece, scene, states[0]!.id, next),
    { op: 'set', table: 'scenes', id: scene, path: ['states', next.id, 'deltas'], value: inPlacements(next.deltas) },
    ...gone,
  ];
}

/** The layers take over what a state changes of them. */
function takeOver(piece: Piece, scene: string, first: string, next: State): Operation[] {
  const sets = Object.entries(next.deltas).flatMap(([layer, delta]) => (piece.layers.has(layer) ? setsOf(layer, delta) : []));
  return withReach(piece, { of: 'states', scene }, { how: 'some', of: [first] }, sets);
}

const setsOf = (layer: string, delta: Delta): Operation[] =>
  Object.entries(delta).flatMap(([field, value]): Operation[] =>
    typeof value === 'object'
      ? Object.entries(value).map(([key, inner]) => ({ op: 'set', table: 'layers', id: layer, path: [field, key], value: inner as unknown }))
      : [{ op: 'set', table: 'layers', id: layer, path: [field], value }]
  );

/** What a state changes inside placements has no layer of the scene to go to, so it stays. */
const inPlacements = (deltas: State['deltas']): State['deltas'] => Object.fromEntries(Object.entries(deltas).filter(([path]) => path.includes('/')));

/** One thing that differs between two states. */
export interface Difference {
  readonly layer: string;
  /** Such as `style.fill` or `pose.x`. */
  readonly field: string;
  readonly a: unknown;
  readonly b: unknown;
}

/** What differs between two states of a scene, layer by layer in the order of the document. */
export function compareStates(piece: Piece, scene: Scene, a: string, b: string): Difference[] {
  const first = statesOf(scene)[0]?.id;
  const leaves = (state: string) => (state === first ? new Map<string, unknown>() : flat(scene.states?.[state]?.deltas ?? {}));
  const [left, right] = [leaves(a), leaves(b)];
  return [...new Set([...left.keys(), ...right.keys()])].flatMap((key) => {
    const [layer, field] = key.split(' ') as [string, string];
    const base = baseValue(piece, layer, field);
    const [one, other] = [left.has(key) ? left.get(key) : base, right.has(key) ? right.get(key) : base];
    return JSON.stringify(one) === JSON.stringify(other) ? [] : [{ layer, field, a: one, b: other }];
  });
}

function flat(deltas: State['deltas']): Map<string, unknown> {
  const found = new Map<string, unknown>();
  for (const [layer, delta] of Object.entries(deltas))
    for (const [field, value] of Object.entries(delta))
      if (typeof value === 'object') for (const [key, inner] of Object.entries(value)) found.set(`${layer} ${field}.${key}`, inner);
      else found.set(`${layer} ${field}`, value);
  return found;
}

function baseValue(piece: Piece, path: string, field: string): unknown {
  let at: unknown = piece.layers.get(path.split('/').at(-1)!);
  for (const key of field.split('.')) at = typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[key] : undefined;
  return at ?? (field === 'hidden' ? false : undefined);
}
