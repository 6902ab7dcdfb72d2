import { hasExpressions, textParts } from '../expression/text.ts';
import { colorOf, paintedStyle, setLetters } from '../piece/paint.ts';
import type { Delta, Layer, Letters, Look, LookName, Style } from '../piece/schema.ts';
import type { RootRun, RunState } from '../run/state.ts';
import type { Timing } from '../steps/schemas.ts';
import { presentAt, trackedAt } from '../run/playhead.ts';
import { bindingKey, textKey } from './binding.ts';
import { expand, type Expansion } from './expand.ts';
import { pathIn, type Instance, type Node } from './node.ts';
import { IDENTITY, mapPoint, rotated, scaled, translated, unmapPoint, type Matrix } from './matrix.ts';
import type { Point, Rect } from './geometry.ts';
import type { Program } from './program.ts';

/** A layer as it is settled just now. Numbers are in the space of what it is in; the matrix leads to the view of the frame. */
export interface Shown {
  readonly node: Node;
  readonly parent: Shown | null;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly rotation: number;
  readonly scale: number;
  readonly anchor: Point;
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
  /** How far what is in it is scrolled. */
  readonly scroll: Point;
  readonly matrix: Matrix;
  readonly children: readonly Shown[];
}

/** A scene on the screen: the frame, a sheet, or a frame laid over. Later ones are in front. */
export interface Surface {
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
  readonly tops: readonly Shown[];
  /** Every shown layer in the order of painting. */
  readonly all: readonly Shown[];
}

export interface Screen {
  readonly frame: string;
  readonly width: number;
  readonly height: number;
  readonly surfaces: readonly Surface[];
}

const ORIGIN: Point = { x: 0, y: 0 };
const MIDDLE: Point = { x: 0.5, y: 0.5 };

