import { waitsFor } from '../vocabulary/cues/all.ts';
import type { PlainOccasion } from '../vocabulary/occasions.ts';
import { centerOf, type Point, type Rect } from '../program/geometry.ts';
import { outwardNodes, threadsAt, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { boundsOf, enabledWithin, isUnder, standingScreen, type Screen, type Stood, type Surface } from './resolve.ts';
import { nearTo } from './near.ts';
import { catchOn } from './pointer.ts';
import type { Runner } from './runner.ts';
import { scrollTo } from './scrolling.ts';
import type { RunState } from './state.ts';

/** Where a pointer gets at things in a run: at a layer, at the ground of a scene, beside a frame laid over, and after scrolling. */

interface Running {
  readonly program: Program;
  readonly run: RunState;
}

export type Reached = { readonly node: Node; readonly point: Point } | { readonly code: string; readonly sentence: string };

/** A point where the pointer gets to a layer or to something in it, tried in its middle and on a grid of 12 × 12 points. */
export const reachOf = (runner: Running, node: Node): Reached => reachOn(standingScreen(runner.program, runner.run), runner.run, node);

function reachOn(screen: Screen<Stood>, run: RunState, node: Node): Reached {
  const surface = screen.surfaces.find((one) => one.all.some((shown) => shown.node === node));
  const shown = surface?.all.find((one) => one.node === node);
  if (!shown || !surface) return { code: 'unreachable', sentence: `${node.layer.name} is hidden.` };
  let by: Stood | null = null;
  let near: Screen<Stood> | null = null;
  for (const point of pointsOn(screen, shown)) {
    const caught = catchOn(near ?? screen, run, point);
    if (getsTo(shown, surface, caught)) return { node: caught.shown?.node ?? node, point };
    by ??= caught.shown;
    near ??= nearTo(screen, boundsOf(shown));
  }
  if (by) return { code: 'covered', sentence: `${by.node.layer.name} lies over all of ${node.layer.name}.` };
  return { code: 'covered', sentence: `${node.layer.name} lies outside of what can be seen.` };
}

/** Whether a press that is caught so gets to a layer, to something in it, or through it to what is around it. */
function getsTo({ node }: Stood, surface: Surface<Stood>, caught: ReturnType<typeof catchOn>): boolean {
  if (caught.shown && outwardNodes(caught.shown.node).includes(node)) return true;
  return !node.catches && caught.surface?.scene === surface.scene && (!caught.shown || outwardNodes(node).includes(caught.shown.node));
}

export interface Hidden {
  /** Share of what is in view of it, 0 to 1, that other layers take. */
  readonly share: number;
  /** The layer that takes most of it. */
  readonly by: Stood | null;
}

/** How much of a layer others take from the pointer just now; null where none of it is in view. */
export function hiddenOf(screen: Screen<Stood>, run: RunState, surface: Surface<Stood>, shown: Stood): Hidden | null {
  const takers = new Map<Stood, number>();
  let all = 0;
  let taken = 0;
  const near = nearTo(screen, boundsOf(shown));
  for (const point of pointsOn(screen, shown)) {
    all++;
    const caught = catchOn(near, run, point);
    if (getsTo(shown, surface, caught)) continue;
    taken++;
    if (caught.shown) takers.set(caught.shown, (takers.get(caught.shown) ?? 0) + 1);
  }
  if (all === 0) return null;
  return { share: taken / all, by: [...takers].sort((a, b) => b[1] - a[1])[0]?.[0] ?? null };
}

const GRID = 12;

/** Points of a layer that are in view, its middle first. */
function* pointsOn(screen: Screen<Stood>, shown: Stood): Iterable<Point> {
  for (const point of pointsOver(boundsOf(shown))) if (isInView(screen, point) && isUnder(shown, point)) yield point;
}

const isInView = ({ width, height }: Screen<Stood>, { x, y }: Point) => x >= 0 && y >= 0 && x < width && y < height;

function* pointsOver(box: Rect): Iterable<Point> {
  yield centerOf(box);
  for (let row = 0; row < GRID; row++)
    for (let column = 0; column < GRID; column++)
      yield { x: box.x + ((column + 0.5) / GRID) * box.width, y: box.y + ((row + 0.5) / GRID) * box.height };
}

const viewOf = ({ width, height }: Screen<Stood>): Rect => ({ x: 0, y: 0, width, height });

/** A point where a scene itself takes one of these: no layer is there, or one that lets it through to the scene. */
export function groundOf(
  { program, run }: Running,
  scene: string,
  occasions: readonly (PlainOccasion | 'swipe')[]
): { node: Node | null; point: Point } | null {
  const screen = standingScreen(program, run);
  const hears = (node: Node) => threadsAt(node).some(({ enabled, cue }) => enabled && occasions.some((type) => waitsFor(cue, type)));
  for (const point of pointsOver(viewOf(screen))) {
    const { shown, surface } = catchOn(screen, run, point);
    if (surface?.scene !== scene) continue;
    if (shown && (outwardNodes(shown.node).some(hears) || !enabledWithin(run.roots[scene]!, shown.node))) continue;
    return { node: shown?.node ?? null, point };
  }
  return null;
}

/** Whether a press can be made beside the frame that is laid over. */
export const canPressBeside = (running: Running): boolean => besideOf(running) !== null;

/** Where that is; null where there is no such place. */
export function besideOf({ program, run }: Running): Point | null {
  if (run.overlays.length === 0) return null;
  const screen = standingScreen(program, run);
  for (const point of pointsOver(viewOf(screen))) if (catchOn(screen, run, point).surface === null) return point;
  return null;
}

// ── scrolling to it ──────────────────────────────────────────────────────────

/** Scrolls what is around a layer until a pointer gets to it; false, and nothing moved, where that does not help. */
export function scrollInto(runner: Runner, node: Node): boolean {
  for (const share of SHARES) {
    const tried = runner.beside();
    scrollTowards(tried, node, share);
    if (tried.run === runner.run || !('point' in reachOf(tried, node))) continue;
    scrollTowards(runner, node, share);
    return true;
  }
  return false;
}

/** Where in its view a layer is scrolled to: to the middle, to the beginning, to the end. */
export const SHARES = [0.5, 0, 1];

/** Scrolls all around a layer so that it stands at a share of each view, as far as that goes. */
export function scrollTowards(runner: Runner, node: Node, share: number): void {
  const scene = runner.sceneOfNode(node.key)!;
  for (const outer of [...outwardNodes(node.parent).filter((one) => one.layer.scroll), null].reverse()) scrollNear(runner, scene, outer, node, share);
}

/** Scrolls one group, or the scene with null, so that a layer stands at a share of its view: 0 at its beginning, 1 at its end. */
function scrollNear(runner: Runner, scene: string, outer: Node | null, node: Node, share: number): void {
  const surface = standingScreen(runner.program, runner.run).surfaces.find((one) => one.scene === scene);
  const shown = surface?.all.find((one) => one.node === node);
  if (!surface || !shown) return;
  const group = outer && surface.all.find((one) => one.node === outer);
  const view = group ? boundsOf(group) : surface;
  const box = boundsOf(shown);
  const scale = group && group.width > 0 ? view.width / group.width : 1;
  const scroll = group ? group.scroll : surface.scroll;
  const by = (from: number, size: number, start: number, length: number) => (from - start - (length - size) * share) / (scale || 1);
  scrollTo(
    runner,
    scene,
    outer?.key ?? '',
    scroll.x + by(box.x, box.width, view.x, view.width),
    scroll.y + by(box.y, box.height, view.y, view.height)
  );
}
