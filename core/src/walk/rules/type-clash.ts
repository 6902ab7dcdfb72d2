import type { ValueType } from '../../expression/ast.ts';
import { typeOfField, variableType } from '../../expression/scope.ts';
import type { Piece, Scene } from '../../piece/piece.ts';
import type { Program, SceneProgram } from '../../program/program.ts';
import { dataRule } from '../data-rule.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { holdingIn } from '../per-scene.ts';

const ofExpressions = dataRule(
  'type-clash',
  'wrong type',
  'an expression that gives or compares values of the wrong type: a text where a number is wanted, a number held against a word; a field or a choice that is kept in a variable of another type',
  'values of one type held against each other',
  ({ code }) => code === 'wrong-type'
);

export const typeClash: Rule = {
  ...ofExpressions,
  check: (context) => [
    ...ofExpressions.check(context),
    ...[...context.program.scenes.values()].flatMap((scene) => keptWrongly(context.program, scene)),
  ],
};

/** Fields and choices whose variable never takes what they hold. */
const keptWrongly = ({ piece }: Program, scene: SceneProgram): Finding[] => [
  ...holdingIn(scene).flatMap(({ layer: { field, name, ...layer } }) =>
    field ? report(piece, field.variable, typeOfField(field), name, { scene: layer.scene, layer: layer.id }) : []
  ),
  ...Object.values(scene.scene.choices ?? NO_CHOICES).flatMap(({ name, variable }) =>
    report(piece, variable, 'text', name, { scene: scene.scene.id })
  ),
];

const NO_CHOICES: NonNullable<Scene['choices']> = {};

function report(piece: Piece, variable: string | undefined, holds: ValueType, name: string, place: Finding['place']): Finding[] {
  const wanted = variable === undefined ? null : variableType(piece, variable);
  if (wanted === null || wanted === holds) return [];
  const sentence = `${name} holds ${words[holds]}, and ${piece.variables.get(variable!)!.name} takes ${words[wanted]}: nothing is ever kept in it.`;
  return [finding('type-clash', 'must', place, `${name} is kept in a variable of another type`, sentence)];
}

const words: Record<ValueType, string> = { text: 'texts', number: 'numbers', 'yes/no': 'yes or no' };
