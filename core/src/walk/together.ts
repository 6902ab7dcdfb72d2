import { partsOf, replacePart, replaceRefs, type Ast, type Value } from '../expression/ast.ts';
import { compileAst, type Compiled, type Environment } from '../expression/compile.ts';
import type { Layer, Scene } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { choiceOf, type Choice } from './choices.ts';
import { keyOf } from './compared.ts';
import { facesOf, heightOver, middleOf, type Box, type Face, type Plane } from './faces.ts';
import { pairsOf } from './held.ts';
import { difference, isGiven, linearOf, ROUNDS, type Linear } from './linear.ts';
import { mentionsIn } from './mentions.ts';
import { keysRead, type Read } from './reads.ts';
import { canFail } from './shown-only.ts';
import { isOnly, isVariable, mentions } from './uses.ts';
import { answerIn, rangeOf, type Range } from './values.ts';

/**
 * Numbers that people put into fields and of which something is asked together: a sum of two sliders, which of two is more, a price for
 * those who are members. Values are found for each so that, put together, they come out in every way in which what is asked can.
 */
export interface Together {
  readonly values: readonly number[];
  /** Whether they do: no way that there is is missing. */
  readonly isAll: boolean;
}

/** What a person sets a number with: a field, or a layer that is dragged along, by its name. `key` names what holds the number. */
interface Knob {
  readonly name: string;
  readonly layer: Layer;
  readonly key: string;
  readonly range: Range;
}

/**
 * What is found for fields and for layers that are dragged, as `id.value`, `id.x` and `id.y`; nothing of those of which anything else is
 * asked.
 */
export function togetherIn(program: Program, read: readonly Read[], layers: readonly Layer[], isFree: (id: string) => boolean) {
  const knobs = knobsIn(program, read, layers);
  const found = new Map<string, Together>();
  if (knobs.size === 0) return found;
  const asked = new Asking(program, read, knobs, isFree);
  for (const { of, atoms } of asked.groups()) {
    const given = of.map(({ key }) => asked.givenTo(key));
    const values = of.every(({ range }) => range.steps) ? (tried(of, atoms) ?? reasoned(of, atoms)) : reasoned(of, atoms);
    if (!values) continue;
    const areWithin = of.every(({ range }, i) => given[i]!.every((value) => isWithin(range, value)));
    const isAll = values.isAll && areWithin && (of.length === 1 || areThereTogether(program, of));
    for (const [i, { name, range }] of of.entries()) {
      const [some] = values.of[i]!;
      const more = given[i]!.filter((value) => isWithin(range, value));
      found.set(name, { values: [...new Set([range.least ?? some!, range.most ?? some!, ...values.of[i]!, ...more])], isAll });
    }
  }
  return found;
}

/** Fields for numbers, each with a place of its own for what is put in, and what is dragged by hand alone. */
function knobsIn(program: Program, read: readonly Read[], layers: readonly Layer[]): Map<string, Knob> {
  const knobs = new Map<string, Knob>();
  const shared = new Set<string>();
  const asked = keysRead(read);
  for (const layer of layers) {
    if (layer.drag && (asked.has(`${layer.id}.x`) || asked.has(`${layer.id}.y`)))
      for (const knob of dragsOf(program, layer)) knobs.set(knob.key, knob);
    const { kind, variable } = layer.field ?? {};
    if (kind !== 'number' && kind !== 'slider') continue;
    const key = variable ?? `${layer.id}.value`;
    if (knobs.has(key)) shared.add(key);
    const range = rangeOf(layer.field!);
    if (isHeldWhole(program, variable, range)) knobs.set(key, { name: `${layer.id}.value`, layer, key, range });
    else shared.add(key);
  }
  for (const key of shared) knobs.delete(key);
  return knobs;
}

