import { onceFor } from '../once.ts';
import { fitsOccasion, triedFor, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import { partsOf, readsOf, type Ast } from '../expression/ast.ts';
import type { Layer, Piece } from '../piece/piece.ts';
import type { Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import { listWords } from '../words.ts';
import { possibleScenes } from './possible.ts';
import { asBefore } from './again.ts';
import { lookingBack, type LookingBack } from './back.ts';
import { Compared, keyOf, LENGTH } from './compared.ts';
import { spoken, standingExpressions } from './standing.ts';

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
  /** What a person could do that exploring does not try, as phrases; empty where it tries all there is. */
  readonly untried: readonly string[];
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
  const told: Omit<Telling, 'words' | 'looksBack'> = {
    back: goesBack,
    pad: reads.has('pad.button'),
    scroll,
    leaves: (node) => hears(node, (cue) => waitsFor(cue, 'leave')),
    focuses: (node) => hears(node, (cue) => waitsFor(cue, 'blur') || takesShared(cue)),
    compared,
    untried: [...typed(program, expressions), ...dragged(program, reads)],
  };
  const { back, pad, untried } = told;
  return { ...told, words: JSON.stringify([back, pad, scroll, untried, compared.words, shared]) };
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

/** Fields in which more can be typed than one value for each thing they are compared with: where they are computed with. */
function typed(program: Program, expressions: readonly Ast[]): string[] {
  const possible = possibleScenes(program);
  const open = heldIn(program).filter(
    ({ scene, field }) => possible.has(scene) && field && (field.kind === 'text' || field.kind === 'number' || field.kind === 'slider')
  );
  const names = open.filter((layer) => {
    const keys = new Set([`${layer.id}.value`, ...(layer.field?.variable === undefined ? [] : [layer.field.variable])]);
    const isIt: IsIt = (id, property) => keys.has(keyOf(id, property));
    return expressions.some((ast) => isComputedWith(ast, isIt, false));
  });
  return names.length ? [`all that can be put into ${listWords(names.slice(0, 3).map(({ name }) => name))}`] : [];
}

type IsIt = (id: string, property: string | null) => boolean;

/** Whether something is read in an expression other than by comparing it with a given value. */
function isComputedWith(ast: Ast, isIt: IsIt, isCompared: boolean): boolean {
  if (ast.k === 'ref') return !isCompared && isIt(ast.id, ast.property);
  if (ast.k === 'call' && ast.fn === LENGTH && isCompared) return false;
  const compares =
    (ast.k === 'op' && ['=', '!=', '<', '<=', '>', '>='].includes(ast.op) && (ast.a.k === 'value' || ast.b.k === 'value')) ||
    ((ast.k === 'between' || ast.k === 'in') &&
      partsOf(ast)
        .slice(1)
        .every((part) => part.k === 'value'));
  return partsOf(ast).some((part) => isComputedWith(part, isIt, compares));
}

/** Layers that can be dragged anywhere, whose place is read. */
function dragged(program: Program, reads: ReadonlySet<string>): string[] {
  const read = (id: string) => [...reads].some((key) => /\.[xy]$/.test(key) && key.slice(0, -2).split('/').at(-1) === id);
  const possible = possibleScenes(program);
  const names = heldIn(program)
    .filter((layer) => possible.has(layer.scene) && layer.drag && !layer.drag.snap?.length && read(layer.id))
    .map(({ name }) => name);
  return names.length ? [`all places that ${listWords(names.slice(0, 3))} can be dragged to`] : [];
}
