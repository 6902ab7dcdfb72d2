import { startsWithWord } from './raw.ts';
import { LineError, type LineReader } from './reader.ts';
import type { LineScope } from './scope.ts';
import { fieldAt, type Form, type Part, type Slot } from '../fields/forms.ts';
import { slots } from './slots.ts';

/**
 * Forms: how a cue, a step or a transition is written. One declaration prints it, reads it, offers completions for it, and says
 * which of its words can be changed in place.
 */

type Draft = Record<string, unknown>;

/** A copy with a field set; undefined takes it away. */
export function withField<T>(value: T, path: string, field: unknown): T {
  const [first, ...rest] = path.split('.') as [string, ...string[]];
  const { [first]: old, ...others } = value as Draft;
  if (rest.length) return { ...others, [first]: withField((old as Draft) ?? {}, rest.join('.'), field) } as T;
  return (field === undefined ? others : { ...(value as Draft), [first]: field }) as T;
}

const isSlot = (part: Part): part is Slot => typeof part === 'object' && 'path' in part;

/** Whether a form is the one that a value is written in. */
export const fitsForm = (form: Form, value: unknown): boolean =>
  Object.entries(form.sets).every(([path, wanted]) => fieldAt(value, path) === wanted) &&
  form.parts.every((part) => !isSlot(part) || hasSlot(part, value));

const hasSlot = (slot: Slot, value: unknown): boolean => {
  const field = fieldAt(value, slot.path);
  if (field === undefined) return slot.kind === 'timing' || slot.kind === 'transition';
  return slot.words ? Object.values(slot.words).includes(field) : true;
};

export function printForm(form: Form, value: unknown, scope: LineScope): string {
  let text = '';
  for (const part of form.parts) {
    const word = printPart(part, value, scope);
    if (word) text += text && part !== ',' ? ` ${word}` : word;
  }
  return text;
}

function printPart(part: Part, value: unknown, scope: LineScope): string {
  if (typeof part === 'string') return part;
  if (!isSlot(part))
    return part.maybe.every((inner) => !isSlot(inner) || fieldAt(value, inner.path) !== undefined)
      ? part.maybe.map((inner) => printPart(inner, value, scope)).join(' ')
      : '';
  const field = fieldAt(value, part.path);
  return slots[part.kind].print(field as never, { scope, slot: part, whole: value });
}

/** Reads a form; the reader stays where it stood when it does not fit. */
export function readForm(form: Form, reader: LineReader, scope: LineScope): Draft {
  const begin = reader.at;
  try {
    let value: Draft = {};
    for (const [path, field] of Object.entries(form.sets)) value = withField(value, path, field);
    for (const part of form.parts) value = readPart(part, reader, scope, value);
    return value;
  } catch (error) {
    reader.at = begin;
    throw error;
  }
}

function readPart(part: Part, reader: LineReader, scope: LineScope, value: Draft): Draft {
  if (typeof part === 'string') {
    if (/^[\p{L}\p{N}]/u.test(part) ? reader.word([part]) === null : !reader.sign([part])) reader.fail(`“${part}”`);
    return value;
  }
  if (isSlot(part)) {
    const field = slots[part.kind].read(reader, { scope, slot: part, whole: value });
    return field === undefined ? value : withField(value, part.path, field);
  }
  const first = part.maybe[0]!;
  const begin = reader.at;
  const isThere = typeof first === 'string' ? (/^[\p{L}]/u.test(first) ? reader.word([first]) !== null : reader.sign([first])) : true;
  if (!isThere) return value;
  reader.at = begin;
  return part.maybe.reduce((at, inner) => readPart(inner, reader, scope, at), value);
}

/** Tries forms, those that begin with more words first; gives the first that fits and ends where one may end. */
export function readOneOf<F extends Form>(
  forms: readonly F[],
  reader: LineReader,
  scope: LineScope,
  mayEnd: (reader: LineReader) => boolean
): { form: F; value: Draft } | LineError {
  let furthest: LineError | null = null;
  const begin = reader.at;
  const rest = reader.rest.trimStart();
  const note = (error: LineError) => {
    if (!furthest || error.column > furthest.column) furthest = error;
  };
  reader.offer(forms.flatMap((form) => (typeof form.parts[0] === 'string' ? [form.parts[0]] : [])));
  for (const form of forms) {
    const first = form.parts[0];
    reader.at = begin;
    if (typeof first === 'string' && !startsWithWord(rest, first)) continue;
    try {
      const value = readForm(form, reader, scope);
      if (mayEnd(reader)) return { form, value };
      note(new LineError(reader.at + 1, 'the end of the line, · and a transition, or ; and another step', reader.rest.trim().slice(0, 20)));
    } catch (error) {
      if (!(error instanceof LineError)) throw error;
      note(error);
    }
  }
  reader.at = begin;
  return furthest ?? new LineError(reader.text.length - rest.length + 1, 'a step', rest.slice(0, 20));
}

/** How many words a form begins with: longer beginnings are tried first. */
export const leadOf = (form: Form): number => (typeof form.parts[0] === 'string' ? form.parts[0].length : 0);

/** A value as words and places, for showing it with places that can be changed. */
export type Piece = { readonly word: string } | { readonly slot: Slot; readonly value: unknown; readonly text: string };

export function piecesOf(form: Form, value: unknown, scope: LineScope): Piece[] {
  const pieces = (part: Part): Piece[] => {
    if (typeof part === 'string') return [{ word: part }];
    if (isSlot(part)) return [{ slot: part, value: fieldAt(value, part.path), text: printPart(part, value, scope) }];
    return part.maybe.every((inner) => !isSlot(inner) || fieldAt(value, inner.path) !== undefined) ? part.maybe.flatMap(pieces) : [];
  };
  return form.parts.flatMap(pieces);
}
