import { cutText } from '../../text.ts';
import { keyBetween } from '../order.ts';
import { threadsOf, variablesOf, type Layer, type Piece, type Variable } from '../../piece/piece.ts';
import { takeName } from '../../words.ts';
import type { Operation } from '../operation.ts';
import type { MakeId } from '../make-id.ts';
import { addThreads, readingOrder } from './threads.ts';

/** Layers of which at most one is selected, and the variable that says which. */

export interface ChoiceOptions {
  readonly name: string;
  /** Pressing the selected one again unselects it; else it stays. */
  readonly again: 'stays' | 'unselects';
  /** The first one begins selected. */
  readonly first: boolean;
  /** A variable of the piece tells which one is selected. */
  readonly variable: boolean;
}

/** Makes layers of one scene a choice: a press selects one and unselects the rest. Looks are the caller's. */
export function makeChoice(piece: Piece, scene: string, ids: readonly string[], options: ChoiceOptions, makeId: MakeId): Operation[] {
  const layers = readingOrder(ids.flatMap((id) => piece.layers.get(id) ?? []));
  const found = piece.scenes.get(scene);
  if (!found || layers.length < 2) return [];
  const choice = makeId();
  const name = takeName(new Set(Object.values(found.choices ?? {}).map((one) => one.name)), options.name);
  const values = uniqueNames(layers.map((layer) => layer.text?.trim() || layer.name));
  const variable = options.variable ? mirror(piece, makeId(), name, values, options.first) : null;
  return [
    ...(variable ? [{ op: 'put' as const, table: 'variables' as const, value: variable }] : []),
    { op: 'set', table: 'scenes', id: scene, path: ['choices', choice], value: { name, ...(variable && { variable: variable.id }) } },
    ...layers.flatMap((layer, i): Operation[] => [
      { op: 'set', table: 'layers', id: layer.id, path: ['choice'], value: choice },
      { op: 'set', table: 'layers', id: layer.id, path: ['choiceValue'], value: values[i] },
      { op: 'set', table: 'layers', id: layer.id, path: ['selected'], value: options.first && i === 0 },
      ...selectOnPress(piece, layer, options.again === 'unselects' ? 'toggle' : 'on', makeId),
    ]),
  ];
}

/** A variable with a value for none of them too, where none may be selected. */
function mirror(piece: Piece, id: string, wanted: string, values: readonly string[], first: boolean): Variable {
  const taken = new Set([...piece.variables.values()].map((variable) => variable.name));
  const options = first ? [...values] : ['none', ...values.filter((value) => value !== 'none')];
  const order = keyBetween(variablesOf(piece, null).at(-1)?.order ?? null, null);
  return { id, scene: null, order, name: takeName(taken, wanted), type: 'choice', options, initial: options[0]! };
}

function uniqueNames(names: readonly string[]): string[] {
  const taken = new Set<string>();
  return names.map((name) => takeName(taken, cutText(name, 110)));
}

/** A press selects the layer, before whatever else its click thread does; one that selects it already stays. */
function selectOnPress(piece: Piece, layer: Layer, what: 'on' | 'toggle', makeId: MakeId): Operation[] {
  const threads = threadsOf(piece, layer.id);
  const step = { do: 'select' as const, layer: layer.id, what };
  const selects = threads.find((one) => one.branches.some((branch) => branch.steps.some((s) => s.do === 'select' && s.layer === layer.id)));
  if (selects) return [];
  const old = threads.find((one) => one.cue.type === 'click' && one.branches.length === 1 && one.branches[0]!.if === undefined);
  if (old) return [{ op: 'set', table: 'threads', id: old.id, path: ['branches', '0', 'steps'], value: [step, ...old.branches[0]!.steps] }];
  return addThreads(piece, 'layer', layer.id, [{ cue: { type: 'click' }, branches: [{ steps: [step] }] }], makeId);
}
