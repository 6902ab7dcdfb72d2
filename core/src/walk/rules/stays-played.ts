import { sectionsOf } from '../../run/playhead.ts';
import type { Item, Program } from '../../program/program.ts';
import type { Exploration } from '../exploration.ts';
import { asBefore } from '../again.ts';
import { finding, type Rule } from '../finding.ts';
import { framesShowing, placementsIn, seenScenes } from '../per-scene.ts';

export const staysPlayed: Rule = {
  id: 'stays-played',
  words: 'stays played',
  meaning: 'a clip that shows only its last moment when its frame is come to again, while its neighbours start over',
  spares: 'clips that all stay as they ended, and those that go round',
  check: ({ program, exploration }) => {
    const { scenes } = program.piece;
    const isTimed = asBefore(program, 'timed parts', [scenes], () => [...scenes.values()].some(({ use, timeline }) => use === 'part' && timeline));
    if (!isTimed) return [];
    return seenScenes(program).flatMap((id) => {
      const scene = program.scenes.get(id)!;
      const clips = placementsIn(scene).filter(({ layer }) => program.scenes.get(layer.part ?? '')?.scene.timeline);
      const over = clips.filter(({ layer }) => (layer.reentry ?? 'start over') === 'start over');
      const played = clips.filter((clip) => !over.includes(clip) && comesToRest(program, clip));
      if (over.length === 0 || played.length === 0 || !isComeToAgain(exploration, framesShowing(program, id))) return [];
      return played.map(({ layer }) => {
        const sentence = `When ${scene.scene.name} is come to again, ${layer.name} stays at its end while ${over[0]!.layer.name} starts over.`;
        return finding('stays-played', 'note', { scene: id, layer: layer.id }, `${layer.name} stays played`, sentence, {
          fix: { label: 'Let it start over', operations: [{ op: 'set', table: 'layers', id: layer.id, path: ['reentry'], value: 'start over' }] },
        });
      });
    });
  },
};

/** Whether its timeline ends and stands, instead of going round and round. */
function comesToRest(program: Program, { layer }: Item): boolean {
  const timeline = program.scenes.get(layer.part!)!.scene.timeline!;
  const last = sectionsOf(timeline).at(-1);
  return (
    last !== undefined &&
    (last.ending.do === 'hold' || (last.ending.do === 'go on' && !timeline.loop) || (last.ending.do === 'loop' && last.ending.times !== undefined))
  );
}

/** Whether a frame is come to from another one after it was there before: from a start, or from where it leads. */
function isComeToAgain({ states, edges, reached }: Exploration, frames: readonly string[]): boolean {
  return frames.some(
    (frame) =>
      reached.has(frame) &&
      states.some((state, at) => state.frame !== frame && at > reached.get(frame)! && edges.endsOf(at).some((to) => states[to]!.frame === frame))
  );
}
