import type { Ast } from '../expression/ast.ts';
import { parseExpression } from '../expression/parse.ts';
import { textParts } from '../expression/text.ts';
import type { Piece } from '../piece/piece.ts';

/** Every expression of a piece as a tree, by its stored text, so that what runs an exported page needs no parser. */
export function expressionTrees(piece: Piece): Record<string, Ast> {
  const trees: Record<string, Ast> = {};
  const take = (stored: string | undefined) => {
    if (stored === undefined || Object.hasOwn(trees, stored)) return;
    const parsed = parseExpression(stored);
    if (parsed.ok) trees[stored] = withoutPlaces(parsed.value);
  };
  for (const thread of piece.threads.values())
    for (const branch of thread.branches) {
      take(branch.if);
      for (const step of branch.steps) {
        if (step.do === 'set' || step.do === 'tween') take(step.value);
        if (step.do === 'move') for (const stored of [step.x, step.y]) take(stored);
      }
    }
  for (const scene of piece.scenes.values()) take(scene.stateIs);
  for (const layer of piece.layers.values()) for (const stored of Object.values(layer.bindings ?? {})) take(stored);
  for (const text of textsIn(piece)) for (const part of textParts(text)) take(part.expression);
  return trees;
}

/** All texts that can hold expressions: of layers, their looks, fills of placements, and states. */
function textsIn(piece: Piece): string[] {
  const found: (string | undefined)[] = [];
  for (const layer of piece.layers.values()) {
    found.push(layer.text, ...Object.values(layer.fills ?? {}).map((fill) => fill.text));
    for (const look of Object.values(layer.looks ?? {})) found.push(look?.text, ...Object.values(look?.inside ?? {}).map((delta) => delta.text));
  }
  for (const scene of piece.scenes.values())
    for (const state of Object.values(scene.states ?? {})) found.push(...Object.values(state.deltas).map((delta) => delta.text));
  return found.filter((text) => text !== undefined && text.includes('{')) as string[];
}

/** A tree without its positions in the text, which only those who write need. */
function withoutPlaces(ast: Ast): Ast {
  const { from: _from, to: _to, ...rest } = ast as Ast & { from?: number; to?: number };
  return Object.fromEntries(Object.entries(rest).map(([key, value]) => [key, strip(value)])) as unknown as Ast;
}

const strip = (value: unknown): unknown => {
  if (Array.isArray(value)) return value.map(strip);
  return typeof value === 'object' && value !== null ? withoutPlaces(value as Ast) : value;
};
