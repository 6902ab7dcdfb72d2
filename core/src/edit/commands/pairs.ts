import { layerKind } from '../../vocabulary/layers/all.ts';
import { USUAL_LETTERS } from '../../piece/letters.ts';
import { setLetters } from '../../piece/paint.ts';
import { framesOf, layerIdsOf, layersUnder, threadsOf, type Layer, type Piece, type Scene } from '../../piece/piece.ts';
import type { LineThread } from '../../lines/line.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import type { Transition } from '../../vocabulary/transitions/all.ts';
import { takeName } from '../../words.ts';
import type { Operation } from '../operation.ts';
import { keysBetween } from '../order.ts';
import type { MakeId } from '../make-id.ts';
import { duplicateFrame } from './frames.ts';
import { withSteps } from './remap.ts';
import { addThreads, leadingElsewhere, readingOrder, wireTo } from './threads.ts';

/** Pairing many layers with many things at once: which goes with which is said first, and corrected; then one edit makes it all. */

/** What a layer can be paired with, as far as finding its partner goes. */
export interface Partner {
  readonly id: string;
  readonly name: string;
  /** What is written on it, the most telling first. */
  readonly words?: readonly string[];
}

export interface Paired {
  readonly layer: string;
  readonly partner: string | null;
  /** How the partner was found; null where none was. */
  readonly by: 'name' | 'order' | 'hand' | null;
}

/**
 * Which of many layers goes with which partner: by what both are called or have written on them, the best match first. Only
 * where no name fits anywhere by place on the page (rows from the top, each from the left) and the partners' order.
 */
export function pairWith(piece: Piece, layers: readonly Layer[], partners: readonly Partner[]): Paired[] {
  const sorted = readingOrder(layers);
  const matches = sorted.flatMap((layer) => {
    const own = wordsOn(piece, layer);
    return partners.map((partner) => ({ layer: layer.id, partner: partner.id, likeness: likenessOf(own, [partner.name, ...(partner.words ?? [])]) }));
  });
  const found = new Map<string, string>();
  const taken = new Set<string>();
  for (const { layer, partner, likeness } of matches.toSorted((a, b) => b.likeness - a.likeness)) {
    if (likeness < LIKE || found.has(layer) || taken.has(partner)) continue;
    found.set(layer, partner);
    taken.add(partner);
  }
  if (found.size) return sorted.map(({ id }) => ({ layer: id, partner: found.get(id) ?? null, by: found.has(id) ? 'name' : null }));
  return sorted.map(({ id }, i) => ({ layer: id, partner: partners[i]?.id ?? null, by: partners[i] ? 'order' : null }));
}

/** One pair chosen by hand. Those after it that no name has settled go on from there, in the partners' order. */
export function pairByHand(pairs: readonly Paired[], layer: string, partner: string | null, partners: readonly Partner[]): Paired[] {
  const at = pairs.findIndex((pair) => pair.layer === layer);
  const isSettled = (pair: Paired, i: number) => i < at || pair.by === 'name' || pair.by === 'hand';
  const taken = new Set(pairs.flatMap((pair, i) => (i !== at && isSettled(pair, i) && pair.partner !== null ? [pair.partner] : [])));
  const place = partners.findIndex(({ id }) => id === partner);
  const rest = place < 0 ? [] : partners.slice(place + 1).filter(({ id }) => !taken.has(id));
  return pairs.map((pair, i): Paired => {
    if (i === at) return { layer, partner, by: 'hand' };
    if (place < 0 || isSettled(pair, i))
      return pair.partner !== null && pair.partner === partner && place >= 0 ? { ...pair, partner: null, by: null } : pair;
    const next = rest.shift();
    return { layer: pair.layer, partner: next?.id ?? null, by: next ? 'order' : null };
  });
}

/** Threads as one of several layers is to have them; with the frame they lead to where that is its own. */
export interface NamedThreads {
  readonly threads: readonly LineThread[];
  readonly frame: string | null;
}

/**
 * Threads as each of many layers is to have them: where they lead to a frame, a layer that is called after another frame, or has that
 * written on it, leads there. `threadsFor` gives what a layer has otherwise. By layer.
 */
export function threadsByName(
  piece: Piece,
  layers: readonly Layer[],
  threadsFor: (layer: string) => readonly LineThread[]
): ReadonlyMap<string, NamedThreads> {
  const frames = framesOf(piece).filter(({ id }) => layers.every((layer) => layer.scene !== id));
  const pairs = new Map(pairWith(piece, layers, frames).flatMap(({ layer, partner, by }) => (by === 'name' ? [[layer, partner!] as const] : [])));
  const leadTo = (step: Step, frame: string): Step =>
    step.do === 'go' && step.target.to === 'frame' && step.target.frame !== null ? { ...step, target: { to: 'frame', frame } } : step;
  return new Map(
    layers.map(({ id }): [string, NamedThreads] => {
      const threads = threadsFor(id);
      const frame = pairs.get(id);
      if (frame === undefined) return [id, { threads, frame: null }];
      const own = threads.map((thread) => withSteps(thread, (step) => leadTo(step, frame)));
      const isOther = JSON.stringify(own) !== JSON.stringify(threads);
      return [id, { threads: own, frame: isOther ? frame : null }];
    })
  );
}

