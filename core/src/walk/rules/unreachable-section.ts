import { labelOf, stepKind, type Step } from '../../vocabulary/steps/all.ts';
import type { Piece, Scene, Thread } from '../../piece/piece.ts';
import { expand } from '../../program/expand.ts';
import type { Program } from '../../program/program.ts';
import { sectionAt, sectionsOf } from '../../run/playhead.ts';
import type { Playhead } from '../../run/state.ts';
import { Ambient } from '../ambient.ts';
import { labelsTurned, scenesInTime } from '../in-time.ts';
import { branchKeysOf, threadsIn } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';
import { isComplete, rootsReached, scenesReached } from '../live.ts';
import type { Exploration } from '../exploration.ts';

export const unreachableSection: Rule = {
  id: 'unreachable-section',
  words: 'section never played',
  meaning: 'a labelled section of a timeline that nothing plays, shows, turns or runs on to',
  spares: 'a section that the one before it runs on to, that a step shows or turns to, that *next section* comes to, or that is played on to',
  check: ({ program, exploration }) => {
    const inTime = scenesInTime(program);
    if (inTime.length === 0 || !isComplete(exploration)) return [];
    const live = scenesReached(program, exploration);
    const asked = labelsPlayed(program, exploration);
    return inTime.flatMap(({ scene, timeline }) => {
      if (!live.has(scene.id)) return [];
      const met = sectionsMet(scene, asked, isPlayed(program, exploration, scene), false);
      // Most timelines are never told to play on: then nobody looks further.
      if (sectionsOf(timeline).some(({ label }) => !met.has(label)) && isPlayedOn(program, exploration, scene))
        for (const label of sectionsSeen(program, exploration, scene) ?? sectionsMet(scene, asked, true, true)) met.add(label);
      return sectionsOf(timeline).flatMap(({ label }) => {
        if (label === null || met.has(label)) return [];
        const { name } = timeline.labels![label]!;
        const sentence = `Nothing plays ${name} of ${scene.name}, and nothing runs on to it.`;
        const found = finding('unreachable-section', 'look', { scene: scene.id }, `${name} is never played`, sentence);
        return [{ ...found, id: `${found.id}:${label}` }];
      });
    });
  },
};

/** Labels that a branch which fires plays, shows, or turns to. */
function labelsPlayed({ piece }: Program, { branches }: Exploration): ReadonlySet<string> {
  const labels = new Set<string>();
  for (const thread of piece.threads.values())
    thread.branches.forEach(({ steps }, i) => {
      if (!branches.has(branchKeysOf(thread)[i]!)) return;
      for (const step of steps) {
        const label = labelOf(step);
        if (label !== null) labels.add(label);
        if (step.do === 'section') for (const label of labelsTurned(piece, thread, step.of)) labels.add(label);
      }
    });
  return labels;
}

/** Whether a timeline ever goes on by itself: it begins to, or a step may set it going. */
const isPlayed = ({ piece }: Program, { branches }: Exploration, { timeline, id }: Scene): boolean =>
  timeline?.autoplay !== false ||
  Object.values(piece.scenes.get(id)?.timeline?.cues ?? {}).length > 0 ||
  anyFires(piece, branches, (steps) => steps.some((step) => stepKind(step.do).inTime === 'sets going'));

/** Whether a branch fires whose steps do something. */
const anyFires = (piece: Piece, branches: Exploration['branches'], does: (steps: readonly Step[], thread: Thread) => boolean): boolean =>
  threadsIn(piece).some((thread) => thread.branches.some(({ steps }, i) => branches.has(branchKeysOf(thread)[i]!) && does(steps, thread)));

/** The labels of sections that are come to: where it begins, where it is sent, and where those run on to, or are played on to. */
function sectionsMet({ timeline }: Scene, asked: ReadonlySet<string>, plays: boolean, playsOn: boolean): Set<string | null> {
  const sections = sectionsOf(timeline!);
  const met = new Set<string | null>();
  const open = [sections[0], ...sections.filter(({ label }) => label !== null && asked.has(label))];
  while (open.length > 0) {
    const section = open.pop();
    // The last one goes on to nothing.
    if (!section || met.has(section.label)) continue;
    met.add(section.label);
    const { ending } = section;
    if (ending.do === 'go to') open.push(sections.find(({ label }) => label === ending.label));
    const isLeft = (ending.do === 'go on' && (plays || asked.has(section.label ?? ''))) || playsOn;
    if (isLeft) open.push(sections[sections.indexOf(section) + 1]);
  }
  return met;
}

/** Whether a branch that fires, or a cue on a timeline, has something in time play on from where it is: past the end of a section that holds. */
const isPlayedOn = ({ piece }: Program, { branches }: Exploration, { id }: Scene): boolean =>
  anyFires(piece, branches, (steps, thread) => {
    // After going elsewhere it is the timeline there that is meant.
    const goes = steps.some((step) => step.do === 'go');
    return steps.some((step) => step.do === 'play' && step.from === undefined && (goes || isAbout(piece, thread, step.of, id)));
  }) ||
  [...piece.scenes.values()].some(({ timeline }) =>
    Object.values(timeline?.cues ?? {}).some((cue) => cue.do === 'play' && isIn(piece, cue.layer, id))
  );

/** Whether a step of a thread is about the timeline of a scene, or about what is in there somewhere. */
function isAbout(piece: Piece, { on, owner }: Thread, of: string | undefined, scene: string): boolean {
  if (of !== undefined) return isIn(piece, of, scene);
  return (on === 'scene' ? owner : piece.layers.get(owner)?.scene) === scene;
}

/** Whether a layer places a scene, or is a group, in which one may. */
function isIn({ layers }: Piece, path: string, scene: string): boolean {
  const layer = layers.get(path.split('/').at(-1)!);
  return layer !== undefined && (layer.part === undefined || layer.part === scene);
}

/** The sections that the timeline of a scene stands in in any state, wherever it is placed; null where it is not followed everywhere. */
function sectionsSeen(program: Program, exploration: Exploration, { id, timeline }: Scene): ReadonlySet<string | null> | null {
  const seen = new Set<string | null>();
  const ambient = new Ambient(program);
  for (const root of rootsReached(program, exploration))
    for (const [key, { scene }] of expand(program, program.scenes.get(root)!).instances) {
      if (scene.scene.id !== id) continue;
      // What only moves is let stand.
      if (ambient.standingIn(root).has(key)) return null;
      let isFollowed = false;
      for (const { edges, slots } of [exploration, ...exploration.slices]) {
        const slot = slots().find((one) => one.scene === root && one.kind === 'heads' && one.key === key);
        if (!slot) continue;
        isFollowed = true;
        const numbers = new Set(Array.from({ length: edges.length }, (_, state) => slot.numberIn(state)));
        for (const number of numbers) {
          const head = slot.values[number] as Playhead | undefined;
          if (head) seen.add(sectionAt(timeline!, head.at)?.label ?? null);
        }
      }
      if (!isFollowed) return null;
    }
  return seen;
}
