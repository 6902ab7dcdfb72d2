import {
  addThreads,
  alignLayers,
  bindingWords,
  bringInLayers,
  copyLayers,
  displayText,
  duplicateFrame,
  escapeText,
  expressionScope,
  groupLayers,
  insertStarter,
  keyBetween,
  keysBetween,
  layersUnder,
  makeChoice,
  makePart,
  makeSheet,
  moveLayers,
  newFrame,
  newLayer,
  newVariable,
  parseLines,
  pasteClip,
  placePart,
  printLine,
  removeLayers,
  restack,
  scopeFor,
  scopeOf,
  setBox,
  spreadLayers,
  statesOf,
  storeText,
  takeApart,
  takeName,
  threadsOf,
  ungroupLayers,
  union,
  wireTo,
  wireToState,
  wireToStep,
  type Bindable,
  type BroughtIn,
  type Clip,
  type Edge,
  type Item,
  type Layer,
  type LineThread,
  type LookName,
  type LayerType,
  type Operation,
  type Rect,
  type Starter,
  type Step,
  type Way,
} from '@zany/core';
import { newId } from '$lib/client/ids';
import { shapesOf } from '$lib/client/svg-layers';
import { uploadPictures } from '$lib/client/pictures';
import type { EditorSession } from '$lib/client/session.svelte';
import { labelOfLook, looks } from './look-poses';

/** What a designer does to an open piece, each as one named edit. Keys, buttons and the command finder all come here. */

export const CLIP_TYPE = 'application/x-zany-thread-clip';

const names: Record<LayerType, string> = {
  box: 'Box',
  oval: 'Oval',
  line: 'Line',
  path: 'Path',
  text: 'Text',
  picture: 'Picture',
  video: 'Video',
  sound: 'Sound',
  field: 'Field',
  group: 'Group',
  placement: 'Placement',
  hit: 'Hit area',
};

/** `Box 3`: the first number that no layer of the scene has. */
const freeLayerName = (session: EditorSession, type: LayerType): string =>
  takeName(new Set(session.scene?.items.map((item) => item.layer.name)), `${names[type]} 1`);

export function drawLayer(session: EditorSession, type: 'box' | 'oval' | 'text' | 'hit' | 'field', box: Rect): string | null {
  if (!session.sceneId) return null;
  const id = newId();
  const styles: Record<typeof type, Layer['style']> = {
    box: { fill: '#f0b13c', corner: 10 },
    oval: { fill: '#f0b13c' },
    text: {},
    hit: {},
    field: { fill: '#ffffff', line: { color: '#b9ae98', width: 1 }, corner: 8 },
  };
  const layer = {
    id,
    scene: session.sceneId,
    name: freeLayerName(session, type),
    type,
    pose: rounded(box),
    style: styles[type],
    ...(type === 'text' && { text: 'Text' }),
    ...(type === 'field' && {
      field: box.width < 60 && box.height < 60 ? { kind: 'checkbox' as const } : { kind: 'text' as const, placeholder: 'Write here' },
    }),
  };
  if (!session.edit(`Draw ${layer.name}`, [newLayer(session.piece, layer)])) return null;
  session.select([id]);
  return id;
}

const rounded = ({ x, y, width, height }: Rect): Rect => ({
  x: Math.round(x),
  y: Math.round(y),
  width: Math.max(1, Math.round(width)),
  height: Math.max(1, Math.round(height)),
});

const named = (session: EditorSession, ids: readonly string[]): string =>
  ids.length === 1 ? (session.piece.layers.get(ids[0]!)?.name ?? 'layer') : `${ids.length} layers`;

export function removeSelected(session: EditorSession): void {
  const { selection } = session;
  if (selection.length) session.edit(`Delete ${named(session, selection)}`, removeLayers(session.piece, selection));
}

export function nudge(session: EditorSession, dx: number, dy: number): void {
  const movable = session.selection.filter((id) => !session.piece.layers.get(id)?.locked);
  session.edit(`Move ${named(session, movable)}`, moveLayers(session.settled.piece, movable, dx, dy));
}

