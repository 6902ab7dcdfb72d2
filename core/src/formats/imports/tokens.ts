import { inOrder, namedLast, setHead, type Ordered } from '../../edit/commands/named.ts';
import type { MakeId } from '../../edit/make-id.ts';
import type { Operation } from '../../edit/operation.ts';
import { pair } from '../../motion/color.ts';
import { familyNamed } from '../../piece/faces.ts';
import type { Piece } from '../../piece/piece.ts';
import type { Letters } from '../../piece/schema.ts';
import { isRecord } from '../../record.ts';
import { fail, fault, ok, type Result } from '../../result.ts';
import { nameFrom } from '../../text.ts';
import { count } from '../../words.ts';
import { defineImport, type CameIn } from './define.ts';
import { readObject } from './json.ts';

const LIMITS = { depth: 30, values: 200_000, bytes: 20_000_000 } as const;

/** Swatches, type styles and easings that a piece takes at most, as its schema says. */
const MOST = { swatches: 500, typeStyles: 200, easings: 200 } as const;

export const tokens = defineImport({
  kind: 'tokens',
  label: 'design tokens',
  meaning: 'swatches, type styles and easings; those by a name that is there already are changed',
  endings: ['.tokens.json', '.tokens', '.json'],
  read: (piece, bytes, makeId) => tokensIn(piece, bytes, makeId),
});

/**
 * Design tokens (Design Tokens Community Group, format module) as swatches, type styles and easings. A token by a name that the piece has
 * already changes what is kept under it; aliases are followed. What is no colour, typography or cubic Bézier is left.
 */
export function tokensIn(piece: Piece, bytes: Uint8Array, makeId: MakeId): Result<CameIn> {
  const read = readObject(bytes, LIMITS, 'design tokens');
  if (!read.ok) return read;
  const tokens = new Map<string, Token>();
  collect(read.value, [], null, tokens);
  if (tokens.size === 0) return fail(fault('no-tokens', [], 'This holds no design tokens: nothing in it has a $value.'));
  return ok(new Reading(piece, tokens, makeId).run());
}

type Group = Readonly<Record<string, unknown>>;

interface Token {
  readonly path: readonly string[];
  readonly type: string | null;
  readonly value: unknown;
}

/** Every token by its path; a type holds for all that is in its group. */
function collect(group: Group, path: readonly string[], around: string | null, into: Map<string, Token>): void {
  const type = typeof group['$type'] === 'string' ? group['$type'] : around;
  if ('$value' in group) return void into.set(path.join('.'), { path, type, value: group['$value'] });
  for (const [name, inner] of Object.entries(group)) if (!name.startsWith('$') && isRecord(inner)) collect(inner, [...path, name], type, into);
}

type Kept = 'swatches' | 'typeStyles' | 'easings';

class Reading {
  private readonly operations: Operation[] = [];
  private readonly left: string[] = [];
  private readonly counts = { swatches: [0, 0], typeStyles: [0, 0], easings: [0, 0] } satisfies Record<Kept, [number, number]>;
  /** What is kept of each kind, with what has come in. */
  private readonly kept: Record<Kept, (Ordered & { id: string })[]>;

  constructor(
    private readonly piece: Piece,
    private readonly tokens: ReadonlyMap<string, Token>,
    private readonly makeId: MakeId
  ) {
    const { swatches, typeStyles, easings } = piece.head;
    this.kept = { swatches: inOrder(swatches), typeStyles: inOrder(typeStyles), easings: inOrder(easings) };
  }

  run(): CameIn {
    const names = shortNames([...this.tokens.values()]);
    for (const token of this.tokens.values()) {
      const name = names.get(token)!;
      const resolved = this.resolve(token);
      const said = typeof resolved === 'string' ? resolved : this.take(name, resolved);
      if (said !== null) this.left.push(`${token.path.join(' / ')}: ${said}`);
    }
    return { operations: this.operations, made: this.made(), left: this.left };
  }

