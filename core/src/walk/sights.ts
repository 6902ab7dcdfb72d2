import { keysOf, valueAt } from '../motion/track.ts';
import { tracksOn } from '../run/playhead.ts';
import { layerKind } from '../vocabulary/layers/all.ts';
import { propertyKinds } from '../vocabulary/properties/all.ts';
import { isPointed, isPressed, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import { onceFor } from '../once.ts';
import { intersection, isWithin, overlaps, type Rect } from '../program/geometry.ts';
import type { Expansion } from '../program/expand.ts';
import type { Scene } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { IDENTITY } from '../program/matrix.ts';
import { outwardNodes, statesAround, threadsAt, type Node } from '../program/node.ts';
import { hiddenOf, scrollTowards, SHARES } from '../run/reach.ts';
import { boundsOf, childrenBox, fadesInTime, opacityOf, standingScreen, type Screen, type Stood, type Surface } from '../run/resolve.ts';
import type { Runner } from '../run/runner.ts';
import type { RunState } from '../run/state.ts';
import { hiddenBehind } from './behind.ts';
import { crowdsIn, type Area, type Crowd } from './crowds.ts';
import { isMovingIn } from './rested.ts';

/** Whether something is so of a layer of a scene. */
type InScene = (scene: string, node: Node) => boolean;

/** What is seen of a screen, as far as it is judged by where things stand. */
export interface Seeing {
  readonly sights: readonly Sight[];
  readonly crowds: readonly Crowd[];
  /** Those and more: whatever stands so near each other, whether it is to be seen or not. */
  readonly near: readonly Crowd[];
}

/** From this share on a layer counts as mostly hidden. */
export const MOSTLY = 0.5;

/** What is judged by where it can be seen: all that a pointer does but going away. */
const isHideable = (cue: Cue) => isPointed(cue) && !waitsFor(cue, 'leave');

/** A layer to press as it is seen on a screen. */
export interface Sight {
  readonly node: Node;
  /** How much of it others take, 0 to 1, of what is in view of it; null where nothing of it is. */
  readonly share: number | null;
  /** Enough of it is open. */
  readonly isOpen: boolean;
  /** Who takes most of it, where not enough of it is open; null where nobody does: it is out of view, or kept off. */
  readonly by: Node | null;
  /** How large the area to press is on the screen, in CSS px; null for what is not pressed, is still moving, or has shrunk to nothing. */
  readonly size: { readonly width: number; readonly height: number } | null;
  /** No scrolling brings anything of it into view. */
  readonly isOut: boolean;
  /** It takes presses and cannot be seen: it is wholly see-through, or something lies before it. */
  readonly isUnseen: boolean;
  /** What hides it then, and lets presses through. */
  readonly behind: Node | null;
  /** It is at rest, so that it was asked whether it can be seen. */
  readonly isStill: boolean;
}

/**
 * All that is to be judged on the screen of a run: each layer where it stands, and where not enough of it is open there, wherever it can
 * be scrolled to. `about` is told of the layer that is judged next, and of nothing where they are held against each other; `isLetStand`
 * tells of what stands where it begins, and nobody knows where it is.
 */
export function seeingIn(runner: Runner, about: (node: Node | null) => void = () => {}, isLetStand: InScene = () => false): Seeing {
  const { program } = runner;
  const sights = new Map<Node, Sight>();
  const near = new Map<string, Crowd>();
  const look = ({ run }: Runner) => {
    const screen = standingScreen(program, run);
    const view = { x: 0, y: 0, width: screen.width, height: screen.height };
    const areas: Area[] = [];
    for (const surface of screen.surfaces)
      for (const node of judgedIn(surface.expansion)) {
        about(node);
        const shown = surface.all.find((one) => one.node === node);
        if (!shown) continue;
        const old = sights.get(node);
        const sight = old?.isOpen ? old : better(old, sightOf(program, screen, run, surface, shown, isLetStand));
        sights.set(node, sight);
        if (!sight.size) continue;
        const box = areaOf(shown);
        if (overlaps(box, view) && !isVeil(screen, box)) areas.push({ node, box, ground: groundOf(surface, shown) });
      }
    about(null);
    for (const crowd of crowdsIn(areas)) {
      const key = `${crowd.a.key} ${crowd.b.key}`;
      if (!near.has(key)) near.set(key, crowd);
    }
  };
  look(runner);
  for (const share of SHARES)
    for (const node of sights.keys()) {
      // What was scrolled to for another may have brought it into the open.
      const { isOpen, isOut } = sights.get(node)!;
      if (isOpen || isOut || !isScrolled(program, runner.sceneOfNode(node.key)!, node)) continue;
      about(node);
      const there = runner.beside();
      scrollTowards(there, node, share);
      if (there.run !== runner.run) look(there);
    }
  const crowds = [...near.values()].filter(({ a, b }) => [a, b].every((node) => sights.get(node)!.isOpen && !sights.get(node)!.isUnseen));
  return { sights: [...sights.values()], near: [...near.values()], crowds };
}

/** Of two views of a layer the one in which less of it is taken. */
function better(old: Sight | undefined, now: Sight): Sight {
  if (!old) return now;
  if (now.share === null || (old.share !== null && old.share <= now.share)) return old;
  const { share, isOpen, by, isUnseen, behind } = now;
  // Out of view nobody knows whether something lies before it.
  return { ...old, share, isOpen, by, ...(old.share === null && { isUnseen, behind }) };
}

/** Whether a layer ever scrolls: in a group around it, or with its scene. */
function isScrolled({ scenes }: Program, scene: string, node: Node): boolean {
  return isInScroll(node) || scrollsWith(scenes.get(scene)!.scene, node);
}

/** Whether a group around a layer scrolls. */
const isInScroll = (node: Node): boolean =>
  outwardNodes(node)
    .slice(1)
    .some(({ layer }) => layer.scroll);

/** Whether a layer scrolls with its scene. */
export const scrollsWith = ({ contentHeight = 0, height }: Scene, node: Node): boolean =>
  contentHeight > height && !outwardNodes(node).at(-1)!.layer.pin;

/** The layers that are to be judged, where they are shown. */
const judgedIn = onceFor(({ nodes }: Expansion): readonly Node[] => nodes.filter((node) => cuesAt(node).some(isHideable)));

/** What in a layer catches presses beyond its box: they get to the layer as well. */
const beyond = (shown: Stood, box = boundsOf(shown)): Stood[] =>
  shown.children.flatMap((child) => [...(child.node.catches && !isWithin(boundsOf(child), box) ? [child] : []), ...beyond(child, box)]);

function sightOf(program: Program, screen: Screen<Stood>, run: RunState, surface: Surface<Stood>, shown: Stood, isLetStand: InScene): Sight {
  const { node } = shown;
  const isStill = !isMovingIn(run, surface.scene, node);
  const isSeen = isInView(screen, surface, shown);
  const hidden = !isSeen ? null : mayBeHidden(screen, surface, shown) ? hiddenOf(screen, run, surface, shown) : CLEAR;
  const isFree = hidden !== null && (hidden.share < MOSTLY || (hidden.share < 1 && isVeil(screen, boundsOf(shown))));
  const isOpenTo = (one: Stood) => (hiddenOf(screen, run, surface, one)?.share ?? 1) < 1;
  const isOpen = isFree || (hidden !== null && beyond(shown).some(isOpenTo));
  const isFaint = isStill && layerKind(node.layer).draws !== 'nothing' && isFaded(program, run, surface, shown);
  const isPassing: InScene = (scene, one) => isMovingIn(run, scene, one) || isLetStand(scene, one);
  const mayBeBehind = isStill && isFree && !isFaint && cuesAt(node).some(isPressed);
  const behind = mayBeBehind ? hiddenBehind(program, run, screen, surface, shown, scrollsWith(surface.expansion.root.scene, node), isPassing) : null;
  return {
    node,
    share: hidden?.share ?? null,
    isOpen,
    by: isOpen ? null : (hidden?.by?.node ?? null),
    size:
      isStill && cuesAt(node).some(isPressed) && !isVanished(node.layer.pose, sizeOf(shown, 0)) && beyond(shown).length === 0 ? sizeOf(shown) : null,
    isOut:
      !isSeen &&
      (isStill && !outwardNodes(node).some(({ layer }) => layer.drag)
        ? [shown, ...beyond(shown)].every((one) => isBeyond(surface, one))
        : isBeyondAllAlong(surface, shown)),
    isUnseen: isFaint || behind !== null,
    behind,
    isStill,
  };
}

/** What a layer, or what stands for it, waits for. */
export const cuesAt = (node: Node): Cue[] => threadsAt(node).flatMap(({ enabled, cue }) => (enabled ? cue : []));

const CLEAR = { share: 0, by: null };

/** Whether anything of a layer is in view, where nothing around it cuts it off. */
function isInView({ width, height }: Screen<Stood>, surface: Surface<Stood>, shown: Stood): boolean {
  const own = intersection(boundsOf(shown), surface);
  let box = own && intersection(own, { x: 0, y: 0, width, height });
  for (let at = shown.parent; at && box; at = at.parent) if (at.node.layer.clip || at.node.layer.scroll) box = intersection(box, boundsOf(at));
  return box !== null;
}

/** As large as half the view: what is meant to be pressed anywhere beside what lies on it. */
export function isVeil(
  view: { readonly width: number; readonly height: number },
  { width, height }: { readonly width: number; readonly height: number }
): boolean {
  return Math.min(width, view.width) * Math.min(height, view.height) >= (view.width * view.height) / 2;
}

/** Whether anything that takes presses stands in front of a layer at all. */
function mayBeHidden(screen: Screen<Stood>, surface: Surface<Stood>, shown: Stood): boolean {
  const box = boundsOf(shown);
  if (screen.surfaces.indexOf(surface) < screen.surfaces.length - 1) return true;
  return surface.all.some((other) => other.node.catches && other.node.at > shown.node.at && overlaps(boundsOf(other), box));
}

/** The upright box around the area to press, in the view. */
function areaOf(shown: Stood): Rect {
  const { x, y, width, height } = boundsOf(shown);
  const grow = (shown.node.layer.hit?.grow ?? 0) * scaleIn(shown).x;
  return { x: x - grow, y: y - grow, width: width + 2 * grow, height: height + 2 * grow };
}

/** How large a CSS px of a layer is on the screen, along both its sides. */
const scaleIn = ({ matrix: { a, b, c, d } }: Stood) => ({ x: Math.hypot(a, b), y: Math.hypot(c, d) });

function sizeOf(shown: Stood, margin = shown.node.layer.hit?.grow ?? 0): { width: number; height: number } {
  const { layer } = shown.node;
  const box = (layerKind(layer).holdsLayers && !layer.clip && !layer.scroll && childrenBox(shown)) || shown;
  const grow = 2 * margin;
  const scale = scaleIn(shown);
  return { width: (box.width + grow) * scale.x, height: (box.height + grow) * scale.y };
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Whether something of a size has shrunk to nothing on the screen: it is away, not small. */
export const isVanished = (own: Size, { width, height }: Size): boolean => (width < 1 && own.width >= 1) || (height < 1 && own.height >= 1);

/** What a layer scrolls with: two that do not scroll together only pass each other. */
function groundOf(surface: Surface<Stood>, shown: Stood): string {
  for (let at = shown.parent; at; at = at.parent) if (at.node.layer.scroll) return at.node.key;
  const { scene } = surface.expansion.root;
  if (surface.kind === 'laid') return scene.id;
  return scrollsWith(scene, shown.node) ? scene.id : '';
}

/** From this opacity down nothing is seen. */
const FAINT = 0.02;

function isFaded(program: Program, run: RunState, surface: Surface<Stood>, shown: Stood): boolean {
  const root = run.roots[surface.scene]!;
  return outwardNodes(shown.node).some(
    (node) => (canFade(node) || root.changes[node.key]?.opacity !== undefined) && opacityOf(program, run, root, node) <= FAINT
  );
}

/** Whether a layer is so faint in any state that nothing is seen of it, or may be by a binding or in time: where not, nobody need be asked. */
const canFade = onceFor((node: Node): boolean => {
  const styles = [node.layer.style, ...statesAround(node).map(({ deltas, path }) => deltas[path]?.style)];
  return node.layer.bindings?.opacity !== undefined || fadesInTime(node) || styles.some((style) => (style?.opacity ?? 1) <= FAINT);
});

/** Whether something lies outside of all that can be scrolled into view. */
function isBeyond(surface: Surface<Stood>, shown: Stood, bounds = boundsOf(shown)): boolean {
  let box: Rect | null = bounds;
  let top = shown;
  for (let at = shown.parent; at; at = at.parent) {
    top = at;
    const { clip, scroll } = at.node.layer;
    if (!clip && !scroll) continue;
    const view = boundsOf(at);
    const far = 1e7;
    const x = scroll === 'x' || scroll === 'both' ? { from: view.x - at.scroll.x, length: far } : { from: view.x, length: view.width };
    const y = scroll === 'y' || scroll === 'both' ? { from: view.y - at.scroll.y, length: far } : { from: view.y, length: view.height };
    if (!intersection(box, { x: x.from, y: y.from, width: x.length, height: y.length })) return true;
    box = scroll ? view : intersection(box, view)!;
  }
  const { scene } = surface.expansion.root;
  const height = top.node.layer.pin ? surface.height : Math.max(surface.height, scene.contentHeight ?? 0);
  const y = top.node.layer.pin ? surface.y : surface.y - surface.scroll.y;
  return !intersection(box, { x: surface.x, y, width: surface.width, height });
}

/** From the least to the most. */
type Span = readonly [least: number, most: number];

const STILL: Span = [0, 0];

const plus = (one: Span, other: Span): Span => [one[0] + other[0], one[1] + other[1]];

const times = (by: number, [least, most]: Span): Span => (by < 0 ? [by * most, by * least] : [by * least, by * most]);

/** Whether something that timelines or drags move lies outside of that wherever they bring it: within all of the box that it is moved about in. */
function isBeyondAllAlong(surface: Surface<Stood>, shown: Stood): boolean {
  if (beyond(shown).length > 0) return false;
  let [right, down] = [STILL, STILL];
  for (let at: Stood | null = shown; at; at = at.parent) {
    const range = rangeOf(at.node);
    if (!range) return false;
    const drag = draggedBy(at.node);
    const [x, y] = (['x', 'y'] as const).map((way) => {
      const by = range[way].map((value) => value - at![way]);
      return plus([Math.min(0, ...by), Math.max(0, ...by)], drag[way]);
    }) as [Span, Span];
    const { a, b, c, d } = at.parent?.matrix ?? IDENTITY;
    right = plus(right, plus(times(a, x), times(c, y)));
    down = plus(down, plus(times(b, x), times(d, y)));
  }
  const { x, y, width, height } = boundsOf(shown);
  return isBeyond(surface, shown, { x: x + right[0], y: y + down[0], width: width + right[1] - right[0], height: height + down[1] - down[0] });
}

/** Further than anything is dragged that may be dragged anywhere. */
const ANYWHERE = 1e6;

/** How far a layer can be dragged from wherever it is. */
const draggedBy = onceFor(({ layer: { drag } }: Node): Readonly<Record<'x' | 'y', Span>> => {
  const way = (axis: 'x' | 'y', least: number | undefined, most: number | undefined): Span => {
    if (!drag || (drag.axis !== axis && drag.axis !== 'both')) return STILL;
    const far = least === undefined || most === undefined ? ANYWHERE : Math.abs(most - least);
    return [-far, far];
  };
  return { x: way('x', drag?.bounds?.left, drag?.bounds?.right), y: way('y', drag?.bounds?.top, drag?.bounds?.bottom) };
});

/** From where to where its keys bring a layer; null where they do more to its place than that. */
const rangeOf = onceFor((node: Node): Readonly<Record<'x' | 'y', readonly number[]>> | null => {
  const places = tracksOn(node).filter(({ property }) => propertyKinds[property].places);
  const ways = new Set(places.map(({ property }) => property));
  const isMoved = ways.size === places.length && [...ways].every((property) => property === 'x' || property === 'y');
  if (!isMoved || (node.layer.turnsAlong && places.length > 0)) return null;
  const ends = (way: 'x' | 'y'): readonly number[] => {
    const track = places.find(({ property }) => property === way);
    const keys = track ? keysOf(track) : [];
    let [least, most] = [Infinity, -Infinity];
    // Between its keys it may be brought further than they say.
    for (let frame = keys[0]?.time ?? 0; frame <= (keys.at(-1)?.time ?? -1); frame++) {
      const value = valueAt(keys, frame, way) as number;
      [least, most] = [Math.min(least, value), Math.max(most, value)];
    }
    return track ? [least, most] : [];
  };
  return { x: ends('x'), y: ends('y') };
});

/** What is seen while steps wait: what they will change again is only on its way, and not judged by where it is. */
export const onItsWay = ({ sights }: Pick<Seeing, 'sights'>): Pick<Seeing, 'sights' | 'crowds'> => ({
  sights: sights.map((sight) => ({ ...sight, size: null, isOut: false, isUnseen: false, behind: null, isStill: false })),
  crowds: [],
});
