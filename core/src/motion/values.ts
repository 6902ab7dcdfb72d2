import type { Shown } from '../run/resolve.ts';
import { COLORS, NUMBERS, type ColorName, type NumberName, type ValueName } from './mix.ts';

/** The values of a layer's appearance, as they are at a moment. */

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
