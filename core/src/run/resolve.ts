import { onceFor } from '../once.ts';
import { isLoose, layerKind } from '../vocabulary/layers/all.ts';
import { hasExpressions, textParts } from '../expression/text.ts';
import { colorOf, paintedStyle, setLetters } from '../piece/paint.ts';
import type { Delta, Layer, Letters, Look, LookName, Style } from '../piece/schema.ts';
import type { RootRun, RunState } from './state.ts';
import type { Timing } from '../fields/step-fields.ts';
import { presentAt, trackedAt, tracksOn } from './playhead.ts';
import { bindingKey, textKey } from '../program/binding.ts';
import { expand, type Expansion } from '../program/expand.ts';
import { pathIn, type Instance, type Node } from '../program/node.ts';
import { IDENTITY, mapPoint, rotated, scaled, translated, unmapPoint, type Matrix } from '../program/matrix.ts';
import type { Point, Rect } from '../program/geometry.ts';
import type { Program, SceneProgram } from '../program/program.ts';

/** Where a layer stands just now. Numbers are in the space of what it is in; the matrix leads to the view of the frame. */
export interface Stood {
  readonly node: Node;
  readonly parent: Stood | null;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly rotation: number;
  readonly scale: number;
  readonly anchor: Point;
  /** How far what is in it is scrolled. */
  readonly scroll: Point;
  readonly matrix: Matrix;
  readonly children: readonly Stood[];
}

/** A layer as it is settled just now: where it stands, and how it looks. */
export interface Shown extends Stood {
  readonly parent: Shown | null;
  readonly children: readonly Shown[];
  readonly opacity: number;
  readonly style: Style;
  readonly letters: Letters;
  readonly text: string | undefined;
  readonly asset: string | undefined;
  readonly path: string | undefined;
  /** The looks that are on, as one text to compare. */
  readonly looks: string;
  /** How the last of them came. */
  readonly lookTiming: Timing | null;
  readonly selected: boolean;
  /** It and all around it are enabled. */
  readonly enabled: boolean;
}

/** A scene on the screen: the frame, a sheet, or a frame laid over. Later ones are in front. */
export interface Surface<T extends Stood = Shown> {
  readonly scene: string;
  readonly kind: 'under' | 'frame' | 'over' | 'laid';
  /** Where its corner is in the view of the frame. */
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly background: string | null;
  readonly scrim: number | null;
  readonly scroll: Point;
  readonly expansion: Expansion;
  readonly tops: readonly T[];
  /** Every shown layer in the order of painting. */
  readonly all: readonly T[];
}

export interface Screen<T extends Stood = Shown> {
  readonly frame: string;
  readonly width: number;
  readonly height: number;
  readonly surfaces: readonly Surface<T>[];
}

const ORIGIN: Point = { x: 0, y: 0 };
const MIDDLE: Point = { x: 0.5, y: 0.5 };

/** Everything on the screen of a settled run. Pure: the same run gives the same screen. */
export const resolveScreen = (program: Program, run: RunState): Screen => screenOf<Shown>(program, run, lookOf);

/** Where everything on the screen stands: it reads no more of the run than that takes. */
export const standingScreen = (program: Program, run: RunState): Screen<Stood> =>
  (run as Remembering)[STANDING]?.() ?? screenOf<Stood>(program, run, standOf);

/** A run may know where everything stands already. */
export const STANDING = Symbol('standing');

interface Remembering {
  readonly [STANDING]?: () => Screen<Stood>;
}

/** Everything on the screen, of each layer what is seen of it by itself. */
export function screenOf<T extends Stood>(program: Program, run: RunState, see: See<T>): Screen<T> {
  const frame = program.scenes.get(run.frame);
  if (!frame) return { frame: run.frame, width: 1, height: 1, surfaces: [] };
  const { width, height, carries = [] } = frame.scene;
  const sheets = (place: 'over' | 'under') => carries.filter((one) => one.place === place && run.roots[one.sheet]).map((one) => one.sheet);
  const surfaces = [
    ...sheets('under').map((sheet) => surfaceOf(program, run, see, sheet, 'under', ORIGIN, null)),
    surfaceOf(program, run, see, run.frame, 'frame', ORIGIN, null),
    ...sheets('over').map((sheet) => surfaceOf(program, run, see, sheet, 'over', ORIGIN, null)),
    ...run.overlays.map((overlay) => {
      const scene = program.scenes.get(overlay.frame)?.scene;
      return surfaceOf(program, run, see, overlay.frame, 'laid', scene ? laidAt(overlay.at, scene, { width, height }) : ORIGIN, overlay.scrim);
    }),
  ].filter((surface) => surface !== null);
  // A sheet under the frame is its ground, so the frame's own lies behind it.
  const ground = surfaces.findIndex((surface) => surface.kind === 'frame');
  const under = surfaces[0]?.kind === 'under';
  const grounded = under
    ? surfaces.map((surface, i) =>
        i === ground
          ? { ...surface, background: null }
          : i === 0
            ? { ...surface, background: colorOf(program.piece.head, frame.scene.background) }
            : surface
      )
    : surfaces;
  return { frame: run.frame, width, height, surfaces: grounded };
}

