import { isOutlined, layerKind } from '../vocabulary/layers/all.ts';
import { propertyKinds } from '../vocabulary/properties/all.ts';
import { DEFAULT_INK } from '../motion/values.ts';
import { Beside, onceFor } from '../once.ts';
import { expand, type Expansion } from '../program/expand.ts';
import type { Point, Rect } from '../program/geometry.ts';
import { mapPoint } from '../program/matrix.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { USUAL_LETTERS } from '../piece/letters.ts';
import { statesOf } from '../piece/piece.ts';
import { areSame } from '../same.ts';
import { emptyRoot, emptyRun } from '../run/environment.ts';
import { tracksOn } from '../run/playhead.ts';
import { isFocusable } from '../run/focusable.ts';
import { boundsOf, isUnder, resolveScreen, type Screen, type Shown } from '../run/resolve.ts';
import type { RootRun, RunState } from '../run/state.ts';
import { rgbOf, type Rgb } from '../motion/color.ts';
import { isMovingIn } from './rested.ts';
import { contrastOf, over } from './contrast.ts';
import { selectableIn } from './selectable.ts';
import { scrolledThrough } from './scrolled-through.ts';

/** Text that is hard to read on what lies under it. */
export interface Illegible {
  readonly node: Node;
  /** The scene on the screen that it is in: its own, or one that its part is placed in. */
  readonly scene: string;
  /** The contrast it has, and the one that WCAG 2.2, 1.4.3 asks for. */
  readonly contrast: number;
  readonly wanted: number;
  /** When it is so: `in state Open`, `hovered`; empty for how it is drawn. */
  readonly when: string;
}

/** Whether a text has less contrast than is asked for. */
export const isHard = ({ contrast, wanted }: Illegible): boolean => contrast < wanted - 0.005;

const known = new Beside<Expansion, { readonly of: readonly unknown[]; readonly found: readonly Illegible[] }>();

/** Hard to read texts of a frame and the sheets it carries, as drawn, in every state and in every look. */
export function illegibleIn(program: Program, frame: string): readonly Illegible[] {
  const scene = program.scenes.get(frame)!;
  const expansion = expand(program, scene);
  const sheets = (scene.scene.carries ?? []).flatMap(({ sheet }) => program.scenes.get(sheet) ?? []);
  const { swatches, typeStyles } = program.piece.head;
  const carried = sheets.map((sheet) => expand(program, sheet));
  const of = [swatches, typeStyles, selectableIn(program), ...carried];
  const old = known.get(expansion);
  if (old && areSame(old.of, of)) return old.found;
  const found = judge(program, frame, [expansion, ...carried]);
  known.set(expansion, { of, found });
  return found;
}

/** States of one scene that are looked at, and layers that are hidden at first. */
const MOST_STATES = 40;

function judge(program: Program, frame: string, expansions: readonly Expansion[]): Illegible[] {
  const worst = new Map<string, Illegible>();
  const base = runOn(frame, expansions);
  for (const { run, words } of appearances(program, base, expansions)) {
    const screen = resolveScreen(program, run);
    for (const one of readOn(screen, words, isPaintedOtherwise)) {
      if (!isHard(one)) continue;
      const { id } = one.node.layer;
      const before = worst.get(id);
      if (!before || (before.when !== '' && one.contrast < before.contrast)) worst.set(id, one);
    }
  }
  return [...worst.values()];
}

/** A run that nobody has touched, and in which nothing has begun by itself. */
const runOn = (frame: string, expansions: readonly Expansion[]): RunState => ({
  ...emptyRun(frame),
  roots: Object.fromEntries(expansions.map(({ root }) => [root.scene.id, emptyRoot(root.scene.id, 0)])),
});

interface Appearance {
  readonly run: RunState;
  readonly words: string;
}

/** How a frame can look: as drawn, in each of its states, with what is hidden shown, and with everything hovered, pressed, focused or selected. */
function* appearances(program: Program, base: RunState, expansions: readonly Expansion[]): Iterable<Appearance> {
  yield* looks(program, base, '', expansions);
  for (const { root, nodes, instances } of expansions) {
    const put = (change: Partial<RootRun>): RunState => ({
      ...base,
      roots: { ...base.roots, [root.scene.id]: { ...base.roots[root.scene.id]!, ...change } },
    });
    for (const { key, scene, placement } of instances.values())
      for (const state of scene.scene.states ? statesOf(scene.scene).slice(0, MOST_STATES) : []) {
        const name = placement ? `${placement.layer.name} in ${state.name}` : `in state ${state.name}`;
        yield* looks(program, put({ states: { [key]: state.id } }), placement ? `with ${name}` : name, expansions);
      }
    for (const node of nodes.filter(({ layer }) => layer.hidden).slice(0, MOST_STATES))
      yield* looks(program, put({ flags: { [`${node.key}.shown`]: true } }), `with ${node.layer.name} shown`, expansions);
  }
}

