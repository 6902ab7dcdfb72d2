import type { Program, SceneProgram } from '../program/program.ts';
import type { Finding } from './finding.ts';

const known = new WeakMap<SceneProgram, Map<string, readonly Finding[]>>();

/** Runs a rule that looks at one scene alone over all frames; a scene that no edit touched keeps its answer. */
export function perScene(program: Program, rule: string, check: (scene: SceneProgram) => Finding[]): Finding[] {
  return program.frames.flatMap((id) => {
    const scene = program.scenes.get(id)!;
    let answers = known.get(scene);
    if (!answers) known.set(scene, (answers = new Map()));
    let answer = answers.get(rule);
    if (!answer) answers.set(rule, (answer = check(scene)));
    return answer;
  });
}
