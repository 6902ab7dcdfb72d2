import { sceneOfThread, type Piece, type Thread } from '../../piece/piece.ts';
import { scopeFor, type LineScope } from '../../lines/scope.ts';
import { Union } from '@sinclair/typebox';
import { ANY, type Refers } from '../../fields/scalars.ts';
import { fieldsIn, fieldsOf, type Field } from '../../piece/visit.ts';
import { stepSchemas } from '../../vocabulary/steps/schema.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import type { Program } from '../../program/program.ts';
import { placementsIn } from '../per-scene.ts';
import { threadsIn } from '../at-thread.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const missingTarget: Rule = {
  id: 'missing-target',
  words: 'leads nowhere',
  meaning:
    'a cue, step, placement, ending or carried sheet names a frame, layer, part, state, label, sheet or variable that is gone or not chosen yet, or a thread has no step at all',
  check: ({ program }) => [...threadsLost(program.piece), ...placementsLost(program), ...scenesLost(program.piece)],
};

const threadsLost = (piece: Piece): Finding[] =>
  threadsIn(piece).flatMap((thread) => {
    const lost = lostInThread(piece, thread);
    if (lost === null) return [];
    const scene = sceneOfThread(piece, thread);
    const owner = thread.on === 'layer' ? piece.layers.get(thread.owner)! : scene === null ? piece.head : piece.scenes.get(scene)!;
    const place = { scene, ...(thread.on === 'layer' && { layer: thread.owner }), thread: thread.id };
    return [finding('missing-target', 'must', place, `${owner.name} leads nowhere`, lost)];
  });

/** Placements of parts, and in states, that are gone. */
const placementsLost = ({ piece, scenes }: Program): Finding[] =>
  [...scenes.values()].flatMap(placementsIn).flatMap(({ layer }) => {
    const part = layer.part === undefined ? undefined : piece.scenes.get(layer.part);
    const place = { scene: layer.scene, layer: layer.id };
    if (!part) return [finding('missing-target', 'must', place, `${layer.name} shows nothing`, 'The part it showed has been deleted.')];
    return layer.state === undefined || part.states?.[layer.state]
      ? []
      : [finding('missing-target', 'must', place, `${layer.name} begins in no state`, `The state of ${part.name} it began in has been deleted.`)];
  });

/** Sheets that are carried and gone, and sections that end at a label that is gone. */
const scenesLost = (piece: Piece): Finding[] =>
  [...piece.scenes.values()].flatMap((scene) => {
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
  const scope = () => scopeFor(piece, thread);
  for (const field of fieldsOf('threads', thread)) {
    const lost = lostAt(piece, field, scope);
    if (lost) return lost;
  }
  return null;
}

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
  const isLayer = (path: string) => path.split('/').every((one) => piece.layers.has(one));
  const of = () => ('do' in root ? ((root['of'] as string | undefined) ?? scope().scene ?? undefined) : undefined);
  switch (refers) {
    case 'frame':
    case 'part':
    case 'sheet':
      return piece.scenes.get(id)?.use === refers;
    case 'scene':
      return piece.scenes.has(id);
    case 'layer':
      return isLayer(id);
    case 'subject':
      return piece.scenes.has(id) || isLayer(id);
    case 'variable':
      return piece.variables.has(id);
    case 'state':
      return scope()
        .statesOf(of())
        .some((one) => one.id === id);
    case 'label':
      return scope()
        .labelsOf(of())
        .some((one) => one.id === id);
    case 'choice':
      return true;
  }
}
