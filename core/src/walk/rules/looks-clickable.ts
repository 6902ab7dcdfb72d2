import { waitsFor } from '../../vocabulary/cues/all.ts';
import { layerIdsOf, threadIdsOf, type Layer, type Piece, type Thread } from '../../piece/piece.ts';
import type { Item, Program, SceneProgram } from '../../program/program.ts';
import { outward } from '../../program/items.ts';
import { onceFor } from '../../once.ts';
import { isWithin } from '../../program/geometry.ts';
import { asBefore, inEach } from '../again.ts';
import { comingUp, isThere } from '../coming-up.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { inScene, inScenes, placementsIn, seenParts, seenScenes } from '../per-scene.ts';

export const looksClickable: Rule = {
  id: 'looks-clickable',
  words: 'not wired',
  meaning: 'a hit area, a layer with a hover or press look, a copy of a wired layer, or one made like wired ones beside it, that has no thread',
  spares: 'what is in something wired or lies under it, can be dragged or dropped on, is a field or one of a choice, or keeps presses off',
  check: ({ program, exploration }) => {
    if (hears(program.threads)) return [];
    const up = comingUp(program, exploration);
    const says = (scene: SceneProgram) => unwiredOn(program, scene, up);
    return [...inScenes(program, 'looks-clickable', seenScenes(program), [up], says, isAlone), ...unwiredParts(program, up)];
  },
};

/** Whether a press that no layer answers is answered by the scene or the piece. */
const hears = (threads: readonly Thread[]) => threads.some(({ cue }) => PRESSES.some((type) => waitsFor(cue, type)));

const PRESSES = ['click', 'press', 'release'] as const;

/** What it says of a scene depends on nothing else than the scene and the parts in it. */
const isAlone = (scene: SceneProgram): boolean => copiesIn(scene).length === 0;

const unwiredOn = (program: Program, scene: SceneProgram, up: ReadonlySet<string>): readonly Finding[] =>
  hears(scene.threads) ? [] : isAlone(scene) ? unwired(program, scene, up) : unwiredIn(program, scene, up);

function unwiredIn(program: Program, scene: SceneProgram, up: ReadonlySet<string>): readonly Finding[] {
  const sources = copiesIn(scene).flatMap(({ layer }) => {
    const source = sourceOf(program.piece, layer);
    return source ? [source, isClickable(program.piece, source)] : [];
  });
  return inScene(program, 'looks-clickable', scene, [up, ...sources], () => unwired(program, scene, up));
}

const unwired = (program: Program, scene: SceneProgram, up: ReadonlySet<string>): Finding[] =>
  likelyIn(scene).flatMap((item) => {
    const why = isThere(item, up) && !isWired(program, item) ? reasonWhy(program.piece, scene, item) : null;
    const { id, name } = item.layer;
    return why === null || liesUnderWired(scene, item, up)
      ? []
      : [finding('looks-clickable', 'look', { scene: scene.scene.id, layer: id }, `${name} looks clickable`, why)];
  });

/** The layer that one is a copy of, where it is there. */
const sourceOf = (piece: Piece, { copyOf }: Layer): Layer | undefined => (copyOf === undefined ? undefined : piece.layers.get(copyOf));

/** The layers of a scene that can seem to ask for a thread at all. */
const likelyIn = onceFor((scene: SceneProgram): readonly Item[] => scene.items.filter((item) => mayAsk(scene, item)));

const copiesIn = onceFor((scene: SceneProgram): readonly Item[] => likelyIn(scene).filter(({ layer }) => layer.copyOf !== undefined));

/** It has the looks of a button, comes from another layer, or is made like one that has a thread. */
function mayAsk(scene: SceneProgram, { layer, threads }: Item): boolean {
  if (threads.length > 0) return false;
  if (layer.type === 'hit' || layer.looks?.hover || layer.looks?.press || layer.copyOf !== undefined) return true;
  return !!layer.text && scene.items.some((other) => other.threads.length > 0 && madeAlike(other.layer, layer));
}

