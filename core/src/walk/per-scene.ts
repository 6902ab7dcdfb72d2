import { scenesOf } from '../piece/piece.ts';
import type { Program, SceneProgram } from '../program/program.ts';
import type { Finding } from './finding.ts';

const known = new WeakMap<SceneProgram, Map<string, readonly Finding[]>>();

/** Scenes that are seen as they are drawn: all frames, and the sheets that some of them carry. */
export function seenScenes(program: Program): string[] {
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

/** Runs a rule that looks at one scene alone over all that are seen; a scene that no edit touched keeps its answer. */
export function perScene(program: Program, rule: string, check: (scene: SceneProgram) => Finding[]): Finding[] {
  return seenScenes(program).flatMap((id) => {
    const scene = program.scenes.get(id)!;
    let answers = known.get(scene);
    if (!answers) known.set(scene, (answers = new Map()));
    let answer = answers.get(rule);
    if (!answer) answers.set(rule, (answer = check(scene)));
    return answer;
  });
}
