import { Literal, Number as Num, String as Str, Union, type TLiteral, type TUnion } from '@sinclair/typebox';
import { MOST_NAME } from '../text.ts';

/** What every object of the language has: no id may be one of these, so that looking one up never finds them. */
const INHERITED = 'constructor|hasOwnProperty|isPrototypeOf|propertyIsEnumerable|toLocaleString|toString|valueOf';

/** Ids are short and random; they begin with a letter or a digit, and none is a name of the language. */
export const ID_PATTERN = `^(?!(${INHERITED})$)[0-9A-Za-z][0-9A-Za-z_-]{0,39}$`;

/** A layer's path: ids joined by slashes. */
export const PATH_PATTERN = `^(?!(${INHERITED})$)[0-9A-Za-z][0-9A-Za-z_/-]{0,199}$`;

/** What a field can name. */
export type Refers = 'frame' | 'scene' | 'part' | 'sheet' | 'layer' | 'state' | 'label' | 'variable' | 'choice' | 'subject';

/** In a schema: what a field names, and whether it computes. */
export const REFERS = 'x-refers';
export const READS = 'x-reads';
/** In a schema: naming nothing means all of them. */
export const ANY = 'x-any';

/** An id; of what, where it names something that may be gone. */
export const id = (refers?: Refers) => Str({ pattern: ID_PATTERN, ...(refers && { [REFERS]: refers }) });

export const name = () => Str({ minLength: 1, maxLength: MOST_NAME });

/** `#rrggbb` or `#rrggbbaa`. */
export const color = (description?: string) => Str({ pattern: '^#[0-9a-fA-F]{6}([0-9a-fA-F]{2})?$', ...(description && { description }) });

/** A colour, or `swatch:` and the id of a swatch of the piece. */
export const paint = (description?: string) =>
  Str({ pattern: '^(#[0-9a-fA-F]{6}([0-9a-fA-F]{2})?|swatch:[0-9A-Za-z][0-9A-Za-z_-]{0,39})$', ...(description && { description }) });

type Literals<T extends readonly string[]> = { -readonly [K in keyof T]: TLiteral<T[K] & string> };

/** A choice of words. */
export const oneOf = <const T extends readonly string[]>(words: T): TUnion<Literals<T>> =>
  Union(words.map((word) => Literal(word))) as unknown as TUnion<Literals<T>>;

/** A layer by its id; one inside a placement by the placement's id, a slash and its own, as often as needed. */
export const layerPath = (refers: Refers = 'layer') => Str({ pattern: PATH_PATTERN, [REFERS]: refers });

/** A FEEL expression in its stored form: `‹id›` for what it names, so that renaming breaks nothing; what it has to give. */
export const expression = (gives: Gives, description?: string) =>
  Str({ minLength: 1, maxLength: 2000, ...(description && { description }), [READS]: 'expression', [GIVES]: gives });

/** What an expression has to give: a type, what the variable beside it holds, or anything. */
export type Gives = 'yes/no' | 'number' | 'text' | 'variable';
export const GIVES = 'x-gives';

/** A part of a whole, 0 to 1. */
export const share = (description: string) => Num({ minimum: 0, maximum: 1, description });
