import { centerOf, contains, inOval, type Point } from './geometry.ts';
import type { Item, SceneProgram } from './program.ts';

/** Whether a point of the scene lies on a layer, hidden or not. */
export const isOn = (item: Item, point: Point): boolean => (item.layer.type === 'oval' ? inOval(item.box, point) : contains(item.box, point));

/** The frontmost shown layer at a point that reacts to pointers; null where the press goes to the frame itself. */
export function catcherAt(scene: SceneProgram, point: Point): Item | null {
  for (let i = scene.items.length - 1; i >= 0; i--) {
    const item = scene.items[i]!;
    if (item.catches && item.shown && isOn(item, point)) return item;
  }
  return null;
}

/** All shown layers at a point, frontmost first. */
export const layersAt = (scene: SceneProgram, point: Point): Item[] => scene.items.filter((item) => item.shown && isOn(item, point)).reverse();

/** The layer and the groups around it, from the inside out. */
export function outward(item: Item | null): Item[] {
  const chain: Item[] = [];
  for (let at = item; at; at = at.parent) chain.push(at);
  return chain;
}

export interface Reach {
  /** A point where a press gets to the layer or to something in it; null where none does. */
  readonly point: Point | null;
  /** Share of the layer's own area, 0 to 1, that other layers take. */
  readonly hidden: number;
  /** The layer that takes most of what is hidden. */
  readonly by: Item | null;
}

const GRID = 12;

/** How much of a layer a pointer can get at, judged on its middle and on a grid of 12 × 12 points. */
export function reachOf(scene: SceneProgram, item: Item): Reach {
  const takers = new Map<Item, number>();
  let open: Point | null = null;
  let all = 0;
  let taken = 0;
  for (const point of samplePoints(item)) {
    if (!inFrame(scene, point) || !isOn(item, point)) continue;
    all++;
    const catcher = catcherAt(scene, point);
    if (catcher && outward(catcher).includes(item)) {
      open ??= point;
      continue;
    }
    taken++;
    if (catcher) takers.set(catcher, (takers.get(catcher) ?? 0) + 1);
  }
  const by = [...takers].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null;
  return { point: open, hidden: all === 0 ? 0 : taken / all, by };
}

/** A point of the scene where a press goes to the frame itself; null where layers take all of it. */
export function freePoint(scene: SceneProgram): Point | null {
  const { width, height } = scene.scene;
  for (const point of gridOver({ x: 0, y: 0, width, height })) if (!catcherAt(scene, point)) return point;
  return null;
}

const inFrame = ({ scene }: SceneProgram, { x, y }: Point) => x >= 0 && y >= 0 && x < scene.width && y < scene.height;

function* samplePoints(item: Item): Iterable<Point> {
  yield centerOf(item.box);
  yield* gridOver(item.box);
}

function* gridOver(rect: { x: number; y: number; width: number; height: number }): Iterable<Point> {
  for (let row = 0; row < GRID; row++)
    for (let column = 0; column < GRID; column++)
      yield { x: rect.x + ((column + 0.5) / GRID) * rect.width, y: rect.y + ((row + 0.5) / GRID) * rect.height };
}