/** In parts: unless the part, or some placement of it by itself or by what is around it, answers the press. */
function unwiredParts(program: Program, up: ReadonlySet<string>): Finding[] {
  const seen = seenParts(program, up);
  if (seen.size === 0) return [];
  const answering = inEach(program, 'answered parts', answeredIn);
  const scenes = seenScenes(program);
  const answered = asBefore(
    program,
    'answered parts',
    [answering, scenes, seen],
    () => new Set([...scenes, ...seen.keys()].flatMap((id) => answering.get(id)!.split(' ')))
  );
  return [...seen.keys()].flatMap((id) =>
    answered.has(id) || hears(program.scenes.get(id)!.threads) ? [] : unwiredIn(program, program.scenes.get(id)!, up)
  );
}

/** The parts whose placement in a scene, or something around it, answers a press. */
const answeredIn = onceFor((scene: SceneProgram): string =>
  placementsIn(scene)
    .filter((item) => hears(scene.threads) || outward(item).some((outer) => outer.threads.length > 0))
    .map(({ layer }) => layer.part!)
    .join(' ')
);

/** It, a group around it or something in it has a thread; switched off counts, since somebody meant it. */
const isWired = (program: Program, item: Item): boolean => outward(item).some((outer) => outer.threads.length > 0) || isWiredInside(program, item);

/** All of it lies under something that answers a press: what is drawn, with a hit area over it. */
const liesUnderWired = ({ items }: SceneProgram, item: Item, up: ReadonlySet<string>): boolean =>
  items.slice(items.indexOf(item) + 1).some((over) => hears(over.threads) && isThere(over, up) && isWithin(item.box, over.box));

const isWiredInside = (program: Program, { layer, children }: Item): boolean => {
  const part = layer.part === undefined ? undefined : program.scenes.get(layer.part);
  return (
    (part !== undefined && (part.threads.length > 0 || part.items.some((item) => item.threads.length > 0))) ||
    children.some((child) => child.threads.length > 0 || isWiredInside(program, child))
  );
};

/** Why a layer without a thread seems to ask for one; null where it does not. */
export function reasonWhy(piece: Piece, scene: SceneProgram, item: Item): string | null {
  const { layer } = item;
  if (layer.type === 'field' || layer.drag || layer.choice !== undefined || layer.hit?.how === 'block' || isDroppedOn(scene, layer.id)) return null;
  if (layer.type === 'hit') return 'It is a hit area, and nothing happens when it is pressed.';
  if (layer.looks?.hover || layer.looks?.press) return 'It has a look of its own for the pointer, and nothing happens when it is pressed.';
  const source = sourceOf(piece, layer);
  if (source && isClickable(piece, source)) return `It is a copy of ${source.name}, which is wired.`;
  if (layer.type === 'text' || layer.type === 'picture' || layer.type === 'group') return null;
  if (!layer.text) return null;
  const like = scene.items.find((other) => other !== item && madeAlike(other.layer, layer) && isClickable(piece, other.layer));
  return like ? `It is made like ${like.layer.name}, which is wired.` : null;
}

/** Something in the scene can be dropped on it. */
const isDroppedOn = (scene: SceneProgram, id: string) =>
  scene.items.some(({ threads }) => threads.some(({ cue }) => cue.type === 'drop' && cue.on === id));

const isClickable = (piece: Piece, layer: Layer) =>
  layerIdsOf(piece, layer.scene).has(layer.id) && [...threadIdsOf(piece, layer.id)].some((id) => piece.threads.get(id)?.cue.type === 'click');

/** Same type, size and style, and both with a text: what a row of buttons has in common. */
const madeAlike = (a: Layer, b: Layer) =>
  !!a.text &&
  !!b.text &&
  a.type === b.type &&
  a.parent === b.parent &&
  a.pose.width === b.pose.width &&
  a.pose.height === b.pose.height &&
  JSON.stringify(a.style) === JSON.stringify(b.style);
