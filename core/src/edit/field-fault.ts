import type { TSchema } from '@sinclair/typebox';
import { schemaFault } from '../piece/read.ts';
import { fault, type Fault } from '../result.ts';

type Fields = Readonly<Record<string, unknown>>;

const isFields = (value: unknown): value is Fields => typeof value === 'object' && value !== null && !Array.isArray(value);

/**
 * What is wrong with a value of which one field was set, or null, where the whole was right before: no more is looked at than was set.
 * `path` leads to the field, `place` to the value.
 */
export function fieldFault(schema: TSchema, before: unknown, after: unknown, path: readonly string[], place: readonly string[]): Fault | null {
  const [key, ...rest] = path;
  const inner = key === undefined || !isFields(before) || !isFields(after) ? null : schemaOf(schema, key);
  if (key === undefined || !inner || !isFields(before) || !isFields(after)) return schemaFault(schema, after, place);
  const [old, now] = [before[key], after[key]];
  // What came or went is judged by what it came to or went from.
  if (old === undefined || now === undefined)
    return countFault(schema, after, place) ?? (now === undefined ? goneFault(schema, key, after, place) : schemaFault(inner, now, [...place, key]));
  return fieldFault(inner, old, now, rest, [...place, key]);
}

/** The schema of a field of an object, or of an entry of a record; null where that depends on the rest of the value. */
function schemaOf(schema: TSchema, key: string): TSchema | null {
  if (schema['type'] !== 'object') return null;
  const own = (schema['properties'] as Record<string, TSchema> | undefined)?.[key];
  if (own) return own;
  const patterns = Object.entries((schema['patternProperties'] ?? {}) as Record<string, TSchema>);
  return patterns.find(([pattern]) => regular(pattern).test(key))?.[1] ?? null;
}

const known = new Map<string, RegExp>();

function regular(pattern: string): RegExp {
  let made = known.get(pattern);
  if (!made) known.set(pattern, (made = new RegExp(pattern)));
  return made;
}

const countFault = (schema: TSchema, value: Fields, place: readonly string[]): Fault | null => {
  const count = Object.keys(value).length;
  const isRight =
    count <= ((schema['maxProperties'] as number | undefined) ?? Infinity) && count >= ((schema['minProperties'] as number | undefined) ?? 0);
  return isRight ? null : schemaFault(schema, value, place);
};

const goneFault = (schema: TSchema, key: string, value: Fields, place: readonly string[]): Fault | null =>
  ((schema['required'] as readonly string[] | undefined) ?? []).includes(key)
    ? (schemaFault(schema, value, place) ?? fault('missing', [...place, key], `“${key}” is missing.`))
    : null;
