import type { Shown } from '../run/resolve.ts';
import { onceFor } from '../once.ts';
import { properties, type AnyPropertyKind } from '../vocabulary/properties/all.ts';
import { VALUES, type ColorName, type NumberName, type ValueName } from './mix.ts';

export { DEFAULT_INK } from '../vocabulary/properties/ink.ts';

/** The values of a layer's appearance, as they are at a moment. */

export type Values = { readonly [K in NumberName]: number } & { readonly [K in ColorName]: string | undefined } & {
  readonly path: string | undefined;
};

/** What moves a layer rather than fades or colours it. */
export const MOVING: ReadonlySet<ValueName> = new Set<ValueName>([
  ...properties.filter(({ moves }) => moves).map(({ name }) => name),
  'scrollX',
  'scrollY',
]);

/** The values of a settled layer; they are worked out once. */
export const valuesOf = onceFor(settledValues);

/** The same, for where they are asked for once: keeping them with the layer takes longer than working them out. */
export function settledValues(shown: Shown): Values {
  const { style } = shown;
  const values: Record<string, unknown> = {
    x: shown.x,
    y: shown.y,
    width: shown.width,
    height: shown.height,
    rotation: shown.rotation,
    scale: shown.scale,
    opacity: shown.opacity,
    shadowX: style.shadow?.x ?? 0,
    shadowY: style.shadow?.y ?? 0,
    shadowBlur: style.shadow?.blur ?? 0,
    shadowColor: style.shadow?.color,
    scrollX: shown.scroll.x,
    scrollY: shown.scroll.y,
  };
  for (const kind of kept) values[kind.name] = valueIn(shown, kind);
  return values as unknown as Values;
}

/** What a layer has besides its pose, which is there with all that moves it. */
const kept = properties.filter(({ group, name }) => group !== 'pose' && name !== 'opacity');

/** A property as it is seen; what it is without is undefined. */
export function valueIn(shown: Shown, { name, group, of, neutral, canMiss }: AnyPropertyKind): unknown {
  const fields = (group === 'layer' ? shown : shown[group as 'style' | 'letters']) as Readonly<Record<string, unknown>>;
  const value = of ? (fields[of.field] as Readonly<Record<string, unknown>> | undefined)?.[of.inner] : fields[name];
  return value ?? (canMiss ? undefined : neutral);
}

/** The names of what differs. */
export const changedNames = (a: Values, b: Values): ValueName[] => VALUES.filter((name) => a[name] !== b[name]);
