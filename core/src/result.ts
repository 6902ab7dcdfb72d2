/** What went wrong, in a form that can be shown, sent and matched on: a code, a place and one plain sentence. */
export interface Fault {
  readonly code: string;
  /** Where in the document or the request, from the outside in; empty for the whole. */
  readonly path: readonly (string | number)[];
  readonly sentence: string;
}

/** An expected failure is a value, not an exception. */
export type Result<T, E = Fault> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly error: E };

export const ok = <T>(value: T): { ok: true; value: T } => ({ ok: true, value });

export const fail = <E>(error: E): { ok: false; error: E } => ({ ok: false, error });

export const fault = (code: string, path: readonly (string | number)[], sentence: string): Fault => ({ code, path, sentence });

/** Writes a path as `layers/abc/pose/x`. */
export const pathText = (path: readonly (string | number)[]): string => path.join('/');

/** For callers that cannot go on: throws what a failure says. */
export function unwrap<T>(result: Result<T>): T {
  if (result.ok) return result.value;
  const { error } = result;
  throw new Error(error.path.length ? `${pathText(error.path)}: ${error.sentence}` : error.sentence);
}