interface Size {
  readonly width: number;
  readonly height: number;
}

function laidAt(at: string, size: Size, view: Size): Point {
  const x = at === 'left' ? 0 : at === 'right' ? view.width - size.width : (view.width - size.width) / 2;
  const y = at === 'top' ? 0 : at === 'bottom' ? view.height - size.height : (view.height - size.height) / 2;
  return { x, y };
}

function surfaceOf<T extends Stood>(
  program: Program,
  run: RunState,
  see: See<T>,
  scene: string,
  kind: Surface['kind'],
  at: Point,
  scrim: number | null
): Surface<T> | null {
  const sceneProgram = program.scenes.get(scene);
  const root = run.roots[scene];
  if (!sceneProgram || !root) return null;
  const { width, height, background } = sceneProgram.scene;
  const { tops, all, expansion, scroll } = layersOf(program, run, see, root, at, expand(program, sceneProgram));
  return {
    scene,
    kind,
    x: at.x,
    y: at.y,
    width,
    height,
    background: kind === 'frame' || kind === 'laid' ? colorOf(program.piece.head, background) : null,
    scrim,
    scroll,
    expansion,
    tops,
    all,
  };
}

export interface Resolving {
  readonly program: Program;
  readonly run: RunState;
  readonly root: RootRun;
}

/** A layer while it is put together. */
type Draft<T extends Stood> = { -readonly [K in keyof T]: T[K] };

/** What is seen of a layer by itself, not yet put where it stands; null where it is not shown. */
export type See<T extends Stood> = (resolving: Resolving, node: Node, parent: T | null) => Draft<T> | null;

/** The layers of a scene, those shown, in the order of painting. */
interface Layers<T extends Stood> {
  readonly tops: readonly T[];
  readonly all: readonly T[];
  readonly expansion: Expansion;
  readonly scroll: Point;
}

/** The layers of one scene on the screen, with its corner at a point of the view. */
export const resolveRoot = (
  program: Program,
  run: RunState,
  root: RootRun,
  at: Point = ORIGIN,
  expansion: Expansion = expand(program, program.scenes.get(root.scene)!)
): Layers<Shown> => layersOf<Shown>(program, run, lookOf, root, at, expansion);

/** Where the layers of one scene on the screen stand. */
export const standingRoot = (program: Program, run: RunState, root: RootRun): Layers<Stood> =>
  layersOf<Stood>(program, run, standOf, root, ORIGIN, expand(program, program.scenes.get(root.scene)!));

function layersOf<T extends Stood>(program: Program, run: RunState, see: See<T>, root: RootRun, at: Point, expansion: Expansion): Layers<T> {
  const resolving: Resolving = { program, run, root };
  const all: T[] = [];
  const place = (node: Node, parent: T | null, space: Matrix): T | null => {
    const one = see(resolving, node, parent);
    if (!one) return null;
    const placed = translated(space, one.x, one.y);
    const matrix = one.rotation !== 0 || one.scale !== 1 ? turnedAbout(placed, one) : placed;
    const scroll = (node.layer.scroll && root.scroll[node.key]) || ORIGIN;
    one.scroll = { x: scroll.x, y: scroll.y };
    one.matrix = matrix;
    all.push(one as T);
    if (node.children.length) {
      const inner = node.inside ? partSpace(matrix, one, node.inside) : translated(matrix, -scroll.x, -scroll.y);
      const children: T[] = [];
      for (const child of node.children) {
        const inside = place(child, one as T, inner);
        if (inside) children.push(inside);
      }
      one.children = children;
    }
    return one as T;
  };
  const scroll = root.scroll[''] ?? ORIGIN;
  const ground = translated(IDENTITY, at.x, at.y);
  const tops = expansion.tops.flatMap((node) => {
    const { pin } = node.layer;
    const dx = pin?.includes('left') || pin?.includes('right') ? 0 : -scroll.x;
    const dy = pin?.includes('top') || pin?.includes('bottom') ? 0 : -scroll.y;
    return place(node, null, translated(ground, dx, dy)) ?? [];
  });
  return { tops, all, expansion, scroll };
}