export function align(session: EditorSession, edge: Edge): void {
  if (session.sceneId) session.edit(`Align ${edge}`, alignLayers(session.settled, session.sceneId, session.selection, edge));
}

export function spread(session: EditorSession, axis: 'x' | 'y'): void {
  if (session.sceneId)
    session.edit(axis === 'x' ? 'Spread across' : 'Spread down', spreadLayers(session.settled, session.sceneId, session.selection, axis));
}

export function stack(session: EditorSession, way: Way): void {
  session.edit(
    { front: 'To the front', forward: 'Forward', backward: 'Backward', back: 'To the back' }[way],
    restack(session.piece, session.selection, way)
  );
}

export function group(session: EditorSession): void {
  if (!session.sceneId || session.selection.length === 0) return;
  const id = newId();
  if (session.edit('Group', groupLayers(session.plain, session.sceneId, session.selection, id), 'plain')) session.select([id]);
}

export function ungroup(session: EditorSession): void {
  const { operations, ids } = ungroupLayers(session.piece, session.selection);
  if (session.edit('Take the group apart', operations, 'plain')) session.select(ids);
}

/** Where the last duplicate went, so that the next one goes as far again. */
let lastStep: { from: readonly string[]; dx: number; dy: number } | null = null;

/** Copies the selection in its scene, moved; the copies are selected. */
export function duplicate(session: EditorSession, offset?: { x: number; y: number }): void {
  const { sceneId, selection } = session;
  if (!sceneId || selection.length === 0) return;
  const repeats = lastStep && selection.length === lastStep.from.length && selection.every((id) => lastStep!.from.includes(id));
  const by = offset ?? (repeats ? { x: lastStep!.dx, y: lastStep!.dy } : defaultStep(session));
  const { operations, ids } = pasteClip(session.piece, copyLayers(session.settled, sceneId, selection), sceneId, newId, by);
  if (!session.edit(`Duplicate ${named(session, selection)}`, operations)) return;
  session.select(ids);
  lastStep = { from: ids, dx: by.x, dy: by.y };
}

/** Remembers how far a fresh duplicate was moved by hand. */
export function noteStep(ids: readonly string[], dx: number, dy: number): void {
  if (lastStep && ids.length === lastStep.from.length && ids.every((id) => lastStep!.from.includes(id)))
    lastStep = { from: ids, dx: lastStep.dx + dx, dy: lastStep.dy + dy };
}

/** Below what is selected, with a small gap. */
function defaultStep(session: EditorSession): { x: number; y: number } {
  const boxes = session.selection.flatMap((id) => session.scene?.byId.get(id)?.box ?? []);
  const top = Math.min(...boxes.map((box) => box.y));
  const bottom = Math.max(...boxes.map((box) => box.y + box.height));
  return { x: 0, y: Math.round(bottom - top + 12) };
}

export function clipOf(session: EditorSession): Clip | null {
  return session.sceneId && session.selection.length ? copyLayers(session.settled, session.sceneId, session.selection) : null;
}

/** The selection as thread lines, for pasting as text. */
export const linesOf = (session: EditorSession): string =>
  session.selection.flatMap((id) => threadsOf(session.piece, id).map((thread) => printLine(thread, scopeFor(session.piece, thread)))).join('\n');

/** Pastes into every chosen frame, at the place it was copied from; in its own frame a little aside. */
export function paste(session: EditorSession, clip: Clip): void {
  const targets = session.frameSelection.length ? session.frameSelection : session.sceneId ? [session.sceneId] : [];
  let operations: Operation[] = [];
  let here: string[] = [];
  const many = targets.length > 1;
  for (const scene of targets) {
    const isOrigin = clip.piece === session.piece.head.id && clip.scene === scene;
    if (many && isOrigin) continue;
    const pasted = pasteClip(session.piece, clip, scene, newId, isOrigin ? { x: 16, y: 16 } : { x: 0, y: 0 });
    const known = new Set(operations.flatMap((operation) => (operation.op === 'put' && operation.table === 'assets' ? [operation.value.id] : [])));
    operations = [
      ...operations,
      ...pasted.operations.filter((operation) => !(operation.op === 'put' && operation.table === 'assets' && known.has(operation.value.id))),
    ];
    if (scene === session.sceneId) here = pasted.ids;
  }
  if (session.edit(many ? `Paste into ${targets.length} frames` : 'Paste', operations) && here.length) session.select(here);
}