/** What is written in a scene: its largest words first. */
export const writtenIn = (piece: Piece, scene: string): string[] =>
  [...layerIdsOf(piece, scene)]
    .map((id) => piece.layers.get(id)!)
    .filter((layer) => layer.text?.trim())
    .sort((a, b) => sizeOf(piece, b) - sizeOf(piece, a))
    .slice(0, 3)
    .map((layer) => layer.text!);

/** What a layer is called, and what is written on it or in it. */
const wordsOn = (piece: Piece, layer: Layer): string[] => [
  layer.name,
  ...(layer.text ? [layer.text] : []),
  ...(layerKind(layer).holdsLayers ? layersUnder(piece, layer.scene, layer.id).flatMap((inner) => inner.text ?? []) : []),
];

/** From this on two names are taken for the same. */
const LIKE = 0.45;

/** How alike two things are by their words, 0 to 1. What is written counts a little less than names, and the same words more than some. */
function likenessOf(a: readonly string[], b: readonly string[]): number {
  let best = 0;
  a.forEach((one, i) =>
    b.forEach((other, j) => {
      const likeness = wordLikeness(one, other) - (i + j) * 0.01;
      if (likeness > best) best = likeness;
    })
  );
  return best;
}

function wordLikeness(a: string, b: string): number {
  const [one, other] = [telling(a), telling(b)];
  if (one.length === 0 || other.length === 0) return 0;
  const common = one.filter((word) => other.some((like) => sameWord(word, like))).length;
  return common / (one.length + other.length - common);
}

/** Plurals and other endings make no difference to words of some length. */
const sameWord = (a: string, b: string) => a === b || (Math.min(a.length, b.length) >= 4 && (a.startsWith(b) || b.startsWith(a)));

