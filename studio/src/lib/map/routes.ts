import { groupedBy } from '@zany/core';
import type { Ribbon } from './web';

/** The way ribbons take over the map, from port to port. CSS pixels of the map. */

export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A cubic curve: begin, two that pull, end. */
export type Curve = readonly [x: number, y: number, ax: number, ay: number, bx: number, by: number, endX: number, endY: number];

type Side = 'left' | 'right' | 'bottom';

interface Ends {
  readonly ribbon: Ribbon;
  readonly from: Side;
  readonly to: Side;
}

/** Room between a frame and the eyelet that a ribbon ends in. */
const EYELET = 6;

function endsOf(ribbon: Ribbon, a: Box, b: Box): Ends {
  const dx = b.x + b.width / 2 - (a.x + a.width / 2);
  const isBeside = Math.abs(dx) <= Math.max(a.width, b.width) / 2;
  if (isBeside) return { ribbon, from: 'right', to: 'right' };
  return dx > 0 ? { ribbon, from: 'right', to: 'left' } : { ribbon, from: 'bottom', to: 'bottom' };
}

/** Ribbons as curves. Each has a port of its own at its side of a frame, in the order of where it comes from or goes to, so that few of them cross. */
export function routeAll(ribbons: readonly Ribbon[], boxOf: (frame: string) => Box | null): Map<Ribbon, Curve> {
  const all = ribbons.flatMap((ribbon) => {
    const [a, b] = [boxOf(ribbon.from), boxOf(ribbon.to)];
    return a && b ? [endsOf(ribbon, a, b)] : [];
  });
  const ends = all.flatMap((end) =>
    (['from', 'to'] as const).map((which) => ({ end, which, other: boxOf(end.ribbon[which === 'from' ? 'to' : 'from'])! }))
  );
  const ports = groupedBy(ends, ({ end, which }) => `${end.ribbon[which]} ${end[which]}`);
  const places = new Map<string, readonly [number, number]>();
  for (const [key, list] of ports) {
    const [frame, side] = key.split(' ') as [string, Side];
    const box = boxOf(frame)!;
    const along = side === 'bottom' ? ({ other }: (typeof list)[number]) => other.x : ({ other }: (typeof list)[number]) => other.y;
    list
      .toSorted((p, q) => along(p) - along(q))
      .forEach(({ end, which }, i) => places.set(`${end.ribbon.key} ${which}`, portAt(box, side, (i + 1) / (list.length + 1))));
  }
  return new Map(all.map((end) => [end.ribbon, curve(places.get(`${end.ribbon.key} from`)!, end.from, places.get(`${end.ribbon.key} to`)!, end.to)]));
}

/** In the middle three fifths of a side. */
function portAt({ x, y, width, height }: Box, side: Side, share: number): readonly [number, number] {
  const at = 0.2 + 0.6 * share;
  if (side === 'bottom') return [x + width * at, y + height];
  return [side === 'left' ? x : x + width, y + height * at];
}

function curve([x, y]: readonly [number, number], from: Side, [tx, ty]: readonly [number, number], to: Side): Curve {
  const endX = to === 'left' ? tx - EYELET : to === 'right' ? tx + EYELET : tx;
  const endY = to === 'bottom' ? ty + EYELET : ty;
  if (from === 'bottom') {
    const dip = Math.min(260, 50 + Math.abs(endX - x) * 0.14);
    return [x, y, x, y + dip, endX, endY + dip, endX, endY];
  }
  const bend = to === 'right' ? 46 + Math.abs(endY - y) * 0.12 : Math.max(36, (endX - x) / 2);
  return [x, y, x + bend, y, to === 'right' ? endX + bend : endX - bend, endY, endX, endY];
}

/** A point of a curve, from 0 to 1. */
export function pointOn([x, y, ax, ay, bx, by, ex, ey]: Curve, t: number): { readonly x: number; readonly y: number } {
  const u = 1 - t;
  const [p, q, r, s] = [u * u * u, 3 * u * u * t, 3 * u * t * t, t * t * t];
  return { x: p * x + q * ax + r * bx + s * ex, y: p * y + q * ay + r * by + s * ey };
}

const SAMPLES = 24;

/** How far a point is from a curve, nearly. */
export function distanceTo(of: Curve, x: number, y: number): number {
  let least = Infinity;
  let from = pointOn(of, 0);
  for (let i = 1; i <= SAMPLES; i++) {
    const to = pointOn(of, i / SAMPLES);
    const [dx, dy] = [to.x - from.x, to.y - from.y];
    const along = Math.max(0, Math.min(1, ((x - from.x) * dx + (y - from.y) * dy) / (dx * dx + dy * dy || 1)));
    least = Math.min(least, Math.hypot(from.x + along * dx - x, from.y + along * dy - y));
    from = to;
  }
  return least;
}

/** The ribbon nearest to a point, and nearer than so much; null where none is. A curve lies between the points that it is made of. */
export function nearestTo(routes: ReadonlyMap<Ribbon, Curve>, x: number, y: number, within: number): Ribbon | null {
  let nearest: Ribbon | null = null;
  let least = within;
  const isOff = (at: number, a: number, b: number, c: number, d: number) => at < Math.min(a, b, c, d) - least || at > Math.max(a, b, c, d) + least;
  for (const [ribbon, curve] of routes) {
    if (isOff(x, curve[0], curve[2], curve[4], curve[6]) || isOff(y, curve[1], curve[3], curve[5], curve[7])) continue;
    const distance = distanceTo(curve, x, y);
    if (distance < least) [nearest, least] = [ribbon, distance];
  }
  return nearest;
}
