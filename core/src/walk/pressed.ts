import type { CueType } from '../cues/schemas.ts';
import { onceFor } from '../once.ts';
import type { Thread } from '../piece/piece.ts';
import type { Item, Program, SceneProgram } from '../program/program.ts';
import { seenParts, seenScenes } from './per-scene.ts';

/** What can be pressed, as it is drawn. */

const PRESSES: ReadonlySet<CueType> = new Set(['click', 'press', 'release', 'double click', 'long press']);

/** By a thread of its own. */
export const isPressed = ({ threads }: Item): boolean => threads.some(presses);

const presses = ({ enabled, cue }: Thread) => enabled && PRESSES.has(cue.type);

/** The layers of a scene that have a thread for being pressed. */
export const pressedIn = onceFor(({ items }: SceneProgram): readonly Item[] => items.filter((item) => item.shown && isPressed(item)));

/** The scenes that are seen: frames, the sheets they carry, and the parts that are placed in them. */
export const scenesSeen = onceFor((program: Program): readonly SceneProgram[] =>
  [...seenScenes(program), ...seenParts(program).keys()].map((id) => program.scenes.get(id)!)
);
