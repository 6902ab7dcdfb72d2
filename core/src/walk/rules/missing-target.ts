import type { Layer, Piece, Thread } from '../../piece/piece.ts';
import { LOOKS, type LookName, type State } from '../../piece/schema.ts';
import { scopeFor, type LineScope } from '../../lines/scope.ts';
import { Union } from '@sinclair/typebox';
import { ANY, type Refers } from '../../fields/scalars.ts';
import { fieldsIn, fieldsOf, type Field } from '../../piece/visit.ts';
import { stepSchemas } from '../../vocabulary/steps/schema.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import type { Program, SceneProgram } from '../../program/program.ts';
import { onceFor } from '../../once.ts';
import { asBefore, layersThere } from '../again.ts';
import { inScenes } from '../per-scene.ts';
import { ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const missingTarget: Rule = {
  id: 'missing-target',
  words: 'leads nowhere',
  meaning:
    'a cue, step, placement, look, state, field, choice, ending or carried sheet names a frame, layer, part, state, label, sheet or variable that is gone or not chosen yet, or a thread has no step at all',
  spares: 'a key or a pad button that may be any',
  check: ({ program }) => [...threadsLost(program), ...layersLost(program), ...scenesLost(program)],
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

/** Layers that show, are in or fill what is gone, wherever they stand. */
function layersLost(program: Program): readonly Finding[] {
  const { scenes, variables } = program.piece;
  const ids = asBefore(program, 'all scenes', [scenes], () => [...scenes.keys()]);
  return inScenes(program, 'missing-target', ids, [variables], (scene) => lostOnLayers(program.piece, scene));
}

const lostOnLayers = (piece: Piece, { items }: SceneProgram): Finding[] =>
  items.flatMap(({ layer }) => {
    const lost = [...lostByPlacement(piece, layer), ...lostByField(piece, layer)];
    if (lost.length === 0) return [];
    const place = { scene: layer.scene, layer: layer.id };
    return [finding('missing-target', 'must', place, `${layer.name} ${lost[0]!.what}`, lost.map(({ why }) => why).join(' '))];
  });

interface Lost {
  /** What is so of the layer, after its name. */
  readonly what: string;
  readonly why: string;
}

/** The part of a placement, and the states of it that the placement begins in or is in by a look. */
function lostByPlacement(piece: Piece, layer: Layer): Lost[] {
  if (layer.type !== 'placement') return [];
  const part = layer.part === undefined ? undefined : piece.scenes.get(layer.part);
  if (!part) return [{ what: 'shows nothing', why: 'The part it showed has been deleted.' }];
  const begins = isStateLost(piece, layer.id, layer.state);
  const looks = LOOKS.filter((look) => isStateLost(piece, layer.id, layer.looks?.[look]?.state));
  return [
    ...(begins ? [{ what: 'begins in no state', why: `The state of ${part.name} it began in has been deleted.` }] : []),
    ...looks.map((look) => ({ what: 'is in no state', why: `The state of ${part.name} it is in ${lookWords[look]} has been deleted.` })),
  ];
}

/** The variable that a field keeps what it holds in. */
const lostByField = (piece: Piece, { field }: Layer): Lost[] =>
  field?.variable === undefined || piece.variables.has(field.variable)
    ? []
    : [{ what: 'fills nothing', why: 'The variable it fills has been deleted.' }];

/** Whether a placement, by its path, is in a state that its part does not have. */
function isStateLost(piece: Piece, path: string, state: string | undefined): boolean {
  const part = state === undefined ? undefined : piece.layers.get(path.split('/').at(-1)!)?.part;
  const scene = part === undefined ? undefined : piece.scenes.get(part);
  return scene !== undefined && !scene.states?.[state!];
}

const lookWords: Record<LookName, string> = {
  hover: 'while hovered',
  press: 'while pressed',
  focus: 'while it has the focus',
  selected: 'while selected',
  selectedHover: 'while selected and hovered',
  disabled: 'while disabled',
};

/** What scenes have lost besides: sheets they carry, labels that sections end at, states that theirs put placements in, variables of choices. */
const scenesLost = (program: Program): Finding[] =>
  asBefore(program, 'scenes lost', [program.piece.scenes, program.piece.variables, layersThere(program)], () => lostInScenes(program.piece));

const lostInScenes = (piece: Piece): Finding[] =>
  [...piece.scenes.values()].flatMap((scene) => {
    const { carries, timeline, states, choices } = scene;
    if (!carries && !timeline && !states && !choices) return [];
    const sheets = (carries ?? []).filter(({ sheet }) => !piece.scenes.has(sheet));
    const labels = timeline?.labels ?? {};
    const open = Object.values(labels).filter(({ ending }) => ending.do === 'go to' && (ending.label === null || !labels[ending.label]));
    const cued = Object.values(timeline?.cues ?? {}).filter(({ layer }) => !piece.layers.has(layer));
    const lost = [
      ...(sheets.length ? ['A sheet it carried has been deleted.'] : []),
      ...(cued.length ? ['A layer that it plays or pauses in time has been deleted.'] : []),
      ...open.map(({ name }) => `${name} ends by going to a label that is gone or not chosen yet.`),
      ...Object.values(states ?? {}).flatMap((state) => lostByState(piece, state)),
      ...Object.values(choices ?? {}).flatMap(({ name, variable }) =>
        variable === undefined || piece.variables.has(variable) ? [] : `The variable that says what is chosen of ${name} has been deleted.`
      ),
    ];
    return lost.length ? [finding('missing-target', 'must', { scene: scene.id }, `${scene.name} has lost something`, lost.join(' '))] : [];
  });

const lostByState = (piece: Piece, { name, deltas }: State): string[] =>
  Object.entries(deltas).flatMap(([path, { state }]) =>
    isStateLost(piece, path, state) ? `In ${name}, ${piece.layers.get(path.split('/').at(-1)!)!.name} is in a state that has been deleted.` : []
  );

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
