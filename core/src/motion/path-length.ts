import { pathParts } from './path.ts';

/**
 * The length of a path's longest run, from one `M` to the next, in a box that is stretched by `sx` and `sy`. Curves are taken as
 * chords (SVG 2, 9.3 and its implementation notes for arcs), which is within a thousandth of their length.
 */
export function strokeLength(path: string, sx: number, sy: number): number {
  const key = `${sx} ${sy} ${path}`;
  const old = known.get(key);
  if (old !== undefined) return old;
  if (known.size > 500) known.clear();
  const made = measured(path, sx, sy);
  known.set(key, made);
  return made;
}

const known = new Map<string, number>();
const CHORDS = 32;

/** How many numbers a command takes. */
const ARITY: Readonly<Record<string, number>> = { m: 2, l: 2, h: 1, v: 1, c: 6, s: 4, q: 4, t: 2, a: 7, z: 0 };

function measured(path: string, sx: number, sy: number): number {
  const { shape, numbers } = pathParts(path);
  let [x, y, beginX, beginY, controlX, controlY] = [0, 0, 0, 0, 0, 0];
  let [run, longest, at, before] = [0, 0, 0, ''];
  const to = (nextX: number, nextY: number) => {
    run += Math.hypot((nextX - x) * sx, (nextY - y) * sy);
    [x, y] = [nextX, nextY];
  };
  const along = (point: (t: number) => readonly [number, number]) => {
    for (let i = 1; i <= CHORDS; i++) to(...point(i / CHORDS));
  };
  for (const [, letter, signs] of shape.matchAll(/([a-z])([#!]*)/gi) as Iterable<[string, string, string]>) {
    const kind = letter.toLowerCase();
    const arity = ARITY[kind]!;
    const times = arity ? Math.floor(signs.length / arity) : 1;
    for (let n = 0; n < times; n++) {
      const given = numbers.slice(at, at + arity);
      at += arity;
      const [dx, dy] = letter === kind ? [x, y] : [0, 0];
      const px = (i: number) => given[i]! + dx;
      const py = (i: number) => given[i]! + dy;
      const [fromX, fromY] = [x, y];
      const mirrored = (of: string): readonly [number, number] => (of.includes(before) && before ? [2 * x - controlX, 2 * y - controlY] : [x, y]);
      switch (kind) {
        case 'm':
          if (n > 0) to(px(0), py(1));
          else {
            [longest, run] = [Math.max(longest, run), 0];
            [x, y, beginX, beginY] = [px(0), py(1), px(0), py(1)];
          }
          break;
        case 'l':
          to(px(0), py(1));
          break;
        case 'h':
          to(px(0), y);
          break;
        case 'v':
          to(x, given[0]! + dy);
          break;
        case 'c':
        case 's': {
          const [ax, ay] = kind === 'c' ? [px(0), py(1)] : mirrored('cs');
          const i = kind === 'c' ? 2 : 0;
          [controlX, controlY] = [px(i), py(i + 1)];
          const [bx, by, endX, endY] = [controlX, controlY, px(i + 2), py(i + 3)];
          along((t) => [cubic(fromX, ax, bx, endX, t), cubic(fromY, ay, by, endY, t)]);
          break;
        }
        case 'q':
        case 't': {
          const [bx, by] = kind === 'q' ? [px(0), py(1)] : mirrored('qt');
          const i = kind === 'q' ? 2 : 0;
          const [endX, endY] = [px(i), py(i + 1)];
          [controlX, controlY] = [bx, by];
          along((t) => [quadratic(fromX, bx, endX, t), quadratic(fromY, by, endY, t)]);
          break;
        }
        case 'a':
          along(arc(fromX, fromY, given as unknown as ArcNumbers, px(5), py(6)));
          break;
        default:
          to(beginX, beginY);
      }
      before = kind;
    }
  }
  return Math.max(longest, run);
}

const cubic = (a: number, b: number, c: number, d: number, t: number) =>
  (1 - t) ** 3 * a + 3 * (1 - t) ** 2 * t * b + 3 * (1 - t) * t * t * c + t ** 3 * d;
const quadratic = (a: number, b: number, c: number, t: number) => (1 - t) ** 2 * a + 2 * (1 - t) * t * b + t * t * c;

type ArcNumbers = readonly [rx: number, ry: number, turned: number, large: number, sweep: number, x: number, y: number];

/** An arc by its centre (SVG 2, B.2.4); a straight line where it has no radius. */
function arc(x1: number, y1: number, [rx0, ry0, turned, large, sweep]: ArcNumbers, x2: number, y2: number): (t: number) => readonly [number, number] {
  let [rx, ry] = [Math.abs(rx0), Math.abs(ry0)];
  if (!rx || !ry || (x1 === x2 && y1 === y2)) return (t) => [x1 + (x2 - x1) * t, y1 + (y2 - y1) * t];
  const phi = (turned * Math.PI) / 180;
  const [cos, sin] = [Math.cos(phi), Math.sin(phi)];
  const [hx, hy] = [(x1 - x2) / 2, (y1 - y2) / 2];
  const [ux, uy] = [cos * hx + sin * hy, cos * hy - sin * hx];
  const grow = Math.sqrt(Math.max(1, (ux / rx) ** 2 + (uy / ry) ** 2));
  [rx, ry] = [rx * grow, ry * grow];
  const below = (rx * uy) ** 2 + (ry * ux) ** 2;
  const factor = (large === sweep ? -1 : 1) * Math.sqrt(Math.max(0, ((rx * ry) ** 2 - below) / below));
  const [cx, cy] = [(factor * rx * uy) / ry, (-factor * ry * ux) / rx];
  const from = Math.atan2((uy - cy) / ry, (ux - cx) / rx);
  let turn = Math.atan2((-uy - cy) / ry, (-ux - cx) / rx) - from;
  if (sweep && turn < 0) turn += 2 * Math.PI;
  if (!sweep && turn > 0) turn -= 2 * Math.PI;
  const [midX, midY] = [cos * cx - sin * cy + (x1 + x2) / 2, sin * cx + cos * cy + (y1 + y2) / 2];
  return (t) => {
    const [ex, ey] = [rx * Math.cos(from + turn * t), ry * Math.sin(from + turn * t)];
    return [midX + cos * ex - sin * ey, midY + sin * ex + cos * ey];
  };
}
