import { colorOf } from '../piece/paint.ts';
import type { Delta, Head, Look } from '../piece/schema.ts';
import { rgbOf } from '../motion/color.ts';
import { Beside, onceFor } from '../once.ts';
import type { Expansion } from '../program/expand.ts';
import { isWithin, type Point, type Rect } from '../program/geometry.ts';
import { unmapPoint } from '../program/matrix.ts';
import { outwardNodes, statesAround, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { tracksOn } from '../run/playhead.ts';
import { cornersOf } from '../run/reach.ts';
import { boundsOf, fadesInTime, opacityOf, type Screen, type Stood, type Surface } from '../run/resolve.ts';
import type { RunState } from '../run/state.ts';
import { areSame } from '../same.ts';
import { layerKind } from '../vocabulary/layers/all.ts';
import { propertyKinds } from '../vocabulary/properties/all.ts';

/**
 * What lies before a layer, hides all of it from the eye, and takes no presses: they get to what nobody sees. A picture on the card that
 * is pressed hides that too, and is meant; so a layer is hidden only by what is much larger, or is blank where there were words, where nothing
 * before that stands for it. What scrolls with its scene or a group is hidden only by what scrolls with it: else it can be
 * scrolled out from there.
 */
export function hiddenBehind(
  program: Program,
  run: RunState,
  screen: Screen<Stood>,
  surface: Surface<Stood>,
  shown: Stood,
  scrolls: boolean,
  /** Whether a layer of a scene is on its way. */
  isPassing: (scene: string, node: Node) => boolean
): Node | null {
  if (!isDrawn(shown.node)) return null;
  const { surfaces } = screen;
  // Presses do not go through a frame that is laid over others.
  const before = surfaces.slice(surfaces.indexOf(surface)).filter((one) => one === surface || one.kind !== 'laid');
  const isBefore = (of: Surface<Stood>) => coversIn(program, of.expansion).last > (of === surface ? shown.node.at : -1);
  const around = outwardNodes(shown.node)
    .slice(1)
    .find(({ layer }) => layer.scroll);
  const covering = before.filter((of) => (of === surface || !(scrolls || around)) && isBefore(of));
  if (covering.length === 0) return null;
  const box = boundsOf(shown);
  const corners = cornersOf(box);
  const isMeant = (one: Stood) => spaceOf(boundsOf(one)) < LARGER * spaceOf(box) && !(isBlank(one) && hasWords(surface, shown, box));
  const hidesAll = (one: Stood) => corners.every((corner) => isPaintedAt(one, corner)) && !isMeant(one);
  const isPast = (of: Surface<Stood>, node: Node, other: Stood, own: Surface<Stood>) => of !== own || node.at > other.node.at;
  for (const of of covering) {
    const covers = coversIn(program, of.expansion);
    const isCover = (one: Stood) =>
      covers.all.has(one.node) &&
      isPast(of, one.node, shown, surface) &&
      !(scrolls && outwardNodes(one.node).at(-1)!.layer.pin) &&
      !(around && !isIn(one.node, around)) &&
      hidesAll(one) &&
      !isIn(one.node, shown.node) &&
      isFixedTo(one.node, shown.node) &&
      !isFaint(program, run, of, one.node) &&
      !isPassing(of.scene, one.node);
    const cover = of.all.find(isCover);
    if (!cover) continue;
    const standsFor = (its: Surface<Stood>) => (one: Stood) =>
      isPast(its, one.node, cover, of) && isDrawn(one.node) && !isIn(one.node, shown.node) && isPartOf(boundsOf(one), box);
    return before.slice(before.indexOf(of)).some((its) => its.all.some(standsFor(its))) ? null : cover.node;
  }
  return null;
}

const isBlank = ({ node: { layer, children } }: Stood): boolean =>
  layerKind(layer).draws === 'ground' && !layer.text?.trim() && children.length === 0;

/** Whether anything is to be read on a layer: its own text, or one that is drawn in its place. */
function hasWords({ all }: Surface<Stood>, { node }: Stood, box: Rect): boolean {
  const says = (one: Stood) => !!one.node.layer.text?.trim();
  return all.some((one) => one.node.at >= node.at && says(one) && isPartOf(boundsOf(one), box));
}

const isIn = (node: Node, other: Node): boolean => outwardNodes(node).includes(other);

/** Whether a layer stands before another one wherever that is dragged and scrolled: nothing that moves it or cuts it off is around it alone. */
const isFixedTo = (node: Node, other: Node): boolean =>
  outwardNodes(node).every((one) => isIn(other, one) || (!one.layer.drag && (one === node || !(one.layer.clip || one.layer.scroll))));

/** So many times as large is what hides a layer, and is not only drawn on it. */
const LARGER = 2;

/** What of a scene hides what is behind it and takes no presses, and the last of it in the order of painting; -1 for nothing. */
interface Covers {
  readonly all: ReadonlySet<Node>;
  readonly last: number;
}

const known = new Beside<Expansion, Covers & { readonly of: readonly unknown[] }>();

/** What of a scene hides what is behind it, wherever that is, and takes no presses. */
export const coversOf = (program: Program, expansion: Expansion): ReadonlySet<Node> => coversIn(program, expansion).all;

function coversIn(program: Program, expansion: Expansion): Covers {
  const { head, assets } = program.piece;
  const of = [head.swatches, assets];
  const old = known.get(expansion);
  if (old && areSame(old.of, of)) return old;
  const all = expansion.nodes.filter((node) => !node.catches && isSteady(head, node) && hides(program, node));
  return known.set(expansion, { all: new Set(all), last: all.at(-1)?.at ?? -1, of });
}

/** Whether a layer as it is drawn hides what is behind it: other pictures than photographs may be see-through in places. */
function hides({ piece: { head, assets } }: Program, { layer }: Node): boolean {
  const { draws } = layerKind(layer);
  if (draws === 'ground') return isOpaque(head, layer.style.fill);
  return draws === 'picture' && layer.fit !== 'contain' && assets.get(layer.asset ?? '')?.mediaType === 'image/jpeg';
}

/** A little more than within it, so that nothing is lost by rounding. */
const isPartOf = (inner: Rect, { x, y, width, height }: Rect): boolean =>
  isWithin(inner, { x: x - 1, y: y - 1, width: width + 2, height: height + 2 });

const spaceOf = ({ width, height }: Rect): number => width * height;

/** Whether a layer is more than a place to press: something of it is painted. */
const isDrawn = onceFor(({ layer, children }: Node): boolean => {
  const { draws } = layerKind(layer);
  if (draws === 'nothing' || draws === 'sound') return false;
  const { fill, line } = layer.style;
  return draws !== 'ground' || fill !== undefined || line !== undefined || !!layer.text?.trim() || children.length > 0;
});

const isOpaque = (head: Head, fill: string | undefined): boolean => fill !== undefined && rgbOf(colorOf(head, fill)).alpha === 1;

/** What is keyed leaves a layer its colour and its corners; how opaque it is then is asked for. */
const isOfPlace = ({ property }: ReturnType<typeof tracksOn>[number]): boolean => propertyKinds[property].places === true || property === 'opacity';

/** Whether a layer hides as much wherever it is shown opaque: no state, look, binding or timeline, of it or around it, makes it see-through or another shape. */
function isSteady(head: Head, node: Node): boolean {
  const hidesLess = (change: Delta | Look | undefined): boolean => {
    const { fill, opacity = 1, corner } = change?.style ?? {};
    return 'asset' in (change ?? {}) || opacity < 1 || corner !== undefined || (fill !== undefined && !isOpaque(head, fill));
  };
  const isPlain = ({ layer: { style, bindings, looks } }: Node) =>
    (style.opacity ?? 1) === 1 && bindings?.opacity === undefined && !Object.values(looks ?? {}).some(hidesLess);
  const around = outwardNodes(node);
  return (
    around.every(isPlain) &&
    around.every((one) => tracksOn(one).every(isOfPlace) && statesAround(one).every(({ deltas, path }) => !hidesLess(deltas[path])))
  );
}

/** Whether what was done, or where a timeline stands, makes a layer, or what is around it, more see-through than it is drawn. */
function isFaint(program: Program, run: RunState, { scene }: Surface<Stood>, node: Node): boolean {
  const root = run.roots[scene]!;
  return outwardNodes(node).some((one) => (root.changes[one.key]?.opacity ?? 1) < 1 || (fadesInTime(one) && opacityOf(program, run, root, one) < 1));
}

/** Whether a layer that is filled is so at a point of the view: round ones and their corners leave some of their box free. */
function isPaintedAt({ matrix, width, height, node: { layer } }: Stood, point: Point): boolean {
  const at = unmapPoint(matrix, point);
  if (!at || at.x < 0 || at.y < 0 || at.x > width || at.y > height) return false;
  const corner = Math.min(layer.style.corner ?? 0, width / 2, height / 2);
  const [rx, ry] = layerKind(layer).isRound ? [width / 2, height / 2] : [corner, corner];
  if (rx === 0 || ry === 0) return true;
  // How far a point is past where the corner nearest to it begins.
  const dx = Math.max(0, rx - at.x, at.x - (width - rx)) / rx;
  const dy = Math.max(0, ry - at.y, at.y - (height - ry)) / ry;
  return dx * dx + dy * dy <= 1;
}
