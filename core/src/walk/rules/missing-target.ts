import type { Piece, Thread } from '../../piece/piece.ts';
import { scopeFor, type LineScope } from '../../lines/scope.ts';
import { Union } from '@sinclair/typebox';
import { ANY, type Refers } from '../../fields/scalars.ts';
import { fieldsIn, fieldsOf, type Field } from '../../piece/visit.ts';
import { stepSchemas } from '../../vocabulary/steps/schema.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import type { Program } from '../../program/program.ts';
import { onceFor } from '../../once.ts';
import { asBefore, layersThere } from '../again.ts';
import { placementsIn } from '../per-scene.ts';
import { ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const missingTarget: Rule = {
  id: 'missing-target',
  words: 'leads nowhere',
  meaning:
    'a cue, step, placement, ending or carried sheet names a frame, layer, part, state, label, sheet or variable that is gone or not chosen yet, or a thread has no step at all',
  spares: 'a key or a pad button that may be any',
  check: ({ program }) => [...threadsLost(program), ...placementsLost(program), ...scenesLost(program)],
};

function threadsLost(program: Program): Finding[] {
  const { piece } = program;
  const lost = asBefore(program, 'lost', [piece.threads, piece.scenes, piece.variables, layersThere(program)], () => lostIn(piece));
  return lost.map(({ thread, why }) =>
    finding('missing-target', 'must', placeOfThread(piece, thread), `${ownerOf(piece, thread)} leads nowhere`, why)
  );
}

/** Threads that name what is not there, and what that is. */
const lostIn = (piece: Piece) =>
  threadsIn(piece).flatMap((thread) => {
    const why = lostInThread(piece, thread);
    return why === null ? [] : [{ thread, why }];
  });

/** Placements of parts, and in states, that are gone. */
function placementsLost(program: Program): Finding[] {
  const { piece } = program;
  const lost = asBefore(program, 'placements lost', [piece.scenes, layersThere(program)], () => lostPlacements(program));
  return lost.map(({ id, part }) => {
    const { name, scene } = piece.layers.get(id)!;
    const place = { scene, layer: id };
    return part === null
      ? finding('missing-target', 'must', place, `${name} shows nothing`, 'The part it showed has been deleted.')
      : finding('missing-target', 'must', place, `${name} begins in no state`, `The state of ${part} it began in has been deleted.`);
  });
}

/** With the name of the part, where that is there. */
const lostPlacements = ({ piece, scenes }: Program) =>
  [...scenes.values()].flatMap((scene) =>
    placementsIn(scene).flatMap(({ layer: { id, part: shown, state } }) => {
      const part = shown === undefined ? undefined : piece.scenes.get(shown);
      return part && (state === undefined || part.states?.[state]) ? [] : [{ id, part: part?.name ?? null }];
    })
  );

/** Sheets that are carried and gone, and sections that end at a label that is gone. */
const scenesLost = (program: Program): Finding[] => asBefore(program, 'scenes lost', [program.piece.scenes], () => lostInScenes(program.piece));

const lostInScenes = (piece: Piece): Finding[] =>
  [...piece.scenes.values()].flatMap((scene) => {
    if (!scene.carries && !scene.timeline) return [];
    const sheets = (scene.carries ?? []).filter(({ sheet }) => !piece.scenes.has(sheet));
    const labels = scene.timeline?.labels ?? {};
    const open = Object.values(labels).filter(({ ending }) => ending.do === 'go to' && (ending.label === null || !labels[ending.label]));
    const lost = [
      ...(sheets.length ? ['A sheet it carried has been deleted.'] : []),
      ...open.map(({ name }) => `${name} ends by going to a label that is gone or not chosen yet.`),
    ];
    return lost.length ? [finding('missing-target', 'must', { scene: scene.id }, `${scene.name} has lost something`, lost.join(' '))] : [];
  });

/** The first thing a thread names that is not there, as a sentence; null where all is there. */
export function lostInThread(piece: Piece, thread: Thread): string | null {
  if (thread.branches.every((branch) => branch.steps.length === 0)) return 'Where it leads has not been chosen yet.';
  let scope: LineScope | undefined;
  for (const field of namingIn(thread)) {
    const lost = lostAt(piece, field, () => (scope ??= scopeFor(piece, thread)));
    if (lost) return lost;
  }
  return null;
}

/** The fields of a thread that name something. */
const namingIn = onceFor((thread: Thread): readonly Field[] => fieldsOf('threads', thread).filter(({ refers }) => refers !== null));

const STEP = Union(stepSchemas);

/** What a step names that is gone or not chosen yet, as a sentence; null where all is there. */
export function lostInStep(piece: Piece, scope: LineScope, step: Step): string | null {
  for (const field of fieldsIn(STEP, step)) {
    const lost = lostAt(piece, field, () => scope);
    if (lost) return lost;
  }
  return null;
}

/** What is wrong with what a field of a cue or a step names; null where it is there. */
function lostAt(piece: Piece, { refers, value, schema, root }: Field, scope: () => LineScope): string | null {
  if (refers === null || (value === null && schema[ANY])) return null;
  const what = words[refers] ?? refers;
  if (value === null) return what === 'frame' ? 'Where it leads has not been chosen yet.' : `Which ${what} has not been chosen yet.`;
  return isThere(piece, refers, value, scope, root) ? null : `The ${what} it led to has been deleted.`;
}

const words: Partial<Record<Refers, string>> = { subject: 'layer' };

/** Whether something is there. States and labels are those of what a step is about, or of where a cue listens. */
function isThere(piece: Piece, refers: Refers, id: string, scope: () => LineScope, root: Field['root']): boolean {
  switch (refers) {
    case 'frame':
    case 'part':
    case 'sheet':
      return piece.scenes.get(id)?.use === refers;
    case 'scene':
      return piece.scenes.has(id);
    case 'layer':
      return isLayer(piece, id);
    case 'subject':
      return piece.scenes.has(id) || isLayer(piece, id);
    case 'variable':
      return piece.variables.has(id);
    case 'state':
      return scope()
        .statesOf(subjectOf(root, scope()))
        .some((one) => one.id === id);
    case 'label':
      return scope()
        .labelsOf(subjectOf(root, scope()))
        .some((one) => one.id === id);
    case 'choice':
      return true;
  }
}

const isLayer = (piece: Piece, path: string): boolean => path.split('/').every((one) => piece.layers.has(one));

/** What a step is about, or the scene it stands in; of a cue, nothing in particular. */
const subjectOf = (root: Field['root'], { scene }: LineScope): string | undefined =>
  'do' in root ? ((root['of'] as string | undefined) ?? scene ?? undefined) : undefined;
