import { areSame } from '../same.ts';
import type { Thread } from '../piece/piece.ts';
import { fitsOccasion, waitOf, waitsFor } from '../vocabulary/cues/all.ts';
import type { Occasion } from '../vocabulary/occasions.ts';
import type { Point } from '../program/geometry.ts';
import { contains } from '../program/geometry.ts';
import { scaled, unmapPoint, type Matrix } from '../program/matrix.ts';
import { enabledWithin, isUnder, poseOf, standingScreen, type Screen, type Stood, type Surface } from './resolve.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import type { Call, Runner } from './runner.ts';
import { liftTop } from './frames.ts';
import { whyNoClick, whyDisabled } from './why.ts';
import type { Program } from '../program/program.ts';
import type { Pressed, RunState } from './state.ts';

/** What a pointer does: who catches it, hovering, pressing, clicking, dragging, swiping. Points are in the view of the frame. */

/** Movement from which on a press is a drag, in CSS px. */
export const DRAG_FROM = 3;
/** A swipe is at least this long, in CSS px, and at most this slow, in ms. */
export const SWIPE_LENGTH = 40;
export const SWIPE_TIME = 800;
/** Two clicks within this time are a double click, in ms. */
export const DOUBLE_TIME = 400;
/** A long press may wander this far, in CSS px. */
export const LONG_PRESS_REACH = 10;

export interface Caught {
  /** The layer that catches; null where the press goes to the scene itself. */
  readonly shown: Stood | null;
  /** The scene that the point is in; null where a scrim keeps it off everything. */
  readonly surface: Surface<Stood> | null;
}

/** Who gets the pointer at a point: the topmost layer that catches, else the topmost scene that is there. */
export const catchAt = (runner: { readonly program: Program; readonly run: RunState }, point: Point): Caught =>
  catchOn(standingScreen(runner.program, runner.run), runner.run, point);

/** The same on a screen that is known already. */
export function catchOn({ surfaces }: Screen<Stood>, run: RunState, point: Point): Caught {
  for (let i = surfaces.length - 1; i >= 0; i--) {
    const surface = surfaces[i]!;
    const inside = contains(surface, point);
    const shown = inside && catcherIn(surface, point);
    if (shown) return { shown, surface };
    if (surface.kind === 'frame') {
      // What is under the frame gets what nothing on it takes.
      for (let j = surfaces.length - 1; j >= 0; j--) {
        const under = surfaces[j]!;
        const caught = under.kind === 'under' && catcherIn(under, point);
        if (caught) return { shown: caught, surface: under };
      }
      return { shown: null, surface };
    }
    if (surface.kind !== 'laid') continue;
    if (inside) return { shown: null, surface };
    if (keepsPresses(surface, run)) break;
  }
  return { shown: null, surface: null };
}

/** Whether a frame that is laid over others keeps presses off all that lies below it. */
export const keepsPresses = ({ kind, scrim, scene }: Surface<Stood>, { overlays }: RunState): boolean =>
  kind === 'laid' && (scrim !== null || !!overlays.find(({ frame }) => frame === scene)?.closes);

const catcherIn = ({ all }: Surface<Stood>, point: Point) => all.findLast((one) => one.node.catches && isUnder(one, point));

/** Whether a layer of a scene, or where there is none its ground, is what a press at a point is for. */
export function isAt(runner: Runner, node: Node | null, scene: string, point: Point): boolean {
  const { shown, surface } = catchAt(runner, point);
  const catcher = outwardNodes(node).find((one) => one.catches);
  return surface?.scene === scene && (catcher ? outwardNodes(shown?.node ?? null).includes(catcher) : !shown);
}

const keysOf = (shown: Stood | null) => outwardNodes(shown?.node ?? null).map((node) => node.key);

/**
 * The threads that take an event which goes outward from a layer: the first of layer, groups, part, placement, sheet or frame,
 * and piece that has one for the cue.
 */