/** The words of a name that tell it from others: without a number in front, signs, case, and words that any name could have. */
function telling(name: string): string[] {
  const words = name
    .normalize('NFKD')
    .replace(/\p{M}/gu, '')
    .toLowerCase()
    .replace(/^[\s\d.,:;()#–-]+(?=.*\p{L})/u, '')
    .split(/[^\p{L}\p{N}]+/u)
    .filter(Boolean);
  const rest = words.filter((word) => !SMALL.has(word));
  return [...new Set(rest.length ? rest : words)];
}

const SMALL: ReadonlySet<string> = new Set(
  'a an the of to for in on at by with and or your my our its is this that page screen frame tab button link area hit box item icon panel menu go open show see all new copy'.split(
    ' '
  )
);

/** Parts layers into what is pressed and what is shown by it: groups and placements are shown where they are half of all, else the larger half. */
export function buttonsAndPanels<T extends Layer>(layers: readonly T[]): { buttons: T[]; panels: T[] } | null {
  if (layers.length < 2 || layers.length % 2 !== 0) return null;
  const half = layers.length / 2;
  const holds = (layer: T) => layerKind(layer).draws === 'layers';
  const holders = layers.filter(holds);
  if (holders.length === half) return { buttons: layers.filter((layer) => !holds(layer)), panels: holders };
  const bySize = [...layers].sort((a, b) => a.pose.width * a.pose.height - b.pose.width * b.pose.height);
  return { buttons: bySize.slice(0, half), panels: bySize.slice(half) };
}

/** Makes a click on a layer do a step: one of the same kind, about the same thing, is replaced; else a thread is added. */
export function wireToStep(piece: Piece, layer: string, step: Step, makeId: MakeId): Operation[] {
  const alike = (other: Step) => other.do === step.do && ('of' in step ? 'of' in other && other.of === step.of : !('of' in other));
  const old = threadsOf(piece, layer).find((thread) => thread.cue.type === 'click');
  const at = old?.branches[0]?.steps.findIndex(alike) ?? -1;
  if (old && at >= 0) return [{ op: 'set', table: 'threads', id: old.id, path: ['branches', '0', 'steps', String(at)], value: step }];
  return leadingElsewhere(old, step) ?? addThreads(piece, 'layer', layer, [{ cue: { type: 'click' }, branches: [{ steps: [step] }] }], makeId);
}

const tween: Transition = { type: 'tween', ms: 300, easing: 'ease-out' };

/** A click brings the scene (or a placement in it) into a state; with `andBack`, another click brings it back. */
export const wireToState = (piece: Piece, layer: string, of: string | undefined, state: string, makeId: MakeId, andBack = false): Operation[] =>
  wireToStep(piece, layer, { do: 'state', ...(of !== undefined && { of }), to: andBack ? { toggle: state } : { state }, transition: tween }, makeId);

/** A click plays the scene (or a placement in it) from a label. */
export const wireToLabel = (piece: Piece, layer: string, of: string | undefined, label: string, makeId: MakeId): Operation[] =>
  wireToStep(piece, layer, { do: 'play', ...(of !== undefined && { of }), from: label }, makeId);

/** The stored condition that a scene is, or is not, in a state or in the section that a label opens. */
export const isIn = (scene: string, property: 'state' | 'section', of: string, is: '=' | '!=' = '='): string =>
  `‹${scene}›.${property} ${is} ‹=${scene}/${of}›`;

/** A layer is selected while its scene is in a state, or in the section that a label opens. */
export const selectedWhile = (scene: string, layer: string, property: 'state' | 'section', of: string): Operation[] => [
  { op: 'set', table: 'layers', id: layer, path: ['bindings', 'selected'], value: isIn(scene, property, of) },
];

/** A panel is shown while its button is selected. */
export const showWhileSelected = (panel: string, button: string): Operation[] => [
  { op: 'set', table: 'layers', id: panel, path: ['bindings', 'shown'], value: `‹${button}›.selected` },
];

/**
 * A page for each layer, made from the page of the first: what shows the first layer's picture or says its name there shows the
 * own one's. Each is named after its layer, the first one too; they stand in the layers' order, and layers lead to them.
 */
export function pagesFor(piece: Piece, layers: readonly Layer[], template: string, bundle: string | null, makeId: MakeId): Operation[] {
  const page = piece.scenes.get(template);
  const [first, ...others] = readingOrder(layers);
  if (!page || !first) return [];
  const names = new Set([...piece.scenes.values()].filter((scene) => scene.use === 'frame').map((scene) => scene.name));
  const named = nameOf(first);
  const own = [...layerIdsOf(piece, template)].map((id) => piece.layers.get(id)!);
  const title =
    own.find((layer) => layer.text !== undefined && layer.text.trim() === named)?.text ??
    own.find((layer, _at, all) => isTitle(piece, layer, all))?.text;
  const wired = (layer: Layer, frame: string) => wireTo(piece, [layer.id], frame, makeId);
  const bundled = (frame: string): Operation[] =>
    bundle === null ? [] : [{ op: 'set', table: 'scenes', id: frame, path: ['bundle'], value: bundle }];
  names.delete(page.name);
  const name = takeName(names, named);
  const frames = framesOf(piece);
  const at = frames.findIndex((frame) => frame.id === template);
  const orders = keysBetween(page.order, frames[at + 1]?.order ?? null, others.length);
  return [
    ...(name === page.name ? [] : [{ op: 'set' as const, table: 'scenes' as const, id: template, path: ['name'], value: name }]),
    ...wired(first, template),
    ...bundled(template),
    ...others.flatMap((layer, i) => {
      const { operations, id } = duplicateFrame(piece, template, makeId);
      const own = { name: takeName(names, nameOf(layer)), order: orders[i]! };
      return [...operations.map((operation) => replaced(operation, id, own, first, layer, title)), ...wired(layer, id), ...bundled(id)];
    }),
  ];
}

const nameOf = (layer: Layer) => layer.text?.trim() || layer.name;

/** The largest words of a page are its title. */
const isTitle = (piece: Piece, layer: Layer, all: readonly Layer[]) =>
  layer.text !== undefined && all.every((other) => other.text === undefined || sizeOf(piece, other) <= sizeOf(piece, layer));

const sizeOf = (piece: Piece, { letters = {} }: Layer): number => setLetters(piece.head, letters).size ?? USUAL_LETTERS.size;

function replaced(
  operation: Operation,
  frame: string,
  own: { readonly name: string; readonly order: string },
  first: Layer,
  layer: Layer,
  title: string | undefined
): Operation {
  if (operation.op !== 'put') return operation;
  if (operation.table === 'scenes') return { ...operation, value: { ...(operation.value as Scene), ...own } as { id: string } };
  if (operation.table !== 'layers') return operation;
  const copy = operation.value as Layer;
  if (copy.scene !== frame) return operation;
  const showsPicture = first.asset !== undefined && copy.asset === first.asset && layer.asset !== undefined;
  const value: Layer = {
    ...copy,
    ...(showsPicture && { asset: layer.asset! }),
    ...(title !== undefined && copy.text === title && { text: nameOf(layer) }),
  };
  return { ...operation, value };
}