export function addFrame(session: EditorSession, options: { name?: string; draft?: boolean; open?: boolean } = {}): string | null {
  const id = newId();
  const { open = true, ...rest } = options;
  if (!session.edit(rest.draft ? 'New draft frame' : 'New frame', newFrame(session.piece, id, { after: session.sceneId, ...rest }))) return null;
  if (open) session.openScene(id);
  return id;
}

export function copyFrame(session: EditorSession): void {
  if (!session.sceneId) return;
  const { operations, id } = duplicateFrame(session.piece, session.sceneId, newId);
  if (session.edit('Duplicate the frame', operations)) session.openScene(id);
}

export function removeFrames(session: EditorSession): void {
  const ids = session.frameSelection.filter((id) => session.piece.scenes.has(id));
  const first = session.program.frames.findIndex((id) => ids.includes(id));
  const next = session.program.frames.filter((id) => !ids.includes(id));
  if (
    !session.edit(
      ids.length === 1 ? `Delete ${session.piece.scenes.get(ids[0]!)?.name}` : `Delete ${ids.length} frames`,
      ids.map((id) => ({ op: 'remove', table: 'scenes', id }))
    )
  )
    return;
  session.openScene(next[Math.min(first, next.length - 1)] ?? null);
}

export const setFrame = (session: EditorSession, id: string, name: string, path: string, value: unknown): boolean =>
  session.edit(name, [{ op: 'set', table: 'scenes', id, path: [path], ...(value !== undefined && { value }) }]);

export const setLayer = (session: EditorSession, ids: readonly string[], name: string, path: readonly string[], value: unknown): boolean =>
  session.edit(
    name,
    ids.map((id) => ({ op: 'set', table: 'layers', id, path: [...path], ...(value !== undefined && { value }) }))
  );

/** Makes clicks on the selection lead to a frame. */
export function leadTo(session: EditorSession, frame: string): void {
  const name = session.piece.scenes.get(frame)?.name ?? 'a frame';
  session.edit(`Lead to ${name}`, wireTo(session.piece, session.selection, frame, newId));
}

/** Selects everything in the frame that is not locked. */
export function selectAll(session: EditorSession): void {
  if (session.sceneId)
    session.select(
      layersUnder(session.piece, session.sceneId, null)
        .filter((layer) => !layer.locked && !layer.hidden)
        .map((layer) => layer.id)
    );
}

/** A look made from another one; its fill is a shade of that, so that something is seen at once. */
export function addLook(session: EditorSession, id: string, look: LookName | 'rest', from: LookName | 'rest'): void {
  const layer = session.piece.layers.get(id);
  if (!layer || look === 'rest') return;
  const value = freshLook(layer, look, from);
  if (session.edit(`Add a ${labelOfLook(look)} look`, [{ op: 'set', table: 'layers', id, path: ['looks', look], value }], 'plain'))
    session.openLookOf(id, look);
}

/** What a new look of a layer begins as. */
export function freshLook(layer: Layer, look: LookName, from: LookName | 'rest'): object {
  const source = from === 'rest' ? undefined : layer.looks?.[from];
  const { fill: ownFill, opacity } = { ...layer.style, ...source?.style };
  const by = looks.find((one) => one.name === look)!.shade;
  if (look === 'disabled') return { ...source, style: { ...source?.style, opacity: 0.4 } };
  if (ownFill) return { ...source, style: { ...source?.style, fill: shade(ownFill, by) } };
  return { ...source, style: { ...source?.style, opacity: (opacity ?? 1) * (look === 'hover' ? 0.85 : 0.7) } };
}

