import { setLetters } from '../../piece/paint.ts';
import { layerIdsOf, threadsOf, type Layer, type Piece, type Scene } from '../../piece/piece.ts';
import type { Step, Transition } from '../../steps/schemas.ts';
import { naturally, takeName } from '../../words.ts';
import type { Operation } from '../operation.ts';
import { duplicateFrame, type MakeId } from './frames.ts';
import { addThreads, readingOrder, wireTo } from './threads.ts';

/** Pairing many layers with many things at once: which goes with which is said first, and corrected; then one edit makes it all. */

/** What a layer can be paired with, as far as finding its partner goes. */
export interface Partner {
  readonly id: string;
  readonly name: string;
}

export interface Paired {
  readonly layer: string;
  readonly partner: string | null;
}

/**
 * Which of many layers goes with which partner: first those whose name or text is the partner's name, then the rest by place on
 * the page (rows from the top, each from the left) and the partners' order.
 */
export function pairWith(layers: readonly Layer[], partners: readonly Partner[]): Paired[] {
  const free = [...partners];
  const taken = new Map<string, string>();
  for (const layer of layers) {
    const at = free.findIndex(({ name }) => [layer.name, layer.text].some((word) => word !== undefined && naturally(word, name) === 0));
    if (at >= 0) taken.set(layer.id, free.splice(at, 1)[0]!.id);
  }
  const sorted = readingOrder(layers);
  for (const layer of sorted) if (!taken.has(layer.id) && free.length) taken.set(layer.id, free.shift()!.id);
  return sorted.map((layer) => ({ layer: layer.id, partner: taken.get(layer.id) ?? null }));
}

/** Parts layers into what is pressed and what is shown by it: groups and placements are shown where they are half of all, else the larger half. */
export function buttonsAndPanels<T extends Layer>(layers: readonly T[]): { buttons: T[]; panels: T[] } | null {
  if (layers.length < 2 || layers.length % 2 !== 0) return null;
  const half = layers.length / 2;
  const holds = (layer: T) => layer.type === 'group' || layer.type === 'placement';
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
  return addThreads(piece, 'layer', layer, [{ cue: { type: 'click' }, branches: [{ steps: [step] }] }], makeId);
}

const tween: Transition = { type: 'tween', ms: 300, easing: 'ease-out' };

/** A click brings the scene (or a placement in it) into a state; with `andBack`, another click brings it back. */
export const wireToState = (piece: Piece, layer: string, of: string | undefined, state: string, makeId: MakeId, andBack = false): Operation[] =>
  wireToStep(piece, layer, { do: 'state', ...(of !== undefined && { of }), to: andBack ? { toggle: state } : { state }, transition: tween }, makeId);

/** A panel is shown while its button is selected. */
export const showWhileSelected = (panel: string, button: string): Operation[] => [
  { op: 'set', table: 'layers', id: panel, path: ['bindings', 'shown'], value: `‹${button}›.selected` },
];

/**
 * A page for each layer, made from the page of the first: what shows the first layer's picture or says its name there shows the
 * own one's. Layers lead to their pages; all pages are bundled.
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
  return [
    ...wired(first, template),
    ...bundled(template),
    ...others.flatMap((layer) => {
      const { operations, id } = duplicateFrame(piece, template, makeId);
      const name = takeName(names, nameOf(layer));
      return [...operations.map((operation) => replaced(operation, id, name, first, layer, title)), ...wired(layer, id), ...bundled(id)];
    }),
  ];
}

const nameOf = (layer: Layer) => layer.text?.trim() || layer.name;

/** The largest words of a page are its title. */
const isTitle = (piece: Piece, layer: Layer, all: readonly Layer[]) =>
  layer.text !== undefined && all.every((other) => other.text === undefined || sizeOf(piece, other) <= sizeOf(piece, layer));

const sizeOf = (piece: Piece, { letters = {} }: Layer): number => setLetters(piece.head, letters).size ?? 16;

function replaced(operation: Operation, frame: string, name: string, first: Layer, layer: Layer, title: string | undefined): Operation {
  if (operation.op !== 'put') return operation;
  if (operation.table === 'scenes') return { ...operation, value: { ...(operation.value as Scene), name } as { id: string } };
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
