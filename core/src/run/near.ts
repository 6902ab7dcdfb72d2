import { overlaps, type Rect } from '../program/geometry.ts';
import { boundsOf, type Screen, type Stood } from './resolve.ts';

/**
 * The same screen with only those layers that could catch something within a box: who looks for them point by point need not ask all
 * of them each time.
 */
export const nearTo = (screen: Screen<Stood>, box: Rect): Screen<Stood> => ({
  ...screen,
  surfaces: screen.surfaces.map((surface) => ({ ...surface, all: surface.all.filter((one) => one.node.catches && overlaps(widestOf(one), box)) })),
});

/** A box in the view that holds all of the area in which a layer can be pressed. */
function widestOf(shown: Stood): Rect {
  const { x, y, width, height } = boundsOf(shown);
  const { a, b, c, d } = shown.matrix;
  const grow = (shown.node.layer.hit?.grow ?? 0) * (Math.hypot(a, b) + Math.hypot(c, d));
  return { x: x - grow, y: y - grow, width: width + 2 * grow, height: height + 2 * grow };
}
