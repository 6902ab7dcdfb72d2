/** What forms are made of. */

/** Kinds of places for values. */
export type SlotKind =
  | 'target'
  | 'frame'
  | 'layer'
  | 'stateful'
  | 'playable'
  | 'variable'
  | 'state'
  | 'label'
  | 'words'
  | 'number'
  | 'percent'
  | 'duration'
  | 'text'
  | 'quoted'
  | 'key'
  | 'address'
  | 'expression'
  | 'transition'
  | 'timing';

/** A word or a place for a value. */
export type Part = string | Slot | Maybe;

export interface Slot {
  /** The field of the document form, with dots for fields inside it. */
  readonly path: string;
  readonly kind: SlotKind;
  /** Words to choose from, with what each stands for. */
  readonly words?: Readonly<Record<string, unknown>>;
  /** The field that names what a state or label is of. */
  readonly of?: string;
  /** Words that may follow, so that a name ends before them. */
  readonly before?: readonly string[];
}

/** Parts that may be left out: all of them, or none. */
export interface Maybe {
  readonly maybe: readonly Part[];
}

export interface Form {
  /** Fields that this form stands for by itself. */
  readonly sets: Readonly<Record<string, unknown>>;
  readonly parts: readonly Part[];
}

export function fieldAt(value: unknown, path: string): unknown {
  let at = value;
  for (const step of path.split('.')) at = typeof at === 'object' && at !== null ? (at as Record<string, unknown>)[step] : undefined;
  return at;
}

/** A place for a value of a field. */
export const slot = (path: string, kind: SlotKind, more: Partial<Slot> = {}): Slot => ({ path, kind, ...more });

/** Words that stand for themselves. */
export const themselves = (values: readonly string[]): Record<string, string> => Object.fromEntries(values.map((value) => [value, value]));
