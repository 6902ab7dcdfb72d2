import { onceFor } from '../once.ts';
import { scenesOf } from '../piece/piece.ts';
import { outward } from '../program/items.ts';
import type { Item, Program, SceneProgram } from '../program/program.ts';
import { areSame } from '../same.ts';
import { changedIn } from '../table.ts';
import { asBefore, before, inEach } from './again.ts';
import { isThere, NOTHING_UP } from './coming-up.ts';
import type { Finding } from './finding.ts';

/** What rules said of a scene, and what each answer depends on besides the scene itself. */
const answersIn = onceFor((_: SceneProgram) => new Map<string, { readonly of: readonly unknown[]; readonly found: readonly Finding[] }>());

/** Scenes that are seen as they are drawn: all frames, and the sheets that some of them carry. */
export const seenScenes = (program: Program): readonly string[] =>
  asBefore(program, 'seen scenes', [program.piece.scenes], () => sceneIdsIn(program));

function sceneIdsIn(program: Program): string[] {
  const carried = new Set(program.frames.flatMap((id) => (program.scenes.get(id)!.scene.carries ?? []).map(({ sheet }) => sheet)));
  const sheets = carried.size ? scenesOf(program.piece, 'sheet').filter(({ id }) => carried.has(id)) : [];
  return [...program.frames, ...sheets.map(({ id }) => id)];
}

/** The frames that a scene is seen on: a frame itself, those that carry a sheet. */
export function framesShowing(program: Program, scene: string): string[] {
  return program.scenes.get(scene)?.scene.use === 'frame'
    ? [scene]
    : program.frames.filter((id) => program.scenes.get(id)!.scene.carries?.some(({ sheet }) => sheet === scene));
}

/** How a part stands in the scenes that are seen. */
export interface Placed {
  /** The smallest it is drawn, as a share of its own size in each direction. */
  readonly x: number;
  readonly y: number;
  /** The scenes that show it, by way of other parts too, in the order of the piece. */
  readonly scenes: readonly string[];
}

/** Every part that is seen, with how it stands; of what is hidden as it is drawn where that comes up. */
export const seenParts = (program: Program, up = NOTHING_UP): ReadonlyMap<string, Placed> =>
  asBefore(
    program,
    up === NOTHING_UP ? 'seen parts' : 'parts coming up',
    [seenScenes(program), inEach(program, 'placements', placementWords), up],
    () => partsSeenIn(program, up)
  );

/** All of a scene that how its parts stand depends on, as one text to compare. */
const placementWords = onceFor((scene: SceneProgram): string => {
  const { width, height } = scene.scene;
  return JSON.stringify([
    width,
    height,
    placementsIn(scene).map((item) => [
      outward(item).flatMap(({ layer }) => (layer.hidden ? layer.id : [])),
      item.layer.part,
      item.box.width,
      item.box.height,
      scaleOf(item),
    ]),
  ]);
});

function partsSeenIn(program: Program, up: ReadonlySet<string>): ReadonlyMap<string, Placed> {
  const found = new Map<string, { x: number; y: number; scenes: string[] }>();
  const visit = (scene: SceneProgram, seen: string, x: number, y: number) => {
    for (const item of placementsIn(scene)) {
      const part = isThere(item, up) && item.layer.part !== undefined ? program.scenes.get(item.layer.part) : undefined;
      if (!part) continue;
      const by = scaleOf(item);
      const at = { x: (x * by * item.box.width) / part.scene.width, y: (y * by * item.box.height) / part.scene.height };
      const old = found.get(part.scene.id);
      if (!old) found.set(part.scene.id, { ...at, scenes: [seen] });
      else {
        if (old.scenes.at(-1) !== seen) old.scenes.push(seen);
        [old.x, old.y] = [Math.min(old.x, at.x), Math.min(old.y, at.y)];
      }
      visit(part, seen, at.x, at.y);
    }
  };
  for (const id of seenScenes(program)) visit(program.scenes.get(id)!, id, 1, 1);
  return found;
}

/** The placements of a scene. */
export const placementsIn = onceFor((scene: SceneProgram): readonly Item[] => scene.items.filter(({ layer }) => layer.type === 'placement'));

