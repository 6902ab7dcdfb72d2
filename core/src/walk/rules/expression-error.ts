import type { Value } from '../../expression/ast.ts';
import { circlesIn, type Circle } from '../circles.ts';
import { dataRule } from '../data-rule.ts';
import { startOf } from '../explore.ts';
import { finding, type Finding, type Rule, type RuleContext } from '../finding.ts';

const faulty = dataRule(
  'expression-error',
  'cannot be computed',
  'a condition, binding, assignment or text whose expression cannot be read, names what is not there, cannot be computed, or follows from itself and never comes to rest',
  'an expression that can be computed in every state, whatever comes of it',
  ({ code }) => code !== 'wrong-type'
);

export const expressionError: Rule = {
  ...faulty,
  check: (context) => [...faulty.check(context), ...circlesIn(context.program, context.exploration).map((one) => told(one, context))],
};

function told({ binding: { node, instance, what }, state, was, again }: Circle, { exploration }: RuleContext): Finding {
  const { scene } = instance.scene;
  const name = what === 'stateIs' ? `The state of ${scene.name}` : `${node!.layer.name}.${what}`;
  return finding(
    'expression-error',
    'must',
    { scene: scene.id, ...(node && { layer: node.layer.id }) },
    `${name} follows from itself`,
    `It goes round in a circle: it is ${words(was)}, and worked out again it would be ${words(again)}.`,
    { route: { from: startOf(exploration, state), events: exploration.routeTo(state) } }
  );
}

const words = (value: Value | null): string => (value === null ? 'nothing' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value));