/** Where a layer can be dragged to that comes to rest wherever it is let go, and that nothing else moves. */
function dragsOf({ piece }: Program, layer: Layer): Knob[] {
  const { axis, bounds, snap, inertia } = layer.drag!;
  const scene = piece.scenes.get(layer.scene);
  if (!scene || snap?.length || inertia || layer.bindings?.x || layer.bindings?.y || isPosed(layer) || isMovedIn(piece, scene, layer.id)) return [];
  const { x, y, width, height, rotation = 0, scale = 1 } = layer.pose;
  const isUpright = scene.use === 'frame' && layer.parent === null && rotation === 0 && scale === 1;
  const { left, right, top, bottom } = bounds ?? {};
  const along = (key: 'x' | 'y', at: number, size: number, room: number, by?: number, to?: number): Knob[] => {
    if (axis !== 'both' && axis !== key) return [];
    const ends =
      by === undefined || to === undefined ? (isUpright ? [Math.min(HELD, size) - size, room - Math.min(HELD, size)] : null) : [at + by, at + to];
    if (!ends || ends[0]! > ends[1]!) return [];
    const name = `${layer.id}.${key}`;
    return [{ name, layer, key: name, range: { least: ends[0], most: ends[1], steps: null } }];
  };
  return [...along('x', x, width, scene.width, left, right), ...along('y', y, height, Math.max(scene.height, scene.contentHeight ?? 0), top, bottom)];
}

/** Whether a look brings a layer elsewhere. */
const isPosed = ({ looks }: Layer): boolean => Object.values(looks ?? {}).some((look) => look?.pose);

/** Whether states, keyframes or steps bring a layer elsewhere. */
function isMovedIn(piece: Program['piece'], { states, timeline }: Scene, id: string): boolean {
  const isInState = Object.values(states ?? {}).some(({ deltas }) => deltas[id]?.pose);
  const isOnTrack = Object.values(timeline?.tracks ?? {}).some(({ layer }) => layer === id);
  const isInStep = [...piece.threads.values()].some(({ branches }) =>
    branches.some(({ steps }) => steps.some((step) => textsIn(step).some((value) => value === id || value.endsWith(`/${id}`))))
  );
  return isInState || isOnTrack || isInStep;
}

/** The texts that stand in a step. */
const textsIn = (value: unknown): string[] =>
  typeof value === 'string' ? [value] : value && typeof value === 'object' ? Object.values(value).flatMap(textsIn) : [];

/** So much of what is dragged stays where it can be taken again, in CSS px. */
export const HELD = 24;

/** Whether a variable that mirrors a field can be all that is put into that. */
function isHeldWhole(program: Program, id: string | undefined, { least, most }: Range): boolean {
  const variable = id === undefined ? undefined : program.variables.get(id);
  if (!variable) return id === undefined;
  const { type, scene, min = -Infinity, max = Infinity, step } = variable;
  return type === 'number' && scene === null && step === undefined && min <= (least ?? -Infinity) && max >= (most ?? Infinity);
}

/** So many ways in which what else is spoken of can be are looked at. */
const MOST_WAYS = 64;
/** By so many variables, one set to what is computed with another, it is followed. */
const MOST_FLOWS = 6;

