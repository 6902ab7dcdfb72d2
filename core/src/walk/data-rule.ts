import type { ExpressionFault } from '../expression/ast.ts';
import { displayExpression } from '../expression/names.ts';
import { expressionScope } from '../expression/scope.ts';
import type { Piece } from '../piece/piece.ts';
import { finding, type Finding, type Rule } from './finding.ts';
import { faultOf, standingExpressions, type Standing } from './standing.ts';

/** A rule about faults of expressions of a kind, each told with its place in the text. */
export const dataRule = (id: string, words: string, meaning: string, spares: string, isAbout: (fault: ExpressionFault) => boolean): Rule => ({
  id,
  words,
  meaning,
  spares,
  check: ({ program }) => standingExpressions(program).flatMap((found) => report(id, program.piece, found, isAbout)),
});

function report(id: string, piece: Piece, { stored, scene, wanted, place, what }: Standing, isAbout: (fault: ExpressionFault) => boolean): Finding[] {
  const fault = faultOf(piece, stored, wanted);
  if (!fault || !isAbout(fault)) return [];
  const { text, at } = displayExpression(stored, expressionScope(piece, scene));
  const sentence = `In “${text}”, column ${at(fault.from) + 1}: ${fault.sentence}`;
  return [finding(id, 'must', place, `${what} cannot be computed`, sentence)];
}
