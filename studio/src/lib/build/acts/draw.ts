import {
  displayText,
  expressionScope,
  isOutlined,
  layerKind,
  newLayer,
  newVariable,
  storeText,
  type Layer,
  type Operation,
  type Rect,
  restyle,
  wireToStep,
} from '@zany/core';
import { newId } from '$lib/client/ids';
import type { EditorSession } from '$lib/client/session.svelte';
import { freeLayerName } from './names';
import { addressIn } from './wire';

/** Drawing layers and writing in them. Each is one named edit. */

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

/** Puts an address that was copied below what is selected, or in the middle of what there is, as a text that opens it; false for any other text. */
export function addressHere(session: EditorSession, words: string): boolean {
  const address = addressIn(words);
  const scene = session.scene?.scene;
  if (!address || !scene || !session.sceneId) return false;
  const text = words.trim();
  const size = { width: Math.min(scene.width - 32, Math.max(80, text.length * 9)), height: 28 };
  const below = session.selection.flatMap((id) => session.scene?.byId.get(id)?.box ?? []);
  const at = below.length
    ? { x: Math.min(...below.map(({ x }) => x)), y: Math.max(...below.map(({ y, height }) => y + height)) + 12 }
    : { x: (scene.width - size.width) / 2, y: (scene.height - size.height) / 2 };
  const id = newId();
  const layer = {
    id,
    scene: session.sceneId,
    name: freeLayerName(session, 'text'),
    type: 'text' as const,
    pose: rounded({ x: Math.max(0, Math.min(scene.width - size.width, at.x)), y: Math.min(scene.height - size.height, at.y), ...size }),
    style: {},
    text,
  };
  const made = [newLayer(session.piece, layer)];
  const opens = wireToStep(session.piece, id, { do: 'open', address, tab: 'new' }, newId);
  if (session.edit(`Open ${address}`, [...made, ...opens])) session.select([id]);
  return true;
}

const rounded = ({ x, y, width, height }: Rect): Rect => ({
  x: Math.round(x),
  y: Math.round(y),
  width: Math.max(1, Math.round(width)),
  height: Math.max(1, Math.round(height)),
});

/** A shape with a ground of its own, which may have corners and words in it. */
export const isShape = (layer: Layer): boolean => layerKind(layer).draws === 'ground' && !layerKind(layer).isProse;

/** What has a fill. */
export const isPainted = (layer: Layer): boolean => isShape(layer) || (isOutlined(layer) && layerKind(layer).stroke === undefined);

export const setLayer = (session: EditorSession, ids: readonly string[], name: string, path: readonly string[], value: unknown): boolean =>
  session.edit(
    name,
    ids.map((id) => ({ op: 'set', table: 'layers', id, path: [...path], ...(value !== undefined && { value }) }))
  );

/** Changes how the selection looks: at rest, or in the look that is open. */
export function restyleSelected(session: EditorSession, path: Parameters<typeof restyle>[2], value: unknown): boolean {
  const where = session.look === 'rest' ? '' : ` in the ${session.look} look`;
  return session.edit(`Change ${path.at(-1)}${where}`, restyle(session.piece, session.selection, path, value));
}

/** Makes painted layers see-through with an outline of the colour they were filled with. */
export function outlineOnly(session: EditorSession): void {
  const operations = session.selection.flatMap((id): Operation[] => {
    const layer = session.scene?.byId.get(id)?.layer;
    if (!layer || !isShape(layer)) return [];
    const { fill, line } = layer.style;
    const color = (fill?.startsWith('#') ? fill.slice(0, 7) : fill) ?? line?.color ?? '#26232c';
    return [
      { op: 'set', table: 'layers', id, path: ['style', 'fill'], value: '#ffffff00' },
      { op: 'set', table: 'layers', id, path: ['style', 'line'], value: { color, width: line?.width || 3 } },
    ];
  });
  session.edit('Outline only', operations);
}

/** A layer's text as people write it, with the names of what stands in its braces. */
export const writtenText = (session: EditorSession, layer: Layer): string =>
  layer.text === undefined ? '' : displayText(layer.text, expressionScope(session.piece, layer.scene));

/** Gives a layer the text that was written. A name in braces that is not there can be made a variable from what is said. */
export function writeText(session: EditorSession, layer: Layer, written: string): void {
  const { text, faults } = storeText(written, expressionScope(session.piece, layer.scene));
  const wanted = text === '' && !layerKind(layer).isProse ? undefined : text;
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