export function takers(runner: Runner, node: Node | null, scene: string | null, occasion: Occasion): readonly Call[] {
  const isOne = (thread: Thread) => thread.enabled && fitsOccasion(thread.cue, occasion);
  const root = node ? runner.sceneOfNode(node.key)! : scene;
  for (let at = node; at; at = at.parent) {
    const threads = at.item.threads.filter(isOne);
    if (threads.length) return threads.map((thread) => ({ thread, root, instance: at.instance, node: at }));
    // A placement that was pressed beside all layers of its part.
    if (at === node && at.inside) {
      const own = at.inside.scene.threads.filter(isOne);
      if (own.length) return own.map((thread) => ({ thread, root, instance: at.inside!, node: at }));
    }
    // Out of a part: its own scene comes before the placement that shows it.
    if (at.parent?.inside && at.parent.inside === at.instance) {
      const own = at.instance.scene.threads.filter(isOne);
      if (own.length) return own.map((thread) => ({ thread, root, instance: at.instance, node: at.parent }));
    }
  }
  if (root !== null) {
    const instance = runner.expansion(root).instances.get('')!;
    const own = instance.scene.threads.filter(isOne);
    if (own.length) return own.map((thread) => ({ thread, root, instance, node: null }));
  }
  return runner.pieceCalls(occasion);
}

/** Fires who takes an event, if anybody does. */
export function fireOutward(runner: Runner, node: Node | null, scene: string | null, occasion: Occasion): boolean {
  const calls = takers(runner, node, scene, occasion);
  if (calls.length === 0) return false;
  runner.at(calls[0]!.node?.key ?? null);
  runner.fire(calls);
  return true;
}

/** Disabled, or no longer on the screen: what was pressed may have left it by an answer to the press itself. */
function isOff(runner: Runner, node: Node | null): boolean {
  if (!node) return false;
  const root = runner.root(runner.sceneOfNode(node.key)!);
  return !root || !enabledWithin(root, node);
}

export function movePointer(runner: Runner, point: Point): void {
  const { pressed } = runner.run;
  const dragged = pressed?.drag ? dragTo(runner, pressed, point) : false;
  const caught = catchAt(runner, point);
  const old = runner.run.over;
  const over = keysOf(caught.shown);
  runner.put({ pointer: point, over: areSame(over, old) ? old : over });
  if (dragged || over === old) return;
  const left = old.filter((key) => !over.includes(key));
  const entered = outwardNodes(caught.shown?.node ?? null).filter((node) => !old.includes(node.key));
  firstWith(
    runner,
    left.flatMap((key) => runner.find(key)?.node ?? []),
    'leave'
  );
  firstWith(runner, entered, 'hover');
}

/** Entering and leaving are told to the first layer of those entered or left, from the inside out, that has a thread for it. */
function firstWith(runner: Runner, nodes: readonly Node[], type: 'hover' | 'leave'): void {
  const node = nodes.find((one) => !isOff(runner, one) && one.item.threads.some((thread) => thread.enabled && waitsFor(thread.cue, type)));
  if (!node) return;
  runner.at(node.key);
  runner.fire(
    node.item.threads
      .filter((thread) => thread.enabled && waitsFor(thread.cue, type))
      .map((thread) => ({ thread, root: runner.sceneOfNode(node.key)!, instance: node.instance, node }))
  );
}

export function leavePointer(runner: Runner): void {
  const left = runner.run.over.flatMap((key) => runner.find(key)?.node ?? []);
  if (runner.run.pressed?.drag?.moving) dropDragged(runner, runner.run.pressed, runner.run.pointer ?? runner.run.pressed.from);
  runner.put({ pointer: null, over: [], pressed: null });
  firstWith(runner, left, 'leave');
}

