import type { Shown } from '../program/resolve.ts';
import { clear, mixColors } from './color.ts';
import { mixPaths } from './path.ts';

/** What of a layer's appearance can be on its way from one value to another. */

export const NUMBERS = [
  'x',
  'y',
  'width',
  'height',
  'rotation',
  'scale',
  'opacity',
  'corner',
  'lineWidth',
  'size',
  'drawn',
  'typed',
  'counted',
  'volume',
  'shadowX',
  'shadowY',
  'shadowBlur',
  'scrollX',
  'scrollY',
] as const;
export const COLORS = ['fill', 'ink', 'lineColor', 'shadowColor'] as const;

export type NumberName = (typeof NUMBERS)[number];
export type ColorName = (typeof COLORS)[number];
export type ValueName = NumberName | ColorName | 'path';

export type Values = { readonly [K in NumberName]: number } & { readonly [K in ColorName]: string | undefined } & {
  readonly path: string | undefined;
};

/** Numbers that move a layer rather than fade or colour it. */
export const MOVING: ReadonlySet<ValueName> = new Set<ValueName>([
  'x',
  'y',
  'width',
  'height',
  'rotation',
  'scale',
  'size',
  'path',
  'drawn',
  'typed',
  'counted',
  'scrollX',
  'scrollY',
]);

export const DEFAULT_INK = '#26232c';

const known = new WeakMap<Shown, Values>();

/** The values of a settled layer. */
export function valuesOf(shown: Shown): Values {
  const old = known.get(shown);
  if (old) return old;
  const { style, letters } = shown;
  const values: Values = {
    x: shown.x,
    y: shown.y,
    width: shown.width,
    height: shown.height,
    rotation: shown.rotation,
    scale: shown.scale,
    opacity: shown.opacity,
    corner: style.corner ?? 0,
    lineWidth: style.line?.width ?? 0,
    size: letters.size ?? 16,
    drawn: style.drawn ?? 1,
    typed: letters.typed ?? 1,
    counted: letters.counted ?? 1,
    volume: style.volume ?? 1,
    shadowX: style.shadow?.x ?? 0,
    shadowY: style.shadow?.y ?? 0,
    shadowBlur: style.shadow?.blur ?? 0,
    scrollX: shown.scroll.x,
    scrollY: shown.scroll.y,
    fill: style.fill,
    ink: style.ink ?? DEFAULT_INK,
    lineColor: style.line?.color,
    shadowColor: style.shadow?.color,
    path: shown.path,
  };
  known.set(shown, values);
  return values;
}

/** The names of what differs. */
export const changedNames = (a: Values, b: Values): ValueName[] => ALL.filter((name) => a[name] !== b[name]);

const ALL: readonly ValueName[] = [...NUMBERS, ...COLORS, 'path'];

/** A value a share `t` of the way; exactly the ends at 0 and 1. A colour that was not there fades in from nothing. */
export function mixValue(
  name: ValueName,
  from: number | string | undefined,
  to: number | string | undefined,
  t: number
): number | string | undefined {
  if (t === 0) return from;
  if (t === 1) return to;
  if (typeof from === 'number' && typeof to === 'number') {
    const value = from + (to - from) * t;
    return SHARES.has(name) ? Math.min(1, Math.max(0, value)) : LEAST_ZERO.has(name) ? Math.max(0, value) : value;
  }
  if (name === 'path') return typeof from === 'string' && typeof to === 'string' ? mixPaths(from, to, t) : to;
  if (from === undefined && to === undefined) return undefined;
  const [a, b] = [String(from ?? clear(String(to))), String(to ?? clear(String(from)))];
  return mixColors(a, b, Math.min(1, Math.max(0, t)));
}

/** From 0 to 1. */
const SHARES: ReadonlySet<ValueName> = new Set<ValueName>(['opacity', 'drawn', 'typed', 'counted', 'volume']);
const LEAST_ZERO: ReadonlySet<ValueName> = new Set<ValueName>(['width', 'height', 'corner', 'lineWidth', 'size', 'shadowBlur', 'scale']);
