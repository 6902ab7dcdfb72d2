import type { Ast } from '../expression/ast.ts';
import { parseExpression } from '../expression/parse.ts';
import { textParts } from '../expression/text.ts';
import { TABLES, type Piece } from '../piece/piece.ts';
import { fieldsOf } from '../piece/visit.ts';

/** Every expression of a piece as a tree, by its stored text, so that what runs an exported page needs no parser. */
export function expressionTrees(piece: Piece): Record<string, Ast> {
  const trees: Record<string, Ast> = {};
  const take = (stored: string | undefined) => {
    if (stored === undefined || Object.hasOwn(trees, stored)) return;
    const parsed = parseExpression(stored);
    if (parsed.ok) trees[stored] = withoutPlaces(parsed.value);
  };
  for (const table of TABLES)
    for (const entity of piece[table].values())
      for (const { reads, value } of fieldsOf(table, entity)) {
        if (value === null) continue;
        if (reads === 'expression') take(value);
        else if (reads === 'text' && value.includes('{')) for (const part of textParts(value)) take(part.expression);
      }
  return trees;
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
