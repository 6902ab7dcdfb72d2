import { partsOf, replacePart, replaceRefs, type Ast, type Value } from '../expression/ast.ts';
import type { Program } from '../program/program.ts';
import { choiceOf, type Choice } from './choices.ts';
import { keyOf } from './compared.ts';
import { pairsOf } from './held.ts';
import type { Knob } from './knobs.ts';
import { mentionsIn } from './mentions.ts';
import type { Read } from './reads.ts';
import { canFail } from './shown-only.ts';
import { isOnly, isVariable, mentions } from './uses.ts';

/** So many ways in which what else is spoken of can be are looked at. */
const MOST_WAYS = 64;
/** By so many variables, one set to what is computed with another, it is followed. */
const MOST_FLOWS = 6;

/** All that is asked of knobs, as comparisons that speak of nothing else. */
export class AskedTogether {
  private readonly atoms: Ast[] = [];
  private readonly lost = new Set<string>();

  constructor(
    private readonly program: Program,
    private readonly read: readonly Read[],
    private readonly knobs: ReadonlyMap<string, Knob>,
    private readonly isFree: (id: string) => boolean
  ) {
    for (const { ast, sets } of read) {
      if (sets !== null && this.knobs.has(sets) && !(ast.k === 'value' && typeof ast.value === 'number')) this.lose(ast, sets);
      else if (!this.keysIn(ast).size) continue;
      else if (sets === null) this.take(ast);
      else this.follow(ast, sets, []);
    }
  }

  /** The numbers that steps set one to. */
  givenTo = (key: string): number[] =>
    this.read.flatMap(({ ast, sets }) => (sets === key && ast.k === 'value' && typeof ast.value === 'number' ? ast.value : []));

  /** Knobs of which something is asked together, with what is; only those of which that is all. */
  groups(): { readonly of: readonly Knob[]; readonly atoms: readonly Ast[] }[] {
    const groups: { keys: Set<string>; atoms: Ast[] }[] = [];
    for (const atom of this.atoms) {
      const keys = this.keysIn(atom);
      const touched = groups.filter((group) => [...keys].some((key) => group.keys.has(key)));
      for (const group of touched) groups.splice(groups.indexOf(group), 1);
      groups.push({
        keys: new Set([...keys, ...touched.flatMap((group) => [...group.keys])]),
        atoms: [...touched.flatMap(({ atoms }) => atoms), atom],
      });
    }
    const known = groups.filter(({ keys }) => ![...keys].some((key) => this.lost.has(key)));
    return known.map(({ keys, atoms }) => ({ of: [...keys].map((key) => this.knobs.get(key)!), atoms: distinctAsts(atoms) }));
  }

  private keysIn(ast: Ast, found = new Set<string>()): Set<string> {
    if (ast.k === 'ref' && this.knobs.has(keyOf(ast.id, ast.property))) found.add(keyOf(ast.id, ast.property));
    for (const part of partsOf(ast)) this.keysIn(part, found);
    return found;
  }

  private lose(ast: Ast, ...more: readonly string[]): void {
    for (const key of [...this.keysIn(ast), ...more]) this.lost.add(key);
  }

  /** What is set to something computed with knobs is what that was: what is asked of it is asked of them. */
  private follow(ast: Ast, sets: string, through: readonly string[]): void {
    const isSet = isVariable(sets);
    const areKnobs = onlyRefs(ast, (key) => this.knobs.has(key));
    if (!areKnobs || !this.isFree(sets) || canFail(ast) || through.includes(sets) || through.length >= MOST_FLOWS) return this.lose(ast);
    for (const one of this.read) {
      if (!mentions(one.ast, isSet)) continue;
      if (!isOnly(one.ast, isSet)) return this.lose(ast);
      const asked = replaceRefs(one.ast, () => ast);
      if (one.sets === null) this.take(asked);
      else this.follow(asked, one.sets, [...through, sets]);
    }
  }

  /** Takes what is asked apart, to what is asked of numbers. */
  private take(ast: Ast): void {
    if (!this.keysIn(ast).size) return;
    if (ast.k === 'if' || (ast.k === 'op' && (ast.op === 'and' || ast.op === 'or')) || (ast.k === 'call' && ast.fn === 'not'))
      return partsOf(ast).forEach((part) => this.take(part));
    const ways = pairsOf(ast) ? this.waysOf(ast) : null;
    if (ways) this.atoms.push(...ways.flatMap((way) => this.chosenIn(way)).filter((way) => this.keysIn(way).size));
    else this.lose(ast);
  }

