import { partsOf, readsOf, replaceRefs, type Ast } from '../expression/ast.ts';
import type { Layer } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { asAsked } from './as-asked.ts';
import { keyOf } from './compared.ts';
import { divisorsIn, isNothing } from './divisors.ts';
import { mentionsIn } from './mentions.ts';
import { standingExpressions } from './standing.ts';

/** An expression that something depends on, and the variable that is set to it. */
export interface Read {
  readonly ast: Ast;
  readonly sets: string | null;
  /** Nothing but where something stands, how large it is or how much of it is seen follows it, and nothing asks for that. */
  readonly isPose: boolean;
}

/**
 * All of them; what is only shown leads nowhere, whatever it reads, unless it divides by that. A variable that nothing sets stands in them as the value that it has,
 * and what a field holds as the variable that mirrors it.
 */
export function readIn(program: Program, held: readonly Layer[], isLost: (variable: string) => boolean): Read[] {
  const { set } = mentionsIn(program);
  const mirrors = new Map(held.flatMap(({ id, field }) => (field?.variable === undefined ? [] : [[id, field.variable] as const])));
  const standsFor = (ref: Ast & { readonly k: 'ref' }): Ast => {
    const last = keyOf(ref.id, null);
    const mirror = ref.property === 'value' ? mirrors.get(last) : undefined;
    if (mirror !== undefined) return { ...ref, id: besides(program, ref.id, mirror), property: null };
    const variable = ref.property === null && !set.has(last) ? program.variables.get(last) : undefined;
    return variable ? { k: 'value', value: variable.initial, from: ref.from, to: ref.to } : ref;
  };
  const read = standingExpressions(program).flatMap(({ stored, isShown, sets = null, poses }) => {
    const parsed = program.parse(stored);
    if (!parsed.ok || (sets !== null && isLost(sets))) return [];
    const ast = asAsked(replaceRefs(parsed.value, standsFor));
    // Of what is only shown, or placed, it is asked whether there is a value at all.
    const divided = divisorsIn(ast).map((divisor) => ({ ast: isNothing(divisor), sets: null, poses: undefined }));
    // What decides between two places is asked, wherever these are.
    const decided = poses === undefined ? [] : testsIn(ast).map((test) => ({ ast: test, sets: null, poses: undefined }));
    return [...(isShown ? [] : [{ ast, sets, poses }, ...decided]), ...(isShown || poses ? divided : [])];
  });
  const asked = keysRead(read);
  return read.map(({ ast, sets, poses }) => ({ ast, sets, isPose: poses !== undefined && !asked.has(poses) }));
}

/** The conditions by which an expression is one thing or another. */
const testsIn = (ast: Ast): Ast[] => [...(ast.k === 'if' ? [ast.test] : []), ...partsOf(ast).flatMap(testsIn)];

/** All that expressions read, by last names: of a placement's variable the variable, with the property of a layer. */
export const keysRead = (read: readonly Pick<Read, 'ast'>[]): ReadonlySet<string> =>
  new Set(read.flatMap(({ ast }) => [...readsOf(ast)].map((key) => key.split('/').at(-1)!)));

/** A variable of the placement that a layer is named in, or of the whole piece. */
function besides(program: Program, path: string, variable: string): string {
  const of = path.split('/').slice(0, -1);
  return of.length === 0 || program.variables.get(variable)?.scene === null ? variable : [...of, variable].join('/');
}
