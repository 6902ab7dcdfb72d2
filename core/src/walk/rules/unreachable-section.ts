import { labelOf, stepKind } from '../../vocabulary/steps/all.ts';
import { sectionsOf } from '../../run/playhead.ts';
import type { Scene } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { labelsTurned, scenesInTime } from '../in-time.ts';
import { branchKeysOf, threadsIn } from '../at-thread.ts';
import { finding, type Rule } from '../finding.ts';
import { isComplete, scenesReached } from '../live.ts';
import type { Exploration } from '../exploration.ts';

export const unreachableSection: Rule = {
  id: 'unreachable-section',
  words: 'section never played',
  meaning: 'a labelled section of a timeline that nothing plays, shows, turns or runs on to',
  spares: 'a section that the one before it runs on to, that a step shows or turns to, or that *next section* comes to',
  check: ({ program, exploration }) => {
    const inTime = scenesInTime(program);
    if (inTime.length === 0 || !isComplete(exploration)) return [];
    const live = scenesReached(program, exploration);
    const asked = labelsPlayed(program, exploration);
    return inTime.flatMap(({ scene, timeline }) => {
      if (!live.has(scene.id)) return [];
      const met = sectionsMet(scene, asked, isPlayed(program, exploration, scene));
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
  threadsIn(piece).some((thread) =>
    thread.branches.some(({ steps }, i) => branches.has(branchKeysOf(thread)[i]!) && steps.some((step) => stepKind(step.do).inTime === 'sets going'))
  );

/** The labels of sections that are come to: where it begins, where it is sent, and where those run on to. */
function sectionsMet({ timeline }: Scene, asked: ReadonlySet<string>, plays: boolean): ReadonlySet<string | null> {
  const sections = sectionsOf(timeline!);
  const met = new Set<string | null>();
  const open = [sections[0], ...sections.filter(({ label }) => label !== null && asked.has(label))];
  for (let section = open.pop(); section; section = open.pop()) {
    if (met.has(section.label)) continue;
    met.add(section.label);
    const { ending } = section;
    if (ending.do === 'go to') open.push(sections.find(({ label }) => label === ending.label));
    if (ending.do === 'go on' && (plays || asked.has(section.label ?? ''))) open.push(sections[sections.indexOf(section) + 1]);
  }
  return met;
}