export function pressPointer(runner: Runner, point: Point): void {
  const { shown, surface } = catchAt(runner, point);
  runner.put({ pointer: point, over: keysOf(shown) });
  if (!surface) return;
  const node = shown?.node ?? null;
  const dragged = outwardNodes(node).find((one) => one.layer.drag !== undefined && !isOff(runner, one));
  const drag = dragged && { node: dragged.key, ...placeNow(runner, dragged), moving: false };
  runner.put({ pressed: { node: node?.key ?? '', scene: surface.scene, from: point, at: runner.run.clock, drag: drag ?? null, spent: false } });
  if (isOff(runner, node)) return;
  fireOutward(runner, node, surface.scene, { type: 'press' });
}

function placeNow(runner: Runner, node: Node): Point {
  const { x, y } = poseOf(runner.program, runner.run, runner.root(runner.sceneOfNode(node.key)!)!, node);
  return { x, y };
}

export function releasePointer(runner: Runner, point: Point): void {
  const { pressed } = runner.run;
  const { shown, surface } = catchAt(runner, point);
  runner.put({ pointer: point, over: keysOf(shown), pressed: null });
  if (!surface) return pressBeside(runner);
  if (!pressed) return;
  if (pressed.drag?.moving) return dropDragged(runner, pressed, point);
  // Where it is let go is no matter: what was pressed is.
  const { node, scene } = pressed;
  const from = node === '' ? null : (runner.find(node)?.node ?? null);
  if (!isOff(runner, from)) fireOutward(runner, from, scene, { type: 'release' });
  // Letting go has led elsewhere: what was pressed is not there any more to be clicked or swiped.
  if (!runner.liveRoots().includes(scene)) return;
  if (swiped(runner, pressed, point, from, scene)) return;
  if (pressed.spent) return;
  if ((shown?.node.key ?? '') !== node || surface.scene !== scene) {
    const name = from?.layer.name ?? 'the frame';
    runner.at(node || null);
    return runner.why({ code: 'let-go-elsewhere', sentence: `The press began on ${name} and ended elsewhere, so it is no click.` });
  }
  click(runner, shown?.node ?? null, scene, point);
}

/** A press beside a frame that is laid over closes it, where it says so. Where it fills the view there is no such place. */
export function pressBeside(runner: Runner): void {
  const overlay = runner.run.overlays.at(-1);
  if (!overlay) return;
  const name = runner.program.scenes.get(overlay.frame)?.scene.name ?? 'The frame laid over';
  if (!overlay.closes) return runner.why({ code: 'scrim', sentence: `${name} lies over the frame and keeps presses off it.` });
  liftTop(runner, { type: 'cut' }, '');
}

function swiped(runner: Runner, pressed: Pressed, point: Point, node: Node | null, scene: string): boolean {
  const [dx, dy] = [point.x - pressed.from.x, point.y - pressed.from.y];
  const across = Math.abs(dx) > Math.abs(dy);
  if (Math.max(Math.abs(dx), Math.abs(dy)) < SWIPE_LENGTH || runner.run.clock - pressed.at > SWIPE_TIME) return false;
  return swipe(runner, node, scene, across ? (dx < 0 ? 'left' : 'right') : dy < 0 ? 'up' : 'down');
}

export function swipe(runner: Runner, node: Node | null, scene: string, direction: 'left' | 'right' | 'up' | 'down'): boolean {
  return !isOff(runner, node) && fireOutward(runner, node, scene, { type: 'swipe', direction });
}

/** A click that was made: to whoever takes it; why not, where nobody does. */
export function click(runner: Runner, node: Node | null, scene: string, point: Point): void {
  runner.at(node?.key ?? null);
  if (isOff(runner, node)) return runner.why(whyDisabled(runner, node!));
  const { clicked, clock } = runner.run;
  const key = node?.key ?? '';
  const isSecond = clicked !== null && clicked.node === key && clock - clicked.at <= DOUBLE_TIME;
  const { frame } = runner.run;
  const taken = fireOutward(runner, node, scene, { type: 'click' });
  if (runner.run.frame === frame) runner.put({ clicked: isSecond ? null : { node: key, at: clock } });
  const again = isSecond && runner.liveRoots().includes(scene) && fireOutward(runner, node, scene, { type: 'double click' });
  if (!taken && !again) whyNoClick(runner, node, scene, point);
}

