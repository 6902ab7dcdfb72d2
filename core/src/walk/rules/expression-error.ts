import type { Value } from '../../expression/ast.ts';
import { ownerOf, placeOfThread } from '../at-thread.ts';
import { circlesIn, type Circle } from '../circles.ts';
import { dataRule } from '../data-rule.ts';
import { dividedByZero, type Divided } from '../divided.ts';
import { routeOf } from '../explore.ts';
import type { Timed } from '../moves.ts';
import { routeBy, type Moment } from '../moment.ts';
import { finding, type Finding, type Rule, type RuleContext } from '../finding.ts';

const faulty = dataRule(
  'expression-error',
  'cannot be computed',
  'a condition, binding, assignment or text whose expression cannot be read, names what is not there, cannot be computed, divides by zero where a person can come to, or follows from itself and never comes to rest',
  'an expression that can be computed in every state, whatever comes of it',
  ({ code }) => code !== 'wrong-type'
);

export const expressionError: Rule = {
  ...faulty,
  check: (context) => {
    const written = faulty.check(context);
    const known = new Set(written.map(({ place }) => place.thread));
    const met = [...context.exploration.failed].filter(([thread]) => !known.has(thread)).flatMap(([thread, at]) => failed(thread, at, context));
    const circles = circlesIn(context.program, context.exploration).map(told);
    const divided = dividedByZero(context.program, context.exploration).map(dividedAt);
    const given = new Set([...written, ...circles].map(wordsOf));
    return [...written, ...met, ...circles, ...divided.filter((one) => !given.has(wordsOf(one)))];
  },
};

/** A thread that divides by zero where a person can come to. */
function failed(id: string, at: Moment & { readonly step: Timed }, { program: { piece } }: RuleContext): Finding[] {
  const thread = piece.threads.get(id);
  if (!thread) return [];
  const owner = ownerOf(piece, thread);
  const sentence = 'It divides by zero, which has no value: a condition then does not hold, and a step does nothing.';
  return [
    finding('expression-error', 'must', placeOfThread(piece, thread), `What ${owner} does cannot be computed`, sentence, {
      route: routeBy(at, at.step),
    }),
  ];
}

const wordsOf = ({ place: { scene, layer } }: Finding): string => `${scene} ${layer}`;

/** A binding or a text that divides by zero. */
function dividedAt({ binding: { node, instance, what }, state, exploration }: Divided): Finding {
  const { scene } = instance.scene;
  const of = node ? node.layer.name : scene.name;
  const name = what === 'text' ? `The text of ${of}` : what === 'stateIs' ? `The state of ${of}` : `What ${what} of ${of} follows`;
  const then = what === 'text' ? '“…” stands in its place' : 'it is as if it was not bound';
  return finding(
    'expression-error',
    'must',
    { scene: scene.id, ...(node && { layer: node.layer.id }) },
    `${name} cannot be computed`,
    `It divides by zero, which has no value: ${then}.`,
    { route: routeOf(exploration, state) }
  );
}

function told({ binding: { node, instance, what }, state, exploration, was, again }: Circle): Finding {
  const { scene } = instance.scene;
  const name = what === 'stateIs' ? `The state of ${scene.name}` : `${node!.layer.name}.${what}`;
  return finding(
    'expression-error',
    'must',
    { scene: scene.id, ...(node && { layer: node.layer.id }) },
    `${name} follows from itself`,
    `It goes round in a circle: it is ${words(was)}, and worked out again it would be ${words(again)}.`,
    { route: routeOf(exploration, state) }
  );
}

const words = (value: Value | null): string => (value === null ? 'nothing' : typeof value === 'boolean' ? (value ? 'yes' : 'no') : String(value));
