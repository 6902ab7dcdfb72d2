import { partsOf, replacePart, type Ast } from '../expression/ast.ts';
import { compileAst, type Compiled, type Environment } from '../expression/compile.ts';
import { keyOf } from './compared.ts';
import type { Plane } from './faces.ts';
import { pairsOf } from './held.ts';
import type { Knob } from './knobs.ts';
import { difference, isGiven, linearOf, ROUNDS, type Linear } from './linear.ts';
import { answerIn } from './values.ts';

/** What is asked of several numbers, as planes in the room of all that they can be. */

/** Where what is compared is the same; `sideIn` computes on which side of that something is, null where it has no value. */
export interface Compared extends Plane {
  readonly sideIn: (environment: Environment) => number | null;
}

/** What is compared, as planes; null where anything is no sum. */
export function planesOf(of: readonly Knob[], atoms: readonly Ast[]): readonly Compared[] | null {
  const planes: Compared[] = [];
  for (const pair of atoms.flatMap((atom) => pairsOf(atom)!)) {
    const asked = quotientIn(pair) ?? roundedIn(pair) ?? [{ a: pair[0], b: pair[1] }];
    for (const { a, b, sideIn = sideBetween(a, b) } of asked) {
      const sum = sumOf(a, b);
      if (!sum || sum.slack !== 0) return null;
      const times = of.map(({ key }) => [...sum.terms.values()].find(({ ref }) => keyOf(ref.id, ref.property) === key)?.times ?? 0);
      if (times.some(Boolean)) planes.push({ times, plus: sum.plus, sideIn });
    }
  }
  return planes;
}

const NOTHING: Ast = { k: 'value', value: 0 };

/** Two that are compared instead of others. */
interface Instead {
  readonly a: Ast;
  readonly b: Ast;
  readonly sideIn?: Compared['sideIn'];
}

/** Of a quotient it is asked how what is divided stands to so many times what divides it, and on which side of nothing that is. */
function quotientIn([a, b]: readonly [Ast, Ast]): Instead[] | null {
  const [quotient, other] = isQuotient(a) ? [a, b] : [b, a];
  if (!isQuotient(quotient)) return null;
  return [
    { a: quotient.b, b: NOTHING },
    { a: quotient.a, b: { k: 'op', op: '*', a: other, b: quotient.b }, sideIn: quotientSide(quotient, other) },
  ];
}

const ROUNDED: Ast = { k: 'ref', id: '·', property: null };

/** Of what is rounded it is asked where it stands to each place about what it is held against at which that comes out otherwise. */
function roundedIn([a, b]: readonly [Ast, Ast]): Instead[] | null {
  const [call, ...more] = [a, b].flatMap(roundingIn);
  if (!call || more.length > 0) return null;
  const sum = sumOf(replacePart(a, call, ROUNDED), replacePart(b, call, ROUNDED));
  const [term, ...others] = sum ? [...sum.terms.values()] : [];
  const scale = call.args[1] ? linearOf(call.args[1]) : null;
  if (!sum || !term || term.ref !== ROUNDED || others.length > 0 || sum.slack !== 0 || (call.args[1] && !(scale && isGiven(scale)))) return null;
  const unit = 10 ** -(scale?.plus ?? 0);
  // Those that round half up do so halfway.
  const first = Math.ceil((-sum.plus / term.times / unit - 1) * 2);
  return Array.from({ length: 5 }, (_, i) => ({ a: call.args[0]!, b: { k: 'value', value: ((first + i) * unit) / 2 } }));
}

const roundingIn = (ast: Ast): (Ast & { readonly k: 'call' })[] =>
  ast.k === 'call' && ROUNDS.has(ast.fn) ? [ast] : partsOf(ast).flatMap(roundingIn);

type Quotient = Ast & { readonly k: 'op' };

/** Whether something is divided by what is not given. */
const isQuotient = (ast: Ast): ast is Quotient => ast.k === 'op' && ast.op === '/' && !linearOf(ast);

function sumOf(a: Ast, b: Ast): Linear | null {
  const [one, other] = [linearOf(a), linearOf(b)];
  return one && other && difference(one, other);
}

function sideBetween(a: Ast, b: Ast): Compared['sideIn'] {
  const [one, other] = [compileAst(a), compileAst(b)];
  return (environment) => signOf(one, other, environment);
}

/** On which side what is divided is of so many times what divides it, as the quotient has it. */
function quotientSide(quotient: Quotient, times: Ast): Compared['sideIn'] {
  const [side, divisor] = [sideBetween(quotient, times), sideBetween(quotient.b, NOTHING)];
  const product = sideBetween(quotient.a, { k: 'op', op: '*', a: times, b: quotient.b });
  return (environment) => {
    const way = divisor(environment);
    if (way === 0) return product(environment);
    const found = side(environment);
    return way === null || found === null ? null : way * found;
  };
}

function signOf(a: Compiled, b: Compiled, environment: Environment): number | null {
  const [one, other] = [answerIn(a, environment), answerIn(b, environment)];
  return typeof one !== 'number' || typeof other !== 'number' ? null : one === other ? 0 : one > other ? 1 : -1;
}
