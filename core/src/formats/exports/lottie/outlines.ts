import svgpath from 'svgpath';

/** Outlines as the Lottie format has them: for each of its parts the points, and where their handles are beside them. */

export interface Bezier {
  readonly c: boolean;
  readonly v: readonly (readonly [number, number])[];
  readonly i: readonly (readonly [number, number])[];
  readonly o: readonly (readonly [number, number])[];
}

type Point = readonly [x: number, y: number];

/** SVG path data in a box of 100 by 100, in a box of another size. */
export function beziersOf(path: string, width: number, height: number): Bezier[] {
  const found: { c: boolean; v: Point[]; i: Point[]; o: Point[] }[] = [];
  let at: Point = [0, 0];
  let begin: Point = [0, 0];
  const add = (v: Point, before: Point) => {
    const part = found.at(-1)!;
    part.v.push(v);
    part.i.push([before[0] - v[0], before[1] - v[1]]);
    part.o.push([0, 0]);
    at = v;
  };
  const lead = (to: Point) => {
    const part = found.at(-1)!;
    part.o[part.o.length - 1] = [to[0] - at[0], to[1] - at[1]];
  };
  svgpath(path)
    .abs()
    .unshort()
    .unarc()
    .scale(width / 100, height / 100)
    .iterate((segment) => {
      const [name, ...n] = segment as [string, ...number[]];
      if (name === 'M') {
        at = begin = [n[0]!, n[1]!];
        found.push({ c: false, v: [], i: [], o: [] });
        return add(at, at);
      }
      // What goes on after an end begins anew where that began.
      if (name !== 'Z' && found.at(-1)?.c) {
        found.push({ c: false, v: [], i: [], o: [] });
        add(begin, begin);
      }
      if (name === 'L') add([n[0]!, n[1]!], [n[0]!, n[1]!]);
      else if (name === 'H') add([n[0]!, at[1]], [n[0]!, at[1]]);
      else if (name === 'V') add([at[0], n[0]!], [at[0], n[0]!]);
      else if (name === 'C') {
        lead([n[0]!, n[1]!]);
        add([n[4]!, n[5]!], [n[2]!, n[3]!]);
      } else if (name === 'Q') {
        const [cx, cy, x, y] = n as [number, number, number, number];
        lead([at[0] + (cx - at[0]) * (2 / 3), at[1] + (cy - at[1]) * (2 / 3)]);
        add([x, y], [x + (cx - x) * (2 / 3), y + (cy - y) * (2 / 3)]);
      } else if (name === 'Z') close(found.at(-1));
      return undefined;
    });
  return found.map(({ c, v, i, o }) => ({ c, v: v.map(rounded), i: i.map(rounded), o: o.map(rounded) }));
}

/** A part that ends where it began has that point once. */
function close(part: { c: boolean; v: Point[]; i: Point[]; o: Point[] } | undefined): void {
  if (!part) return;
  part.c = true;
  const [first, last] = [part.v[0]!, part.v.at(-1)!];
  if (part.v.length < 2 || Math.hypot(first[0] - last[0], first[1] - last[1]) > 1e-6) return;
  part.i[0] = part.i.at(-1)!;
  for (const list of [part.v, part.i, part.o]) list.pop();
}

const rounded = ([x, y]: Point): [number, number] => [Math.round(x * 1000) / 1000, Math.round(y * 1000) / 1000];

/** Whether outlines have as many parts and points, so that one can become the other. */
export const areAlike = (outlines: readonly (readonly Bezier[])[]): boolean =>
  outlines.every(
    (one) =>
      one.length === outlines[0]!.length && one.every((part, i) => part.v.length === outlines[0]![i]!.v.length && part.c === outlines[0]![i]!.c)
  );
