import {
  apply,
  bindingWords,
  frameLedTo,
  framesOf,
  leadThere,
  makeChoice,
  statesOf,
  update,
  wireTo,
  wireToLabel,
  wireToState,
  wireToStep,
  type Bindable,
  type Operation,
} from '@zany/core';
import { newId } from '$lib/client/ids';
import type { EditorSession } from '$lib/client/session.svelte';
import { freshLook } from './looks';

/** Wiring the selection by a press. Each is one named edit. */

/** As what a frame is that is dragged. */
export const FRAME_TYPE = 'application/x-zany-frame';

/** Between what leads to several frames, in CSS px. */
const GAP = 12;

/**
 * A frame was put down on the stage: there now stands what leads to it, made as what is selected if that leads to one. With others chosen
 * in the shelf what leads to those stands below it.
 */
export function leadFromHere(session: EditorSession, frame: string, at: { readonly x: number; readonly y: number }): void {
  const { piece, settled, sceneId, selection, frameSelection } = session;
  if (!sceneId || !piece.scenes.has(frame)) return;
  const chosen = frameSelection.includes(frame) ? frameSelection : [frame];
  const frames = framesOf(piece).flatMap(({ id }) => (id !== sceneId && chosen.includes(id) ? id : []));
  if (frames.length === 0) return session.notify('That frame is the open one: put another one down here, to lead to it.');
  const like = selection.length === 1 && frameLedTo(piece, selection[0]!) !== null ? selection[0]! : null;
  let program = settled;
  let { y } = at;
  const [made, operations]: [string[], Operation[]] = [[], []];
  for (const one of frames) {
    const there = leadThere(program, sceneId, one, { x: at.x, y }, like, newId);
    const applied = there && apply(program.piece, there.operations);
    if (!applied?.ok) continue;
    program = update(program, applied.value.piece, applied.value.touched);
    made.push(there!.id);
    operations.push(...there!.operations);
    y += program.piece.layers.get(there!.id)!.pose.height + GAP;
  }
  const name = frames.length === 1 ? piece.scenes.get(frames[0]!)!.name : `${frames.length} frames`;
  if (session.edit(`Lead to ${name}`, operations)) session.select(made);
}

/** Makes clicks on the selection lead to a frame. */
export function leadTo(session: EditorSession, frame: string): void {
  const name = session.piece.scenes.get(frame)?.name ?? 'a frame';
  session.edit(`Lead to ${name}`, wireTo(session.piece, session.selection, frame, newId));
}

/** Has the state of a scene follow an expression; undefined lets it go by its threads again. */
export const bindState = (session: EditorSession, scene: string, value: string | undefined): boolean =>
  session.edit(
    value === undefined ? 'The state follows nothing' : `${bindingWords.state} …`,
    [{ op: 'set', table: 'scenes', id: scene, path: ['stateIs'], ...(value !== undefined && { value }) }],
    'plain'
  );

/**
 * Makes a property of layers follow a stored expression; undefined lets it go. What is disabled at times and has no look for
 * that gets one, so that it shows.
 */
export function bind(session: EditorSession, ids: readonly string[], what: Bindable, value: string | undefined): boolean {
  const name = value === undefined ? `No longer ${bindingWords[what]}` : `${bindingWords[what]} …`;
  const operations = ids.flatMap((id): Operation[] => {
    const layer = session.piece.layers.get(id);
    if (!layer) return [];
    const left = Object.keys(layer.bindings ?? {}).filter((one) => one !== what);
    if (value === undefined) return [{ op: 'set', table: 'layers', id, path: left.length ? ['bindings', what] : ['bindings'] }];
    const needsLook = what === 'enabled' && !layer.looks?.disabled;
    return [
      { op: 'set', table: 'layers', id, path: ['bindings', what], value },
      ...(needsLook
        ? [
            {
              op: 'set' as const,
              table: 'layers' as const,
              id,
              path: ['looks', 'disabled'],
              value: freshLook(session.piece, layer, 'disabled', 'rest'),
            },
          ]
        : []),
    ];
  });
  return session.edit(
    name.replace(/^\w/, (letter) => letter.toUpperCase()),
    operations,
    'plain'
  );
}

/** Gives layers that have none a look for when they are selected: their hover look where they have it. */
export const selectedLooks = ({ piece }: EditorSession, ids: readonly string[]): Operation[] =>
  ids.flatMap((id): Operation[] => {
    const layer = piece.layers.get(id);
    if (!layer || layer.looks?.selected) return [];
    const value = layer.looks?.hover ?? freshLook(piece, layer, 'selected', 'rest');
    return [{ op: 'set', table: 'layers', id, path: ['looks', 'selected'], value }];
  });

/** Makes layers a choice, seen by their looks. */
export function choiceOperations(session: EditorSession, ids: readonly string[], again: 'stays' | 'unselects', first: boolean): Operation[] {
  const { sceneId, piece } = session;
  if (!sceneId) return [];
  return [...makeChoice(piece, sceneId, ids, { name: 'Choice', again, first, variable: true }, newId), ...selectedLooks(session, ids)];
}

/** Of the selected layers at most one is selected from now on; a variable says which. */
export function chooseOne(session: EditorSession): void {
  session.edit(`Choose one of ${session.selection.length}`, choiceOperations(session, session.selection, 'stays', false), 'plain');
}

/** A layer is no longer one of its choice. */
export const leaveChoice = (session: EditorSession, id: string): boolean =>
  session.edit('Leave the choice', [
    { op: 'set', table: 'layers', id, path: ['choice'] },
    { op: 'set', table: 'layers', id, path: ['choiceValue'] },
  ]);

/**
 * Makes clicks on the selection bring the scene, or a placement in it, into a state. Of two states one is gone to and back from,
 * by the same press.
 */
export function bringInto(session: EditorSession, of: string | undefined, state: string): void {
  const subject = of === undefined ? session.sceneId : session.piece.layers.get(of)?.part;
  const scene = session.piece.scenes.get(subject ?? '');
  const isToggle = scene !== undefined && Object.keys(scene.states ?? {}).length === 2 && statesOf(scene)[1]?.id === state;
  const operations = session.selection.flatMap((id) => wireToState(session.piece, id, of, state, newId, isToggle));
  session.edit('Bring into a state', operations, 'plain');
}

/** Makes clicks on the selection play the scene, or a placement in it, from a label. */
export function playFrom(session: EditorSession, of: string | undefined, label: string): void {
  session.edit(
    'Play from a label',
    session.selection.flatMap((id) => wireToLabel(session.piece, id, of, label, newId)),
    'plain'
  );
}

/** The address that a text is, as a link can have it; null where it is none. */
export function addressIn(text: string | undefined): string | null {
  const word = text?.trim() ?? '';
  if (/^(https?:\/\/|mailto:|tel:)\S+$/i.test(word)) return word;
  if (/^[^\s@/]+@[^\s@/]+\.[a-z]{2,}$/i.test(word)) return `mailto:${word}`;
  return /^([a-z0-9-]+\.)+[a-z]{2,}(\/\S*)?$/i.test(word) ? `https://${word}` : null;
}

/** Makes a click on a layer open an address in a new tab. */
export function openOnClick(session: EditorSession, id: string, address: string): void {
  session.edit(`Open ${address}`, wireToStep(session.piece, id, { do: 'open', address, tab: 'new' }, newId), 'plain');
}
