import { DEFAULT_INK } from '../../vocabulary/properties/ink.ts';
import { placeOfProperty, properties } from '../../vocabulary/properties/all.ts';
import { statesOf, type Layer, type Piece } from '../../piece/piece.ts';
import { isInside } from '../commands/inside.ts';
import { LOOKS } from '../../piece/schema.ts';
import type { Operation, SetOperation } from '../operation.ts';
import { readPath } from '../path.ts';

/**
 * Which states of a scene, or which looks of a layer, an edit is to touch.
 *
 * The first variant (the first state; rest) is the layers themselves; every other one holds what it changes of them.
 * `follow` changes the layers themselves: variants without a value of their own follow. `some` changes exactly those named,
 * so the others keep what they show; `all` makes every variant show the new value.
 */
export type Reach = { readonly how: 'follow' } | { readonly how: 'all' } | { readonly how: 'some'; readonly of: readonly string[] };

/** Where the variants of a scene or of a layer are kept. */
export type Variants = { readonly of: 'states'; readonly scene: string } | { readonly of: 'looks'; readonly layer: string };

/** The name of the variant that the layers themselves are, among looks. */
export const REST = 'rest';

/** Sends the operations of an edit to where its reach says: to layers, to states, to looks. All others stay as they are. */
export function withReach(piece: Piece, variants: Variants, reach: Reach, operations: readonly Operation[]): Operation[] {
  const store = storeOf(piece, variants);
  if (store === null || reach.how === 'follow') return [...operations];
  return operations.flatMap((operation) => reached(piece, store, reach, operation));
}

/** A reach that does more than leave an edit as it is. */
type Reaching = Exclude<Reach, { how: 'follow' }>;

interface Store {
  readonly first: string;
  /** All variants but the first. */
  readonly ids: readonly string[];
  /** Whether an operation on a layer is about these variants. */
  readonly holds: (layer: Layer) => boolean;
  /** Whether a variant can be changed: a look comes about by being changed, a state has to be there. */
  readonly can: (id: string) => boolean;
  readonly place: (id: string, layer: Layer) => { table: 'scenes' | 'layers'; id: string; path: readonly string[] };
  readonly read: (id: string, layer: Layer, path: readonly string[]) => unknown;
}

function storeOf(piece: Piece, variants: Variants): Store | null {
  return variants.of === 'states' ? statesStore(piece, variants.scene) : looksStore(piece, variants.layer);
}

function statesStore(piece: Piece, id: string): Store | null {
  const scene = piece.scenes.get(id);
  const [first, ...others] = scene ? statesOf(scene) : [];
  if (!scene || !first) return null;
  return {
    first: first.id,
    ids: others.map((state) => state.id),
    holds: (layer) => layer.scene === id,
    can: (state) => scene.states?.[state] !== undefined,
    place: (state, layer) => ({ table: 'scenes', id, path: ['states', state, 'deltas', layer.id] }),
    read: (state, layer, path) => readPath(scene, ['states', state, 'deltas', layer.id, ...path]).value,
  };
}

function looksStore(piece: Piece, id: string): Store | null {
  const owner = piece.layers.get(id);
  if (!owner) return null;
  const inside = (layer: Layer) => (layer.id === id ? [] : ['inside', layer.id]);
  return {
    first: REST,
    ids: LOOKS.filter((look) => owner.looks?.[look] !== undefined),
    holds: (layer) => isInside(piece, layer.id, id),
    can: (look) => (LOOKS as readonly string[]).includes(look),
    place: (look, layer) => ({ table: 'layers', id, path: ['looks', look, ...inside(layer)] }),
    read: (look, layer, path) => readPath(owner, ['looks', look, ...inside(layer), ...path]).value,
  };
}

function reached(piece: Piece, store: Store, reach: Reaching, operation: Operation): Operation[] {
  if (operation.op === 'put' && operation.table === 'layers') return putReached(piece, store, reach, operation.value as Layer, operation);
  if (!('id' in operation) || operation.table !== 'layers') return [operation];
  const layer = piece.layers.get(operation.id);
  if (!layer || !store.holds(layer)) return [operation];
  if (operation.op === 'remove') return removeReached(store, reach, layer, operation);
  if (operation.op !== 'set' || !CHANGEABLE.has(operation.path[0]!)) return [operation];
  return leavesOf(layer, operation).flatMap((leaf) => setReached(store, reach, layer, leaf));
}

/** What a state or a look can change of a layer. */
const CHANGEABLE: ReadonlySet<string> = new Set(['pose', 'style', 'letters', 'text', 'asset', 'path', 'hidden', 'state']);
const NESTED: ReadonlySet<string> = new Set(['pose', 'style', 'letters']);

