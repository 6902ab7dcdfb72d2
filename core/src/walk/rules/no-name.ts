import { onceFor } from '../../once.ts';
import type { Layer } from '../../piece/schema.ts';
import type { Item, Program, SceneProgram } from '../../program/program.ts';
import { comingUp, isThere } from '../coming-up.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { inScene, inScenes, seenParts, seenScenes } from '../per-scene.ts';

export const noName: Rule = {
  id: 'no-name',
  words: 'no name',
  meaning:
    'something to press, to fill in or to play that has no name to be read out: no accessible name, no text in it, and only the name that it was made with',
  spares: 'what is read on it or in it, and what nobody can press, fill in or play',
  check: ({ program, exploration }) => {
    const up = comingUp(program, exploration);
    const says = (scene: SceneProgram) => namelessIn(program, scene, up);
    return [
      ...inScenes(program, 'no-name', seenScenes(program), [up], says),
      ...[...seenParts(program, up).keys()].flatMap((id) => inScene(program, 'no-name', program.scenes.get(id)!, [up], says)),
    ];
  },
};

const namelessIn = (program: Program, scene: SceneProgram, up: ReadonlySet<string>): Finding[] =>
  askedIn(scene)
    .filter((item) => isThere(item, up) && isNameless(program, item))
    .map(({ layer }) =>
      finding(
        'no-name',
        'look',
        { scene: scene.scene.id, layer: layer.id },
        `${layer.name} has no name`,
        `Whoever hears the piece is told “${layer.name}”, and not what it is for.`
      )
    );

/** What a screen reader names. */
const askedIn = onceFor(({ items }: SceneProgram): readonly Item[] =>
  items.filter(
    ({ layer, threads }) =>
      layer.role !== 'none' &&
      (layer.type === 'field' ||
        layer.type === 'video' ||
        layer.role === 'image' ||
        threads.some(({ enabled, cue }) => enabled && cue.type === 'click'))
  )
);

/** What a layer is called that nobody gave a name: what kind of thing it is, with a number, or the file it came from. */
const MADE =
  /^(box|oval|line|path|text|picture|video|sound|field|group|placement|hit( area)?|layer|rectangle|rect|ellipse|circle|image|shape|vector|button|copy|untitled|ohne titel|bild)?[ _#-]*\d*( copy( \d+)?)?$/i;
const FILE = /\.(png|jpe?g|webp|gif|svg|mp4|webm|ogg|mp3|wav)$/i;

function isNameless(program: Program, item: Item): boolean {
  const { layer } = item;
  if (layer.label?.trim()) return false;
  if (layer.type !== 'field' && hasText(program, item)) return false;
  const name = layer.name.trim();
  return MADE.test(name) || FILE.test(name) || !/\p{L}/u.test(name);
}

function hasText(program: Program, { layer, children }: Item): boolean {
  if (isRead(layer) || Object.values(layer.fills ?? {}).some(({ text }) => text?.trim())) return true;
  const part = layer.part === undefined ? undefined : program.scenes.get(layer.part);
  return children.some((child) => hasText(program, child)) || (part?.items.some((item) => hasText(program, item)) ?? false);
}

const isRead = ({ text, hidden }: Layer) => !hidden && !!text?.trim();