/** Lighter for a positive share, darker for a negative one. */
function shade(color: string, by: number): string {
  const toward = by > 0 ? 255 : 0;
  const part = (at: number) => Math.round(parseInt(color.slice(at, at + 2), 16) + (toward - parseInt(color.slice(at, at + 2), 16)) * Math.abs(by));
  return `#${[1, 3, 5].map((at) => part(at).toString(16).padStart(2, '0')).join('')}${color.slice(7)}`;
}

export function removeLook(session: EditorSession, id: string, look: LookName): void {
  const left = Object.keys(session.piece.layers.get(id)?.looks ?? {}).filter((name) => name !== look);
  if (session.look === look) session.openLookOf(id, 'rest');
  session.edit(
    `Remove the ${labelOfLook(look)} look`,
    [{ op: 'set', table: 'layers', id, path: left.length ? ['looks', look] : ['looks'] }],
    'plain'
  );
}

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
        ? [{ op: 'set' as const, table: 'layers' as const, id, path: ['looks', 'disabled'], value: freshLook(layer, 'disabled', 'rest') }]
        : []),
    ];
  });
  return session.edit(
    name.replace(/^\w/, (letter) => letter.toUpperCase()),
    operations,
    'plain'
  );
}

const nameOf = (session: EditorSession, ids: readonly string[], otherwise: string): string =>
  (ids.length === 1 && session.piece.layers.get(ids[0]!)?.name) || otherwise;

/** Puts the selection into a new part; the placement that stands for it is selected. */
export function makePartOfSelection(session: EditorSession): void {
  const { sceneId, selection } = session;
  if (!sceneId) return;
  const made = makePart(session.plain, sceneId, selection, nameOf(session, selection, 'Part 1'), newId);
  if (made && session.edit(`Make a part of ${named(session, selection)}`, made.operations, 'plain')) session.select([made.placement!]);
}

/** Puts the selection into a new sheet that frames carry: those chosen in the shelf where there are several, else all. */
export function carryAcross(session: EditorSession): void {
  const { sceneId, selection, frameSelection, program } = session;
  if (!sceneId) return;
  const frames = frameSelection.length > 1 ? frameSelection : program.frames;
  const made = makeSheet(session.plain, sceneId, selection, nameOf(session, selection, 'Sheet 1'), frames, 'over', newId);
  if (made && session.edit(`Carry ${named(session, selection)} across ${frames.length} frames`, made.operations, 'plain')) session.select([]);
}

export function takeApartSelected(session: EditorSession): void {
  const groups: string[] = [];
  let operations: Operation[] = [];
  for (const id of session.selection) {
    const apart = takeApart(session.plain, id, newId);
    operations = [...operations, ...apart.operations];
    if (apart.group) groups.push(apart.group);
  }
  if (session.edit(`Take ${named(session, session.selection)} apart`, operations, 'plain')) session.select(groups);
}

/** Puts a placement of a part into the open scene. */
export function placeHere(session: EditorSession, part: string, middle?: { x: number; y: number }): void {
  if (!session.sceneId) return;
  const id = newId();
  const operations = placePart(session.piece, session.sceneId, part, id, middle);
  if (operations.length === 0) return session.notify('A part cannot be placed inside itself.');
  if (session.edit(`Place ${session.piece.scenes.get(part)?.name}`, operations)) session.select([id]);
}

/** Goes into the part that the selected placement shows. */
export function goInside(session: EditorSession): void {
  const part = session.piece.layers.get(session.selection[0] ?? '')?.part;
  if (part !== undefined && session.piece.scenes.has(part)) session.enterScene(part);
}

const palette = ['#0b7a75', '#b23a26', '#6d3a7c', '#1f5f9e', '#8f5c00', '#4a6b1f'];

