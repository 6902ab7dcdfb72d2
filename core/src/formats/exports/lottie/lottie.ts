import { expand } from '../../../program/expand.ts';
import type { Node } from '../../../program/node.ts';
import { compile } from '../../../program/compile.ts';
import { framesOf, scenesOf, type Piece, type Scene } from '../../../piece/piece.ts';
import { threadsAt } from '../../../program/node.ts';
import { layerKind } from '../../../vocabulary/layers/all.ts';
import { defineExport } from '../define.ts';
import { zipped } from '../folder.ts';
import { takeFileName } from '../names.ts';
import { animationOf } from './animation.ts';

/** Timeline frames of one animation at most: each is looked at by itself. */
const MOST = 3000;

export const lottie = defineExport({
  kind: 'lottie',
  group: 'build',
  label: 'Timelines as Lottie animations',
  act: 'Save the animations',
  ending: '.lottie.zip',
  mediaType: 'application/zip',
  meaning: 'a JSON file for each timeline, as the Lottie Animation Community writes them: shapes, words, pictures, labels as markers',
  holdsPictures: true,
  write: (piece, assets, parts) => {
    const program = compile(piece);
    const taken = new Set<string>();
    const picture = (id: string) => {
      const [asset, bytes] = [piece.assets.get(id), assets.get(id)];
      if (!asset || !bytes) return null;
      return { url: `data:${asset.mediaType};base64,${parts.base64(bytes)}`, width: asset.width, height: asset.height };
    };
    return zipped(
      Object.fromEntries(
        timed(piece).map((scene) => [`${takeFileName(taken, scene.name)}.json`, JSON.stringify(animationOf(program, scene, { picture }))])
      )
    );
  },
  omits: (piece) => omitted(piece),
});

const withTimeline = (piece: Piece): Scene[] =>
  [...framesOf(piece), ...scenesOf(piece, 'sheet'), ...scenesOf(piece, 'part')].filter(({ timeline }) => timeline !== undefined);

const timed = (piece: Piece): Scene[] => withTimeline(piece).filter(({ timeline }) => timeline!.length <= MOST);

/** What the animations do not say, by what is in the scenes. */
function omitted(piece: Piece): string[] {
  const scenes = withTimeline(piece);
  if (scenes.length === 0) return ['anything: it has no timeline'];
  const program = compile(piece);
  const long = scenes.filter(({ timeline }) => timeline!.length > MOST).map(({ name }) => `${name}: it has more than ${MOST} timeline frames`);
  const nodes = timed(piece).flatMap((scene) => expand(program, program.scenes.get(scene.id)!).nodes.map((node) => ({ scene, node })));
  const each = nodes.flatMap(({ scene, node }) => leftOf(scene, node).map((what) => `${scene.name}, ${node.layer.name}: ${what}`));
  const all = [
    ...(scenes.some(({ timeline }) => Object.values(timeline!.labels ?? {}).some(({ ending }) => ending.do !== 'go on'))
      ? ['what sections do when they end: labels are markers']
      : []),
    ...(nodes.some(({ node }) => threadsAt(node).length > 0) ? ['what happens when something is pressed'] : []),
    ...(nodes.some(({ node }) => node.layer.text)
      ? ['where long lines break: only breaks that are written are kept; typefaces are named, not in the files']
      : []),
  ];
  return [...long, ...each, ...all];
}

function leftOf(scene: Scene, { layer, inside }: Node): string[] {
  const { draws } = layerKind(layer);
  const tracked = new Set(
    Object.values(scene.timeline?.tracks ?? {})
      .filter((track) => track.layer === layer.id)
      .map(({ property }) => property)
  );
  const isHolder = inside !== null || draws === 'layers';
  return [
    ...(draws === 'film' || draws === 'sound' ? ['what it plays'] : []),
    ...(draws === 'field' ? ['what is filled in'] : []),
    ...(layer.style.shadow ? ['its shadow'] : []),
    ...(isHolder && (tracked.has('opacity') || (layer.style.opacity ?? 1) < 1)
      ? ['that it is see-through as a whole: each layer in it is by itself']
      : []),
    ...((layer.clip || layer.scroll) && (tracked.has('width') || tracked.has('height')) ? ['that what it is cut to changes its size'] : []),
    ...(draws === 'picture' && (layer.fit === 'cover' || (layer.style.corner ?? 0) > 0) ? ['how its picture is cut'] : []),
  ];
}
