import type { Program } from '../program/program.ts';
import { scenesOn } from '../run/environment.ts';
import { runnerIn } from '../run/machine.ts';
import type { RunState } from '../run/state.ts';
import { PlainStore } from '../run/store.ts';
import { coversOf } from './behind.ts';
import type { Exploration } from './exploration.ts';
import type { Route } from './finding.ts';
import { expansionsOn, looksIn } from './frame-looks.ts';
import { isMovedBy, rested } from './rested.ts';
import { routeToRest } from './route-to-rest.ts';
import { seeingIn, type Sight } from './sights.ts';

/** A layer that is pressed unseen once what only moves has come to rest before it, with the way there. */
export interface UnseenAtRest extends Pick<Sight, 'node'> {
  readonly behind: NonNullable<Sight['behind']>;
  readonly route: Route;
}

/** Exploring lets stand what only moves, where it begins: what that hides where it comes to rest is looked for here. */
export function unseenAtRest(program: Program, exploration: Exploration): readonly UnseenAtRest[] {
  const found = new Map<string, UnseenAtRest>();
  for (const part of [exploration, ...exploration.slices]) {
    const standing = (scene: string) => part.standingIn(scene);
    const isLetStand = (scene: string, node: Sight['node']) => isMovedBy(node, standing(scene));
    for (const look of looksIn(program, part).all) {
      // Most frames have nothing that only moves.
      if (!scenesOn(program, look).some((root) => standing(root).size > 0)) continue;
      const expansions = expansionsOn(program, look);
      const mayHide = expansions.some((one) => [...coversOf(program, one)].some((node) => isLetStand(one.root.scene.id, node)));
      if (!mayHide) continue;
      const { run, frames } = rested(look, expansions, standing);
      for (const { node, behind } of frames > 0 ? unseenIn(program, run) : []) {
        const isMoved = behind && expansions.some((one) => one.nodes.includes(behind) && isLetStand(one.root.scene.id, behind));
        if (!isMoved || found.has(node.key)) continue;
        const isThere = (end: RunState) => unseenIn(program, end).some((one) => one.node.key === node.key);
        const route = routeToRest(program, look.route(), frames, isThere);
        if (route) found.set(node.key, { node, behind, route });
      }
    }
  }
  return [...found.values()];
}

const unseenIn = (program: Program, run: RunState): readonly Sight[] =>
  seeingIn(runnerIn(program, new PlainStore(run))).sights.filter(({ isUnseen }) => isUnseen);
