import { waitsFor } from '../vocabulary/cues/all.ts';
import type { Thread } from '../piece/piece.ts';
import type { OccasionType } from '../vocabulary/occasions.ts';
import type { Occasions } from './heard.ts';
import { centerOf, intersection, partsBeside, type Point, type Rect } from '../program/geometry.ts';
import { outwardNodes, threadsAt, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { boundsOf, enabledWithin, isEnabled, isUnder, standingScreen, type Screen, type Stood, type Surface } from './resolve.ts';
import { nearTo } from './near.ts';
import { catchOn, keepsPresses } from './pointer.ts';
import type { Runner } from './runner.ts';
import { scrollTo } from './scrolling.ts';
import type { RootRun, RunState } from './state.ts';

/** Where a pointer gets at things in a run: at a layer, at the ground of a scene, beside a frame laid over, and after scrolling. */

interface Running {
  readonly program: Program;
  readonly run: RunState;
}

export type Reached = { readonly node: Node; readonly point: Point } | { readonly code: string; readonly sentence: string };

/**
 * A point where the pointer gets to a layer or to something in it, tried in its middle and on a grid of 12 × 12 points: for something
 * that is to be done there, where nothing in the layer takes that instead, if there is such a place.
 */
export const reachOf = (runner: Running, node: Node, heard: Occasions | null = null): Reached =>
  reachOn(standingScreen(runner.program, runner.run), runner.run, node, heard);

function reachOn(screen: Screen<Stood>, run: RunState, node: Node, heard: Occasions | null): Reached {
  const surface = screen.surfaces.find((one) => one.all.some((shown) => shown.node === node));
  const shown = surface?.all.find((one) => one.node === node);
  if (!shown || !surface) return { code: 'unreachable', sentence: `${node.layer.name} is hidden.` };
  let by: Stood | null = null;
  let near: Screen<Stood> | null = null;
  let best: { readonly reached: Reached; readonly taken: number } | null = null;
  const root = run.roots[surface.scene]!;
  const isPlain = heard === null || !someWithin(node, (one) => takenBy(root, one, heard) > 0);
  for (const point of pointsOn(screen, shown)) {
    const caught = catchOn(near ?? screen, run, point);
    if (getsTo(shown, surface, caught)) {
      const reached = { node: caught.shown?.node ?? node, point };
      const taken = isPlain ? 0 : Math.max(0, ...within(node, reached.node).map((one) => takenBy(root, one, heard)));
      if (taken === 0) return reached;
      if (!best || taken < best.taken) best = { reached, taken };
    }
    by ??= caught.shown;
    near ??= nearTo(screen, boundsOf(shown));
  }
  if (best) return best.reached;
  if (by) return { code: 'covered', sentence: `${by.node.layer.name} lies over all of ${node.layer.name}.` };
  return { code: 'covered', sentence: `${node.layer.name} lies outside of what can be seen.` };
}

const someWithin = (node: Node, is: (node: Node) => boolean): boolean => node.children.some((one) => is(one) || someWithin(one, is));

/** A node in another one, and what is around it in that. */
function within(outer: Node, inner: Node): readonly Node[] {
  const chain = outwardNodes(inner);
  const at = chain.indexOf(outer);
  return at < 0 ? NONE : chain.slice(0, at);
}

const NONE: readonly Node[] = [];

const heard = (threads: readonly Thread[], type: OccasionType): boolean => threads.some(({ enabled, cue }) => enabled && waitsFor(cue, type));

/** How much of what is done at a layer does not get to what is around it: all where it is disabled; what it is done for; what else is heard. */
function takenBy(root: RootRun, node: Node, occasions: Occasions): 0 | 1 | 2 | 3 {
  if (!isEnabled(root, node)) return 3;
  const { parent, instance } = node;
  // What goes outward from a layer comes out of its part, which takes it before a placement that waits for it, too.
  const isOfPart = parent !== null && parent.inside === instance && occasions.some((type) => heard(parent.item.threads, type));
  const hears = (type: OccasionType) => heard(threadsAt(node), type) || (isOfPart && heard(instance.scene.threads, type));
  if (hears(occasions[0]!) || (occasions[0] === 'drag' && node.layer.drag)) return 2;
  return occasions.some(hears) ? 1 : 0;
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

/** Points of a layer that are in view, its middle first, then that of what is to be seen of it. */
function* pointsOn(screen: Screen<Stood>, shown: Stood): Iterable<Point> {
  const box = boundsOf(shown);
  const seen = intersection(box, viewOf(screen));
  if (!seen) return;
  const middle = centerOf(box);
  const isWhole = seen.width === box.width && seen.height === box.height;
  if (!isWhole && isInView(screen, middle) && isUnder(shown, middle)) yield middle;
  for (const point of pointsOver(seen)) if (isInView(screen, point) && isUnder(shown, point)) yield point;
}

const isInView = ({ width, height }: Screen<Stood>, { x, y }: Point) => x >= 0 && y >= 0 && x < width && y < height;

function* pointsOver(box: Rect): Iterable<Point> {
  yield centerOf(box);
  for (let row = 0; row < GRID; row++)
    for (let column = 0; column < GRID; column++)
      yield { x: box.x + ((column + 0.5) / GRID) * box.width, y: box.y + ((row + 0.5) / GRID) * box.height };
}

const viewOf = ({ width, height }: Screen<Stood>): Rect => ({ x: 0, y: 0, width, height });

/**
 * A point where a scene itself takes what is done first of these: no layer is there, or one that lets it through to the scene, if there
 * is such a place all the others as well. Of a scene that lies behind another one only layers are got at.
 */
export function groundOf({ program, run }: Running, scene: string, occasions: Occasions): { node: Node | null; point: Point } | null {
  const screen = standingScreen(program, run);
  const hears = (node: Node | null, type: OccasionType) => outwardNodes(node).some((one) => heard(threadsAt(one), type));
  const lets = (node: Node) => !hears(node, occasions[0]!) && enabledWithin(run.roots[scene]!, node);
  const others = new Map<Stood, Surface<Stood>>();
  const groundAt = (points: Iterable<Point>): Grounded | null => {
    let second: Grounded | null = null;
    for (const point of points) {
      const { shown, surface } = catchOn(screen, run, point);
      if (shown && surface && surface.scene !== scene) others.set(shown, surface);
      if (surface?.scene !== scene) continue;
      const node = shown?.node ?? null;
      if (node && !lets(node)) continue;
      if (!occasions.some((type) => hears(node, type))) return { node, point };
      second ??= { node, point };
    }
    return second;
  };
  const found = groundAt(pointsOver(viewOf(screen)));
  const own = screen.surfaces.find((one) => one.scene === scene);
  if (found || !own || isKeptFrom(screen, run, own, others)) return found;
  // Layers that are too small for that.
  for (const shown of own.all) {
    if (!shown.node.catches || !lets(shown.node)) continue;
    const there = groundAt(pointsOn(screen, shown));
    if (there) return there;
  }
  return null;
}

/** Whether of what takes presses, what lies over a scene takes all: then nothing has to be asked of the scene. */
function isKeptFrom(screen: Screen<Stood>, run: RunState, own: Surface<Stood>, takers: ReadonlyMap<Stood, Surface<Stood>>): boolean {
  const { surfaces } = screen;
  const isOver = (one: Surface<Stood>) =>
    (one.kind === 'under') === (own.kind === 'under') ? surfaces.indexOf(one) > surfaces.indexOf(own) : own.kind === 'under';
  if (surfaces.some((one) => isOver(one) && keepsPresses(one, run))) return true;
  let left: readonly Rect[] = [viewOf(screen)];
  for (const [shown, surface] of takers) {
    const box = boundsOf(shown);
    if (isOver(surface) && holdsAll(shown, box)) left = left.flatMap((one) => partsBeside(one, box));
  }
  return left.length === 0;
}

/** Whether a layer catches everywhere in a box: it has no hollows, so where it does at the corners it does. */
export const holdsAll = (shown: Stood, box: Rect): boolean => cornersOf(box).every((corner) => isUnder(shown, corner));

/** The corners of a box, each just within it. */
export const cornersOf = ({ x, y, width, height }: Rect): Point[] =>
  [x + WITHIN, x + width - WITHIN].flatMap((left) => [y + WITHIN, y + height - WITHIN].map((top) => ({ x: left, y: top })));

const WITHIN = 1e-6;

interface Grounded {
  readonly node: Node | null;
  readonly point: Point;
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

/** A place off what is pressed, where as little as can be listens; null where what is pressed takes all of the view. */
export function offPressed({ program, run }: Running): Point | null {
  const pressed = run.pressed?.node ?? null;
  const screen = standingScreen(program, run);
  let best: { readonly point: Point; readonly heard: number } | null = null;
  for (const point of pointsOver(viewOf(screen))) {
    const { shown, surface } = catchOn(screen, run, point);
    if (!surface || (shown?.node.key ?? '') === pressed) continue;
    const heard = outwardNodes(shown?.node ?? null).reduce((sum, node) => sum + 1 + MOST_NODES * threadsAt(node).length, 0);
    if (heard === 0) return point;
    if (!best || heard < best.heard) best = { point, heard };
  }
  return best?.point ?? null;
}

/** More than layers are in each other. */
const MOST_NODES = 1000;

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