function turnedAbout(
  matrix: Matrix,
  { width, height, anchor, rotation, scale }: Pick<Stood, 'width' | 'height' | 'anchor' | 'rotation' | 'scale'>
): Matrix {
  const [x, y] = [width * anchor.x, height * anchor.y];
  return translated(scaled(rotated(translated(matrix, x, y), rotation), scale, scale), -x, -y);
}

const partSpace = (matrix: Matrix, { width, height }: Size, { scene }: Instance): Matrix =>
  scaled(matrix, width / scene.scene.width, height / scene.scene.height);

/** The place and size of a layer in what it is in, looks left out. */
export const poseOf = (program: Program, run: RunState, root: RootRun, node: Node): Layer['pose'] =>
  posedBy(root, node, deltasOf(root, node, 'pose'), trackedAt(program, run, root, node, true), NOTHING_ON);

/** Its own ← states ← timeline ← run-time changes ← looks ← bindings. */
function posedBy(root: RootRun, node: Node, deltas: readonly Delta[], tracked: Delta | null, looks: readonly LookOn[]): Layer['pose'] {
  let { pose } = node.layer;
  for (const delta of deltas) if (delta.pose) pose = { ...pose, ...delta.pose };
  if (tracked?.pose) pose = { ...pose, ...tracked.pose };
  const changes = root.changes[node.key];
  if (changes) {
    const { opacity: _opacity, ...numbers } = changes;
    pose = { ...pose, ...numbers };
  }
  for (const { delta } of looks) if (delta.pose) pose = { ...pose, ...delta.pose };
  const { bindings } = node.layer;
  if (bindings)
    for (const what of POSED) {
      const value = bindings[what] === undefined ? undefined : root.bound[bindingKey(node.key, what)];
      if (typeof value === 'number') pose = { ...pose, [what]: what === 'width' || what === 'height' ? Math.max(0, value) : value };
    }
  return pose;
}

/** How opaque a layer is by itself, whatever is around it, looks left out: its own ← states ← timeline ← run-time changes ← bindings. */
export function opacityOf(program: Program, run: RunState, root: RootRun, node: Node): number {
  const bound = node.layer.bindings?.opacity === undefined ? undefined : root.bound[bindingKey(node.key, 'opacity')];
  if (typeof bound === 'number') return bound;
  const changed = root.changes[node.key]?.opacity;
  if (changed !== undefined) return changed;
  const tracked = fadesInTime(node) ? trackedAt(program, run, root, node)?.style?.opacity : undefined;
  const stated = deltasOf(root, node, 'style').findLast((delta) => delta.style?.opacity !== undefined)?.style?.opacity;
  return tracked ?? stated ?? node.layer.style.opacity ?? 1;
}

/** Whether a timeline has keys of how opaque a layer is. */
export const fadesInTime = onceFor((node: Node): boolean => tracksOn(node).some(({ property }) => property === 'opacity'));

const POSED = ['x', 'y', 'width', 'height', 'rotation', 'scale'] as const;

const NO_CHILDREN: readonly never[] = [];

/** Where a layer stands; null where it is not shown. */
export function standOf({ program, run, root }: Resolving, node: Node, parent: Stood | null): Draft<Stood> | null {
  if (!isShown(program, run, root, node)) return null;
  const looks = changedByLooks(node).has('pose') ? looksOf(root, node, run) : NOTHING_ON;
  const pose = posedBy(root, node, deltasOf(root, node, 'pose'), trackedAt(program, run, root, node, true), looks);
  const size = isLoose(node.layer) ? node.item.box : pose;
  return {
    node,
    parent,
    x: pose.x,
    y: pose.y,
    width: size.width,
    height: size.height,
    rotation: pose.rotation ?? 0,
    scale: pose.scale ?? 1,
    anchor: pose.anchor ?? MIDDLE,
    scroll: ORIGIN,
    matrix: IDENTITY,
    children: NO_CHILDREN,
  };
}