/** Layers that hold a value, or stand for one. */
export const holdingIn = onceFor(({ items }: SceneProgram): readonly Item[] =>
  items.filter(({ layer }) => layer.field || layer.choice !== undefined)
);

/** How much larger than its box a layer is drawn in its scene, by its own scale and those of the groups around it. */
export function scaleOf(item: Item): number {
  let scale = 1;
  for (let at: Item | null = item; at; at = at.parent) scale *= at.layer.pose.scale ?? 1;
  return scale;
}

/** The parts that a scene shows, by way of other parts too. */
export function partsUnder(program: Program, scene: SceneProgram): readonly SceneProgram[] {
  const placements = placementsIn(scene);
  if (placements.length === 0) return NO_PARTS;
  const found = new Set<SceneProgram>();
  for (const { layer } of placements) {
    const part = layer.part === undefined ? undefined : program.scenes.get(layer.part);
    if (!part || found.has(part)) continue;
    found.add(part);
    for (const inner of partsUnder(program, part)) found.add(inner);
  }
  return [...found];
}

const NO_PARTS: readonly SceneProgram[] = [];

/**
 * What a rule says of one scene. It keeps its answer while the scene, the parts in it and all else that the answer is given to depend on
 * are the same.
 */
export function inScene(
  program: Program,
  rule: string,
  scene: SceneProgram,
  others: readonly unknown[],
  check: (scene: SceneProgram) => readonly Finding[]
): readonly Finding[] {
  const answers = answersIn(scene);
  const of = others.length ? [...partsUnder(program, scene), ...others] : partsUnder(program, scene);
  const old = answers.get(rule);
  if (old && areSame(old.of, of)) return old.found;
  const found = check(scene);
  answers.set(rule, { of, found });
  return found;
}

/** What a rule said of scenes, by their places in the list of them. */
interface Said {
  readonly scenes: Program['scenes'];
  readonly ids: readonly string[];
  readonly others: readonly unknown[];
  readonly of: readonly (readonly Finding[])[];
  /** Those of which it depends on more than is told. */
  readonly open: readonly number[];
  readonly all: readonly Finding[];
}

/**
 * What a rule says of scenes, one after the other. Of each it depends on the scene, the parts in it and `others`; where it depends on
 * more, the scene is not `alone`, and asked again each time.
 */
export function inScenes(
  program: Program,
  rule: string,
  ids: readonly string[],
  others: readonly unknown[],
  check: (scene: SceneProgram) => readonly Finding[],
  isAlone: (scene: SceneProgram) => boolean = () => true
): readonly Finding[] {
  const { scenes } = program;
  const { old, keep } = before<Said>(program, `scenes ${rule}`);
  const changed = old?.ids === ids && areSame(old.others, others) ? changedIn(old.scenes, scenes) : null;
  // A part that is another is another in every scene that it is placed in.
  const isLocal = changed?.every((id) => scenes.get(id) && scenes.get(id)!.scene.use !== 'part');
  const asked = isLocal ? [...new Set([...changed!.flatMap((id) => placesOf(ids).get(id) ?? []), ...old!.open])] : [...ids.keys()];
  const sceneAt = (at: number) => scenes.get(ids[at]!)!;
  const saidAt = (at: number) => (isAlone(sceneAt(at)) ? inScene(program, rule, sceneAt(at), others, check) : check(sceneAt(at)));
  // What says the same is the same, so that nothing has to be done anew with it.
  const said = asked.map((at) => {
    const [earlier, now] = [old?.ids === ids ? old.of[at]! : null, saidAt(at)];
    return earlier && wordsOf(earlier) === wordsOf(now) ? earlier : now;
  });
  const open = asked.filter((at) => !isAlone(sceneAt(at)));
  if (old?.ids === ids && asked.every((at, i) => old.of[at] === said[i])) return keep({ ...old, scenes, others, open }).all;
  const of = isLocal ? [...old!.of] : [];
  for (const [i, at] of asked.entries()) of[at] = said[i]!;
  return keep({ scenes, ids, others, of, open, all: of.flat() }).all;
}

const wordsOf = onceFor((found: readonly Finding[]): string => (found.length ? JSON.stringify(found) : ''));

const placesOf = onceFor((ids: readonly string[]): ReadonlyMap<string, number> => new Map(ids.map((id, place) => [id, place])));
