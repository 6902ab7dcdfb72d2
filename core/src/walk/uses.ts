import { partsOf, replaceRefs, type Ast } from '../expression/ast.ts';
import { keyOf } from './compared.ts';
import type { Read } from './reads.ts';
import { canFail } from './shown-only.ts';

/** Whether a name is that of the thing that is spoken of. */
export type IsIt = (id: string, property: string | null) => boolean;

/** Tells a variable, in whichever placement. */
export const isVariable =
  (variable: string): IsIt =>
  (id, property) =>
    property === null && keyOf(id, null) === variable;

/** What comes of a value that a person puts into a field. */
export interface Uses {
  /** What is asked of it: conditions and bindings in which it stands, also by way of variables that are set to what is computed with it. */
  readonly asked: readonly Ast[];
  /** Whether that is all that comes of it: nothing is set to what is computed with other things besides. */
  readonly isAll: boolean;
  /** Whether all of it is asked of this alone, so that each value has its answers. */
  readonly isAlone: boolean;
}

/** By so many variables, one set to what is computed with another, it is followed. */
const MOST_FLOWS = 6;

/** What is asked of something; `isFree` tells of variables that they take whatever they are set to. */
export function usesOf(read: readonly Read[], isIt: IsIt, isFree: (variable: string) => boolean): Uses {
  const asked: Ast[] = [];
  let isAll = true;
  let isAlone = true;
  const follow = (ast: Ast, sets: string | null, through: readonly string[]): void => {
    if (sets === null) return void asked.push(ast);
    if (!isFree(sets) || canFail(ast) || !isOnly(ast, isIt) || through.includes(sets) || through.length >= MOST_FLOWS) return void (isAll = false);
    const isSet = isVariable(sets);
    for (const one of read) {
      if (!mentions(one.ast, isSet)) continue;
      // What it was set to stands beside what the thing holds by now: they are two.
      const isApart = isOnly(one.ast, isSet);
      isAlone &&= isApart;
      if (!isApart && one.sets !== null) isAll = false;
      else
        follow(
          replaceRefs(one.ast, (ref) => (isSame(ref, isSet) ? ast : ref)),
          one.sets,
          [...through, sets]
        );
    }
  };
  for (const { ast, sets } of read) {
    if (!mentions(ast, isIt) || (sets !== null && isSame(ast, isIt))) continue;
    isAlone &&= isOnly(ast, isIt);
    follow(ast, sets, []);
  }
  return { asked, isAll, isAlone };
}

const isSame = (ast: Ast, isIt: IsIt): boolean => ast.k === 'ref' && isIt(ast.id, ast.property);

export const mentions = (ast: Ast, isIt: IsIt): boolean => isSame(ast, isIt) || partsOf(ast).some((part) => mentions(part, isIt));

/** Whether an expression speaks of one thing alone, in one place: not of a field in one placement and in another. */
export function isOnly(ast: Ast, isIt: IsIt): boolean {
  const paths = new Set<string>();
  const areAll = (at: Ast): boolean => {
    if (at.k === 'name' || at.k === 'special') return false;
    if (at.k === 'ref') paths.add(`${at.id}.${at.property ?? ''}`);
    return (at.k !== 'ref' || isIt(at.id, at.property)) && partsOf(at).every(areAll);
  };
  return areAll(ast) && paths.size === 1;
}
