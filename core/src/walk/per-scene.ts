import { onceFor } from '../once.ts';
import { scenesOf } from '../piece/piece.ts';
import type { Item, Program, SceneProgram } from '../program/program.ts';
import type { Finding } from './finding.ts';

const answersIn = onceFor((_: SceneProgram) => new Map<string, readonly Finding[]>());

/** Scenes that are seen as they are drawn: all frames, and the sheets that some of them carry. */
export const seenScenes = onceFor((program: Program): readonly string[] => {
  const carried = new Set(program.frames.flatMap((id) => (program.scenes.get(id)!.scene.carries ?? []).map(({ sheet }) => sheet)));
  const sheets = carried.size ? scenesOf(program.piece, 'sheet').filter(({ id }) => carried.has(id)) : [];
  return [...program.frames, ...sheets.map(({ id }) => id)];
});

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

/** Every part that is seen, with how it stands. */
export const seenParts = onceFor((program: Program): ReadonlyMap<string, Placed> => {
  const found = new Map<string, { x: number; y: number; scenes: string[] }>();
  const visit = (scene: SceneProgram, seen: string, x: number, y: number) => {
    for (const item of placementsIn(scene)) {
      const part = item.shown && item.layer.part !== undefined ? program.scenes.get(item.layer.part) : undefined;
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
});

/** The placements of a scene. */
export const placementsIn = onceFor((scene: SceneProgram): readonly Item[] => scene.items.filter(({ layer }) => layer.type === 'placement'));

/** How much larger than its box a layer is drawn in its scene, by its own scale and those of the groups around it. */
export function scaleOf(item: Item): number {
  let scale = 1;
  for (let at: Item | null = item; at; at = at.parent) scale *= at.layer.pose.scale ?? 1;
  return scale;
}

/** Runs a rule that looks at one scene alone over all that are seen; a scene that no edit touched keeps its answer. */
export function perScene(program: Program, rule: string, check: (scene: SceneProgram) => Finding[]): Finding[] {
  return seenScenes(program).flatMap((id) => {
    const scene = program.scenes.get(id)!;
    const answers = answersIn(scene);
    let answer = answers.get(rule);
    if (!answer) answers.set(rule, (answer = check(scene)));
    return answer;
  });
}