/** A run in all its looks, and in each with what scrolls in groups scrolled through. */
function* looks(program: Program, run: RunState, words: string, expansions: readonly Expansion[]): Iterable<Appearance> {
  const hasGroups = expansions.some(({ nodes }) => nodes.some(({ layer }) => layer.scroll));
  for (const there of hasGroups ? scrolledThrough(program, run) : [run]) yield* looksOf(there, words, expansions, selectableIn(program));
}

function* looksOf(run: RunState, words: string, expansions: readonly Expansion[], selectable: ReadonlySet<string>): Iterable<Appearance> {
  yield { run, words };
  const nodes = expansions.flatMap((expansion) => expansion.nodes);
  const has = (look: 'hover' | 'press') => nodes.some(({ layer }) => layer.looks?.[look] !== undefined);
  const canHave = (look: 'selected' | 'selectedHover') => nodes.some(({ layer }) => layer.looks?.[look] !== undefined && selectable.has(layer.id));
  const said = (how: string) => (words ? `${words}, ${how}` : how);
  const over = nodes.map(({ key }) => key);
  const roots = Object.fromEntries(
    expansions.map((expansion) => {
      const root = run.roots[expansion.root.scene.id]!;
      const flags = Object.fromEntries(expansion.nodes.flatMap(({ key, layer }) => (selectable.has(layer.id) ? [[`${key}.selected`, true]] : [])));
      return [expansion.root.scene.id, { ...root, flags: { ...root.flags, ...flags } }];
    })
  );
  if (has('hover')) yield { run: { ...run, over }, words: said('hovered') };
  if (has('press')) yield { run: { ...run, over, pressed: PRESSED }, words: said('pressed') };
  for (const { key } of nodes.filter(isReadOtherwiseFocused).slice(0, MOST_FOCUSED)) yield { run: { ...run, focus: key }, words: said('focused') };
  if (canHave('selected')) yield { run: { ...run, roots }, words: said('selected') };
  if (canHave('selectedHover')) yield { run: { ...run, roots, over }, words: said('selected and hovered') };
}

/** So many layers of a frame that have a look for the focus are looked at with it, one by one. */
const MOST_FOCUSED = 12;

/** Whether a text may be read otherwise once the keyboard has come to a layer: most then have a line around them, and no more. */
function isReadOtherwiseFocused(node: Node): boolean {
  const look = node.layer.looks?.focus;
  if (!look || !isFocusable(node)) return false;
  const { fill, ink, opacity } = look.style ?? {};
  return [fill, ink, opacity, look.letters, look.text, look.hidden, look.inside].some((changed) => changed !== undefined);
}

const PRESSED = { node: '*', scene: '', from: { x: 0, y: 0 }, at: 0, drag: null, spent: false };

/** Every text that is read in a run and in its looks, each once with the least contrast that it has there; of what no timeline has on its way. */
export function readIn(program: Program, run: RunState, expansions: readonly Expansion[]): readonly Illegible[] {
  const worst = new Map<string, Illegible>();
  for (const { run: look, words } of looks(program, run, '', expansions))
    for (const one of readOn(resolveScreen(program, look), words, (node, scene) => isMovingIn(run, scene, node))) {
      const { id } = one.node.layer;
      const before = worst.get(id);
      if (!before || one.contrast < before.contrast) worst.set(id, one);
    }
  return [...worst.values()];
}

/** Whether something in a scene looks otherwise as time goes on. */
type IsPassing = (node: Node, scene: string) => boolean;

/** Every text that is read on a screen, with its contrast: of what does not look otherwise as time goes on. */
function* readOn(screen: Screen, when: string, isPassing: IsPassing): Iterable<Illegible> {
  let paints: readonly Paint[] | null = null;
  for (const surface of screen.surfaces)
    for (const shown of surface.all) {
      if (!isRead(shown) || isPassing(shown.node, surface.scene)) continue;
      const alpha = opacityOn(shown);
      if (alpha < FAINT) continue;
      const ink = rgbOf(shown.style.ink ?? DEFAULT_INK);
      paints ??= paintsOn(screen, isPassing);
      const contrasts: number[] = [];
      for (const point of pointsIn(shown)) {
        // What something around it cuts off is not seen.
        const ground = isUnder(shown, point) ? groundUnder(paints, shown, point) : null;
        if (ground) contrasts.push(contrastOf(over(ground, ink.rgb, ink.alpha * alpha), ground));
      }
      if (contrasts.length > 0) yield { node: shown.node, scene: surface.scene, contrast: Math.min(...contrasts), wanted: wantedFor(shown), when };
    }
}

/** What is fainter is not meant to be read. */
const FAINT = 0.1;

/** A text to be read; what is disabled need not be (WCAG 2.2, 1.4.3). */
const isRead = ({ node: { layer }, text, enabled }: Shown): boolean =>
  !!text?.trim() && enabled && layer.type !== 'field' && layerKind(layer).draws !== 'nothing' && layer.role !== 'none';

