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
