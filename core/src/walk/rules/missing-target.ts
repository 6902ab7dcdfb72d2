import { sceneOfThread, type Piece, type Thread } from '../../piece/piece.ts';
import { scopeFor, type LineScope } from '../../lines/scope.ts';
import type { Step } from '../../steps/schemas.ts';
import type { Program } from '../../program/program.ts';
import { placementsIn } from '../per-scene.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const missingTarget: Rule = {
  id: 'missing-target',
  meaning:
    'a cue, step, placement, ending or carried sheet names a frame, layer, part, state, label, sheet or variable that is gone or not chosen yet, or a thread has no step at all',
  check: ({ program }) => [...threadsLost(program.piece), ...placementsLost(program), ...scenesLost(program.piece)],
};

const threadsLost = (piece: Piece): Finding[] =>
  [...piece.threads.values()].flatMap((thread) => {
    const lost = lostIn(piece, thread);
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
function lostIn(piece: Piece, thread: Thread): string | null {
  if (thread.branches.every((branch) => branch.steps.length === 0)) return 'Where it leads has not been chosen yet.';
  const scope = scopeFor(piece, thread);
  const cue = lostInCue(piece, thread, scope);
  if (cue) return cue;
  for (const step of thread.branches.flatMap((branch) => branch.steps)) {
    const lost = lostInStep(piece, scope, step);
    if (lost) return lost;
  }
  return null;
}

const gone = (what: string) => `The ${what} it led to has been deleted.`;
const open = (what: string) => `Which ${what} has not been chosen yet.`;

const check = (id: string | null | undefined, what: string, isThere: (id: string) => boolean): string | null =>
  id === undefined
    ? null
    : id === null
      ? what === 'frame'
        ? 'Where it leads has not been chosen yet.'
        : open(what)
      : isThere(id)
        ? null
        : gone(what);

const layerThere = (piece: Piece) => (path: string) => path.split('/').every((id) => piece.layers.has(id));

function lostInCue(piece: Piece, { cue }: Thread, scope: LineScope): string | null {
  const inStates = (id: string) => scope.statesOf(undefined).some((state) => state.id === id);
  switch (cue.type) {
    case 'state':
      return cue.state === null ? null : check(cue.state, 'state', inStates);
    case 'after':
      return check(cue.state, 'state', inStates);
    case 'label':
      return check(cue.label, 'label', (id) => scope.labelsOf(undefined).some((label) => label.id === id));
    case 'variable':
      return check(cue.variable, 'variable', (id) => piece.variables.has(id));
    case 'drop':
      return check(cue.on, 'layer', layerThere(piece));
    default:
      return null;
  }
}

/** What a step names that is gone or not chosen yet, as a sentence; null where all is there. */
export function lostInStep(piece: Piece, scope: LineScope, step: Step): string | null {
  const isFrame = (id: string) => piece.scenes.get(id)?.use === 'frame';
  const isLayer = layerThere(piece);
  const subject = (of: string | undefined) => (of === undefined || piece.scenes.has(of) || isLayer(of) ? null : gone('layer'));
  switch (step.do) {
    case 'go':
      return step.target.to === 'frame' ? check(step.target.frame, 'frame', isFrame) : null;
    case 'lay':
      return check(step.frame, 'frame', isFrame);
    case 'state': {
      const state = 'state' in step.to ? step.to.state : 'toggle' in step.to ? step.to.toggle : undefined;
      return subject(step.of) ?? check(state, 'state', (id) => scope.statesOf(step.of ?? scope.scene ?? undefined).some((one) => one.id === id));
    }
    case 'select':
    case 'enable':
    case 'show':
    case 'move':
    case 'tween':
      return check(step.layer, 'layer', isLayer);
    case 'set':
      return check(step.variable, 'variable', (id) => piece.variables.has(id));
    case 'scroll':
      return 'layer' in step.to ? check(step.to.layer, 'layer', isLayer) : null;
    case 'play':
      return (
        subject(step.of) ?? check(step.from, 'label', (id) => scope.labelsOf(step.of ?? scope.scene ?? undefined).some((label) => label.id === id))
      );
    case 'show label':
      return (
        subject(step.of) ?? check(step.label, 'label', (id) => scope.labelsOf(step.of ?? scope.scene ?? undefined).some((label) => label.id === id))
      );
    case 'section':
    case 'pause':
    case 'start over':
      return subject(step.of);
    default:
      return null;
  }
}
