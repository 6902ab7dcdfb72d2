import type { ExpressionFault, ValueType } from '../expression/ast.ts';
import { checkTypes } from '../expression/check.ts';
import { displayExpression } from '../expression/names.ts';
import { parseExpression } from '../expression/parse.ts';
import { expressionScope, typesIn } from '../expression/scope.ts';
import type { Piece } from '../piece/piece.ts';
import { finding, type Finding, type Rule } from './finding.ts';
import { standingExpressions, type Standing } from './standing.ts';

/** A rule about faults of expressions of a kind, each told with its place in the text. */
export const dataRule = (id: string, meaning: string, isAbout: (fault: ExpressionFault) => boolean): Rule => ({
  id,
  meaning,
  check: ({ program }) => standingExpressions(program).flatMap((found) => report(id, program.piece, found, isAbout)),
});

function report(id: string, piece: Piece, { stored, scene, wanted, place, what }: Standing, isAbout: (fault: ExpressionFault) => boolean): Finding[] {
  const fault = faultOf(piece, stored, wanted);
  if (!fault || !isAbout(fault)) return [];
  const { text, at } = displayExpression(stored, expressionScope(piece, scene));
  const sentence = `In “${text}”, column ${at(fault.from) + 1}: ${fault.sentence}`;
  return [finding(id, 'must', place, `${what} cannot be computed`, sentence)];
}

/** What is wrong with a stored expression, or null. */
export function faultOf(piece: Piece, stored: string, wanted: ValueType | null): ExpressionFault | null {
  const parsed = parseExpression(stored);
  if (!parsed.ok) return parsed.error;
  return checkTypes(parsed.value, typesIn(piece), wanted)[0] ?? null;
}
