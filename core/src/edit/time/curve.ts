import { parseEasing } from '../../motion/easing.ts';

/** Easings by hand: the way between two keys is pulled where it is taken hold of. */

/** Those of the CSS standard that a pulled way is caught by. */
const NAMED = ['linear', 'ease', 'ease-in', 'ease-out', 'ease-in-out'] as const;

/**
 * The easing whose curve goes through a point: `t` is the share of the time between the two keys, `share` that of their values,
 * which may lie below 0 or above 1 where the way swings beyond them. A named one that passes within `reach` of it is that one.
 */
export function pulledEasing(t: number, share: number, reach = 0.035): string {
  // Both control points in one: half-way along itself the curve is at an eighth of its end and three quarters of that point.
  const control = (at: number, least: number, most: number) => tidy(Math.min(most, Math.max(least, (at - 0.125) / 0.75)));
  const [x, y] = [control(t, 0, 1), control(share, -2, 3)];
  return NAMED.find((name) => Math.abs(parseEasing(name)!(t) - share) <= reach) ?? `cubic-bezier(${x}, ${y}, ${x}, ${y})`;
}

const tidy = (n: number) => Math.round(n * 100) / 100 + 0;

/** An easing that swings beyond its end: how far, from 0 to 1, and the point of its curve that swings furthest, as shares of time and way. */
export interface Swing {
  readonly kind: 'spring' | 'overshoot';
  readonly amount: number;
  readonly t: number;
  readonly share: number;
}

/** What can be taken hold of at a spring or an overshoot; null for every other easing. */
export function swingOf(easing: string): Swing | null {
  const found = /^\s*(spring|overshoot)\(\s*([\d.]*)\s*\)\s*$/i.exec(easing);
  const curve = found && parseEasing(easing);
  if (!found || !curve) return null;
  const kind = found[1]!.toLowerCase() as Swing['kind'];
  const amount = found[2] ? Number(found[2]) : kind === 'spring' ? 0.3 : 0.1;
  let [t, share] = [1, 1];
  for (let i = 1; i < 200; i++) if (curve(i / 200) > share) [t, share] = [i / 200, curve(i / 200)];
  return { kind, amount, t, share };
}

/** A spring or overshoot that swings so far. */
export const swung = (kind: Swing['kind'], amount: number): string => `${kind}(${tidy(Math.min(1, Math.max(0, amount)))})`;