  private made(): string[] {
    const words: Record<Kept, [string, string]> = {
      swatches: ['swatch', 'swatches'],
      typeStyles: ['type style', 'type styles'],
      easings: ['easing', 'easings'],
    };
    return (Object.keys(words) as Kept[]).flatMap((kind) => {
      const [fresh, changed] = this.counts[kind];
      const [one, many] = words[kind];
      return [...(fresh ? [count(fresh, one, many)] : []), ...(changed ? [`${count(changed, one, many)} changed`] : [])];
    });
  }

  /** A token with its aliases followed; a sentence where that leads nowhere. */
  private resolve(token: Token): Token | string {
    let { type, value } = token;
    const seen = new Set<string>();
    for (let alias = aliasIn(value); alias !== null; alias = aliasIn(value)) {
      if (seen.has(alias)) return 'it leads back to itself';
      seen.add(alias);
      const found = this.tokens.get(alias);
      if (!found) return `there is no ${alias}`;
      type ??= found.type;
      value = found.value;
    }
    return { ...token, type, value };
  }

  /** Takes a token in; null, or why it is left. */
  private take(name: string, { type, value }: Token): string | null {
    switch (type) {
      case 'color': {
        const color = colorFrom(value);
        return color === null
          ? 'its colour cannot be read, or is in a colour space that has no hex beside it'
          : this.put('swatches', name, { color });
      }
      case 'typography':
        return isRecord(value) ? this.takeLetters(name, value) : 'its value is no typography';
      case 'cubicBezier': {
        const numbers =
          Array.isArray(value) && value.length === 4 && value.every((one) => typeof one === 'number' && Number.isFinite(one))
            ? (value as number[])
            : null;
        if (!numbers || numbers[0]! < 0 || numbers[0]! > 1 || numbers[2]! < 0 || numbers[2]! > 1) return 'its value is no cubic Bézier';
        return this.put('easings', name, { easing: `cubic-bezier(${numbers.join(', ')})` });
      }
      default:
        return type === null ? 'it says no type' : `a ${type} has no place in a piece`;
    }
  }

  private takeLetters(name: string, value: Group): string | null {
    const part = (key: string): unknown => {
      const resolved = this.resolve({ path: [key], type: null, value: value[key] });
      return typeof resolved === 'string' ? undefined : resolved.value;
    };
    const families = [part('fontFamily')].flat().filter((one) => typeof one === 'string');
    const family = families.map(familyNamed).find((one) => one !== undefined);
    const size = pixels(part('fontSize'));
    const weight = weightOf(part('fontWeight'));
    const leading = part('lineHeight');
    const letters: Letters = {
      ...(family && { family }),
      ...(size !== null && size > 0 && size <= 1000 && { size }),
      ...(weight !== null && { weight }),
      ...(typeof leading === 'number' && leading >= 0.5 && leading <= 5 && { leading }),
    };
    if (Object.keys(letters).length === 0) return 'nothing of it can be used';
    const refused = this.put('typeStyles', name, { letters });
    if (refused !== null) return refused;
    const spacing = pixels(part('letterSpacing'));
    const lost = [
      ...(families.length && !family ? [`the typeface ${families[0]} is not here, so the usual one stands in`] : []),
      ...(spacing ? ['its letter spacing is left'] : []),
    ];
    return lost.length ? lost.join('; ') : null;
  }

  private put(kind: Kept, name: string, what: object): string | null {
    const list = this.kept[kind];
    const old = list.find((one) => one.name === name);
    if (old) {
      for (const [key, value] of Object.entries(what))
        if (JSON.stringify((old as unknown as Group)[key]) !== JSON.stringify(value)) {
          this.operations.push(setHead(this.piece, [kind, old.id, key], value));
          this.counts[kind][1]++;
        }
      return null;
    }
    if (list.length >= MOST[kind]) return `a piece keeps at most ${MOST[kind]} of these`;
    const entry = { ...namedLast(list, name, 'Token'), ...what };
    const id = this.makeId();
    this.operations.push(setHead(this.piece, [kind, id], entry));
    list.push({ ...entry, id });
    this.counts[kind][0]++;
    return null;
  }
}

