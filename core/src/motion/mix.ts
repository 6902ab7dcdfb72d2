import { properties, type Tracked } from '../vocabulary/properties/all.ts';
import type { Mixing } from '../vocabulary/properties/define.ts';
import { clear, mixColors } from './color.ts';
import { mixPaths } from './path.ts';

/** What of a layer's appearance can be on its way from one value to another. */

/** What is mixed besides what can have keys. */
const OTHERS = { shadowX: 'number', shadowY: 'number', shadowBlur: 'length', shadowColor: 'colour', scrollX: 'number', scrollY: 'number' } as const;

export type ColorName = 'fill' | 'ink' | 'lineColor' | 'shadowColor';
export type ValueName = Tracked | keyof typeof OTHERS;
export type NumberName = Exclude<ValueName, ColorName | 'path'>;

const MIXING = { ...OTHERS, ...Object.fromEntries(properties.map(({ name, mixing }) => [name, mixing])) } as Readonly<Record<ValueName, Mixing>>;

/** All of it. */
export const VALUES = Object.keys(MIXING) as readonly ValueName[];

/** What are numbers. */
export const NUMBERS = VALUES.filter((name) => MIXING[name] !== 'colour' && MIXING[name] !== 'path') as readonly NumberName[];

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
    const mixing = MIXING[name];
    return mixing === 'share' ? Math.min(1, Math.max(0, value)) : mixing === 'length' ? Math.max(0, value) : value;
  }
  if (MIXING[name] === 'path') return typeof from === 'string' && typeof to === 'string' ? mixPaths(from, to, t) : to;
  if (from === undefined && to === undefined) return undefined;
  const [a, b] = [String(from ?? clear(String(to))), String(to ?? clear(String(from)))];
  return mixColors(a, b, Math.min(1, Math.max(0, t)));
}