/** Whether a layer, or something around it, looks otherwise than it is drawn: some timeline has keys for that, or it follows something. */
const isPaintedOtherwise = onceFor((node: Node): boolean =>
  outwardNodes(node).some((one) => one.layer.bindings?.opacity !== undefined || tracksOn(one).some(({ property }) => propertyKinds[property].isRead))
);

function opacityOn(shown: Shown): number {
  let alpha = 1;
  for (let at: Shown | null = shown; at; at = at.parent) alpha *= at.opacity;
  return alpha;
}

/** Large text may have less: from 24 px, or from 18.66 px where it is bold. */
function wantedFor({ letters, matrix }: Shown): number {
  const size = (letters.size ?? USUAL_LETTERS.size) * Math.hypot(matrix.c, matrix.d);
  return size >= 24 || (size >= 18.66 && (letters.weight ?? USUAL_LETTERS.weight) >= 700) ? 3 : 4.5;
}

/** Points of a text where letters stand: at its edge or its middle, and further along its longest line, however narrow its letters are. */
function pointsIn({ width, height, letters, matrix, node, text = '' }: Shown): readonly Point[] {
  const size = letters.size ?? USUAL_LETTERS.size;
  const isText = layerKind(node.layer).isProse;
  const align = letters.align ?? (isText ? 'left' : 'center');
  const place = letters.place ?? (isText ? 'top' : 'middle');
  const along = Math.max(...text.split('\n').map((line) => line.length)) * size * NARROW;
  const edge = Math.min(width / 2, size / 2);
  const further = Math.min(width / 2, edge + along);
  const xs = {
    left: [edge, further],
    center: [width / 2, Math.max(edge, width / 2 - along / 2)],
    right: [width - edge, width - further],
  }[align];
  const y = place === 'middle' ? height / 2 : place === 'top' ? Math.min(height / 2, size * 0.65) : Math.max(height / 2, height - size * 0.65);
  return [...new Set(xs)].map((x) => mapPoint(matrix, x, y));
}

/** Letters are wider than this on the whole, as a part of their size. */
const NARROW = 0.2;

/** Something on a screen that lies under what is in front of it. */
interface Paint {
  /** Null for what covers all of it: a ground, or a scrim. */
  readonly shown: Shown | null;
  readonly bounds: Rect | null;
  /** Null where it has no one colour. */
  readonly color: Rgb | null;
  readonly alpha: number;
  /** It only marks where a text stands among the others. */
  readonly isText: boolean;
}

/** All that lies under texts on a screen, from back to front, and where the texts stand among it. */
function paintsOn(screen: Screen, isPassing: IsPassing): readonly Paint[] {
  const paints: Paint[] = [];
  const lay = (color: string, alpha: number, shown: Shown | null) => {
    const one = rgbOf(color);
    paints.push({ shown, bounds: shown && boundsOf(shown), color: one.rgb, alpha: one.alpha * alpha, isText: false });
  };
  for (const surface of screen.surfaces) {
    if (surface.scrim !== null) lay('#000000', surface.scrim, null);
    if (surface.background) lay(surface.background, 1, null);
    for (const shown of surface.all) {
      const { layer } = shown.node;
      const { draws, stroke } = layerKind(layer);
      if (draws !== 'nothing' && stroke === undefined) {
        const alpha = opacityOn(shown);
        const hasNoColor = draws === 'picture' || draws === 'film' || (isOutlined(layer) && shown.style.fill) || isPassing(shown.node, surface.scene);
        if (alpha > 0 && hasNoColor) paints.push({ shown, bounds: boundsOf(shown), color: null, alpha, isText: false });
        else if (shown.style.fill) lay(shown.style.fill, alpha, shown);
      }
      if (shown.text?.trim()) paints.push({ shown, bounds: null, color: null, alpha: 0, isText: true });
    }
  }
  return paints;
}

/** The colour under a text at a point, its own fill included; null where it is a picture, cannot be said, or the text is not seen there. */
function groundUnder(paints: readonly Paint[], text: Shown, point: Point): Rgb | null {
  let ground: Rgb | null = [1, 1, 1];
  let isPast = false;
  for (const { shown, bounds, color, alpha, isText } of paints) {
    isPast ||= isText && shown === text;
    if (isText || (shown && !(isWithin(bounds!, point) && isUnder(shown, point)))) continue;
    const isWhole = alpha >= 0.999;
    if (isPast) {
      if (isWhole) return null;
    } else if (color === null) ground = null;
    else ground = isWhole ? color : ground && over(ground, color, alpha);
  }
  return ground;
}

/** A little more than within it, so that nothing is lost by rounding. */
const isWithin = ({ x, y, width, height }: Rect, point: Point): boolean =>
  point.x >= x - 1 && point.y >= y - 1 && point.x <= x + width + 1 && point.y <= y + height + 1;
