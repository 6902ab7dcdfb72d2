import { outwardNodes, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { hiddenOf } from '../run/reach.ts';
import { standingScreen } from '../run/resolve.ts';
import type { RunState } from '../run/state.ts';
import { isPressed } from '../vocabulary/cues/all.ts';
import type { Exploration } from './exploration.ts';
import { isKeyed } from './rested.ts';
import { cuesAt, scrollsWith } from './sights.ts';

/** What cannot be pressed as long as a panel is there. */

/** What says nothing of where something stands. */
const UNSEEN: ReadonlySet<string> = new Set(['frame', 'time', 'activities']);

/** Of some states on a frame one of each of those that can look alike: they differ in other frames only, of which none is laid over. */
function seenApart({ piece }: Program, exploration: Exploration, frame: string, states: readonly number[]): readonly number[] {
  const slots = exploration.slots();
  const isLaid = slots.some(({ kind }) => kind === 'overlays');
  const isElsewhere = (scene: string | null) => scene !== null && scene !== frame && !isLaid && piece.scenes.get(scene)?.use === 'frame';
  const telling = slots.filter(({ scene, kind }) => !UNSEEN.has(kind) && !isElsewhere(scene));
  return [...new Map(states.map((at) => [telling.map(({ numberIn }) => numberIn(at)).join(), at])).values()];
}

/** Whether a layer can stand elsewhere while all else is the same: keys bring it there, or a hand. */
const isMoved = (node: Node): boolean => isKeyed(node) || outwardNodes(node).some(({ layer }) => layer.drag);

/** In more states nobody looks what lies behind a panel, and nothing is said of it. */
const MOST_LOOKS = 500;

/**
 * What a panel lies before and keeps presses off in one state, and what is free in none of some others on the same frame: a panel may stand
 * elsewhere there, or be hidden by what is around it.
 */
export function keptOff(program: Program, exploration: Exploration, first: number, all: readonly number[], panel: Node): readonly Node[] {
  const { states, runOf } = exploration;
  const { frame } = states[first]!;
  const onFrame = all.filter((at) => states[at]!.frame === frame);
  const others = seenApart(program, exploration, frame, onFrame);
  if (others.length > MOST_LOOKS || isMoved(panel)) return [];
  let kept = lyingBehind(program, runOf(first), panel);
  for (const state of others) {
    if (kept.length === 0) break;
    const free = freeOf(program, runOf(state), kept);
    kept = kept.filter((node) => !free.has(node));
  }
  return kept;
}

/** Those of some layers that are shown, and not wholly behind what takes the press, whatever that is. */
function freeOf(program: Program, run: RunState, nodes: readonly Node[]): ReadonlySet<Node> {
  const screen = standingScreen(program, run);
  const shown = screen.surfaces
    .flatMap((surface) => surface.all.map((one) => [surface, one] as const))
    .filter(([, { node }]) => nodes.includes(node));
  return new Set(shown.flatMap(([surface, one]) => (hiddenOf(screen, run, surface, one)?.share === 1 ? [] : one.node)));
}

/** What could be pressed but for a panel that lies before it; not what can be scrolled out from there, or is moved by itself or by hand. */
function lyingBehind(program: Program, run: RunState, panel: Node): readonly Node[] {
  const screen = standingScreen(program, run);
  return screen.surfaces.flatMap((surface) => {
    const { scene } = surface.expansion.root;
    return surface.all.flatMap((shown) => {
      const { node } = shown;
      const around = outwardNodes(node);
      if (around.includes(panel) || around.some(({ layer }) => layer.scroll) || isMoved(node)) return [];
      if (scrollsWith(scene, node) && !scrollsWith(scene, panel)) return [];
      if (!cuesAt(node).some(isPressed)) return [];
      const hidden = hiddenOf(screen, run, surface, shown);
      return hidden?.share === 1 && hidden.by && outwardNodes(hidden.by.node).includes(panel) ? node : [];
    });
  });
}
