import { showsByFocus, showsByHover } from './by-looks.ts';
import { onceFor } from '../once.ts';
import { fitsOccasion, triedFor, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import { readsOf, type Value } from '../expression/ast.ts';
import type { Layer, Piece } from '../piece/piece.ts';
import type { Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { listWords } from '../words.ts';
import { possibleScenes } from './possible.ts';
import { asBefore } from './again.ts';
import { lookingBack, type LookingBack } from './back.ts';
import { countersIn, type Counter, type Swing } from './counters.ts';
import { asksNumber, isComputedWith, patternsIn } from './asked-of.ts';
import { Compared, keyOf } from './compared.ts';
import { shownOnly } from './shown-only.ts';
import { keysRead, readIn, type Read } from './reads.ts';
import { spoken, standingExpressions } from './standing.ts';
import { TextsHeld } from './texts-held.ts';
import { areAllWays } from './texts.ts';
import { fleeing, fleeingWords } from './fleeing.ts';
import { answersHolding } from './holding.ts';
import { togetherIn, type Together } from './together.ts';
import { mentions, usesOf, type IsIt } from './uses.ts';
import { areAllTried, classesOf, valuesFor, type Asked, type Field } from './values.ts';

/** What can tell two runs of a piece apart besides states and variables, because something in the piece listens to it. */
export interface Telling {
  readonly back: boolean;
  /** Frames on which it can matter what they were come to from; null for all. */
  readonly looksBack: LookingBack;
  readonly pad: boolean;
  /** Whether it matters that something is held: what is done for a press, or for its end, is more than a movement. */
  readonly holds: boolean;
  readonly scroll: boolean;
  /** Variables that only texts read. */
  readonly shownOnly: ReadonlySet<string>;
  /** Variables that only count one way, and from where on it is all one how far they have. */
  readonly counters: ReadonlyMap<string, Counter>;
  /** Variables that count both ways, or are held against each other, without end. */
  readonly swings: readonly Swing[];
  /** What is told of numbers holds as long as none is less than this. */
  readonly floors: ReadonlyMap<string, number>;
  /** Whether it matters that the pointer is over a layer: it waits for the pointer to leave. */
  readonly leaves: (node: Node) => boolean;
  /** Whether it matters that a layer has the focus: it waits to lose it, takes a key that others take as well, or is a field that waits to have it. */
  readonly focuses: (node: Node) => boolean;
  /** What things are held against. */
  readonly compared: Compared;
  /** What is put into a field on a layer, to try it; worked out when it is first asked for. */
  readonly putInto: (layer: string, field: Field) => readonly Value[];
  /** Where a layer is dragged to, to try it. */
  readonly placesOf: (layer: string) => Places;
  /** What a person could do with layers that exploring does not try, as phrases by layers; empty where it tries all there is. */
  readonly untried: ReadonlyMap<string, string>;
  /** All of it as one text to compare. */
  readonly words: string;
}

export const tellingOf = (program: Program): Telling => tellingAs(program, false);

/** The same where it matters of more frames what they were come to from. */
export const withBackFrom = (telling: Telling, program: Program, frames: ReadonlySet<string>): Telling =>
  frames.size === 0 || telling.looksBack === null ? telling : { ...telling, looksBack: lookingBack(program, frames) };

/** The same where it matters, too, what texts show. */
export const tellingOfAllShown = (program: Program): Telling => tellingAs(program, true);

function tellingAs(program: Program, isAllShown: boolean): Telling {
  const { threads, scenes } = program.piece;
  const told = asBefore(
    program,
    isAllShown ? 'telling of all' : 'telling',
    [threads, program.variables, standingExpressions(program), spoken(program), possibleScenes(program), fleeingWords(program)],
    () => toldApart(program, isAllShown)
  );
  if (!told.back) return { ...told, looksBack: null };
  const looksBack = asBefore(program, 'looking back', [threads, scenes, program.frames], () => lookingBack(program));
  return { ...told, looksBack, words: `${told.words} ${looksBack === null ? 'all' : [...looksBack].sort().join()}` };
}

function toldApart(program: Program, isAllShown: boolean): Omit<Telling, 'looksBack'> {
  const { goesBack, scroll, shared, holds } = heardIn(program.piece.threads);
  const only = isAllShown ? new Set<string>() : shownOnly(program);
  const read = readIn(program, heldIn(program), (variable) => only.has(variable));
  const asking = read.filter(({ isPose }) => !isPose);
  const expressions = read.map(({ ast }) => ast);
  const compared = comparedIn(program, read);
  const reads = new Set(expressions.flatMap((ast) => [...readsOf(ast)]));
  const takesShared = (cue: Cue) => shared.some((key) => fitsOccasion(cue, { type: 'key', key }));
  const hears = (node: Node, fits: (cue: Cue) => boolean) => node.item.threads.some((thread) => thread.enabled && fits(thread.cue));
  const { counters, swings, floors } = isAllShown ? NO_COUNTERS : countersIn(program, read, compared);
  const together = togetherIn(program, asking, heldIn(program), (id) => isFree(program, id));
  const fields = new Map(fieldsAsked(program, read, compared, together).map((one) => [one.layer.id, one]));
  const untriedFields = [...fields.values()].filter(({ isTried }) => !isTried).map(({ layer }) => layer);
  const told: Omit<Telling, 'words' | 'looksBack'> = {
    back: goesBack,
    pad: reads.has('pad.button'),
    holds,
    scroll,
    shownOnly: only,
    counters,
    swings,
    floors,
    leaves: (node) => showsByHover(node) || hears(node, (cue) => waitsFor(cue, 'leave')),
    // Into a field that waits for the focus something is put once it has it.
    focuses: (node) =>
      showsByFocus(node) || hears(node, (cue) => waitsFor(cue, 'blur') || takesShared(cue) || (!!node.layer.field && waitsFor(cue, 'focus'))),
    compared,
    putInto: valuesKept((layer, field) => [...valuesFor(field, askedIn(compared, layer, fields.get(layer)))]),
    untried: new Map([...putInto(untriedFields), ...dragged(program, asking, together), ...fleeing(program)]),
    placesOf: (layer) => ({ x: together.get(`${layer}.x`)?.values ?? null, y: together.get(`${layer}.y`)?.values ?? null }),
  };
  const { back, pad, untried } = told;
  const asked = [[...fields.values()].map(({ layer, ...known }) => [layer.id, known]), [...together]];
  return {
    ...told,
    words: JSON.stringify([
      back,
      pad,
      holds,
      scroll,
      [...only],
      [...counters],
      swings.map(swingWords),
      [...floors],
      [...untried],
      asked,
      compared.words,
      shared,
    ]),
  };
}

const NO_COUNTERS: ReturnType<typeof countersIn> = { counters: new Map(), swings: [], floors: new Map() };

const swingWords = ({ given, initial, ...swing }: Swing) => [[...initial], swing, [...given]];

/** What threads do and listen to that tells runs apart; known as long as no thread is another. */
const heardIn = onceFor((table: Piece['threads']) => {
  const threads = [...table.values()].filter((thread) => thread.enabled);
  const cues = threads.map((thread) => thread.cue);
  const keys = new Set(cues.flatMap(triedFor).flatMap((one) => (one.type === 'key' ? one.key : [])));
  const isShared = (key: string) => cues.filter((cue) => fitsOccasion(cue, { type: 'key', key })).length > 1;
  return {
    goesBack: threads.some((thread) => thread.branches.some(({ steps }) => steps.some((step) => step.do === 'go' && step.target.to === 'back'))),
    scroll: cues.some((cue) => waitsFor(cue, 'scroll') || waitsFor(cue, 'in view')),
    holds: threads.some(answersHolding),
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

/** The layers that a person can put something into, or drag; of a scene that no edit touched they are known. */
const heldIn = ({ scenes }: Program): Layer[] => [...scenes.values()].flatMap(held);

const held = onceFor(({ items }: SceneProgram): readonly Layer[] => items.map(({ layer }) => layer).filter(({ field, drag }) => field || drag));

/** What is asked of the values of a field. */
interface FieldAsked extends Omit<Asked, 'values' | 'asksLength'> {
  readonly layer: Layer;
  /** Whether all that counts of what it can be filled with is tried. */
  readonly isTried: boolean;
}

/** Whether a variable takes whatever it is set to. */
function isFree(program: Program, id: string): boolean {
  const variable = program.variables.get(id);
  return variable !== undefined && variable.min === undefined && variable.max === undefined && variable.type !== 'choice';
}

/** What is asked of fields that more can be put into than can be listed; of what is asked by way of others they are compared with it too. */
function fieldsAsked(program: Program, all: readonly Read[], compared: Compared, together: ReadonlyMap<string, Together>): readonly FieldAsked[] {
  const [read, placing] = [all.filter(({ isPose }) => !isPose), all.filter(({ isPose }) => isPose)];
  const possible = possibleScenes(program);
  const open = heldIn(program).filter(({ scene, field }) => possible.has(scene) && field && ['text', 'number', 'slider'].includes(field.kind));
  const texts = new TextsHeld(program, read, open, compared);
  const each = open.map((layer) => {
    const isIt = heldBy(layer, read);
    const { asked, isAll, isAlone } = usesOf(read, isIt, (id) => isFree(program, id));
    for (const ast of asked) compared.read(ast);
    const isComputed = !isAll || asked.some((ast) => isComputedWith(ast, isIt, texts.areHeld));
    const patterns = layer.field!.kind === 'text' ? asked.flatMap((ast) => patternsIn(ast, isIt)) : [];
    const alone = isAll && isAlone ? classesOf(layer.field!, asked) : null;
    const beside = isComputed && !alone ? together.get(`${layer.id}.value`) : undefined;
    const isNumber = asked.some((ast) => asksNumber(ast, isIt));
    const isPlacing = layer.field!.kind !== 'text' && placing.some(({ ast }) => mentions(ast, isIt));
    return {
      layer,
      isPlacing,
      isComputed,
      isNumber,
      patterns,
      classes: alone ?? beside?.values ?? null,
      isKnown: alone !== null || beside?.isAll === true,
    };
  });
  const isOfMany = each.filter(({ layer, isComputed, classes }) => layer.field!.kind !== 'text' && isComputed && !classes).length > 1;
  return each.map(({ layer, isPlacing, isComputed, isNumber, patterns: own, classes, isKnown }) => {
    const isText = layer.field!.kind === 'text';
    const isHeld = isText && texts.isIn(layer);
    // What is asked of one of two that can be the same is asked of the other.
    const asked = isHeld ? each.flatMap((one) => (texts.areBeside(layer, one.layer) ? one.patterns : [])) : own;
    const patterns = [...new Map(asked.map((one) => [`${one.asks} ${one.fold ?? ''} ${one.text}`, one])).values()];
    const { values, asksLength } = given(compared, layer.id);
    const others = isHeld ? texts.othersBeside(layer) : 0;
    const lengths = asksLength ? values.filter((value) => typeof value === 'number') : [];
    const isTried = isText
      ? !isComputed &&
        others <= MOST_BESIDE &&
        areAllWays(patterns, lengths, others + 1) &&
        !(isNumber && (patterns.length > 0 || others > 0 || asksLength))
      : !isComputed || isKnown || (!classes && areAllTried(layer.field!, isOfMany));
    return { layer, isPlacing, isComputed, isNumber, isOfMany, patterns, classes, others: Math.min(others, MOST_BESIDE), isTried };
  });
}

/** So many other fields are a text held against, one text for each. */
const MOST_BESIDE = 3;

const given = (compared: Compared, layer: string) => ({
  values: compared.valuesOf(`${layer}.value`),
  asksLength: compared.asksLengthOf(`${layer}.value`),
});

/** Tells what a field holds: itself, the variable that mirrors it, and what is set to just that. */
function heldBy(layer: Layer, read: readonly Read[]): IsIt {
  const keys = new Set([`${layer.id}.value`, ...(layer.field!.variable === undefined ? [] : [layer.field!.variable])]);
  const isIt: IsIt = (id, property) => keys.has(keyOf(id, property));
  for (let size = -1; size !== keys.size;) {
    size = keys.size;
    for (const { ast, sets } of read) if (sets !== null && ast.k === 'ref' && isIt(ast.id, ast.property)) keys.add(sets);
  }
  return isIt;
}

const askedIn = (compared: Compared, layer: string, known: Partial<FieldAsked> = {}): Asked => ({
  ...given(compared, layer),
  isComputed: known.isComputed ?? false,
  patterns: known.patterns ?? [],
  classes: known.classes ?? null,
  others: known.others ?? 0,
  isNumber: known.isNumber ?? false,
  isOfMany: known.isOfMany ?? false,
  isPlacing: known.isPlacing ?? false,
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

/** So many are named. */
const MOST_NAMED = 3;

const namesOf = (layers: readonly Layer[]): string => listWords(layers.slice(0, MOST_NAMED).map(({ name }) => name));

const putInto = (layers: readonly Layer[]): [string, string][] => layers.map(({ id }) => [id, `all that can be put into ${namesOf(layers)}`]);

/** Where a layer is dragged to, to try it: along each way in which it is asked how far it is. */
export interface Places {
  readonly x: readonly number[] | null;
  readonly y: readonly number[] | null;
}

/** Layers that can be dragged anywhere, whose place is read, where not all places that count are known. */
function dragged(program: Program, read: readonly Read[], together: ReadonlyMap<string, Together>): [string, string][] {
  const asked = keysRead(read);
  const isLeft = (key: string) => asked.has(key) && !together.get(key)?.isAll;
  const possible = possibleScenes(program);
  const free = heldIn(program).filter(
    (layer) => possible.has(layer.scene) && layer.drag && !layer.drag.snap?.length && (isLeft(`${layer.id}.x`) || isLeft(`${layer.id}.y`))
  );
  return free.map(({ id }) => [id, `all places that ${namesOf(free)} can be dragged to`]);
}