/** The path that a value names, as `{group.token}`; null where it is a value of its own. */
const aliasIn = (value: unknown): string | null => (typeof value === 'string' ? (/^\{([^{}]+)\}$/.exec(value.trim())?.[1] ?? null) : null);

/** The shortest end of each path that no other token has. */
function shortNames(tokens: readonly Token[]): Map<Token, string> {
  const endOf = ({ path }: Token, length: number) => path.slice(-length).join(' / ');
  const names = new Map<Token, string>();
  let open = tokens;
  for (let length = 1; open.length; length++) {
    const uses = new Map<string, number>();
    for (const token of open) uses.set(endOf(token, length), (uses.get(endOf(token, length)) ?? 0) + 1);
    const isAlone = (token: Token) => uses.get(endOf(token, length)) === 1 || token.path.length <= length;
    for (const token of open.filter(isAlone)) names.set(token, fitting(endOf(token, length)));
    open = open.filter((token) => !isAlone(token));
  }
  return names;
}

const fitting = (name: string): string => nameFrom(name, 'Token');

/** A colour as pieces keep it; null for what cannot be read. */
function colorFrom(value: unknown): string | null {
  if (typeof value === 'string') return hexFrom(value);
  if (!isRecord(value)) return null;
  const { colorSpace, components, alpha = 1, hex } = value;
  const opacity = typeof alpha === 'number' && alpha >= 0 && alpha <= 1 ? alpha : 1;
  const inSrgb =
    colorSpace === 'srgb' && Array.isArray(components) && components.length === 3
      ? components.map((one: unknown) => (one === 'none' ? 0 : one))
      : null;
  if (inSrgb?.every((one) => typeof one === 'number' && one >= 0 && one <= 1))
    return withAlpha(`#${inSrgb.map((one) => pair(one as number)).join('')}`, opacity);
  const plain = typeof hex === 'string' ? hexFrom(hex) : null;
  return plain === null ? null : withAlpha(plain.slice(0, 7), opacity);
}

const withAlpha = (rgb: string, alpha: number): string => (pair(alpha) === 'ff' ? rgb : `${rgb}${pair(alpha)}`);

/** `#rgb`, `#rgba`, `#rrggbb` or `#rrggbbaa`. */
function hexFrom(text: string): string | null {
  const [, digits] = /^#([0-9a-f]{3,4}|[0-9a-f]{6}|[0-9a-f]{8})$/i.exec(text.trim()) ?? [];
  if (digits === undefined) return null;
  const full = (digits.length < 6 ? [...digits].map((digit) => digit + digit).join('') : digits).toLowerCase();
  return `#${full.endsWith('ff') && full.length === 8 ? full.slice(0, 6) : full}`;
}

/** A length in pixels: `{ value, unit }`, or as a text of both; a rem is 16 of them. */
function pixels(value: unknown): number | null {
  const [number, unit] = isRecord(value)
    ? [Number(value['value']), value['unit']]
    : typeof value === 'string'
      ? [parseFloat(value), /[a-z]+$/i.exec(value.trim())?.[0]]
      : [NaN, undefined];
  if (!Number.isFinite(number)) return null;
  return unit === 'px' ? number : unit === 'rem' ? number * 16 : null;
}

/** Names of weights, as the format has them. */
const WEIGHTS: Readonly<Record<string, number>> = {
  thin: 100,
  hairline: 100,
  'extra-light': 200,
  'ultra-light': 200,
  light: 300,
  normal: 400,
  regular: 400,
  book: 400,
  medium: 500,
  'semi-bold': 600,
  'demi-bold': 600,
  bold: 700,
  'extra-bold': 800,
  'ultra-bold': 800,
  black: 900,
  heavy: 900,
};

function weightOf(value: unknown): number | null {
  const weight = typeof value === 'string' ? WEIGHTS[value.trim().toLowerCase()] : value;
  return typeof weight === 'number' && weight >= 100 && weight <= 900 ? Math.round(weight) : null;
}