/** The kinds that most pieces come to need, until the piece has kinds of its own. */
export const usualKinds = [
  { name: 'success', color: '#0b7a75', mark: '✓' },
  { name: 'error', color: '#b23a26', mark: '✕' },
  { name: 'menu', color: '#6d3a7c', mark: '☰' },
] as const;

/** Gives frames a kind by its name, made where it is new; null takes the kind away. */
export function setKind(session: EditorSession, frames: readonly string[], name: string | null): void {
  const { head } = session.piece;
  const known = Object.entries(head.kinds ?? {}).find(([, kind]) => kind.name === name)?.[0];
  const id = name === null ? undefined : (known ?? newId());
  const usual = usualKinds.find((kind) => kind.name === name);
  const fresh = usual ?? { name, color: palette[Object.keys(head.kinds ?? {}).length % palette.length], mark: name?.charAt(0).toUpperCase() };
  session.edit(name === null ? 'No kind' : `Mark as ${name}`, [
    ...(id !== undefined && known === undefined
      ? [{ op: 'set' as const, table: 'piece' as const, id: head.id, path: ['kinds', id], value: { ...fresh } }]
      : []),
    ...frames.map((frame): Operation => ({ op: 'set', table: 'scenes', id: frame, path: ['kind'], ...(id !== undefined && { value: id }) })),
  ]);
}

/** Puts frames into a bundle by its name, made where it is new; null takes them out. */
export function setBundle(session: EditorSession, frames: readonly string[], name: string | null): void {
  const bundle = name === null ? null : bundleNamed(session, name);
  session.edit(name === null ? 'Out of the bundle' : `Bundle as ${name}`, [
    ...(bundle?.operations ?? []),
    ...frames.map((frame): Operation => ({ op: 'set', table: 'scenes', id: frame, path: ['bundle'], ...(bundle && { value: bundle.id }) })),
  ]);
}

/** A bundle by its name, with what makes it where there is none yet. */
export function bundleNamed(session: EditorSession, name: string): { id: string; operations: Operation[] } {
  const { head } = session.piece;
  const bundles = Object.entries(head.bundles ?? {});
  const known = bundles.find(([, bundle]) => bundle.name === name)?.[0];
  if (known !== undefined) return { id: known, operations: [] };
  const id = newId();
  const last = bundles
    .map(([, bundle]) => bundle.order)
    .sort()
    .at(-1);
  const value = { name: name.slice(0, 120), order: keyBetween(last ?? null, null) };
  return { id, operations: [{ op: 'set', table: 'piece', id: head.id, path: ['bundles', id], value }] };
}

