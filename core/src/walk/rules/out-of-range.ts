import { partsOf, valueWords, type Ast, type Value } from '../../expression/ast.ts';
import { onceFor } from '../../once.ts';
import { TWEEN_LIMITS } from '../../vocabulary/steps/tween.ts';
import { statesOf } from '../../piece/piece.ts';
import type { Layer, Thread, Variable } from '../../piece/schema.ts';
import type { Program } from '../../program/program.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { asBefore } from '../again.ts';
import { holdingIn } from '../per-scene.ts';
import { ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import { standingExpressions } from '../standing.ts';

export const outOfRange: Rule = {
  id: 'out-of-range',
  words: 'out of range',
  meaning:
    'a given value that a variable, a field or a property never has: beyond its limits, or none of its options; limits with nothing between them, a choice without options',
  spares: 'values that are computed: what comes of them is for the walk to meet',
  check: ({ program }) => [...begun(program), ...computed(program), ...tweened(program), ...fields(program)],
};

const report = (place: Finding['place'], title: string, sentence: string, more = ''): Finding => {
  const found = finding('out-of-range', 'look', place, title, sentence);
  return more ? { ...found, id: `${found.id}:${more}` } : found;
};

/** What has limits, or is one of some words. */
interface Ranged extends Pick<Variable, 'name' | 'type' | 'min' | 'max' | 'options'> {
  /** What its words are. */
  readonly what?: string;
}

/** Why something never is a value; null where it can be. */
function whyNever({ name, type, min, max, options, what = 'options' }: Ranged, value: Value): string | null {
  if (type === 'choice') return typeof value !== 'string' || options?.includes(value) ? null : `“${value}” is none of the ${what} of ${name}`;
  if (type !== 'number' || typeof value !== 'number') return null;
  if (max !== undefined && value > max) return `${name} is at most ${valueWords(max)}`;
  return min !== undefined && value < min ? `${name} is at least ${valueWords(min)}` : null;
}

/** Why something cannot have any value that was meant; null where it can. */
function whyNone({ type, min, max, options }: Omit<Ranged, 'name'>): string | null {
  if (type === 'choice') return options?.length ? null : 'There is nothing to choose from yet.';
  const isTurned = type === 'number' && min !== undefined && max !== undefined && min > max;
  return isTurned ? `It is to be at least ${valueWords(min)} and at most ${valueWords(max)}.` : null;
}

const begun = ({ variables }: Program): Finding[] =>
  [...variables.values()].flatMap((variable) => {
    const none = whyNone(variable);
    if (none) return [report({ scene: variable.scene }, `${variable.name} has no values`, none, variable.id)];
    const why = whyNever(variable, variable.initial);
    return why
      ? [
          report(
            { scene: variable.scene },
            `${variable.name} begins out of range`,
            `It begins with ${String(variable.initial)}; ${why}.`,
            variable.id
          ),
        ]
      : [];
  });

/** What variables are set to, what states are named, and what is held against either. */
const computed = (program: Program): Finding[] =>
  standingExpressions(program).flatMap(({ stored, sets, puts, place, what }) => {
    const parsed = program.parse(stored);
    if (!parsed.ok) return [];
    const set = sets === undefined ? undefined : program.variables.get(sets);
    const states = puts === undefined ? null : namesOf(program, puts, 'state');
    const odd = firstOdd(set ?? states, givenIn(parsed.value));
    if (set && odd) return [report(place, `${set.name} is set out of range`, `${what} sets ${set.name} to ${String(odd.value)}; ${odd.why}.`)];
    if (states && odd) return [report(place, `${states.name} is put in no state`, `${what} names what is not there: ${odd.why}.`)];
    const held = comparisonsIn(parsed.value).flatMap(({ ref, op, value }) => {
      const asked = askedOf(program, ref);
      return (asked && neverHolds(asked, op, value)) ?? [];
    })[0];
    return held ? [report(place, 'A comparison never holds', `${what} asks for what never is: ${held}.`)] : [];
  });

/** The first of some values that something never is, and why. */
function firstOdd(of: Ranged | null, values: readonly Value[]): { readonly value: Value; readonly why: string } | null {
  if (of)
    for (const value of values) {
      const why = whyNever(of, value);
      if (why) return { value, why };
    }
  return null;
}

/** What is asked for where a variable, a field, a state or a section is read, with its limits; null for what has none. */
function askedOf(program: Program, { id, property }: Ref): Ranged | null {
  const { piece, variables } = program;
  if (property === null) return variables.get(id) ?? null;
  const layer = piece.layers.get(id.split('/').at(-1)!);
  if (property === 'value' && layer?.field) return limitsOf(layer.name, layer.field);
  return property === 'state' || property === 'section' ? namesOf(program, layer?.part ?? id, property, layer?.name) : null;
}

/** The states or sections of a scene, by name; a placement of it may have a name of its own. Null where it is not there. */
function namesOf({ piece }: Program, id: string, of: 'state' | 'section', name?: string): Ranged | null {
  const scene = piece.scenes.get(id);
  if (!scene) return null;
  const all = of === 'state' ? statesOf(scene) : Object.values(scene.timeline?.labels ?? {});
  return { name: name ?? scene.name, type: 'choice', options: ['', ...all.map((one) => one.name)], what: `${of}s` };
}

/** The limits of what is put into a field, and of what it holds at first. */
function limitsOf(name: string, { kind, value, min, max, options = [] }: NonNullable<Layer['field']>): Ranged | null {
  if (kind === 'choice') return { name, type: 'choice', options: [...options, String(value ?? '')] };
  if (kind !== 'number' && kind !== 'slider') return null;
  const first = typeof value === 'number' ? [value] : [];
  return { name, type: 'number', min: min === undefined ? min : Math.min(min, ...first), max: max === undefined ? max : Math.max(max, ...first) };
}

type Ref = Ast & { readonly k: 'ref' };

type Comparing = '=' | '<' | '<=' | '>' | '>=';

function neverHolds(variable: Ranged, op: Comparing, value: Value): string | null {
  if (op === '=') return whyNever(variable, value);
  if (typeof value !== 'number') return null;
  const { min, max, name } = variable;
  if (op === '>' || op === '>=')
    return max !== undefined && (op === '>' ? max <= value : max < value) ? `${name} is at most ${valueWords(max)}` : null;
  return min !== undefined && (op === '<' ? min >= value : min > value) ? `${name} is at least ${valueWords(min)}` : null;
}

interface Comparison {
  readonly ref: Ref;
  readonly op: Comparing;
  readonly value: Value;
}

const MIRRORED: Record<Comparing, Comparing> = { '=': '=', '<': '>', '<=': '>=', '>': '<', '>=': '<=' };

const comparisonsIn = onceFor((ast: Ast): readonly Comparison[] => [...own(ast), ...partsOf(ast).flatMap((part) => comparisonsIn(part))]);

function own(ast: Ast): Comparison[] {
  const one = (a: Ast, op: string, b: Ast): Comparison[] => {
    const value = constantOf(b);
    return a.k === 'ref' && value !== null && op in MIRRORED ? [{ ref: a, op: op as Comparing, value }] : [];
  };
  if (ast.k === 'op') return [...one(ast.a, ast.op, ast.b), ...(ast.op in MIRRORED ? one(ast.b, MIRRORED[ast.op as Comparing], ast.a) : [])];
  if (ast.k === 'between') return [...one(ast.a, '>=', ast.low), ...one(ast.a, '<=', ast.high)];
  if (ast.k === 'in')
    return ast.tests.flatMap((test) =>
      test.k === 'equal' ? one(ast.a, '=', test.value) : test.k === 'compare' ? one(ast.a, test.op, test.value) : []
    );
  return [];
}

/** The given values that an expression can come to. */
function givenIn(ast: Ast): readonly Value[] {
  if (ast.k === 'if') return [...givenIn(ast.yes), ...givenIn(ast.no)];
  const value = constantOf(ast);
  return value === null ? [] : [value];
}

/** The value that an expression always has; null where that depends. */
function constantOf(ast: Ast): Value | null {
  if (ast.k === 'value') return ast.value;
  const inner = ast.k === 'minus' ? constantOf(ast.a) : null;
  return typeof inner === 'number' ? -inner : null;
}

const tweened = (program: Program): Finding[] =>
  asBefore(program, 'tweens', [program.piece.threads], () => threadsIn(program.piece).filter((thread) => limitedIn(thread).length > 0)).flatMap(
    (thread) =>
      limitedIn(thread).flatMap(({ property, value: stored, least, most }) => {
        const parsed = program.parse(stored);
        const value = parsed.ok ? constantOf(parsed.value) : null;
        if (typeof value !== 'number' || (value >= least && value <= most)) return [];
        const sentence = `${property} goes from ${valueWords(least)} to ${valueWords(most)}, and is to be ${valueWords(value)}.`;
        return [report(placeOfThread(program.piece, thread), `${ownerOf(program.piece, thread)} tweens out of range`, sentence)];
      })
  );

/** The steps of a thread that lead a property of limits to a value. */
const limitedIn = onceFor((thread: Thread) =>
  thread.branches.flatMap(({ steps }) =>
    steps.flatMap((step) => {
      const [least, most] = (step.do === 'tween' && TWEEN_LIMITS[step.property]) || [-Infinity, Infinity];
      return step.do === 'tween' && Number.isFinite(most) ? [{ property: step.property, value: step.value, least, most }] : [];
    })
  )
);

const fields = (program: Program): Finding[] =>
  [...program.scenes.values()].flatMap((scene) =>
    holdingIn(scene).flatMap(({ layer }) => {
      const { field, choice, choiceValue, name } = layer;
      const place = { scene: scene.scene.id, layer: layer.id };
      if (field) {
        const { kind, value, min, max, options, variable } = field;
        const limits = { name, min, max, options, type: kind === 'choice' ? ('choice' as const) : ('number' as const) };
        const isAsked = kind === 'choice' || kind === 'number' || kind === 'slider';
        const none = isAsked ? whyNone(limits) : null;
        if (none) return [report(place, `${name} has no values`, none)];
        const why = value !== undefined && value !== '' && isAsked ? whyNever(limits, value) : null;
        if (why) return [report(place, `${name} begins out of range`, `It holds ${String(value)} at first; ${why}.`)];
        const mirrored = variable === undefined ? undefined : program.variables.get(variable);
        const odd = mirrored?.type === 'choice' ? options?.find((option) => whyNever(mirrored, option)) : undefined;
        if (odd !== undefined) return [report(place, `${name} offers what ${mirrored!.name} is not`, `${whyNever(mirrored!, odd)!}.`)];
      }
      const group = choice === undefined ? undefined : scene.scene.choices?.[choice]?.variable;
      const mirrored = group === undefined ? undefined : program.variables.get(group);
      const odd = mirrored ? whyNever(mirrored, choiceValue ?? name) : null;
      return odd ? [report(place, `${name} stands for what ${mirrored!.name} is not`, `${odd}.`)] : [];
    })
  );