/** Everything on the screen of a settled run. Pure: the same run gives the same screen. */
export function resolveScreen(program: Program, run: RunState): Screen {
  const frame = program.scenes.get(run.frame);
  if (!frame) return { frame: run.frame, width: 1, height: 1, surfaces: [] };
  const { width, height, carries = [] } = frame.scene;
  const sheets = (place: 'over' | 'under') => carries.filter((one) => one.place === place && run.roots[one.sheet]).map((one) => one.sheet);
  const surfaces = [
    ...sheets('under').map((sheet) => surfaceOf(program, run, sheet, 'under', ORIGIN, null)),
    surfaceOf(program, run, run.frame, 'frame', ORIGIN, null),
    ...sheets('over').map((sheet) => surfaceOf(program, run, sheet, 'over', ORIGIN, null)),
    ...run.overlays.map((overlay) => {
      const scene = program.scenes.get(overlay.frame)?.scene;
      return surfaceOf(program, run, overlay.frame, 'laid', scene ? laidAt(overlay.at, scene, { width, height }) : ORIGIN, overlay.scrim);
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

function surfaceOf(program: Program, run: RunState, scene: string, kind: Surface['kind'], at: Point, scrim: number | null): Surface | null {
  const sceneProgram = program.scenes.get(scene);
  const root = run.roots[scene];
  if (!sceneProgram || !root) return null;
  const { width, height, background } = sceneProgram.scene;
  const { tops, all, expansion, scroll } = resolveRoot(program, run, root, at);
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

interface Resolving {
  readonly program: Program;
  readonly run: RunState;
  readonly root: RootRun;
  readonly all: Shown[];
  readonly over: ReadonlySet<string>;
  readonly pressed: ReadonlySet<string>;
}

/** The layers of one scene on the screen, with its corner at a point of the view. */
export function resolveRoot(
  program: Program,
  run: RunState,
  root: RootRun,
  at: Point = ORIGIN,
  expansion: Expansion = expand(program, program.scenes.get(root.scene)!)
): { tops: readonly Shown[]; all: readonly Shown[]; expansion: Expansion; scroll: Point } {
  const over = new Set(run.over);
  const resolving: Resolving = {
    program,
    run,
    root,
    all: [],
    over,
    pressed: run.pressed && run.pressed.node !== '' && !run.pressed.spent ? over : NONE,
  };
  const scroll = root.scroll[''] ?? ORIGIN;
  const ground = translated(IDENTITY, at.x, at.y);
  const tops = expansion.tops.flatMap((node) => {
    const { pin } = node.layer;
    const dx = pin?.includes('left') || pin?.includes('right') ? 0 : -scroll.x;
    const dy = pin?.includes('top') || pin?.includes('bottom') ? 0 : -scroll.y;
    return resolveNode(resolving, node, null, translated(ground, dx, dy), true) ?? [];
  });
  return { tops, all: resolving.all, expansion, scroll };
}

const NONE: ReadonlySet<string> = new Set();

function resolveNode(resolving: Resolving, node: Node, parent: Shown | null, space: Matrix, enabledAround: boolean): Shown | null {
  const { root, run, program } = resolving;
  const own = appearanceOf(program, run, root, node, enabledAround, resolving.over, resolving.pressed);
  if (!own) return null;
  const turned = own.rotation !== 0 || own.scale !== 1;
  const placed = translated(space, own.x, own.y);
  const matrix = turned ? turnedAbout(placed, own) : placed;
  const scroll = (node.layer.scroll && root.scroll[node.key]) || ORIGIN;
  const children: Shown[] = [];
  const shown: Shown = { ...own, node, parent, scroll: { x: scroll.x, y: scroll.y }, matrix, children };
  resolving.all.push(shown);
  if (node.children.length) {
    const inner = node.inside ? partSpace(matrix, own, node.inside) : translated(matrix, -scroll.x, -scroll.y);
    for (const child of node.children) {
      const one = resolveNode(resolving, child, shown, inner, own.enabled);
      if (one) children.push(one);
    }
  }
  return shown;
}

function turnedAbout(
  matrix: Matrix,
  { width, height, anchor, rotation, scale }: Pick<Shown, 'width' | 'height' | 'anchor' | 'rotation' | 'scale'>
): Matrix {
  const [x, y] = [width * anchor.x, height * anchor.y];
  return translated(scaled(rotated(translated(matrix, x, y), rotation), scale, scale), -x, -y);
}

const partSpace = (matrix: Matrix, { width, height }: Size, { scene }: Instance): Matrix =>
  scaled(matrix, width / scene.scene.width, height / scene.scene.height);

/** The place and size of a layer in what it is in, looks left out. */
export function poseOf(program: Program, run: RunState, root: RootRun, node: Node): Layer['pose'] {
  let { pose } = node.layer;
  for (const delta of deltasOf(root, node)) if (delta.pose) pose = { ...pose, ...delta.pose };
  const tracked = trackedAt(program, run, root, node);
  if (tracked?.pose) pose = { ...pose, ...tracked.pose };
  const changes = root.changes[node.key];
  if (changes) {
    const { opacity: _opacity, ...numbers } = changes;
    pose = { ...pose, ...numbers };
  }
  const bindings = node.layer.bindings;
  if (bindings)
    for (const what of ['x', 'y', 'width', 'height', 'rotation', 'scale'] as const) {
      const value = bindings[what] === undefined ? undefined : root.bound[bindingKey(node.key, what)];
      if (typeof value === 'number') pose = { ...pose, [what]: value };
    }
  return pose;
}

type Appearance = Pick<
  Shown,
  | 'x'
  | 'y'
  | 'width'
  | 'height'
  | 'rotation'
  | 'scale'
  | 'anchor'
  | 'opacity'
  | 'style'
  | 'letters'
  | 'text'
  | 'asset'
  | 'path'
  | 'selected'
  | 'enabled'
  | 'looks'
  | 'lookTiming'
>;

/** The settled values of a layer: its own ← states ← timeline ← run-time changes ← looks ← bindings; null where it is not shown. */
function appearanceOf(
  program: Program,
  run: RunState,
  root: RootRun,
  node: Node,
  enabledAround: boolean,
  over: ReadonlySet<string>,
  pressed: ReadonlySet<string>
): Appearance | null {
  const { layer } = node;
  if (!isShown(program, run, root, node)) return null;
  const selected = isSelected(root, node);
  const enabled = enabledAround && isEnabled(root, node);
  const deltas = deltasOf(root, node);
  let { pose, style, letters = NO_LETTERS } = layer;
  let text = node.fill?.text ?? layer.text;
  let asset = node.fill?.asset ?? layer.asset;
  let { path } = layer;
  const put = (delta: Delta) => {
    if (delta.pose) pose = { ...pose, ...delta.pose };
    if (delta.style) style = { ...style, ...delta.style };
    if (delta.letters) letters = { ...letters, ...delta.letters };
    text = delta.text ?? text;
    asset = delta.asset ?? asset;
    path = delta.path ?? path;
  };
  for (const delta of deltas) put(delta);
  const tracked = trackedAt(program, run, root, node);
  if (tracked) put(tracked);
  const changes = root.changes[node.key];
  if (changes) {
    const { opacity, ...numbers } = changes;
    put({ pose: numbers, ...(opacity !== undefined && { style: { opacity } }) });
  }
  const hasLooks = layer.looks !== undefined || node.changedBy.length > 0;
  const looks: LookOn[] = hasLooks ? looksOf(root, node, run, over, pressed, selected, enabled) : NOTHING_ON;
  for (const { delta } of looks) put(delta);
  const { bound } = root;
  if (layer.bindings) {
    const number = (what: 'x' | 'y' | 'width' | 'height' | 'rotation' | 'scale' | 'opacity') => {
      const value = bound[bindingKey(node.key, what)];
      return typeof value === 'number' ? value : undefined;
    };
    for (const what of ['x', 'y', 'width', 'height', 'rotation', 'scale'] as const) {
      const value = layer.bindings[what] === undefined ? undefined : number(what);
      if (value !== undefined) pose = { ...pose, [what]: what === 'width' || what === 'height' ? Math.max(0, value) : value };
    }
    const opacity = layer.bindings.opacity === undefined ? undefined : number('opacity');
    if (opacity !== undefined) style = { ...style, opacity: Math.min(1, Math.max(0, opacity)) };
  }
  const group = layer.type === 'group' && !layer.clip && !layer.scroll;
  return {
    x: pose.x,
    y: pose.y,
    width: group ? node.item.box.width : pose.width,
    height: group ? node.item.box.height : pose.height,
    rotation: pose.rotation ?? 0,
    scale: pose.scale ?? 1,
    anchor: pose.anchor ?? MIDDLE,
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

/** What the states of the scenes around a layer change of it, the outermost last: it knows most of the whole. */
function deltasOf(root: RootRun, node: Node): readonly Delta[] {
  let found: Delta[] | null = null;
  for (let at: Instance | null = node.instance; at; at = at.outer) {
    const state = stateOf(root, at);
    if (state === null) continue;
    const path = pathIn(at, node);
    const delta = path === null ? undefined : at.scene.scene.states?.[state]?.deltas[path];
    if (delta) (found ??= []).push(delta);
  }
  return found ?? NO_DELTAS;
}

const NO_DELTAS: readonly Delta[] = [];

/** The state that an instance is in; null for a scene without states. */
export function stateOf(root: RootRun, instance: Instance): string | null {
  const { states, initial } = instance.scene;
  if (states.length === 0) return null;
  const name = instance.placement ? root.bound[bindingKey(instance.placement.key, 'state')] : root.bound[':stateIs'];
  if (name !== undefined && name !== null) {
    const found = states.find((state) => state.name === name);
    if (found) return found.id;
  }
  const own = root.states[instance.key];
  if (own !== undefined && states.some((state) => state.id === own)) return own;
  return beginsIn(root, instance) ?? initial;
}

/** The state that a placement begins in: its own, or what a state around it says. */
function beginsIn(root: RootRun, instance: Instance): string | null {
  const { placement, scene } = instance;
  if (!placement) return null;
  const wanted = deltasOf(root, placement).findLast((delta) => delta.state !== undefined)?.state ?? placement.layer.state;
  return wanted !== undefined && scene.states.some((state) => state.id === wanted) ? wanted : null;
}

export function isShown(program: Program, run: RunState, root: RootRun, node: Node): boolean {
  const bound = node.layer.bindings?.shown === undefined ? undefined : root.bound[bindingKey(node.key, 'shown')];
  if (typeof bound === 'boolean') return bound && presentAt(program, run, root, node);
  const flag = root.flags[`${node.key}.shown`];
  const hidden =
    flag === undefined ? (deltasOf(root, node).findLast((delta) => delta.hidden !== undefined)?.hidden ?? node.layer.hidden === true) : !flag;
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
function looksOf(
  root: RootRun,
  node: Node,
  run: RunState,
  over: ReadonlySet<string>,
  pressed: ReadonlySet<string>,
  selected: boolean,
  enabled: boolean
): LookOn[] {
  const found: LookOn[] = [];
  for (const { node: outer, path } of node.changedBy) {
    const on = {
      selected: isSelected(root, outer),
      enabled: enabledWithin(root, outer),
      hover: over.has(outer.key),
      press: pressed.has(outer.key),
      focus: run.focus === outer.key,
    };
    for (const { name, look } of activeLooks(outer.layer, on))
      if (look.inside?.[path]) found.push({ name: `${outer.key}.${name}`, delta: look.inside[path], timing: timingOf(look) });
  }
  const on = { selected, enabled, hover: over.has(node.key), press: pressed.has(node.key), focus: run.focus === node.key };
  for (const { name, look } of activeLooks(node.layer, on)) found.push({ name, delta: look, timing: timingOf(look) });
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
export function isUnder(shown: Shown, point: Point): boolean {
  for (let at = shown.parent; at; at = at.parent) if ((at.node.layer.clip || at.node.layer.scroll) && !inBox(at, point, 0, false)) return false;
  const { layer } = shown.node;
  const oval = layer.hit?.shape ? layer.hit.shape === 'oval' : layer.type === 'oval';
  if (layer.type === 'group' && !layer.clip && !layer.scroll) return inUnion(shown, point, layer.hit?.grow ?? 0);
  return inBox(shown, point, layer.hit?.grow ?? 0, oval);
}

function inBox(shown: Shown, point: Point, grow: number, oval: boolean): boolean {
  const at = unmapPoint(shown.matrix, point);
  if (!at) return false;
  const { width, height } = shown;
  if (at.x < -grow || at.y < -grow || at.x >= width + grow || at.y >= height + grow) return false;
  if (!oval) return true;
  const dx = (at.x - width / 2) / (width / 2 + grow);
  const dy = (at.y - height / 2) / (height / 2 + grow);
  return dx * dx + dy * dy <= 1;
}

function inUnion(shown: Shown, point: Point, grow: number): boolean {
  const box = childrenBox(shown);
  const at = box && unmapPoint(shown.matrix, point);
  return !!box && !!at && at.x >= box.x - grow && at.y >= box.y - grow && at.x < box.x + box.width + grow && at.y < box.y + box.height + grow;
}

/** What the layers in a group take up, in the group's own space. */
export function childrenBox(shown: Shown): Rect | null {
  let box: Rect | null = null;
  for (const child of shown.children) {
    const inner = child.node.layer.type === 'group' ? childrenBox(child) : { x: 0, y: 0, width: child.width, height: child.height };
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
export function boundsOf(shown: Shown): Rect {
  const local = shown.node.layer.type === 'group' && !shown.node.layer.clip && !shown.node.layer.scroll ? childrenBox(shown) : null;
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