/** All that is asked of knobs, as comparisons that speak of nothing else. */
class Asking {
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
  return { asked: [{ k: 'op', op: '<', a, b: NOTHING }], chosen: [a, { k: 'minus', a }] };
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

/** Values of each knob, and whether all ways come about with them. */
interface Found {
  readonly of: readonly (readonly number[])[];
  readonly isAll: boolean;
}

/** So many are tried together, one by one. */
const MOST_TRIED = 50_000;

/** Where each goes by steps, and these are not too many: all of them together, whatever is asked. */
function tried(of: readonly Knob[], atoms: readonly Ast[]): Found | null {
  const counts = of.map(({ range }) => range.steps!.count + 1);
  const size = counts.reduce((all, count) => all * count, 1);
  if (size > MOST_TRIED) return null;
  const point: number[] = of.map(() => 0);
  const environment = environmentOf(of, point);
  const computed = atoms.map(compileAst);
  const pointAt = (at: number) => {
    for (const [i, count] of counts.entries()) {
      point[i] = of[i]!.range.steps!.at(at % count);
      at = Math.floor(at / count);
    }
    return point;
  };
  const wayAt = () => computed.map((compute) => String(answerIn(compute, environment))).join();
  const ways = new Map<string, number[]>();
  for (let at = 0; at < size; at++) {
    pointAt(at);
    const way = wayAt();
    (ways.get(way) ?? ways.set(way, []).get(way)!).push(at);
  }
  const found = [...ways.values()].map((all) => [1, 2].map((i) => [...pointAt(all[Math.floor((all.length * i) / 3)]!)]));
  const wayIn = (at: readonly number[]) => {
    at.forEach((value, i) => (point[i] = value));
    return wayAt();
  };
  return put(of, [...ways.keys()], found, (values, way) => tuplesOf(values).some((at) => wayIn(at) === way));
}

/** So many values of all together are put in, at most. */
const MOST_TOGETHER = 2_000;
/** Where they are no more than these, there is room for more of one way. */
const FEW_TOGETHER = 100;

/** Where what is compared is the same; `sideIn` computes on which side of that something is, null where it has no value. */
interface Compared extends Plane {
  readonly sideIn: (environment: Environment) => number | null;
}

/** Where sums are compared: a point for each way in which they can come out. */
function reasoned(of: readonly Knob[], atoms: readonly Ast[]): Found | null {
  const planes = planesOf(of, atoms);
  if (!planes) return null;
  const box = boxOf(of, planes);
  const faces = facesOf(box, planes);
  // Each sum comes out on either side of what it is held against, if it does, where all are as far as they go.
  if (!faces) return { of: box.map(({ least, most }) => [least, most]), isAll: false };
  const point: number[] = of.map(() => 0);
  const environment = environmentOf(of, point);
  const sideAt = ({ sideIn }: Compared, at: readonly number[]) => {
    at.forEach((value, i) => (point[i] = value));
    return sideIn(environment);
  };
  // What is computed never is just that, however near it comes.
  const roots = planes.map((plane) => (isOfOne(plane) ? (rootsOf(plane).find((at) => sideAt(plane, at) === 0) ?? null) : undefined));
  const known = faces.filter(({ signs }) => !planes.some((_, i) => signs[i] === 0 && roots[i] === null));
  const found = known.map((face) => {
    const on = planes.flatMap((plane, i) => (face.signs[i] === 0 ? [{ plane, root: roots[i] }] : []));
    const onRoots = (at: readonly number[]) =>
      on.reduce((all, { plane, root }) => (root ? all.map((value, k) => (plane.times[k] ? root[k]! : value)) : all), at);
    return pointsOf(face).flatMap((points) => {
      const all = [...points.flatMap((at) => [at, onRoots(at)]), ...points.flatMap((at) => on.flatMap(({ plane }) => broughtTo(plane, at)))];
      const fields = all.map((at) => of.map(({ range }, i) => within(range, at[i]!)));
      const point = fields.find((at) => planes.every((plane, i) => sideAt(plane, at) === face.signs[i]));
      return point ? [point] : [];
    });
  });
  const isIn = (values: Values, { signs }: Face) => tuplesOf(values).some((at) => planes.every((plane, i) => sideAt(plane, at) === signs[i]));
  return put(of, known, found, isIn);
}

type Values = readonly ReadonlySet<number>[];

/** Values that, put together, come out in each way: a point of each that the others do not come to, and, where they are few, one more. */
function put<Way>(
  of: readonly Knob[],
  ways: readonly Way[],
  points: readonly (readonly (readonly number[])[])[],
  isIn: (values: Values, way: Way) => boolean
): Found | null {
  const ends = of.map(({ range: { least, most } }) => [least ?? [], most ?? []].flat());
  const values = ends.map((all) => new Set(all));
  const add = (point: readonly number[]) => point.forEach((value, i) => values[i]!.add(value));
  for (const [i, [point]] of points.entries()) {
    if (sizeOf(values) > MOST_TOGETHER) return null;
    if (point && (values.some(({ size }) => size === 0) || !isIn(values, ways[i]!))) add(point);
  }
  const isAll = points.every((all, i) => all.length > 0 || isIn(values, ways[i]!));
  for (const point of of.length > 1 ? points.flat() : []) if (sizeOf(values) <= FEW_TOGETHER) add(point);
  return { of: values.map((all) => [...all]), isAll };
}

const sizeOf = (values: Values): number => values.reduce((all, { size }) => all * size, 1);

const tuplesOf = (values: Values): readonly (readonly number[])[] =>
  values.reduce<readonly (readonly number[])[]>((all, some) => all.flatMap((one) => [...some].map((value) => [...one, value])), [[]]);

/** A point moved to a plane, by each of its numbers alone. */
const broughtTo = (plane: Plane, at: readonly number[]): readonly (readonly number[])[] =>
  plane.times.flatMap((many, i) => (many ? [at.map((value, k) => (k === i ? value - heightOver(plane, at) / many : value))] : []));

const isOfOne = ({ times }: Plane): boolean => times.filter(Boolean).length === 1;

/** Where a plane that speaks of one number is met, and the numbers next to it that a computer has: points of which that one counts. */
function rootsOf(plane: Plane): readonly (readonly number[])[] {
  const value = -plane.plus / plane.times.find(Boolean)!;
  const near = [value, Number(value.toPrecision(12)), ...[-3, -2, -1, 1, 2, 3].map((many) => value * (1 + many * Number.EPSILON))];
  return near.map((value) => plane.times.map((many) => (many ? value : 0)));
}

/** What is compared, as planes; null where anything is no sum. */
function planesOf(of: readonly Knob[], atoms: readonly Ast[]): readonly Compared[] | null {
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

const NOTHING: Ast = { k: 'value', value: 0 };

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

/** All that they can be; where there is no end, beyond all that is asked. */
function boxOf(of: readonly Knob[], planes: readonly Plane[]): Box {
  const ends = of.flatMap(({ range: { least, most } }) => [least ?? 0, most ?? 0].map(Math.abs));
  const reach = planes.map(({ times, plus }) => {
    const sizes = times.map(Math.abs);
    const rest = sizes.reduce((sum, size) => sum + size * Math.max(...ends), Math.abs(plus));
    return rest / Math.min(...sizes.filter(Boolean));
  });
  const far = Math.ceil(2 * Math.max(10, ...ends, ...reach));
  return of.map(({ range: { least = -far, most = far } }) => ({ least, most: Math.max(least, most) }));
}

/** Points of a face, as people would put them in first: about its middle, and nearer to an end of it. */
function pointsOf(face: Face): readonly (readonly (readonly number[])[])[] {
  const middle = middleOf(face);
  const aside = middle.map((at, i) => (at + face.points[0]![i]!) / 2);
  return [middle, aside].map((at) => [
    ...[0, 1, 2].map((digits) => at.map((value) => Math.round(value * 10 ** digits) / 10 ** digits)),
    at.map((value) => Number(value.toPrecision(12))),
    at,
  ]);
}

const isWithin = ({ least = -Infinity, most = Infinity }: Range, value: number): boolean => value >= least && value <= most;

/** The value of a field that is nearest. */
function within({ least = -Infinity, most = Infinity, steps }: Range, value: number): number {
  if (!steps) return Math.min(most, Math.max(least, value));
  const step = steps.at(1) - steps.at(0);
  return steps.at(step > 0 ? Math.round((value - steps.at(0)) / step) : 0);
}

function environmentOf(of: readonly Knob[], point: readonly number[]): Environment {
  const at = new Map(of.map(({ key }, i) => [key, i]));
  return { read: (id, property) => point[at.get(keyOf(id, property))!]!, nameOf: () => '', special: () => 0 };
}

function signOf(a: Compiled, b: Compiled, environment: Environment): number | null {
  const [one, other] = [answerIn(a, environment), answerIn(b, environment)];
  return typeof one !== 'number' || typeof other !== 'number' ? null : one === other ? 0 : one > other ? 1 : -1;
}

/** Whether they stand in one scene, and there is nothing that keeps one of them from being filled while another can be. */
function areThereTogether({ piece }: Program, of: readonly Knob[]): boolean {
  const scenes = new Set(of.map(({ layer }) => layer.scene));
  return scenes.size === 1 && of.every(({ layer }) => isThereAlways(piece, layer));
}

function isThereAlways(piece: Program['piece'], layer: Layer): boolean {
  const scene = piece.scenes.get(layer.scene);
  const touched = new Set([
    ...Object.values(scene?.states ?? {}).flatMap(({ deltas }) => Object.keys(deltas)),
    ...Object.values(scene?.timeline?.spans ?? {}).map((span) => span.layer),
  ]);
  for (let at: Layer | undefined = layer; at; at = at.parent === null ? undefined : piece.layers.get(at.parent))
    if (at.hidden || at.disabled || at.bindings?.shown || at.bindings?.enabled || touched.has(at.id)) return false;
  return true;
}
