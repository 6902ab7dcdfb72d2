import { REFERENCE } from '../../expression/ast.ts';

/** A copy of a document value in which ids of copied things are those of their copies: in fields that hold ids or paths, and in expressions. */
export function remapIds<T>(value: T, names: ReadonlyMap<string, string>): T {
  return remap(value, names, null) as T;
}

type Holder = Readonly<Record<string, unknown>>;

/** Fields that hold an id or a path; where a field of that name holds a word as well, what it is in tells. */
const IDS: Readonly<Record<string, (holder: Holder) => boolean>> = {
  id: () => true,
  scene: () => true,
  parent: () => true,
  owner: () => true,
  part: () => true,
  state: () => true,
  choice: () => true,
  copyOf: () => true,
  variable: () => true,
  layer: () => true,
  of: () => true,
  frame: () => true,
  toggle: () => true,
  sheet: () => true,
  bundle: () => true,
  start: () => true,
  on: ({ type }) => type === 'drop',
  from: (holder) => holder['do'] === 'play',
  label: (holder) => 'do' in holder || holder['type'] === 'label',
  initial: (holder) => 'use' in holder,
  kind: (holder) => 'use' in holder,
};

/** Fields that hold things by their ids or paths. */
const MAPS: ReadonlySet<string> = new Set(['deltas', 'inside', 'fills', 'states', 'labels', 'tracks', 'spans', 'cues', 'choices']);

function remap(value: unknown, names: ReadonlyMap<string, string>, field: string | null): unknown {
  if (typeof value === 'string') return inReferences(value, names);
  if (Array.isArray(value)) return value.map((one) => remap(one, names, null));
  if (typeof value !== 'object' || value === null) return value;
  const isMap = field !== null && MAPS.has(field);
  return Object.fromEntries(
    Object.entries(value).map(([key, inner]) => {
      if (isMap) return [remapPath(key, names), remap(inner, names, null)];
      if (Object.hasOwn(IDS, key) && IDS[key]!(value as Holder)) return [key, remapHeld(inner, names, key)];
      return [key, remap(inner, names, key)];
    })
  );
}

const remapHeld = (value: unknown, names: ReadonlyMap<string, string>, field: string): unknown =>
  typeof value === 'string'
    ? remapPath(value, names)
    : Array.isArray(value)
      ? value.map((one) => remapHeld(one, names, field))
      : remap(value, names, field);

const inReferences = (text: string, names: ReadonlyMap<string, string>): string =>
  text.includes('‹') ? text.replace(REFERENCE, (_whole, equals: string, id: string) => `‹${equals}${remapPath(id, names)}›`) : text;

const remapPath = (path: string, names: ReadonlyMap<string, string>): string =>
  names.get(path) ??
  path
    .split('/')
    .map((part) => names.get(part) ?? part)
    .join('/');