/** Makes layers a choice; those without a selected look get one, from their hover look where they have it. */
export function choiceOperations(session: EditorSession, ids: readonly string[], again: 'stays' | 'unselects', first: boolean): Operation[] {
  const { sceneId, piece } = session;
  if (!sceneId) return [];
  const looks = ids.flatMap((id): Operation[] => {
    const layer = piece.layers.get(id);
    if (!layer || layer.looks?.selected) return [];
    const value = layer.looks?.hover ?? freshLook(layer, 'selected', 'rest');
    return [{ op: 'set', table: 'layers', id, path: ['looks', 'selected'], value }];
  });
  return [...makeChoice(piece, sceneId, ids, { name: 'Choice', again, first, variable: true }, newId), ...looks];
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

/** Gives all of the selection the size of the one selected first. */
export function sameSize(session: EditorSession, side: 'width' | 'height' | 'both'): void {
  const { sceneId, selection } = session;
  const first = session.scene?.byId.get(selection[0] ?? '')?.box;
  if (!sceneId || !first) return;
  const operations = selection.slice(1).flatMap((id) => {
    const box = session.scene!.byId.get(id)!.box;
    const to = { ...box, ...(side !== 'height' && { width: first.width }), ...(side !== 'width' && { height: first.height }) };
    return setBox(session.settled, sceneId, id, to);
  });
  session.edit('Same size', operations);
}

/** Brings files into the open scene as layers: pictures, videos and sounds. */
export function bringInHere(session: EditorSession, taken: readonly BroughtIn[]): void {
  if (!session.sceneId || taken.length === 0) return;
  const { operations, ids } = bringInLayers(session.piece, session.sceneId, taken, newId);
  if (session.edit(taken.length === 1 ? `Bring in ${taken[0]!.file}` : `Bring in ${taken.length} files`, operations)) session.select(ids);
}

/** Pins layers to the edges of the scene that they are nearest to; pinned ones are let go. */
export function stayPut(session: EditorSession): void {
  const { scene, selection } = session;
  if (!scene) return;
  const pinned = selection.every((id) => session.piece.layers.get(id)?.pin);
  const operations = selection.flatMap((id): Operation[] => {
    const box = scene.byId.get(id)?.box;
    if (!box) return [];
    if (pinned) return [{ op: 'set', table: 'layers', id, path: ['pin'] }];
    return [{ op: 'set', table: 'layers', id, path: ['pin'], value: nearestEdges(box, scene.scene) }];
  });
  session.edit(pinned ? 'Scroll along' : 'Stay put', operations, 'plain');
}

/** One edge for what lies along it, two for what stands in a corner. */
function nearestEdges(box: Rect, { width, height }: { width: number; height: number }): string[] {
  const vertical = box.y + box.height / 2 < height / 2 ? 'top' : 'bottom';
  if (box.width > width / 2) return [vertical];
  return [vertical, box.x + box.width / 2 < width / 2 ? 'left' : 'right'];
}

/** Hides layers while the scene is scrolled down and brings them back while it is scrolled up; bars go off over their nearest edge. */
export function slipAway(session: EditorSession): void {
  const { scene, sceneId, selection } = session;
  if (!scene || !sceneId) return;
  const steps = (away: boolean) =>
    selection.flatMap((id, i): Step[] => {
      const box = scene.byId.get(id)?.box;
      const layer = session.piece.layers.get(id);
      if (!box || !layer) return [];
      const isTop = box.y + box.height / 2 < scene.scene.height / 2;
      const y = away ? (isTop ? layer.pose.y - box.y - box.height - 8 : layer.pose.y - box.y + scene.scene.height + 8) : layer.pose.y;
      const move: Step = { do: 'tween', layer: id, property: 'y', value: String(Math.round(y)), timing: { ms: 250, easing: 'ease-in-out' } };
      return [i === 0 ? move : { ...move, with: true }];
    });
  const lines: LineThread[] = (['down', 'up'] as const).map((direction) => ({
    cue: { type: 'scroll', direction, by: 20 },
    branches: [{ steps: steps(direction === 'down') }],
  }));
  const swipes: LineThread[] =
    scene.scene.contentHeight === undefined ? lines.map((line, i) => ({ ...line, cue: { type: 'swipe', direction: i === 0 ? 'up' : 'down' } })) : [];
  session.edit('Slip away while scrolling', addThreads(session.piece, 'scene', sceneId, [...lines, ...swipes], newId), 'plain');
}

/** Moves the selection as a whole into the scene, by the shortest way, with the margin that it had outside. */
export function moveIntoView(session: EditorSession): void {
  const { scene, selection } = session;
  const around = union(selection.flatMap((id) => scene?.byId.get(id)?.box ?? []));
  if (!scene || !around) return;
  const along = (at: number, size: number, room: number) =>
    at < 0 ? -at + Math.min(20, Math.max(0, -at - size)) : at + size > room ? room - at - size : 0;
  const dx = along(around.x, around.width, scene.scene.width);
  const dy = along(around.y, around.height, scene.scene.height);
  session.edit('Move into view', moveLayers(session.settled.piece, selection, dx, dy));
}

/** Makes painted layers see-through with an outline of the colour they were filled with. */
export function outlineOnly(session: EditorSession): void {
  const operations = session.selection.flatMap((id): Operation[] => {
    const layer = session.scene?.byId.get(id)?.layer;
    if (!layer || (layer.type !== 'box' && layer.type !== 'oval')) return [];
    const color = layer.style.fill?.slice(0, 7) ?? layer.style.line?.color ?? '#26232c';
    return [
      { op: 'set', table: 'layers', id, path: ['style', 'fill'], value: '#ffffff00' },
      { op: 'set', table: 'layers', id, path: ['style', 'line'], value: { color, width: layer.style.line?.width || 3 } },
    ];
  });
  session.edit('Outline only', operations);
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

/** Puts a placement into a sheet that all frames carry (or those chosen in the shelf): it is on every page at once. */
export function placeEverywhere(session: EditorSession, starter: Starter): void {
  if (!session.sceneId) return;
  const { operations, placement } = insertStarter(session.plain.piece, starter, session.sceneId, newId, { x: 60, y: 44 });
  if (!placement || !session.edit(`Place ${starter.name}`, operations, 'plain')) return;
  session.select([placement]);
  carryAcross(session);
}

/** Layers as the cue sheet lists them: frontmost first, what is in a group under it. */
export function sheetOrder(items: readonly Item[]): readonly { readonly item: Item; readonly depth: number }[] {
  const found: { item: Item; depth: number }[] = [];
  const add = (list: readonly Item[], depth: number) => {
    for (const item of [...list].reverse()) {
      found.push({ item, depth });
      add(item.children, depth + 1);
    }
  };
  add(
    items.filter((item) => item.parent === null),
    0
  );
  return found;
}

/** Selects the layer next to the selected one in the cue sheet, or the first. */
export function selectBeside(session: EditorSession, by: 1 | -1): void {
  const ids = sheetOrder(session.scene?.items ?? []).map(({ item }) => item.layer.id);
  const at = ids.indexOf(session.selection.at(-1) ?? '');
  const next = ids[at < 0 ? (by > 0 ? 0 : ids.length - 1) : Math.max(0, Math.min(ids.length - 1, at + by))];
  if (next !== undefined) session.select([next]);
}

/** Makes the selection larger or smaller at its right and bottom edges. */
export function stretch(session: EditorSession, dx: number, dy: number): void {
  const { scene, sceneId, selection } = session;
  if (!scene || !sceneId) return;
  const operations = selection.flatMap((id) => {
    const box = scene.byId.get(id)?.box;
    return box ? setBox(session.settled, sceneId, id, { ...box, width: Math.max(1, box.width + dx), height: Math.max(1, box.height + dy) }) : [];
  });
  session.edit(`Stretch ${named(session, selection)}`, operations);
}

/**
 * Puts thread lines that were copied onto every selected layer. What each has to have of its own is seen in what is said: the
 * frames that several now lead to alike. False where the text holds no lines.
 */
export function pasteThreads(session: EditorSession, text: string): boolean {
  const { selection, sceneId } = session;
  if (!sceneId || selection.length === 0 || !text.trim()) return false;
  let operations: Operation[] = [];
  const targets = new Set<string>();
  for (const id of selection) {
    const lines = parseLines(text, scopeOf(session.piece, sceneId, id));
    if (!lines.ok) return false;
    operations = [...operations, ...addThreads(session.piece, 'layer', id, lines.value, newId)];
    for (const line of lines.value)
      for (const step of line.branches.flatMap((branch) => branch.steps))
        if (step.do === 'go' && step.target.to === 'frame' && step.target.frame) targets.add(session.piece.scenes.get(step.target.frame)?.name ?? '');
  }
  if (!session.edit(`Paste threads on ${named(session, selection)}`, operations, 'plain')) return false;
  if (selection.length > 1 && targets.size)
    session.notify(`All ${selection.length} now lead to ${[...targets].join(', ')}. Pair them up (P) to give each its own.`);
  return true;
}

/** Shows another file in a layer's place and size. */
export async function replaceFile(session: EditorSession, id: string, file: File): Promise<void> {
  const { taken, problems } = await uploadPictures(session.id, [file], () => undefined);
  problems.forEach((problem) => session.notify(problem));
  const asset = taken[0]?.asset;
  const layer = session.piece.layers.get(id);
  if (!asset || !layer) return;
  const wanted = layer.type === 'picture' ? 'image/' : layer.type === 'video' ? 'video/' : 'audio/';
  if (!asset.mediaType.startsWith(wanted)) return session.notify(`${file.name} is ${asset.mediaType}, which a ${layer.type} layer cannot show.`);
  session.edit(`Replace ${layer.name}`, [
    ...(session.piece.assets.has(asset.id) ? [] : [{ op: 'put' as const, table: 'assets' as const, value: asset }]),
    { op: 'set', table: 'layers', id, path: ['asset'], value: asset.id },
  ]);
}

/** Draws the shapes of an SVG file into the open scene, as one group in its middle. */
export function drawHere(session: EditorSession, file: string, svg: string): void {
  const { sceneId, scene } = session;
  const drawing = svg.length > 2_000_000 ? null : shapesOf(svg);
  if (!sceneId || !scene) return;
  if (!drawing || drawing.shapes.length === 0) return session.notify(`${file} holds no shapes that can be layers.`);
  const scale = Math.min(1, scene.scene.width / drawing.width, scene.scene.height / drawing.height);
  const group = newId();
  const name = takeName(new Set(scene.items.map((item) => item.layer.name)), file.replace(/\.svg$/i, '') || 'Drawing');
  const at = (n: number) => Math.round(n * scale * 100) / 100;
  const pose = {
    x: Math.round((scene.scene.width - at(drawing.width)) / 2),
    y: Math.round((Math.min(scene.scene.height, 844) - at(drawing.height)) / 2),
    width: at(drawing.width),
    height: at(drawing.height),
  };
  const keys = keysBetween(null, null, drawing.shapes.length);
  const shapes = drawing.shapes.map((shape, i): Layer => ({
    id: newId(),
    scene: sceneId,
    parent: group,
    order: keys[i]!,
    name: shape.name.slice(0, 120),
    type: shape.type,
    pose: { x: at(shape.x), y: at(shape.y), width: Math.max(1, at(shape.width)), height: Math.max(1, at(shape.height)) },
    style: shape.style,
    ...(shape.path && { path: shape.path }),
    ...(shape.text !== undefined && { text: escapeText(shape.text), letters: { size: Math.max(1, at(shape.size ?? 16)) } }),
  }));
  const made = session.edit(`Draw ${file}`, [
    newLayer(session.piece, { id: group, scene: sceneId, name, type: 'group', pose, style: {} }),
    ...shapes.map((value): Operation => ({ op: 'put', table: 'layers', value })),
  ]);
  if (!made) return;
  session.select([group]);
  if (drawing.left.length) session.notify(`${file} came in as layers without its ${drawing.left.join(' and ')}.`);
}

/** A layer's text as people write it, with the names of what stands in its braces. */
export const writtenText = (session: EditorSession, layer: Layer): string =>
  layer.text === undefined ? '' : displayText(layer.text, expressionScope(session.piece, layer.scene));

/** Gives a layer the text that was written. A name in braces that is not there can be made a variable from what is said. */
export function writeText(session: EditorSession, layer: Layer, written: string): void {
  const { text, faults } = storeText(written, expressionScope(session.piece, layer.scene));
  const wanted = text === '' && layer.type !== 'text' ? undefined : text;
  setLayer(session, [layer.id], `Type in ${layer.name}`, ['text'], wanted);
  const [bad] = faults;
  if (!bad) return;
  const name = bad.written.trim();
  const isName = bad.fault.code === 'unknown-name' && /^\p{L}[\p{L}\p{N} _]*$/u.test(name);
  if (!isName) return session.notify(`{${bad.written}} cannot be read. ${bad.fault.sentence}`);
  session.notify(`Nothing is called “${name}” yet.`, {
    label: 'Make the variable',
    run: () => {
      session.edit(`New variable ${name}`, newVariable(session.piece, newId(), { name, type: 'number', initial: 0 }), 'plain');
      writeText(session, layer, written);
    },
  });
}