/** What looks change of a layer: its own, and those of what is around it. */
export const changedByLooks = onceFor((node: Node): ReadonlySet<string> => {
  const looksAt = (one: Node) => Object.values(one.layer.looks ?? {});
  const all = [...looksAt(node), ...node.changedBy.flatMap(({ node: one, path }) => looksAt(one).map((look) => look?.inside?.[path]))];
  return new Set(all.flatMap((look) => Object.keys(look ?? {})));
});

/** The settled values of a layer: its own ← states ← timeline ← run-time changes ← looks ← bindings; null where it is not shown. */
function lookOf({ program, run, root }: Resolving, node: Node, parent: Shown | null): Draft<Shown> | null {
  const { layer } = node;
  if (!isShown(program, run, root, node)) return null;
  const selected = isSelected(root, node);
  const enabled = (!parent || parent.enabled) && isEnabled(root, node);
  const deltas = deltasOf(root, node);
  let { style, letters = NO_LETTERS, path } = layer;
  let text = node.fill?.text ?? layer.text;
  let asset = node.fill?.asset ?? layer.asset;
  const put = (delta: Delta) => {
    if (delta.style) style = { ...style, ...delta.style };
    if (delta.letters) letters = { ...letters, ...delta.letters };
    text = delta.text ?? text;
    asset = delta.asset ?? asset;
    path = delta.path ?? path;
  };
  for (const delta of deltas) put(delta);
  const tracked = trackedAt(program, run, root, node);
  if (tracked) put(tracked);
  const changed = root.changes[node.key]?.opacity;
  if (changed !== undefined) style = { ...style, opacity: changed };
  const looks = layer.looks !== undefined || node.changedBy.length > 0 ? looksOf(root, node, run) : NOTHING_ON;
  for (const { delta } of looks) put(delta);
  const bound = layer.bindings?.opacity === undefined ? undefined : root.bound[bindingKey(node.key, 'opacity')];
  if (typeof bound === 'number') style = { ...style, opacity: Math.min(1, Math.max(0, bound)) };
  const pose = posedBy(root, node, deltas, tracked, looks);
  const size = isLoose(layer) ? node.item.box : pose;
  return {
    node,
    parent,
    x: pose.x,
    y: pose.y,
    width: size.width,
    height: size.height,
    rotation: pose.rotation ?? 0,
    scale: pose.scale ?? 1,
    anchor: pose.anchor ?? MIDDLE,
    scroll: ORIGIN,
    matrix: IDENTITY,
    children: NO_CHILDREN,
    opacity: style.opacity ?? 1,
    style: paintedStyle(program.piece.head, style),
    letters: setLetters(program.piece.head, letters),
    text: text === undefined ? undefined : shownText(root, node, text),
    asset,
    path,
    selected,
    enabled,
    looks: looks.length ? looks.map((look) => look.name).join(' ') : '',
    lookTiming: looks.at(-1)?.timing ?? null,
  };
}

const NO_LETTERS: Letters = {};

function shownText(root: RootRun, node: Node, text: string): string {
  if (hasExpressions(text)) return String(root.bound[textKey(node.key, text)] ?? '…');
  return text.includes('\\')
    ? textParts(text)
        .map((part) => part.text ?? '')
        .join('')
    : text;
}

/** What can be changed of a layer by the states of a scene around it. */
interface Changer {
  readonly instance: Instance;
  readonly path: string;
  /** What any of its states changes. */
  readonly what: ReadonlySet<string>;
}

/** The instances around a layer of which some state changes it, from the inside out. */
const changersOf = onceFor((node: Node): readonly Changer[] => {
  const made: Changer[] = [];
  for (let at: Instance | null = node.instance; at; at = at.outer) {
    const path = at.scene.states.length ? pathIn(at, node) : null;
    if (path === null) continue;
    const deltas = Object.values(at.scene.scene.states ?? {}).flatMap((state) => state.deltas[path] ?? []);
    if (deltas.length) made.push({ instance: at, path, what: new Set(deltas.flatMap((delta) => Object.keys(delta))) });
  }
  return made.length ? made : NO_CHANGERS;
});

const NO_CHANGERS: readonly Changer[] = [];

/**
 * What the states of the scenes around a layer change of it, the outermost last: it knows most of the whole. Asked for one thing,
 * only states that can change it are looked at.
 */
function deltasOf(root: RootRun, node: Node, what?: 'pose' | 'hidden' | 'state' | 'style'): readonly Delta[] {
  let found: Delta[] | null = null;
  for (const { instance, path, what: changed } of changersOf(node)) {
    if (what && !changed.has(what)) continue;
    const state = stateOf(root, instance);
    const delta = state === null ? undefined : instance.scene.scene.states?.[state]?.deltas[path];
    if (delta) (found ??= []).push(delta);
  }
  return found ?? NO_DELTAS;
}

