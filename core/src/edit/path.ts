import { fail, ok, type Result } from '../result.ts';

/** The value at a path; where there is none, `missingAt` is the shortest part of the path that leads to nothing. */
export function readPath(root: object, path: readonly string[]): { value: unknown; missingAt: string[] } {
  let at: unknown = root;
  for (let i = 0; i < path.length; i++) {
    at = isContainer(at) && Object.hasOwn(at, path[i]!) ? (at as Record<string, unknown>)[path[i]!] : undefined;
    if (at === undefined) return { value: undefined, missingAt: path.slice(0, i + 1) };
  }
  return { value: at, missingAt: [] };
}

/**
 * A copy of `root` with `value` at `path`; objects on the way are made, and only those on the way are copied.
 * An undefined value takes the path away. Errors are sentences.
 */
export function putPath<T extends object>(root: T, path: readonly string[], value: unknown): Result<T, string> {
  const [step, ...rest] = path;
  if (step === undefined || FORBIDDEN.has(step)) return fail(`“${String(step)}” cannot be set.`);
  if (Array.isArray(root) && !isArrayIndex(step, root.length)) return fail(`“${step}” is no place in a list of ${root.length}.`);
  const copy = (Array.isArray(root) ? [...(root as unknown[])] : { ...root }) as Record<string, unknown>;
  if (rest.length === 0) return value === undefined ? without(copy, step) : ok(assign(copy, step, value) as T);
  const inner = Object.hasOwn(copy, step) ? copy[step] : undefined;
  if (inner !== undefined && !isContainer(inner)) return fail(`“${step}” holds a plain value, so nothing can be set inside it.`);
  const changed = putPath(inner ?? {}, rest, value);
  return changed.ok ? ok(assign(copy, step, changed.value) as T) : changed;
}

const FORBIDDEN = new Set(['__proto__', 'prototype', 'constructor']);

const isContainer = (value: unknown): value is object => typeof value === 'object' && value !== null;

const isArrayIndex = (step: string, length: number) => /^\d{1,6}$/.test(step) && Number(step) <= length;

const assign = (copy: Record<string, unknown>, step: string, value: unknown) => {
  copy[step] = value;
  return copy;
};

function without<T>(copy: Record<string, unknown>, step: string): Result<T, string> {
  if (Array.isArray(copy)) return fail('Set the whole list to take one thing out of it.');
  delete copy[step];
  return ok(copy as T);
}
