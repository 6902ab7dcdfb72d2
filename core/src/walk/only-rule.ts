import { sceneOfThread, type Thread } from '../piece/piece.ts';
import type { Program } from '../program/program.ts';
import { ownerOf, placeOfThread } from './at-thread.ts';
import { doneBy } from './done.ts';
import { isComplete } from './live.ts';
import { finding, type Finding, type Rule } from './finding.ts';
import { asksMoreThan, type Way } from './ways.ts';

interface Only {
  readonly id: string;
  readonly words: string;
  readonly meaning: string;
  readonly spares: string;
  /** What somebody has who does not get there. */
  readonly way: Way;
  /** Cues that ask for more by themselves: they are told by where they lead, or by other rules. */
  readonly isMeant: (thread: Thread, program: Program) => boolean;
  readonly frame: (name: string) => string;
  readonly thread: (owner: string) => string;
}

/** A rule about what somebody who goes in one way only never comes to, though others do. */
export const onlyRule = ({ id, words, meaning, spares, way, isMeant, frame, thread }: Only): Rule => ({
  id,
  words,
  meaning,
  spares,
  check: ({ program, exploration }) => {
    if (!isComplete(exploration) || !asksMoreThan(program, way)) return [];
    const { threads: all } = program.piece;
    const asked = [...exploration.fired].flatMap((one) => {
      const found = all.get(one);
      return found && !isMeant(found, program) ? found : [];
    });
    const within = exploration.by(way, [...exploration.reached.keys(), ...asked.map(({ id }) => id)]);
    if (!within.isComplete) return [];
    const missed = [...exploration.reached.keys()].filter((scene) => !within.reached.has(scene));
    const frames: Finding[] = missed.flatMap((scene) => {
      const name = program.piece.scenes.get(scene)?.name;
      return name === undefined ? [] : [finding(id, 'look', { scene }, `${name} is not for everybody`, frame(name))];
    });
    const threads = asked.flatMap((found) => {
      if (within.fired.has(found.id) || missed.includes(sceneOfThread(program.piece, found) ?? '')) return [];
      // Where it leads is told already.
      if (doneBy(found).some((step) => step.do === 'go' && step.target.to === 'frame' && missed.includes(step.target.frame ?? ''))) return [];
      const owner = ownerOf(program.piece, found);
      return [finding(id, 'look', placeOfThread(program.piece, found), `${owner} is not for everybody`, thread(owner))];
    });
    return [...frames, ...threads];
  },
});
