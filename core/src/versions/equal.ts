import { isRecord } from '../record.ts';

/** A place in an entity where two versions of it differ, with what stands there in each; undefined where nothing does. */
export interface FieldChange {
  readonly path: readonly string[];
  readonly before: unknown;
  readonly after: unknown;
}

/** Whether two JSON values say the same, in whatever order their fields were written. */
export function isEqual(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (Array.isArray(a) && Array.isArray(b)) return a.length === b.length && a.every((one, i) => isEqual(one, b[i]));
  if (!isRecord(a) || !isRecord(b)) return false;
  const keys = Object.keys(a).filter((key) => a[key] !== undefined);
  return keys.every((key) => isEqual(a[key], b[key])) && keys.length === Object.keys(b).filter((key) => b[key] !== undefined).length;
}

/** Where two values differ, as deep as both hold fields; a field that one of them lacks is one difference, whatever is in it. */
export function fieldChanges(before: unknown, after: unknown, path: readonly string[] = []): FieldChange[] {
  if (isEqual(before, after)) return [];
  if (!isRecord(before) || !isRecord(after)) return [{ path, before, after }];
  const keys = new Set([...Object.keys(before), ...Object.keys(after)]);
  return [...keys].flatMap((key) => fieldChanges(before[key], after[key], [...path, key]));
}
