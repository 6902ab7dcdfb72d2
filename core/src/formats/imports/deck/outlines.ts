import svgpath from 'svgpath';

/** Outlines of usual shapes, as SVG path data in a box of 100 by 100; by the names that Office Open XML gives them (ISO/IEC 29500, 20.1.10.56). */
export const OUTLINES: Readonly<Record<string, string>> = {
  triangle: 'M50 0L100 100L0 100Z',
  rtTriangle: 'M0 0L100 100L0 100Z',
  diamond: 'M50 0L100 50L50 100L0 50Z',
  parallelogram: 'M25 0L100 0L75 100L0 100Z',
  trapezoid: 'M25 0L75 0L100 100L0 100Z',
  pentagon: 'M50 0L100 38L81 100L19 100L0 38Z',
  hexagon: 'M25 0L75 0L100 50L75 100L25 100L0 50Z',
  octagon: 'M29 0L71 0L100 29L100 71L71 100L29 100L0 71L0 29Z',
  homePlate: 'M0 0L75 0L100 50L75 100L0 100Z',
  chevron: 'M0 0L75 0L100 50L75 100L0 100L25 50Z',
  rightArrow: 'M0 25L60 25L60 0L100 50L60 100L60 75L0 75Z',
  leftArrow: 'M100 25L40 25L40 0L0 50L40 100L40 75L100 75Z',
  upArrow: 'M25 100L25 40L0 40L50 0L100 40L75 40L75 100Z',
  downArrow: 'M25 0L25 60L0 60L50 100L100 60L75 60L75 0Z',
  leftRightArrow: 'M0 50L25 0L25 25L75 25L75 0L100 50L75 100L75 75L25 75L25 100Z',
  plus: 'M33 0L67 0L67 33L100 33L100 67L67 67L67 100L33 100L33 67L0 67L0 33L33 33Z',
  star5: 'M50 0L62 36L100 38L70 61L81 100L50 77L19 100L30 61L0 38L38 36Z',
  line: 'M0 0L100 100',
  straightConnector1: 'M0 0L100 100',
};

/** An outline turned over in its box. */
export const flipped = (path: string, horizontally: boolean, vertically: boolean): string =>
  horizontally || vertically
    ? svgpath(path)
        .abs()
        .scale(horizontally ? -1 : 1, vertically ? -1 : 1)
        .translate(horizontally ? 100 : 0, vertically ? 100 : 0)
        .round(2)
        .toString()
    : path;

/** An outline drawn in a view of its own (left, top, width, height), in a box of 100 by 100; null for one that no layer takes. */
export function fitted(path: string, [left, top, width, height]: readonly [number, number, number, number]): string | null {
  if (!(width > 0 || height > 0)) return null;
  const fit = svgpath(path)
    .abs()
    .translate(-left, -top)
    .scale(100 / (width || 1), 100 / (height || 1))
    .round(2)
    .toString();
  return /^M[MLHVCSQTAZ0-9 ,.eE+-]*$/.test(fit) && fit.length <= 20_000 ? fit : null;
}