  /** An expression for each way in which what it chooses between can be chosen. */
  private chosenIn(ast: Ast): readonly Ast[] {
    const choice = choiceIn(ast);
    if (!choice) return [ast];
    return this.choose(choice).flatMap((one) => this.chosenIn(replacePart(ast, choice, one)));
  }

  /** All that can be chosen, with what is asked for that. */
  private choose(ast: Ast): readonly Ast[] {
    if (ast.k === 'if' && ast.test.k === 'value') return [ast.test.value === true ? ast.yes : ast.no];
    const { asked, chosen } = choiceAt(ast)!;
    for (const one of asked) this.take(one);
    return chosen;
  }

  /** An expression for each way in which what it speaks of besides knobs can be; null where these cannot be told. */
  private waysOf(ast: Ast): readonly Ast[] | null {
    const others = new Map<string, readonly Value[]>();
    const isKnown = onlyRefs(ast, (key, id) => {
      if (this.knobs.has(key)) return true;
      const values = this.valuesOf(key, id);
      if (values) others.set(key, values);
      return values !== null;
    });
    if (!isKnown || [...others.values()].reduce((all, { length }) => all * length, 1) > MOST_WAYS) return null;
    return [...others].reduce<readonly Ast[]>(
      (all, [key, values]) =>
        all.flatMap((one) =>
          values.map((value) => replaceRefs(one, (ref) => (keyOf(ref.id, ref.property) === key ? ({ k: 'value', value } satisfies Ast) : ref)))
        ),
      [ast]
    );
  }

  /** All that something can be: whether a thing is so, or a variable that is only ever set to given values. */
  private valuesOf(key: string, property: string | null): readonly Value[] | null {
    if (property === 'selected' || property === 'enabled' || property === 'shown') return [true, false];
    const field = property === 'value' ? this.program.piece.layers.get(key.slice(0, -'.value'.length))?.field : undefined;
    if (field)
      return field.kind === 'choice' ? ['', ...(field.options ?? [])] : field.kind === 'checkbox' || field.kind === 'switch' ? [true, false] : null;
    const variable = property === null ? this.program.variables.get(key) : undefined;
    if (!variable || variable.min !== undefined || variable.max !== undefined) return null;
    if (variable.type === 'yes/no') return [true, false];
    if (variable.type === 'choice') return variable.options ?? null;
    // What a field that is no knob mirrors, a person puts in.
    if (mentionsIn(this.program).mirrored.has(key)) return null;
    const sets = this.read.filter(({ sets }) => sets === key);
    const given = sets.flatMap(({ ast }) => (ast.k === 'value' ? ast.value : []));
    return given.length === sets.length ? [...new Set([variable.initial, ...given])] : null;
  }
}

/** What is chosen between: of how far a number is from 0 that, or that with the other sign. */
function choiceAt(ast: Ast): Choice | null {
  if (ast.k !== 'call' || ast.fn !== 'abs') return choiceOf(ast);
  const a = ast.args[0]!;
  return { asked: [{ k: 'op', op: '<', a, b: { k: 'value', value: 0 } }], chosen: [a, { k: 'minus', a }] };
}

/** What chooses between other expressions, innermost last. */
const choiceIn = (ast: Ast): Ast | null => (choiceAt(ast) ? ast : partsOf(ast).reduce<Ast | null>((found, part) => found ?? choiceIn(part), null));

/** Whether all that an expression speaks of is such. */
function onlyRefs(ast: Ast, isSuch: (key: string, property: string | null) => boolean): boolean {
  if (ast.k === 'name' || ast.k === 'special') return false;
  if (ast.k === 'ref') return isSuch(keyOf(ast.id, ast.property), ast.property);
  return partsOf(ast).every((part) => onlyRefs(part, isSuch));
}

const distinctAsts = (asts: readonly Ast[]): Ast[] => [...new Map(asts.map((ast) => [wordsOf(ast), ast])).values()];

/** An expression as text, wherever it stands. */
const wordsOf = (ast: Ast): string => JSON.stringify(ast, (key, value: unknown) => (key === 'from' || key === 'to' ? undefined : value));