/** What a press that is held comes to, and when: a long press, where somebody from the layer outward waits for one. */
export function longPressDue(runner: Runner): { readonly at: number; readonly node: Node | null; readonly scene: string } | null {
  const { pressed, pointer } = runner.run;
  if (!pressed || pressed.spent || pressed.drag?.moving || !runner.liveRoots().includes(pressed.scene)) return null;
  if (pointer && Math.hypot(pointer.x - pressed.from.x, pointer.y - pressed.from.y) > LONG_PRESS_REACH) return null;
  const node = pressed.node === '' ? null : (runner.find(pressed.node)?.node ?? null);
  const calls = takers(runner, node, pressed.scene, { type: 'long press' });
  if (calls.length === 0) return null;
  const ms = Math.min(...calls.map(({ thread }) => waitOf(thread.cue)));
  return { at: pressed.at + ms, node, scene: pressed.scene };
}

/** Long presses of a layer whose time has come; those that want a longer one are passed over. */
export function longPress(runner: Runner, node: Node | null, scene: string): void {
  const { pressed } = runner.run;
  if (pressed) runner.put({ pressed: { ...pressed, spent: true } });
  if (isOff(runner, node)) return runner.why(whyDisabled(runner, node!));
  runner.at(node?.key ?? null);
  fireOutward(runner, node, scene, { type: 'long press' });
}

// ── dragging ─────────────────────────────────────────────────────────────────

function dragTo(runner: Runner, pressed: Pressed, point: Point): boolean {
  const drag = pressed.drag!;
  const node = runner.find(drag.node)?.node;
  if (!node) return false;
  if (!drag.moving && Math.hypot(point.x - pressed.from.x, point.y - pressed.from.y) < DRAG_FROM) return false;
  if (!drag.moving) {
    runner.put({ pressed: { ...pressed, drag: { ...drag, moving: true } } });
    fireOutward(runner, node, null, { type: 'drag start' });
    // Taking hold of it has led elsewhere.
    if (!runner.liveRoots().includes(runner.sceneOfNode(node.key)!)) return true;
  }
  const by = inSpaceOf(runner, node, pressed.from, point);
  moveDragged(runner, node, drag.x + by.x, drag.y + by.y);
  fireOutward(runner, node, null, { type: 'drag' });
  return true;
}

/** The way between two points of the view, in the space that a layer's own numbers are in. */
function inSpaceOf(runner: Runner, node: Node, from: Point, to: Point): Point {
  const screen = standingScreen(runner.program, runner.run);
  const [shown] = screen.surfaces.flatMap(({ all }) => all.find((one) => one.node === node) ?? []);
  const space = shown?.parent && spaceInside(shown.parent);
  if (!space) return { x: to.x - from.x, y: to.y - from.y };
  const [a, b] = [unmapPoint(space, from), unmapPoint(space, to)];
  return a && b ? { x: b.x - a.x, y: b.y - a.y } : { x: 0, y: 0 };
}

function spaceInside(shown: Stood): Matrix {
  const { inside } = shown.node;
  return inside ? scaled(shown.matrix, shown.width / inside.scene.scene.width, shown.height / inside.scene.scene.height) : shown.matrix;
}

/** Keeps a dragged layer on its axis and within its bounds, which are counted from its own place. */
function moveDragged(runner: Runner, node: Node, x: number, y: number): void {
  const { axis, bounds } = node.layer.drag!;
  const place = { ...runner.find(node.key)!, node };
  const home = homeOf(runner, node);
  const within = (value: number, least: number | undefined, most: number | undefined) =>
    Math.min(most ?? Infinity, Math.max(least ?? -Infinity, value));
  const to = {
    ...(axis !== 'y' && { x: bounds ? within(x, home.x + bounds.left, home.x + bounds.right) : x }),
    ...(axis !== 'x' && { y: bounds ? within(y, home.y + bounds.top, home.y + bounds.bottom) : y }),
  };
  runner.change(place, to);
}

