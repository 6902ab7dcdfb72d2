import { isRecord } from '../record.ts';
import type { TSchema } from '@sinclair/typebox';
import { REFERENCE } from '../expression/ast.ts';
import type { Entity, TableName } from './piece.ts';
import { tableSchemas } from './schema.ts';
import { ID_PATTERN, PATH_PATTERN, READS, REFERS, type Refers } from '../fields/scalars.ts';

/**
 * Where a document names things and computes: found from the schemas of its fields alone, so that a new field is known to all who ask
 * what is used where, what is gone, and what has to be renamed.
 */

/** A field that names something, or computes. */
export interface Field {
  /** What it names; null for one that computes. */
  readonly refers: Refers | null;
  /** Whether it is an expression, a text with expressions in it, or neither. */
  readonly reads: 'expression' | 'text' | null;
  /** Null where nothing is chosen yet. */
  readonly value: string | null;
  readonly path: readonly string[];
  /** The object that holds it. */
  readonly holder: Readonly<Record<string, unknown>>;
  /** The cue, the step or the whole that it is a field of. */
  readonly root: Readonly<Record<string, unknown>>;
  readonly schema: TSchema;
  /** It is the key under which something stands. */
  readonly isKey: boolean;
}

type Names = ReadonlyMap<string, string>;
type At = Pick<Field, 'holder' | 'root'>;

/** What there is to a schema; null where nothing in it names anything or computes. */
interface Walker {
  visit(value: unknown, at: At, path: readonly string[], take: (field: Field) => void): void;
  rename(value: unknown, names: Names): unknown;
}

/** Every field in a value that names something or computes, in the order of the schema. */
export function fieldsIn(schema: TSchema, value: unknown): Field[] {
  const found: Field[] = [];
  const whole = isRecord(value) ? value : {};
  walkerOf(schema)?.visit(value, { holder: whole, root: whole }, [], (field) => found.push(field));
  return found;
}

const entities = new WeakMap<object, readonly Field[]>();

/** The same for an entity of a table, found once: entities never change. */
export function fieldsOf(table: TableName, entity: Entity): readonly Field[] {
  let fields = entities.get(entity);
  if (!fields) entities.set(entity, (fields = fieldsIn(tableSchemas[table], entity)));
  return fields;
}

/** A value in which ids of things are those of others: in fields that hold ids or paths, as keys, and in expressions. */
export const renamedIn = <T>(schema: TSchema, value: T, names: Names): T => (walkerOf(schema)?.rename(value, names) ?? value) as T;

/** The same for a path of ids. */
export const renamedPath = (path: string, names: Names): string =>
  names.get(path) ??
  path
    .split('/')
    .map((part) => names.get(part) ?? part)
    .join('/');

const known = new WeakMap<TSchema, Walker | 'none'>();

function walkerOf(schema: TSchema): Walker | null {
  let walker = known.get(schema);
  if (!walker) known.set(schema, (walker = makeWalker(schema) ?? 'none'));
  return walker === 'none' ? null : walker;
}

function makeWalker(schema: TSchema): Walker | null {
  if (schema['anyOf']) return unionWalker(schema['anyOf'] as TSchema[]);
  switch (schema['type']) {
    case 'string':
      return textWalker(schema);
    case 'array':
      return listWalker(schema['items'] as TSchema);
    case 'object':
      return objectWalker(schema);
    default:
      return null;
  }
}

const isId = (pattern: unknown) => pattern === ID_PATTERN || pattern === PATH_PATTERN;

function textWalker(schema: TSchema): Walker | null {
  const refers = (schema[REFERS] as Refers | undefined) ?? null;
  const reads = (schema[READS] as Field['reads'] | undefined) ?? null;
  if (!refers && !reads && !isId(schema['pattern'])) return null;
  return {
    visit: (value, at, path, take) => {
      if ((refers || reads) && typeof value === 'string') take({ refers, reads, value, path, ...at, schema, isKey: false });
    },
    rename: (value, names) => (typeof value !== 'string' ? value : reads ? inReferences(value, names) : renamedPath(value, names)),
  };
}

