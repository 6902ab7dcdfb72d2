import type { ExpressionFault, ValueType } from '../../expression/ast.ts';
import { checkTypes } from '../../expression/check.ts';
import { displayExpression } from '../../expression/names.ts';
import { parseExpression } from '../../expression/parse.ts';
import { expressionScope, typesIn, variableType } from '../../expression/scope.ts';
import { textParts } from '../../expression/text.ts';
import { sceneOfThread, type Layer, type Piece, type Thread } from '../../piece/piece.ts';
import { finding, type Finding, type Place, type Rule } from '../finding.ts';

export const expressionError: Rule = {
  id: 'expression-error',
  meaning: 'a condition, binding, assignment or text whose expression cannot be read, names what is not there, or is of the wrong type',
  check: ({ program: { piece } }) => [...expressionsOf(piece)].flatMap((found) => report(piece, found)),
};

interface Found {
  readonly stored: string;
  readonly scene: string | null;
  readonly wanted: ValueType | null;
  readonly place: Place;
  readonly what: string;
}

function report(piece: Piece, { stored, scene, wanted, place, what }: Found): Finding[] {
  const fault = faultOf(piece, stored, wanted);
  if (!fault) return [];
  const { text, at } = displayExpression(stored, expressionScope(piece, scene));
  const sentence = `In “${text}”, column ${at(fault.from) + 1}: ${fault.sentence}`;
  return [finding('expression-error', 'must', place, `${what} cannot be computed`, sentence)];
}

/** What is wrong with a stored expression, or null. */
export function faultOf(piece: Piece, stored: string, wanted: ValueType | null): ExpressionFault | null {
  const parsed = parseExpression(stored);
  if (!parsed.ok) return parsed.error;
  return checkTypes(parsed.value, typesIn(piece), wanted)[0] ?? null;
}

function* expressionsOf(piece: Piece): Iterable<Found> {
  for (const thread of piece.threads.values()) yield* inThread(piece, thread);
  for (const layer of piece.layers.values()) yield* inLayer(layer);
  for (const scene of piece.scenes.values())
    if (scene.stateIs !== undefined)
      yield { stored: scene.stateIs, scene: scene.id, wanted: 'text', place: { scene: scene.id }, what: `The state of ${scene.name}` };
}

function* inThread(piece: Piece, thread: Thread): Iterable<Found> {
  const scene = sceneOfThread(piece, thread);
  const place = { scene, ...(thread.on === 'layer' && { layer: thread.owner }), thread: thread.id };
  const owner =
    (thread.on === 'layer' ? piece.layers.get(thread.owner)?.name : scene === null ? piece.head.name : piece.scenes.get(scene)?.name) ?? 'A thread';
  for (const branch of thread.branches) {
    if (branch.if !== undefined) yield { stored: branch.if, scene, wanted: 'yes/no', place, what: `A condition of ${owner}` };
    for (const step of branch.steps) {
      const at = { scene, place, what: `A step of ${owner}` };
      if (step.do === 'set') yield { ...at, stored: step.value, wanted: step.variable === null ? null : variableType(piece, step.variable) };
      if (step.do === 'move') for (const stored of [step.x, step.y]) yield { ...at, stored, wanted: 'number' };
      if (step.do === 'tween') yield { ...at, stored: step.value, wanted: 'number' };
    }
  }
}

const bound: Record<string, ValueType> = { shown: 'yes/no', enabled: 'yes/no', selected: 'yes/no', state: 'text' };

function* inLayer(layer: Layer): Iterable<Found> {
  const place = { scene: layer.scene, layer: layer.id };
  if (layer.bindings)
    for (const [what, stored] of Object.entries(layer.bindings))
      if (stored !== undefined)
        yield { stored, scene: layer.scene, wanted: bound[what] ?? 'number', place, what: `What ${what} of ${layer.name} follows` };
  const texts = [layer.text, ...Object.values(layer.looks ?? {}).map((look) => look?.text)];
  for (const text of texts)
    if (text?.includes('{'))
      for (const part of textParts(text))
        if (part.expression !== undefined)
          yield { stored: part.expression, scene: layer.scene, wanted: null, place, what: `The text of ${layer.name}` };
}
