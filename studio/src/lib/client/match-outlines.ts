import { interpolate } from 'flubber';

/** Points that an outline is drawn anew with. */
const POINTS = 96;

type Ring = [number, number][];

/**
 * Closed outlines drawn anew with the same number of points each, so that one can become the next: the points of each begin where
 * they are nearest to those of the next.
 */
export function matchOutlines(outlines: readonly string[]): string[] {
  const path = document.createElementNS('http://www.w3.org/2000/svg', 'path');
  const rings = outlines.map((outline) => turned(pointsAlong(path, outline)));
  for (let i = rings.length - 2; i >= 0; i--) rings[i] = begunFor(rings[i]!, rings[i + 1]!);
  return rings.map((ring) => `M${ring.map(([x, y]) => `${round(x)} ${round(y)}`).join('L')}Z`);
}

function pointsAlong(path: SVGPathElement, outline: string): Ring {
  path.setAttribute('d', outline);
  const length = path.getTotalLength();
  return Array.from({ length: POINTS }, (_, i) => {
    const { x, y } = path.getPointAtLength((length * i) / POINTS);
    return [x, y];
  });
}

/** A ring that goes round in the one way that the matching takes all rings to go. */
function turned(ring: Ring): Ring {
  const area = ring.reduce((sum, [x, y], i) => {
    const [nextX, nextY] = ring[(i + 1) % ring.length]!;
    return sum + x * nextY - nextX * y;
  }, 0);
  return area < 0 ? ring.reverse() : ring;
}

/** A ring that begins at the point from which it best becomes another one. */
function begunFor(ring: Ring, next: Ring): Ring {
  const between = interpolate(ring, next, { string: false, maxSegmentLength: Infinity }) as unknown as (t: number) => Ring;
  const begun = between(0);
  return begun.length === next.length ? begun.map(([x, y]) => [x, y]) : ring;
}

const round = (n: number) => Math.round(n * 100) / 100;
