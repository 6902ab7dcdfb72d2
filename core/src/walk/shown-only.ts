import { partsOf, type Ast } from '../expression/ast.ts';
import { onceFor } from '../once.ts';
import type { Thread } from '../piece/piece.ts';
import { fieldsOf } from '../piece/visit.ts';
import type { Program } from '../program/program.ts';
import { asBefore } from './again.ts';
import { keyOf } from './compared.ts';
import { divisorsIn } from './divisors.ts';
import { mentionsIn } from './mentions.ts';
import { spoken, standingExpressions } from './standing.ts';

/**
 * Variables that nothing but texts reads, and what only they are computed with: a counter that is shown, a sum. Whatever they hold, what
 * can come next is the same, so runs are not told apart by them. What is only ever set to given values, or has limits that a rule holds
 * it against, is told all the same: that is little, and what becomes of it can be said.
 */
export function shownOnly(program: Program): ReadonlySet<string> {
  const { threads, scenes } = program.piece;
  return asBefore(program, 'shown only', [threads, scenes, program.variables, standingExpressions(program), spoken(program)], () => {
    if (program.variables.size === 0) return NONE;
    const lively = livelyIn(program);
    const computed = new Set(standingExpressions(program).flatMap(({ sets, stored }) => (sets && !isGiven(program, stored) ? [sets] : [])));
    return new Set([...computed].filter((id) => !lively.has(id)));
  });
}

const NONE: ReadonlySet<string> = new Set();

function isGiven(program: Program, stored: string): boolean {
  const parsed = program.parse(stored);
  return parsed.ok && parsed.value.k === 'value';
}

/** Variables that what can come next depends on. */
function livelyIn(program: Program): ReadonlySet<string> {
  const lively = new Set<string>();
  for (const { id, min, max } of program.variables.values()) if (min !== undefined || max !== undefined) lively.add(id);
  for (const id of mentionsIn(program).mirrored) lively.add(id);
  for (const id of heardOf(program)) lively.add(id);
  const sets: { readonly sets: string; readonly of: ReadonlySet<string> }[] = [];
  for (const { stored, isShown, sets: set } of standingExpressions(program)) {
    const parsed = program.parse(stored);
    if (!parsed.ok) continue;
    if (isShown) {
      // Where a text divides by nothing is told.
      for (const divisor of divisorsIn(parsed.value)) for (const id of mentionedIn(divisor)) lively.add(id);
      continue;
    }
    const of = mentionedIn(parsed.value);
    if (set === undefined || canFail(parsed.value)) for (const id of of) lively.add(id);
    else sets.push({ sets: set, of });
  }
  for (let size = -1; size !== lively.size;) {
    size = lively.size;
    for (const { sets: set, of } of sets) if (lively.has(set)) for (const id of of) lively.add(id);
  }
  return lively;
}

/** Operators that give a value whatever they are given. */
const TOTAL: ReadonlySet<string> = new Set(['+', '-', '*', '=', '!=', '<', '<=', '>', '>=', 'and', 'or']);

/** Whether it can depend on what is computed with that there is no value: that is told where it happens. */
export const canFail = (ast: Ast): boolean =>
  ast.k === 'call' || ast.k === 'name' || (ast.k === 'op' && !TOTAL.has(ast.op)) || partsOf(ast).some(canFail);

/** All that an expression speaks of, by its last name: of a placement's variable the variable, of a layer's value the layer's. */
function mentionedIn(ast: Ast): ReadonlySet<string> {
  const found = new Set<string>();
  const visit = (at: Ast) => {
    if (at.k === 'ref') found.add(keyOf(at.id, null));
    partsOf(at).forEach(visit);
  };
  visit(ast);
  return found;
}

/** Variables of which something waits for them to change. */
export const heardOf = ({ piece }: Program): ReadonlySet<string> => new Set([...piece.threads.values()].flatMap(heardIn));

const heardIn = onceFor((thread: Thread): readonly string[] =>
  fieldsOf('threads', thread).flatMap(({ refers, path, value }) => (refers === 'variable' && path[0] === 'cue' && value !== null ? [value] : []))
);