const NO_DELTAS: readonly Delta[] = [];

/** The state that an instance is in; null for a scene without states. */
export function stateOf(root: RootRun, instance: Instance): string | null {
  const { states, initial } = instance.scene;
  if (states.length === 0) return null;
  const bound = boundState(root, instance);
  if (bound) return bound.id;
  const own = root.states[instance.key];
  if (own !== undefined && states.some((state) => state.id === own)) return own;
  return beginsIn(root, instance) ?? initial;
}

/** The state that an expression gives an instance, where one does. */
export function boundState(root: RootRun, { placement, scene }: Instance): SceneProgram['states'][number] | undefined {
  const name = root.bound[placement ? bindingKey(placement.key, 'state') : ':stateIs'];
  return scene.states.find((state) => state.name === name);
}

/** The state that a placement begins in: its own, or what a state around it says. */
function beginsIn(root: RootRun, instance: Instance): string | null {
  const { placement, scene } = instance;
  if (!placement) return null;
  const wanted = deltasOf(root, placement, 'state').findLast((delta) => delta.state !== undefined)?.state ?? placement.layer.state;
  return wanted !== undefined && scene.states.some((state) => state.id === wanted) ? wanted : null;
}

/** Whether a layer itself is shown; what looks show and hide of it may be left out. */
export function isShown(program: Program, run: RunState, root: RootRun, node: Node, isLooked = true): boolean {
  const bound = node.layer.bindings?.shown === undefined ? undefined : root.bound[bindingKey(node.key, 'shown')];
  if (typeof bound === 'boolean') return bound && presentAt(program, run, root, node);
  const flag = root.flags[`${node.key}.shown`];
  const last = (deltas: readonly Delta[]) => deltas.findLast((delta) => delta.hidden !== undefined)?.hidden;
  const looked = isLooked && changedByLooks(node).has('hidden') ? last(looksOf(root, node, run).map(({ delta }) => delta)) : undefined;
  const hidden = looked ?? (flag === undefined ? (last(deltasOf(root, node, 'hidden')) ?? node.layer.hidden === true) : !flag);
  return !hidden && presentAt(program, run, root, node);
}

export function isSelected(root: RootRun, node: Node): boolean {
  const bound = node.layer.bindings?.selected === undefined ? undefined : root.bound[bindingKey(node.key, 'selected')];
  if (typeof bound === 'boolean') return bound;
  return root.flags[`${node.key}.selected`] ?? node.layer.selected ?? node.layer.field?.value === true;
}

/** Whether a layer itself is enabled; what is around it may still disable it. */
export function isEnabled(root: RootRun, node: Node): boolean {
  const bound = node.layer.bindings?.enabled === undefined ? undefined : root.bound[bindingKey(node.key, 'enabled')];
  if (typeof bound === 'boolean') return bound;
  return root.flags[`${node.key}.enabled`] ?? node.layer.disabled !== true;
}

/** The looks that are on, in the order they are put on: those of groups and placements around it first. */
function looksOf(root: RootRun, node: Node, run: RunState): LookOn[] {
  const { over, focus } = run;
  const isPressed = run.pressed !== null && run.pressed.node !== '' && !run.pressed.spent;
  const onOf = (one: Node): LookState => ({
    selected: isSelected(root, one),
    enabled: enabledWithin(root, one),
    hover: over.includes(one.key),
    press: isPressed && over.includes(one.key),
    focus: focus === one.key,
  });
  const found: LookOn[] = [];
  for (const { node: outer, path } of node.changedBy) {
    const inside = Object.values(outer.layer.looks ?? {}).some((look) => look?.inside?.[path]);
    for (const { name, look } of inside ? activeLooks(outer.layer, onOf(outer)) : NO_LOOKS)
      if (look.inside?.[path]) found.push({ name: `${outer.key}.${name}`, delta: look.inside[path], timing: timingOf(look) });
  }
  if (node.layer.looks) for (const { name, look } of activeLooks(node.layer, onOf(node))) found.push({ name, delta: look, timing: timingOf(look) });
  return found;
}

export function enabledWithin(root: RootRun, node: Node): boolean {
  for (let at: Node | null = node; at; at = at.parent) if (!isEnabled(root, at)) return false;
  return true;
}

