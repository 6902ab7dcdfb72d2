import type { Thread } from '../piece/piece.ts';
import { expand } from '../program/expand.ts';
import { outwardNodes, type Instance, type Node } from '../program/node.ts';
import type { Program, SceneProgram } from '../program/program.ts';

/** What a state chart of a piece speaks of: places of the flow, states that are kept, and who answers where. */

/** A place of the flow: a frame, in one of its states where it has some. */
export interface Leaf {
  readonly scene: SceneProgram;
  readonly state: string | null;
}

export const entryLeaf = (scene: SceneProgram): Leaf => ({ scene, state: scene.initial });

export const nameOfState = ({ scene, state }: Leaf): string => scene.states.find(({ id }) => id === state)?.name ?? '';

/** A thread that answers, the scene on the screen that it belongs to, null where it is the piece's, and where in that it stands. */
export interface Call {
  readonly thread: Thread;
  readonly root: SceneProgram | null;
  /** Null where it is the piece's. */
  readonly instance: Instance | null;
}

/** Threads of one owner, and where they stand. */
export interface Owner {
  readonly threads: readonly Thread[];
  readonly instance: Instance;
}

/** The state of a sheet, or of something that is placed: a name, in the data of the chart. */
export interface Kept {
  readonly name: string;
  readonly root: SceneProgram;
  readonly instance: Instance;
  /** The name of the state that it begins in. */
  readonly initial: string;
  /** Threads that wait for it to be in a state for a time. */
  readonly timers: readonly Thread[];
  /** The number of its stay in that state, for what waits in it. */
  readonly stay: string;
}

export const ofPiece = (thread: Thread): Call => ({ thread, root: null, instance: null });

/** A scene's own threads. */
export const ownOf = (program: Program, root: SceneProgram): Owner => ({ threads: root.threads, instance: expand(program, root).instances.get('')! });

export const depthOf = ({ key }: Node) => key.split('/').length;

export const isShown = (node: Node): boolean => outwardNodes(node).every(({ item }) => item.shown);

/** Who is pressed where a layer is: it, or what is around it and catches what it lets through. */
export const catcherOf = (node: Node): Node => outwardNodes(node).find(({ catches }) => catches) ?? node;

/** Who answers for a layer, from the inside out: of what is in a part, the part's own scene comes before its placement. */
export function chainOf(node: Node): Owner[] {
  return outwardNodes(node).flatMap((at) => {
    const own: Owner[] = [{ threads: at.item.threads, instance: at.instance }];
    if (at === node && at.inside) own.push({ threads: at.inside.scene.threads, instance: at.inside });
    if (at.parent?.inside && at.parent.inside === at.instance) own.push({ threads: at.instance.scene.threads, instance: at.instance });
    return own;
  });
}

export const owned = (scene: SceneProgram): Thread[] =>
  [...scene.items.flatMap((item) => item.threads), ...scene.threads].filter((thread) => thread.enabled);

/** Threads of a frame that wait for it to be in its state for a time. */
export const timersIn = ({ scene, state }: Leaf): Thread[] =>
  state === null ? [] : owned(scene).filter(({ cue }) => cue.type === 'after' && cue.state === state);

/** Whether a thread is told that something comes into a state, or leaves it. */
export const hearsState = ({ enabled, cue }: Thread, change: 'entered' | 'left', state: string): boolean =>
  enabled && cue.type === 'state' && cue.change === change && (cue.state === null || cue.state === state);