/** Where a layer would be if nobody had moved it. */
function homeOf(runner: Runner, node: Node): Point {
  const root = runner.root(runner.sceneOfNode(node.key)!)!;
  const { [node.key]: _moved, ...changes } = root.changes;
  return poseOf(runner.program, runner.run, { ...root, changes }, node);
}

/** How long a layer takes to come to rest after it was let go, in ms. */
export const REST_TIME = 200;

function dropDragged(runner: Runner, pressed: Pressed, point: Point): void {
  const drag = pressed.drag!;
  const node = runner.find(drag.node)?.node;
  runner.put({ pressed: null });
  if (!node || !runner.liveRoots().includes(runner.sceneOfNode(node.key)!)) return;
  const { snap, inertia } = node.layer.drag!;
  const home = homeOf(runner, node);
  let at = placeNow(runner, node);
  if (inertia) {
    const time = Math.max(50, runner.run.clock - pressed.at);
    at = { x: at.x + ((at.x - drag.x) / time) * REST_TIME, y: at.y + ((at.y - drag.y) / time) * REST_TIME };
  }
  if (snap?.length) {
    const distance = (offset: Point) => Math.hypot(home.x + offset.x - at.x, home.y + offset.y - at.y);
    const nearest = snap.reduce((a, b) => (distance(b) < distance(a) ? b : a));
    at = { x: home.x + nearest.x, y: home.y + nearest.y };
  }
  if (inertia || snap?.length) {
    moveDragged(runner, node, at.x, at.y);
    runner.effect({ type: 'tween', of: node.key, names: ['x', 'y'], timing: { ms: REST_TIME, easing: 'ease-out' }, thread: '' });
  }
  const under = layersUnder(runner, node, point);
  const isOver = (path: string) => under.has(runner.placeFor({ instance: node.instance } as Call, path)?.node?.key ?? '');
  fireOutward(runner, node, null, { type: 'drop', isOver });
}

/** The layers at a point, the dragged one and what is in it left out. */
function layersUnder(runner: Runner, dragged: Node, point: Point): ReadonlySet<string> {
  const screen = standingScreen(runner.program, runner.run);
  const found = screen.surfaces.flatMap(({ all }) => all.filter((one) => !outwardNodes(one.node).includes(dragged) && isUnder(one, point)));
  return new Set(found.map((shown) => shown.node.key));
}

/** A whole drag of a layer by so much, as a test or the walk makes it. */
export function dragLayer(runner: Runner, node: Node, from: Point, dx: number, dy: number): void {
  const dragged = outwardNodes(node).find((one) => one.layer.drag !== undefined && !isOff(runner, one));
  if (!dragged) {
    runner.at(node.key);
    return runner.why({ code: 'not-draggable', sentence: `${node.layer.name} cannot be dragged.`, layer: node.key });
  }
  const scene = runner.sceneOfNode(node.key)!;
  if (takers(runner, node, scene, { type: 'press' }).length > 0) {
    pressPointer(runner, from);
    runner.next();
    // The press has led elsewhere.
    if (!runner.run.pressed) return;
  }
  const pressed: Pressed = {
    node: node.key,
    scene,
    from,
    at: runner.run.clock,
    drag: { node: dragged.key, ...placeNow(runner, dragged), moving: false },
    spent: false,
  };
  runner.put({ pressed });
  const to = { x: from.x + dx, y: from.y + dy };
  dragTo(runner, pressed, to);
  const now = runner.run.pressed;
  if (now?.drag) dropDragged(runner, now, to);
}
