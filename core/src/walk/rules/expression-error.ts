import type { ExpressionFault, ValueType } from '../../expression/ast.ts';
import { checkTypes } from '../../expression/check.ts';
import { displayExpression } from '../../expression/names.ts';
import { parseExpression } from '../../expression/parse.ts';
import { expressionScope, typesIn } from '../../expression/scope.ts';
import type { Piece } from '../../piece/piece.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { expressionsOf, type Standing } from '../standing.ts';

export const expressionError: Rule = {
  id: 'expression-error',
  meaning: 'a condition, binding, assignment or text whose expression cannot be read, names what is not there, or is of the wrong type',
  check: ({ program }) => [...expressionsOf(program)].flatMap((found) => report(program.piece, found)),
};

function report(piece: Piece, { stored, scene, wanted, place, what }: Standing): Finding[] {
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
