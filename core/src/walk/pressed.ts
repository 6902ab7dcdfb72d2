import { isPressed as isPressing } from '../vocabulary/cues/all.ts';
import { onceFor } from '../once.ts';
import type { Thread } from '../piece/piece.ts';
import type { Item, Program, SceneProgram } from '../program/program.ts';
import { seenParts, seenScenes } from './per-scene.ts';

/** What can be pressed, as it is drawn. */

/** By a thread of its own. */
export const isPressed = ({ threads }: Item): boolean => threads.some(presses);

/** Whether a thread is for being pressed. */
export const presses = ({ enabled, cue }: Thread): boolean => enabled && isPressing(cue);

/** The layers of a scene that have a thread for being pressed, whether they are shown or not. */
export const pressedIn = onceFor(({ items }: SceneProgram): readonly Item[] => items.filter(isPressed));

/** The scenes that are seen: frames, the sheets they carry, and the parts that are placed in them or come up there. */
export const scenesSeen = (program: Program, up: ReadonlySet<string>): readonly SceneProgram[] =>
  [...seenScenes(program), ...seenParts(program, up).keys()].map((id) => program.scenes.get(id)!);
