import { onceFor } from '../once.ts';
import { fitsOccasion, triedFor, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import { partsOf, readsOf, type Ast, type Value } from '../expression/ast.ts';
import type { Layer, Piece } from '../piece/piece.ts';
import type { Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { listWords } from '../words.ts';
import { possibleScenes } from './possible.ts';
import { asBefore } from './again.ts';
import { lookingBack, type LookingBack } from './back.ts';
import { Compared, keyOf, LENGTH } from './compared.ts';
import { spoken, standingExpressions } from './standing.ts';
import { heldAgainst } from './linear.ts';
import { areAllWays, PATTERNS, type Pattern } from './texts.ts';
import { areAllTried, valuesFor, type Asked, type Field } from './values.ts';

/** What can tell two runs of a piece apart besides states and variables, because something in the piece listens to it. */
export interface Telling {
  readonly back: boolean;
  /** Frames on which it can matter what they were come to from; null for all. */
  readonly looksBack: LookingBack;
  readonly pad: boolean;
  readonly scroll: boolean;
  /** Whether it matters that the pointer is over a layer: it waits for the pointer to leave. */
  readonly leaves: (node: Node) => boolean;
  /** Whether it matters that a layer has the focus: it waits to lose it, or takes a key that others take as well. */
  readonly focuses: (node: Node) => boolean;
  /** What things are held against. */
  readonly compared: Compared;
  /** What is put into a field on a layer, to try it; worked out when it is first asked for. */
  readonly putInto: (layer: string, field: Field) => readonly Value[];
  /** What a person could do with layers that exploring does not try, as phrases by layers; empty where it tries all there is. */
  readonly untried: ReadonlyMap<string, string>;
  /** All of it as one text to compare. */
  readonly words: string;
}

export function tellingOf(program: Program): Telling {
  const { threads, scenes } = program.piece;
  const told = asBefore(
    program,
    'telling',
    [threads, program.variables, standingExpressions(program), spoken(program), possibleScenes(program)],
    () => toldApart(program)
  );
  if (!told.back) return { ...told, looksBack: null };
  const looksBack = asBefore(program, 'looking back', [threads, scenes, program.frames], () => lookingBack(program));
  return { ...told, looksBack, words: `${told.words} ${looksBack === null ? 'all' : [...looksBack].sort().join()}` };
}

function toldApart(program: Program): Omit<Telling, 'looksBack'> {
  const { goesBack, scroll, shared } = heardIn(program.piece.threads);
  const read = readIn(program);
  const expressions = read.map(({ ast }) => ast);
  const compared = comparedIn(program, read);
  const reads = new Set(expressions.flatMap((ast) => [...readsOf(ast)]));
  const takesShared = (cue: Cue) => shared.some((key) => fitsOccasion(cue, { type: 'key', key }));
  const hears = (node: Node, fits: (cue: Cue) => boolean) => node.item.threads.some((thread) => thread.enabled && fits(thread.cue));
  const fields = new Map(fieldsAsked(program, read).map((one) => [one.layer.id, one]));
  const untriedFields = [...fields.values()].filter((one) => !isTried(one, compared)).map(({ layer }) => layer);
  const told: Omit<Telling, 'words' | 'looksBack'> = {
    back: goesBack,
    pad: reads.has('pad.button'),
    scroll,
    leaves: (node) => hears(node, (cue) => waitsFor(cue, 'leave')),
    focuses: (node) => hears(node, (cue) => waitsFor(cue, 'blur') || takesShared(cue)),
    compared,
    putInto: valuesKept((layer, field) => [...valuesFor(field, askedIn(compared, layer, fields.get(layer)))]),
    untried: new Map([...putInto(untriedFields), ...dragged(program, reads)]),
  };
  const { back, pad, untried } = told;
  const asked = [...fields.values()].map(({ layer, isComputed, patterns }) => [layer.id, isComputed, patterns]);
  return { ...told, words: JSON.stringify([back, pad, scroll, [...untried], asked, compared.words, shared]) };
}

/** What threads do and listen to that tells runs apart; known as long as no thread is another. */
const heardIn = onceFor((table: Piece['threads']) => {
  const threads = [...table.values()].filter((thread) => thread.enabled);
  const cues = threads.map((thread) => thread.cue);
  const keys = new Set(cues.flatMap(triedFor).flatMap((one) => (one.type === 'key' ? one.key : [])));
  const isShared = (key: string) => cues.filter((cue) => fitsOccasion(cue, { type: 'key', key })).length > 1;
  return {
    goesBack: threads.some((thread) => thread.branches.some(({ steps }) => steps.some((step) => step.do === 'go' && step.target.to === 'back'))),
    scroll: cues.some((cue) => waitsFor(cue, 'scroll') || waitsFor(cue, 'in view')),
    /** Keys that more than one cue takes. */
    shared: [...keys].filter(isShared),
  };
});

/** What is held against what by conditions, bindings and steps, by fields that mirror a variable, and by setting one. */
function comparedIn(program: Program, read: readonly Read[]): Compared {
  const compared = new Compared();
  for (const { ast, sets } of read) compared.read(ast, sets);
  for (const { id, field } of heldIn(program)) if (field?.variable !== undefined) compared.join(`${id}.value`, field.variable);
  return compared;
}

/** An expression that something depends on, and the variable that is set to it. */
interface Read {
  readonly ast: Ast;
  readonly sets: string | null;
}

/** All of them; what is only shown leads nowhere, whatever it reads. */
const readIn = (program: Program): Read[] =>
  standingExpressions(program).flatMap(({ stored, isShown, sets = null }) => {
    const parsed = isShown ? null : program.parse(stored);
    return parsed?.ok ? [{ ast: parsed.value, sets }] : [];
  });

/** The layers that a person can put something into, or drag; of a scene that no edit touched they are known. */
const heldIn = ({ scenes }: Program): Layer[] => [...scenes.values()].flatMap(held);

const held = onceFor(({ items }: SceneProgram): readonly Layer[] => items.map(({ layer }) => layer).filter(({ field, drag }) => field || drag));

/** What is asked of the values of a field. */
interface FieldAsked {
  readonly layer: Layer;
  /** Something is computed with them: more counts than how they compare with given ones. */
  readonly isComputed: boolean;
  /** How texts compare with given ones. */
  readonly patterns: readonly Pattern[];
}

/** What is asked of fields that more can be put into than can be listed. */
function fieldsAsked(program: Program, read: readonly Read[]): readonly FieldAsked[] {
  const possible = possibleScenes(program);
  const open = heldIn(program).filter(({ scene, field }) => possible.has(scene) && field && ['text', 'number', 'slider'].includes(field.kind));
  return open.map((layer) => {
    const keys = new Set([`${layer.id}.value`, ...(layer.field!.variable === undefined ? [] : [layer.field!.variable])]);
    // What is set to just that holds the same.
    const copies = ({ ast, sets }: Read) => sets !== null && ast.k === 'ref' && keys.has(keyOf(ast.id, ast.property));
    for (let size = -1; size !== keys.size;) {
      size = keys.size;
      for (const one of read) if (copies(one)) keys.add(one.sets!);
    }
    const isIt: IsIt = (id, property) => keys.has(keyOf(id, property));
    const isComputed = read.some((one) => !copies(one) && isComputedWith(one.ast, isIt, false));
    const patterns = layer.field!.kind === 'text' ? read.flatMap(({ ast }) => patternsIn(ast, isIt)) : [];
    return { layer, isComputed, patterns: [...new Map(patterns.map((one) => [`${one.asks} ${one.text}`, one])).values()] };
  });
}

const askedIn = (compared: Compared, layer: string, { isComputed = false, patterns = [] }: Partial<FieldAsked> = {}): Asked => ({
  values: compared.valuesOf(`${layer}.value`),
  asksLength: compared.asksLengthOf(`${layer}.value`),
  isComputed,
  patterns,
});

/** Values by layers, as long as a layer has the same field: in a part that is placed twice it may not. */
function valuesKept(make: (layer: string, field: Field) => readonly Value[]): Telling['putInto'] {
  const known = new Map<string, { readonly field: Field; readonly values: readonly Value[] }>();
  return (layer, field) => {
    const old = known.get(layer);
    if (old?.field === field) return old.values;
    const values = make(layer, field);
    known.set(layer, { field, values });
    return values;
  };
}

/** Whether what a field can be filled with is tried as far as it counts. */
const isTried = ({ layer, isComputed, patterns }: FieldAsked, compared: Compared): boolean => {
  if (layer.field!.kind !== 'text') return !isComputed || areAllTried(layer.field!);
  const { values, asksLength } = askedIn(compared, layer.id);
  return !isComputed && areAllWays(patterns, asksLength ? values.filter((value) => typeof value === 'number') : []);
};

/** So many are named. */
const MOST_NAMED = 3;

const namesOf = (layers: readonly Layer[]): string => listWords(layers.slice(0, MOST_NAMED).map(({ name }) => name));

const putInto = (layers: readonly Layer[]): [string, string][] => layers.map(({ id }) => [id, `all that can be put into ${namesOf(layers)}`]);

type IsIt = (id: string, property: string | null) => boolean;

const EQUALS: ReadonlySet<string> = new Set(['=', '!=']);
const ORDERS: ReadonlySet<string> = new Set(['<', '<=', '>', '>=']);

/** Whether something is read in an expression other than by comparing it with a given value. */
function isComputedWith(ast: Ast, isIt: IsIt, isCompared: boolean): boolean {
  if (ast.k === 'ref') return !isCompared && isIt(ast.id, ast.property);
  if (ast.k === 'call' && ast.fn === LENGTH && isCompared) return false;
  if (heldAgainst(ast)) return false;
  if (ast.k === 'call' && patternOf(ast)) return isComputedWith(ast.args[0]!, isIt, true);
  const isHeld = holdsAgainstGiven(ast);
  return partsOf(ast).some((part) => isComputedWith(part, isIt, isHeld));
}

/** Whether an expression holds something against given values: any for being equal, numbers for which is more. */
function holdsAgainstGiven(ast: Ast): boolean {
  const isNumber = (one: Ast) => one.k === 'value' && typeof one.value === 'number';
  const [, ...others] = partsOf(ast);
  if (ast.k === 'op') {
    const sides = [ast.a, ast.b];
    return EQUALS.has(ast.op) ? sides.some(({ k }) => k === 'value') : ORDERS.has(ast.op) && sides.some(isNumber);
  }
  if (ast.k === 'in' && ast.tests.every(({ k }) => k === 'equal')) return others.every(({ k }) => k === 'value');
  return (ast.k === 'between' || ast.k === 'in') && others.every(isNumber);
}

/** What a call asks of a text, where it asks that with a given one. */
function patternOf(ast: Ast): Pattern | null {
  if (ast.k !== 'call' || !(PATTERNS as readonly string[]).includes(ast.fn)) return null;
  const [, given] = ast.args;
  return given?.k === 'value' && typeof given.value === 'string' ? { asks: ast.fn as Pattern['asks'], text: given.value } : null;
}

/** All that an expression asks of a text by given ones. */
function patternsIn(ast: Ast, isIt: IsIt): Pattern[] {
  const isRef = (one: Ast | undefined): boolean => one?.k === 'ref' && isIt(one.id, one.property);
  const called = ast.k === 'call' && isRef(ast.args[0]) ? patternOf(ast) : null;
  const own = called ? [called] : comparesWith(ast, isRef).map((text): Pattern => ({ asks: 'is', text }));
  return [...own, ...partsOf(ast).flatMap((part) => patternsIn(part, isIt))];
}

/** The texts that something is held against. */
function comparesWith(ast: Ast, isRef: (one: Ast | undefined) => boolean): string[] {
  const textOf = (one: Ast) => (one.k === 'value' && typeof one.value === 'string' ? [one.value] : []);
  if (ast.k === 'op' && !EQUALS.has(ast.op)) return [];
  if (ast.k === 'op') return isRef(ast.a) ? textOf(ast.b) : isRef(ast.b) ? textOf(ast.a) : [];
  return ast.k === 'in' && isRef(ast.a) ? partsOf(ast).slice(1).flatMap(textOf) : [];
}

/** Layers that can be dragged anywhere, whose place is read. */
function dragged(program: Program, reads: ReadonlySet<string>): [string, string][] {
  const read = (id: string) => [...reads].some((key) => /\.[xy]$/.test(key) && key.slice(0, -2).split('/').at(-1) === id);
  const possible = possibleScenes(program);
  const free = heldIn(program).filter((layer) => possible.has(layer.scene) && layer.drag && !layer.drag.snap?.length && read(layer.id));
  return free.map(({ id }) => [id, `all places that ${namesOf(free)} can be dragged to`]);
}