const inReferences = (text: string, names: Names): string =>
  text.includes('‹') ? text.replace(REFERENCE, (_whole, equals: string, id: string) => `‹${equals}${renamedPath(id, names)}›`) : text;

function listWalker(items: TSchema): Walker | null {
  const inner = walkerOf(items);
  return (
    inner && {
      visit: (value, at, path, take) => {
        if (Array.isArray(value)) value.forEach((one, i) => inner.visit(one, at, [...path, String(i)], take));
      },
      rename: (value, names) => (Array.isArray(value) ? value.map((one) => inner.rename(one, names)) : value),
    }
  );
}

function objectWalker(schema: TSchema): Walker | null {
  const fields = Object.entries((schema['properties'] ?? {}) as Record<string, TSchema>).flatMap(([name, inner]) => {
    const walker = walkerOf(inner);
    return walker ? [[name, walker] as const] : [];
  });
  const [record] = Object.entries((schema['patternProperties'] ?? {}) as Record<string, TSchema>);
  const inner = record ? walkerOf(record[1]) : null;
  const refers = (schema[REFERS] as Refers | undefined) ?? null;
  const hasKeys = record !== undefined && (isId(record[0]) || refers !== null);
  if (fields.length === 0 && !inner && !hasKeys) return null;
  return {
    visit: (value, { root: around }, path, take) => {
      if (!isRecord(value)) return;
      const root = isStepOrCue(schema) ? value : around;
      const at = { holder: value, root };
      for (const [name, walker] of fields) if (value[name] !== undefined) walker.visit(value[name], at, [...path, name], take);
      if (!record || (!refers && !inner)) return;
      for (const [key, one] of Object.entries(value)) {
        if (refers) take({ refers, reads: null, value: key, path: [...path, key], ...at, schema, isKey: true });
        inner?.visit(one, at, [...path, key], take);
      }
    },
    rename: (value, names) => {
      if (!isRecord(value)) return value;
      if (record)
        return Object.fromEntries(
          Object.entries(value).map(([key, one]) => [hasKeys ? renamedPath(key, names) : key, inner ? inner.rename(one, names) : one])
        );
      const copy: Record<string, unknown> = { ...value };
      for (const [name, walker] of fields) if (copy[name] !== undefined) copy[name] = walker.rename(copy[name], names);
      return copy;
    },
  };
}

/** Cues and steps are told by a fixed word of their own. */
const isStepOrCue = ({ properties }: TSchema): boolean => {
  const { do: step, type } = (properties ?? {}) as Record<string, TSchema | undefined>;
  return step?.['const'] !== undefined || type?.['const'] !== undefined;
};

/** A choice of shapes: the one whose fixed words a value has; or a text that may be missing. */
function unionWalker(members: readonly TSchema[]): Walker | null {
  const all = members.map((member) => ({ member, walker: walkerOf(member) }));
  if (all.every(({ walker }) => walker === null)) return null;
  const fixed = all.map(({ member }) =>
    Object.entries((member['properties'] ?? {}) as Record<string, TSchema>).flatMap(([name, field]) =>
      field['const'] !== undefined && isRequired(member, name) ? [[name, field['const'] as unknown] as const] : []
    )
  );
  const required = all.map(({ member }) => (member['required'] ?? []) as readonly string[]);
  const memberFor = (value: unknown) => {
    if (!isRecord(value)) return all.find(({ member }) => member['type'] === typeof value)?.walker ?? null;
    const at = all.findIndex(
      ({ member }, i) =>
        member['type'] === 'object' && fixed[i]!.every(([name, word]) => value[name] === word) && required[i]!.every((name) => name in value)
    );
    return at < 0 ? null : all[at]!.walker;
  };
  // What names something, and may name nothing yet.
  const named = all.find(({ member }) => member['type'] === 'string' && member[REFERS])?.member;
  return {
    visit: (value, at, path, take) => {
      if (value === null && named) return take({ refers: named[REFERS] as Refers, reads: null, value, path, ...at, schema: named, isKey: false });
      memberFor(value)?.visit(value, at, path, take);
    },
    rename: (value, names) => memberFor(value)?.rename(value, names) ?? value,
  };
}

const isRequired = (member: TSchema, name: string) => ((member['required'] ?? []) as readonly string[]).includes(name);
