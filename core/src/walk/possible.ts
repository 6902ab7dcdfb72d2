import { sceneOfThread, type Piece } from '../piece/piece.ts';
import { startFrames, type Program } from '../program/program.ts';
import { targetOf } from '../vocabulary/steps/all.ts';
import { asBefore, inEach } from './again.ts';

/**
 * The scenes that could ever be on the screen if every condition held and every cue came: what nothing leads to, not even so, is never
 * there, whatever else is not known.
 */
export const possibleScenes = (program: Program): ReadonlySet<string> => {
  const { threads, scenes, head } = program.piece;
  const placed = inEach(program, 'parts and sheets', (scene) =>
    [...scene.items.flatMap(({ layer }) => layer.part ?? []), ...(scene.scene.carries ?? []).map(({ sheet }) => sheet)].join(' ')
  );
  return asBefore(program, 'possible scenes', [threads, scenes, head, program.frames, placed], () => possibleIn(program, placed));
};

function possibleIn(program: Program, placed: ReadonlyMap<string, string>): ReadonlySet<string> {
  const { frames, frameAt } = program;
  const leads = leadsIn(program.piece);
  const found = new Set<string>();
  const steps = { next: 1, previous: -1 } as const;
  const add = (id: string | undefined) => id !== undefined && program.scenes.has(id) && found.add(id);
  for (const id of startFrames(program)) add(id);
  for (let known = -1; known !== found.size;) {
    known = found.size;
    for (const from of [null, ...found])
      for (const to of leads.get(from) ?? []) {
        if (to.frame !== undefined) add(to.frame);
        else if (to.edge) add(to.edge === 'first' ? frames[0] : frames.at(-1));
        // Who is in a part or a sheet goes on from whatever frame that is on.
        else if (to.by) for (const id of [...found]) if (frameAt.has(id)) add(frames[frameAt.get(id)! + steps[to.by]]);
      }
    for (const from of [...found]) for (const id of placed.get(from)?.split(' ') ?? []) add(id);
  }
  return found;
}

/** Where a thread can lead: to a frame, to the first or last, or to the one after or before. */
interface Lead {
  readonly frame?: string;
  readonly edge?: 'first' | 'last';
  readonly by?: 'next' | 'previous';
}

/** Where threads lead, by the scene that they stand in; null is the whole piece. */
function leadsIn(piece: Piece): ReadonlyMap<string | null, readonly Lead[]> {
  const leads = new Map<string | null, Lead[]>();
  for (const thread of piece.threads.values()) {
    if (!thread.enabled) continue;
    const scene = sceneOfThread(piece, thread);
    const own = leads.get(scene) ?? leads.set(scene, []).get(scene)!;
    for (const step of thread.branches.flatMap((branch) => branch.steps)) {
      const target = targetOf(step);
      if (target?.to === 'frame' && target.frame !== null) own.push({ frame: target.frame });
      if (target?.to === 'first' || target?.to === 'last') own.push({ edge: target.to });
      if (target?.to === 'next' || target?.to === 'previous') own.push({ by: target.to });
    }
  }
  return leads;
}
