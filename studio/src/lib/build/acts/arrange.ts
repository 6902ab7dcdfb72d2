import {
  addThreads,
  alignLayers,
  groupLayers,
  moveLayers,
  removeLayers,
  restack,
  setBox,
  spreadLayers,
  ungroupLayers,
  union,
  type Edge,
  type LineThread,
  type Operation,
  type Rect,
  type Step,
  type Way,
} from '@zany/core';
import { newId } from '$lib/client/ids';
import type { EditorSession } from '$lib/client/session.svelte';
import { named } from './names';

/** Where layers are, in what order, and what stays where it is. Each is one named edit. */

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

/** Locks or hides the selection, or where all of it is so, undoes that. */
export function toggleAll(session: EditorSession, what: 'locked' | 'hidden', on: string, off: string): void {
  const { selection } = session;
  const isOn = selection.every((id) => session.piece.layers.get(id)?.[what]);
  const operations = selection.map((id): Operation => ({ op: 'set', table: 'layers', id, path: [what], ...(!isOn && { value: true }) }));
  session.edit(`${isOn ? off : on} ${named(session, selection)}`, operations);
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

/**
 * Hides layers while the scene is scrolled down and brings them back while it is scrolled up; bars go off over their nearest edge. Of
 * several only the bars along the top do, if there are any. What scrolls along as yet stays put from now on.
 */
export function slipAway(session: EditorSession): void {
  const { scene, sceneId, selection } = session;
  if (!scene || !sceneId) return;
  const edgesOf = (id: string) => {
    const box = scene.byId.get(id)?.box;
    return box ? nearestEdges(box, scene.scene) : [];
  };
  const top = selection.filter((id) => edgesOf(id).join() === 'top');
  const slipping = top.length ? top : selection;
  const isScrolled = scene.scene.contentHeight !== undefined;
  const pins = selection.flatMap((id): Operation[] =>
    !isScrolled || session.piece.layers.get(id)?.pin ? [] : [{ op: 'set', table: 'layers', id, path: ['pin'], value: edgesOf(id) }]
  );
  const steps = (away: boolean) =>
    slipping.flatMap((id, i): Step[] => {
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
  const swipes: LineThread[] = isScrolled ? [] : lines.map((line, i) => ({ ...line, cue: { type: 'swipe', direction: i === 0 ? 'up' : 'down' } }));
  session.edit('Slip away while scrolling', [...pins, ...addThreads(session.piece, 'scene', sceneId, [...lines, ...swipes], newId)], 'plain');
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
