import { Beside } from '../once.ts';
import type { Expansion } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import type { RunState } from '../run/state.ts';
import { areSame } from '../same.ts';
import type { Exploration } from './exploration.ts';
import type { Route } from './finding.ts';
import { expansionsOn, looksIn, MOST_HELD, type Look } from './frame-looks.ts';
import { isHard, readIn, type Illegible } from './legible.ts';
import { isComplete } from './live.ts';
import { rested, sectionsWhere } from './rested.ts';
import { selectableIn } from './selectable.ts';
import { routeToRest } from './route-to-rest.ts';

/** Text as it is read in a state once all that only moves has come to rest, in timeline frames from then. */
interface ReadAt extends Illegible {
  readonly wait: number;
}

/** Text that is hard to read in a look that can be come to. */
export interface IllegibleMet extends ReadAt {
  readonly look: Look;
}

/** Text that is hard to read somewhere that can be come to: where things laid over, states, bindings and steps make it so together. */
export function illegibleMet(program: Program, exploration: Exploration): readonly IllegibleMet[] {
  const hard = new Map<string, IllegibleMet>();
  for (const part of [exploration, ...exploration.slices])
    for (const look of looksIn(program, part).all) {
      if (!look.isNew) continue;
      for (const one of readAt(program, part, look)) {
        const before = hard.get(one.node.layer.id);
        if (!isHard(one) || (before && before.contrast <= one.contrast)) continue;
        hard.set(one.node.layer.id, { ...one, look });
      }
    }
  return [...hard.values()];
}

/** Where a layer, found hard to read as its frame is drawn, is so when it is come to. */
export interface WhereHard {
  /** Null where that is not known. */
  readonly at: Pick<IllegibleMet, 'look' | 'wait'> | null;
  /**
   * It never is: wherever its frame can be come to it is read on other ground, or what is hidden at first does not come up. Of that all
   * looks of the frame have to be looked at.
   */
  readonly isNowhere: boolean;
}

/** The frame on which a text is found as it is drawn, and whether it is hidden there or bound to be, by itself or with what is around it. */
export interface Drawn {
  readonly frame: string;
  readonly isAway: boolean;
}

export function whereHard(program: Program, exploration: Exploration, { frame, isAway }: Drawn, layer: string): WhereHard {
  let isNowhere = isComplete(exploration);
  let isRead = false;
  let isMet = false;
  for (const part of [exploration, ...exploration.slices]) {
    const { all, areAll } = looksIn(program, part);
    const own = all.filter((look) => look.frame === frame || look.overlays.some((overlay) => overlay.frame === frame));
    isNowhere &&= areAll && own.length <= MOST_HELD;
    isMet ||= own.length > 0;
    for (const look of own.slice(0, MOST_HELD))
      for (const one of readAt(program, part, look)) {
        if (one.node.layer.id !== layer) continue;
        if (isHard(one)) return { at: { look, wait: one.wait }, isNowhere: false };
        isRead = true;
      }
  }
  return { at: null, isNowhere: isNowhere && (isRead || (isMet && isAway)) };
}

/** The route to where a text is hard to read; null where it is not, as something else comes before what moves has come to rest. */
export function routeToHard(program: Program, { look, wait }: Pick<IllegibleMet, 'look' | 'wait'>, layer: string): Route | null {
  const isThere = (run: RunState) => {
    return readIn(program, run, expansionsOn(program, run)).some((one) => one.node.layer.id === layer && isHard(one));
  };
  return routeToRest(program, look.route(), wait, isThere);
}

interface Known {
  readonly of: readonly unknown[];
  readonly read: readonly ReadAt[];
}

const known = new Beside<Expansion, Map<string, Known>>();

/** Every text that is read in a state, with its contrast: found once for each look, as long as nothing that is on the screen is edited. */
function readAt(program: Program, exploration: Exploration, look: Look): readonly ReadAt[] {
  const { words } = look;
  const expansions = expansionsOn(program, look);
  const { swatches, typeStyles } = program.piece.head;
  const { standingIn } = exploration;
  const standing = expansions.map(({ root }) => [...standingIn(root.scene.id)].join());
  const of = [swatches, typeStyles, selectableIn(program), ...standing, ...expansions];
  let looks = known.get(expansions[0]!);
  if (!looks) known.set(expansions[0]!, (looks = new Map<string, Known>()));
  const old = looks.get(words);
  if (old && areSame(old.of, of)) return old.read;
  const { run, frames: wait } = rested(look, expansions, standingIn);
  const read = readIn(program, run, expansions).map((one): ReadAt => {
    const section = sectionsWhere(
      run,
      expansions.find(({ root }) => root.scene.id === one.scene)!,
      one.node
    );
    return { ...one, wait, ...(section && { when: [section, one.when].filter(Boolean).join(', ') }) };
  });
  looks.set(words, { of, read });
  return read;
}
