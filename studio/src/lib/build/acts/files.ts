import {
  bringInLayers,
  cutText,
  escapeText,
  framesByName,
  framesOf,
  framesPerSecond,
  hitAreas,
  keysBetween,
  MOST_FRAMES,
  MOST_NAME,
  newLayer,
  setKey,
  takeName,
  layerKind,
  timelineOperations,
  type Asset,
  type BroughtIn,
  type Layer,
  type Operation,
  type Timeline,
} from '@zany/core';
import { newId } from '$lib/client/ids';
import { shapesOf, type Shape } from '$lib/client/svg-layers';
import { uploadPictures } from '$lib/client/pictures';
import type { EditorSession } from '$lib/client/session.svelte';

/** Files that come in as layers. Each is one named edit. */

/** Brings files into the open scene as layers: pictures, videos and sounds. */
export function bringInHere(session: EditorSession, taken: readonly BroughtIn[]): void {
  if (!session.sceneId || taken.length === 0) return;
  const { operations, ids } = bringInLayers(session.piece, session.sceneId, taken, newId);
  if (session.edit(taken.length === 1 ? `Bring in ${taken[0]!.file}` : `Bring in ${taken.length} files`, operations)) session.select(ids);
}

/** Shows another file in a layer's place and size. */
export async function replaceFile(session: EditorSession, id: string, file: File): Promise<void> {
  const { taken, problems } = await uploadPictures(session.id, [file], () => undefined);
  session.refuse(problems);
  const asset = taken[0]?.asset;
  const layer = session.piece.layers.get(id);
  if (!asset || !layer) return;
  const wanted = layerKind(layer).shows ?? 'no file';
  if (!asset.mediaType.startsWith(wanted)) return session.notify(`${file.name} is ${asset.mediaType}, which a ${layer.type} layer cannot show.`);
  session.edit(`Replace ${layer.name}`, [
    ...(session.piece.assets.has(asset.id) ? [] : [{ op: 'put' as const, table: 'assets' as const, value: asset }]),
    { op: 'set', table: 'layers', id, path: ['asset'], value: asset.id },
  ]);
}

/** Draws the shapes of an SVG file into the open scene, as one group in its middle. */
export async function drawHere(session: EditorSession, file: string, svg: string): Promise<void> {
  const { sceneId, scene } = session;
  const drawing = svg.length > 2_000_000 ? null : shapesOf(svg);
  if (!sceneId || !scene) return;
  if (!drawing || drawing.shapes.length === 0) return session.notify(`${file} holds no shapes that can be layers.`);
  const assets = await picturesOf(session, drawing.shapes);
  if (session.sceneId !== sceneId) return session.notify(`${file} was not drawn: another scene was opened meanwhile.`);
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
  const ids = drawing.shapes.map(() => newId());
  const shapes = drawing.shapes.flatMap((shape, i): Layer[] => {
    const asset = assets.get(shape);
    if (shape.type === 'picture' && !asset) return [];
    return [
      {
        id: ids[i]!,
        scene: sceneId,
        parent: group,
        order: keys[i]!,
        name: cutText(shape.name, MOST_NAME),
        type: shape.type,
        pose: { x: at(shape.x), y: at(shape.y), width: Math.max(1, at(shape.width)), height: Math.max(1, at(shape.height)) },
        style: shape.style,
        ...(shape.path && { path: shape.path }),
        ...(shape.text !== undefined && { text: escapeText(shape.text), letters: { size: Math.max(1, at(shape.size ?? 16)) } }),
        ...(asset && { asset: asset.id }),
      },
    ];
  });
  const place = { scene: sceneId, parent: group, after: keys.at(-1)!, title: file, names: new Set(shapes.map((shape) => shape.name)) };
  const box = { x: 0, y: 0, width: pose.width, height: pose.height };
  const areas = hitAreas({ ...place, box }, drawing.links, framesByName(framesOf(session.piece)), newId);
  const fresh = new Map([...assets.values()].filter((asset) => !session.piece.assets.has(asset.id)).map((asset) => [asset.id, asset]));
  const made = session.edit(`Draw ${file}`, [
    ...[...fresh.values()].map((value): Operation => ({ op: 'put', table: 'assets', value })),
    newLayer(session.piece, { id: group, scene: sceneId, name, type: 'group', pose, style: {} }),
    ...shapes.map((value): Operation => ({ op: 'put', table: 'layers', value })),
    ...areas.operations,
    ...timeOf(session, sceneId, drawing.shapes, ids, scale),
  ]);
  if (!made) return;
  session.select([group]);
  session.refuse(areas.left);
  if (drawing.left.length) session.notify(`${file} came in as layers without its ${drawing.left.join(' and ')}.`);
}

/** Keyframes of shapes that move by themselves, in the time that the scene has, or in one of its own. */
function timeOf(session: EditorSession, sceneId: string, shapes: readonly Shape[], ids: readonly string[], scale: number): Operation[] {
  const moving = shapes.flatMap(({ motions = [] }, i) => motions.map((motion) => ({ motion, layer: ids[i]! })));
  if (moving.length === 0) return [];
  const { piece } = session.plain;
  const fps = framesPerSecond({ piece });
  const old = piece.scenes.get(sceneId)?.timeline;
  const at = (seconds: number) => Math.min(MOST_FRAMES - 1, Math.round(seconds * fps));
  const last = Math.max(...moving.flatMap(({ motion }) => motion.keys.map(({ seconds }) => at(seconds))));
  let timeline: Timeline = old ?? { length: 1, ...(moving.some(({ motion }) => motion.goesRound) && { loop: true }) };
  timeline = { ...timeline, length: Math.max(timeline.length, last + 1) };
  for (const { motion, layer } of moving)
    for (const { seconds, value, easing } of motion.keys) {
      const sized = typeof value === 'number' && IN_PX.has(motion.property) ? Math.round(value * scale * 100) / 100 : value;
      timeline = setKey(timeline, newId(), layer, motion.property, { time: at(seconds), value: sized, easing });
    }
  return timelineOperations(piece, sceneId, timeline);
}

/** Properties that are lengths. */
const IN_PX: ReadonlySet<string> = new Set(['x', 'y', 'width', 'height']);

/** Sends what is a picture of itself; what is refused is said. */
async function picturesOf(session: EditorSession, shapes: readonly Shape[]): Promise<Map<Shape, Asset>> {
  const found = new Map<Shape, Asset>();
  const files = new Map<string, Shape>();
  shapes.forEach((shape, i) => shape.svg && files.set(`${cutText(shape.name, 60)} ${i + 1}.svg`, shape));
  if (files.size === 0) return found;
  const sent = [...files].map(([name, shape]) => new File([shape.svg!], name, { type: 'image/svg+xml' }));
  const { taken, problems } = await uploadPictures(session.id, sent, () => undefined);
  session.refuse(problems);
  for (const { file, asset } of taken) found.set(files.get(file)!, asset);
  return found;
}