export interface LookState {
  readonly selected: boolean;
  readonly enabled: boolean;
  readonly hover: boolean;
  readonly press: boolean;
  readonly focus: boolean;
}

interface LookOn {
  readonly name: string;
  readonly delta: Delta;
  readonly timing: Timing | null;
}

const NOTHING_ON: LookOn[] = [];

const timingOf = ({ ms, easing }: Look): Timing | null =>
  ms === undefined && easing === undefined ? null : { ms: ms ?? 120, easing: easing ?? 'ease' };

const NO_LOOKS: readonly { name: LookName; look: Look }[] = [];

/** selected ← hover ← press ← focus; *selected and hovered* where given; disabled replaces them all. */
export function activeLooks({ looks }: Layer, on: LookState): readonly { readonly name: LookName; readonly look: Look }[] {
  if (!looks) return NO_LOOKS;
  if (!on.enabled) return looks.disabled ? [{ name: 'disabled', look: looks.disabled }] : NO_LOOKS;
  const names: LookName[] = [];
  if (on.selected) names.push('selected');
  if (on.hover) names.push('hover');
  if (on.selected && on.hover) names.push('selectedHover');
  if (on.press) names.push('press');
  if (on.focus) names.push('focus');
  return names.flatMap((name) => (looks[name] ? [{ name, look: looks[name] }] : []));
}

/** Whether a point of the view lies on a layer and is cut off by nothing around it. */
export function isUnder(shown: Stood, point: Point): boolean {
  for (let at = shown.parent; at; at = at.parent) if ((at.node.layer.clip || at.node.layer.scroll) && !inBox(at, point, 0, false)) return false;
  const { layer } = shown.node;
  const oval = layer.hit?.shape ? layer.hit.shape === 'oval' : layerKind(layer).isRound === true;
  if (isLoose(layer)) return inUnion(shown, point, layer.hit?.grow ?? 0);
  return inBox(shown, point, layer.hit?.grow ?? 0, oval);
}

function inBox(shown: Stood, point: Point, grow: number, oval: boolean): boolean {
  const at = unmapPoint(shown.matrix, point);
  if (!at) return false;
  const { width, height } = shown;
  if (at.x < -grow || at.y < -grow || at.x >= width + grow || at.y >= height + grow) return false;
  if (!oval) return true;
  const dx = (at.x - width / 2) / (width / 2 + grow);
  const dy = (at.y - height / 2) / (height / 2 + grow);
  return dx * dx + dy * dy <= 1;
}

function inUnion(shown: Stood, point: Point, grow: number): boolean {
  const box = childrenBox(shown);
  const at = box && unmapPoint(shown.matrix, point);
  return !!box && !!at && at.x >= box.x - grow && at.y >= box.y - grow && at.x < box.x + box.width + grow && at.y < box.y + box.height + grow;
}

/** What the layers in a group take up, in the group's own space. */
export function childrenBox(shown: Stood): Rect | null {
  let box: Rect | null = null;
  for (const child of shown.children) {
    const inner = layerKind(child.node.layer).holdsLayers ? childrenBox(child) : { x: 0, y: 0, width: child.width, height: child.height };
    if (!inner) continue;
    const one = { x: child.x + inner.x, y: child.y + inner.y, width: inner.width, height: inner.height };
    const x = Math.min(box?.x ?? Infinity, one.x);
    const y = Math.min(box?.y ?? Infinity, one.y);
    const right = Math.max(box ? box.x + box.width : -Infinity, one.x + one.width);
    const bottom = Math.max(box ? box.y + box.height : -Infinity, one.y + one.height);
    box = { x, y, width: right - x, height: bottom - y };
  }
  return box;
}

/** The upright rectangle around a layer in the view. */
export function boundsOf(shown: Stood): Rect {
  const local = isLoose(shown.node.layer) ? childrenBox(shown) : null;
  const { x, y, width, height } = local ?? { x: 0, y: 0, width: shown.width, height: shown.height };
  const corners = [
    mapPoint(shown.matrix, x, y),
    mapPoint(shown.matrix, x + width, y),
    mapPoint(shown.matrix, x, y + height),
    mapPoint(shown.matrix, x + width, y + height),
  ];
  const left = Math.min(...corners.map((corner) => corner.x));
  const top = Math.min(...corners.map((corner) => corner.y));
  return {
    x: left,
    y: top,
    width: Math.max(...corners.map((corner) => corner.x)) - left,
    height: Math.max(...corners.map((corner) => corner.y)) - top,
  };
}
