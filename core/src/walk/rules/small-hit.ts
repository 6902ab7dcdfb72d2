import { presses } from '../pressed.ts';
import type { Operation } from '../../edit/operation.ts';
import { isWithin } from '../../program/geometry.ts';
import type { Item, Program, SceneProgram } from '../../program/program.ts';
import { count } from '../../words.ts';
import { inScene, inScenes, type Placed, scaleOf, seenParts, seenScenes } from '../per-scene.ts';
import { finding, type Finding, type Rule } from '../finding.ts';
import { routeBy } from '../moment.ts';
import { isVanished } from '../sights.ts';
import type { Small } from '../views.ts';
import { whenOf } from '../while.ts';

/** WCAG 2.2: 2.5.8 (minimum) asks for 24 CSS pixels, 2.5.5 (enhanced) for 44. */
export const LEAST = 24;
export const ENOUGH = 44;

export const smallHit: Rule = {
  id: 'small-hit',
  words: 'hard to hit',
  meaning: 'something to press that is under 24 CSS px (must fix, WCAG 2.2, 2.5.8) or under 44 (worth a look, 2.5.5) in width or height on screen',
  spares: 'what a margin, a scale, the placement or something in it makes large enough, and what has shrunk to nothing',
  check: ({ program, exploration: { views } }) => {
    const drawn = [
      ...inScenes(program, 'small-hit', seenScenes(program), NOWHERE, (scene) => smallIn(program, scene, null)),
      ...[...seenParts(program)].flatMap(([id, placed]) =>
        inScene(program, 'small-hit', program.scenes.get(id)!, [placed.x, placed.y, placesIn(program, placed)], (scene) =>
          smallIn(program, scene, placed)
        )
      ),
    ];
    const known = new Set(drawn.map(({ place }) => place.layer));
    const seen: Finding[] = [];
    for (const small of views.list('smallest')) {
      if (round(Math.min(small.width, small.height)) >= ENOUGH || known.has(small.node.layer.id)) continue;
      seen.push(smallSeen(program, small));
    }
    return [...drawn, ...seen];
  },
};

const NOWHERE: readonly unknown[] = [];

/** What is small only in some state, or as it is placed there. */
function smallSeen(program: Program, { node, width, height, at }: Small): Finding {
  const least = round(Math.min(width, height));
  const { layer } = node;
  const sentence = `${round(width)} × ${round(height)} on ${program.piece.scenes.get(at.run().frame)?.name ?? 'a frame'}${whenOf(at)}; ${asked(least)}`;
  return finding('small-hit', least < LEAST ? 'must' : 'look', { scene: layer.scene, layer: layer.id }, `${layer.name} is hard to hit`, sentence, {
    route: routeBy(at),
  });
}

const asked = (least: number): string => `${least < LEAST ? 'at least 24 is needed, and ' : ''}a thumb wants 44.`;

const smallIn = (program: Program, scene: SceneProgram, placed: Placed | null): Finding[] =>
  scene.items
    .filter((item) => item.shown && isPressed(program, item) && !reachesOut(program, item))
    .flatMap((item) => judge(program, scene, item, placed) ?? []);

/** By a thread of its own, or as a placement by one of its part. */
function isPressed(program: Program, { threads, layer }: Item): boolean {
  const part = layer.part === undefined ? undefined : program.scenes.get(layer.part);
  return [...threads, ...(part?.threads ?? [])].some(presses);
}

/** Whether a placement can be pressed beyond its box, by what is in its part. */
function reachesOut(program: Program, { layer }: Item): boolean {
  const part = program.scenes.get(layer.part ?? '');
  if (!part) return false;
  const whole = { x: 0, y: 0, width: part.scene.width, height: part.scene.height };
  return part.items.some(({ catches, box, shown }) => catches && shown && !isWithin(box, whole));
}

function judge(program: Program, { scene }: SceneProgram, item: Item, placed: Placed | null): Finding | null {
  const { box, layer } = item;
  const scale = scaleOf(item);
  if (isVanished(box, { width: box.width * scale, height: box.height * scale })) return null;
  const margin = 2 * (layer.hit?.grow ?? 0);
  const width = Math.max(0, box.width + margin) * scale * (placed?.x ?? 1);
  const height = Math.max(0, box.height + margin) * scale * (placed?.y ?? 1);
  const least = round(Math.min(width, height));
  if (least >= ENOUGH) return null;
  const where = placed ? `${scene.name}, seen on ${placesIn(program, placed)}` : scene.name;
  const sentence = `${round(width)} × ${round(height)} on ${where}; ${asked(least)}`;
  const isPlain = layer.type === 'hit' && !item.parent && !placed && scale === 1 && margin === 0;
  const fix = isPlain ? { label: 'Grow to 44', operations: grown(scene, item) } : undefined;
  const severity = least < LEAST ? 'must' : 'look';
  return finding('small-hit', severity, { scene: scene.id, layer: layer.id }, `${layer.name} is hard to hit`, sentence, fix && { fix });
}

function placesIn(program: Program, { scenes }: Placed): string {
  const first = program.scenes.get(scenes[0]!)!.scene.name;
  return scenes.length === 1 ? first : `${first} and ${count(scenes.length - 1, 'other', 'others')}`;
}

/** The area about the same middle, moved inside the frame where it would stick out. */
function grown(frame: { width: number; height: number }, { box, layer }: Item): Operation[] {
  const width = Math.max(ENOUGH, box.width);
  const height = Math.max(ENOUGH, box.height);
  const x = keepIn(box.x - (width - box.width) / 2, frame.width - width);
  const y = keepIn(box.y - (height - box.height) / 2, frame.height - height);
  return [{ op: 'set', table: 'layers', id: layer.id, path: ['pose'], value: { x, y, width, height } }];
}

const keepIn = (value: number, most: number) => Math.max(0, Math.min(value, Math.max(0, most)));

const round = (n: number) => Math.round(n * 10) / 10;