interface Leaf {
  readonly path: readonly string[];
  readonly value: unknown;
}

/** A whole pose or style as its fields, so that a variant keeps only what differs. */
function leavesOf(layer: Layer, { path, value }: SetOperation): Leaf[] {
  const [field, key] = path as [string, string | undefined];
  if (!NESTED.has(field) || key !== undefined) return [{ path: path.slice(0, 2), value: path.length > 2 ? deep(layer, path, value) : value }];
  const before = (readPath(layer, [field]).value ?? {}) as Record<string, unknown>;
  const after = (value ?? {}) as Record<string, unknown>;
  return [...new Set([...Object.keys(before), ...Object.keys(after)])].map((name) => ({ path: [field, name], value: after[name] }));
}

/** The whole field of which something inside is set. */
function deep(layer: Layer, path: readonly string[], value: unknown): unknown {
  const whole = readPath(layer, path.slice(0, 2)).value as Record<string, unknown> | undefined;
  return { ...whole, [path[2]!]: value };
}

function setReached(store: Store, reach: Reaching, layer: Layer, leaf: Leaf): Operation[] {
  const old = readPath(layer, leaf.path).value;
  const at = (variant: string, value: unknown): Operation[] => setIn(store, variant, layer, leaf.path, value);
  const drop = (variant: string): Operation[] => (store.read(variant, layer, leaf.path) === undefined ? [] : at(variant, undefined));
  const own: Operation = {
    op: 'set',
    table: 'layers',
    id: layer.id,
    path: [...leaf.path],
    ...(leaf.value !== undefined && { value: leaf.value }),
  };
  const base = same(old, leaf.value) ? [] : [own];
  if (reach.how === 'all') return [...base, ...store.ids.flatMap(drop)];
  const chosen = new Set(reach.of);
  const firstToo = chosen.has(store.first);
  const variants = new Set([...store.ids, ...[...chosen].filter((id) => id !== store.first && store.can(id))]);
  return [
    ...(firstToo ? base : []),
    ...[...variants].flatMap((variant) => {
      if (chosen.has(variant)) return firstToo || same(old, leaf.value) ? drop(variant) : at(variant, leaf.value ?? neutral(leaf.path));
      const keeps = store.read(variant, layer, leaf.path) === undefined && firstToo && base.length > 0;
      return keeps ? at(variant, old ?? neutral(leaf.path)) : [];
    }),
  ];
}

function setIn(store: Store, variant: string, layer: Layer, path: readonly string[], value: unknown): Operation[] {
  const place = store.place(variant, layer);
  return [{ op: 'set', table: place.table, id: place.id, path: [...place.path, ...path], ...(value !== undefined && { value }) }];
}

/** What stands for nothing in a variant, which can change a value but not take one away. */
function neutral(path: readonly string[]): unknown {
  return nothing.get(path.join('.'));
}

const nothing = new Map<string, unknown>([
  ...properties.flatMap((kind) => (kind.isNothing ? [[placeOfProperty(kind).join('.'), kind.neutral] as const] : [])),
  // What cannot have keys.
  ['style.line', { color: DEFAULT_INK, width: 0 }],
  ['style.shadow', { x: 0, y: 0, blur: 0, color: '#00000000' }],
  ['pose.anchor', { x: 0.5, y: 0.5 }],
  ['hidden', false],
  ['text', ''],
]);

const same = (a: unknown, b: unknown): boolean => a === b || (typeof a === 'object' && JSON.stringify(a) === JSON.stringify(b));

/** A layer that is new in some variants is hidden in the others. */
function putReached(piece: Piece, store: Store, reach: Reaching, layer: Layer, operation: Operation): Operation[] {
  if (piece.layers.has(layer.id) || !store.holds(layer) || layer.parent !== null || reach.how !== 'some') return [operation];
  const chosen = new Set(reach.of);
  const firstToo = chosen.has(store.first);
  const put: Operation = firstToo ? operation : { op: 'put', table: 'layers', value: { ...layer, hidden: true } as Layer };
  return [put, ...store.ids.filter((id) => chosen.has(id) !== firstToo).flatMap((id) => setIn(store, id, layer, ['hidden'], firstToo))];
}

/** Taking a layer away from some variants hides it there. */
function removeReached(store: Store, reach: Reaching, layer: Layer, operation: Operation): Operation[] {
  const everywhere = reach.how !== 'some' || [store.first, ...store.ids].every((id) => reach.of.includes(id));
  return everywhere ? [operation] : setReached(store, reach, layer, { path: ['hidden'], value: true });
}
