import { Beside, layersUnder, type Item, type Layer } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';

/** What is selected next. */

/** Selects everything in the frame that is not locked. */
export function selectAll(session: EditorSession): void {
  if (session.sceneId)
    session.select(
      layersUnder(session.piece, session.sceneId, null)
        .filter((layer) => !layer.locked && !layer.hidden)
        .map((layer) => layer.id)
    );
}

interface SheetEntry {
  readonly item: Item;
  readonly depth: number;
}

const entries = new Beside<Item, SheetEntry>();

/** The same object for the same item, so that its row is left alone. */
function entryOf(item: Item, depth: number): SheetEntry {
  const known = entries.get(item);
  if (known?.depth === depth) return known;
  const made = { item, depth };
  entries.set(item, made);
  return made;
}

/** Layers as the cue sheet lists them: frontmost first, what is in a group under it. */
export function sheetOrder(items: readonly Item[]): readonly SheetEntry[] {
  const found: SheetEntry[] = [];
  const add = (list: readonly Item[], depth: number) => {
    for (const item of [...list].reverse()) {
      found.push(entryOf(item, depth));
      add(item.children, depth + 1);
    }
  };
  add(
    items.filter((item) => item.parent === null),
    0
  );
  return found;
}

/** The layers of items as they stand on the page: a group's pose is the box around what is in it. */
export const boxed = (items: readonly Item[]): Layer[] => items.map((item) => ({ ...item.layer, pose: { ...item.layer.pose, ...item.box } }));

/** Selects the layer next to the selected one in the cue sheet, or the first. */
export function selectBeside(session: EditorSession, by: 1 | -1): void {
  const ids = sheetOrder(session.scene?.items ?? []).map(({ item }) => item.layer.id);
  const at = ids.indexOf(session.selection.at(-1) ?? '');
  const next = ids[at < 0 ? (by > 0 ? 0 : ids.length - 1) : Math.max(0, Math.min(ids.length - 1, at + by))];
  if (next !== undefined) session.select([next]);
}
