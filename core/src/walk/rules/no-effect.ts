import { addressProblem } from '../../vocabulary/address.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import type { Thread } from '../../piece/schema.ts';
import { asBefore } from '../again.ts';
import { branchKeysOf, ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import type { Exploration } from '../exploration.ts';
import { finding, type Rule } from '../finding.ts';
import { isComplete } from '../live.ts';
import { isFaulty } from '../standing.ts';
import { lostInThread } from './missing-target.ts';

/** Other rules say that nothing opens. */
const isBadLink = (step: Step): boolean => step.do === 'open' && addressProblem(step.address) !== null;

export const noEffect: Rule = {
  id: 'no-effect',
  words: 'changes nothing',
  meaning: 'a branch of a thread that fires and in no state that can be reached changes anything: what it asks for is so already, or leads nowhere',
  spares: 'what is so already only at times, and what is seen or heard outside of the piece',
  check: ({ program, exploration }) => {
    if (!isComplete(exploration)) return [];
    const { piece } = program;
    const { acted, branches } = exploration;
    const found = asBefore(program, 'changes nothing', [piece.threads, acted, branches], () => withIdleBranch(threadsIn(piece), exploration));
    return found.flatMap(({ thread, idle }) => {
      if (lostInThread(piece, thread) !== null || isFaulty(piece, thread)) return [];
      const owner = ownerOf(piece, thread);
      const which = thread.branches.length > 1 ? `Branch ${idle + 1}` : 'It';
      return [
        finding(
          'no-effect',
          'look',
          placeOfThread(piece, thread),
          `A thread of ${owner} changes nothing`,
          `${which} fires, and changes nothing in any state that can be reached.`
        ),
      ];
    });
  },
};

/** Threads with the first branch of each that fires, and never acts. */
const withIdleBranch = (threads: readonly Thread[], { acted, branches }: Pick<Exploration, 'acted' | 'branches'>) =>
  threads.flatMap((thread) => {
    const idle = branchKeysOf(thread).findIndex((key, i) => {
      if (acted.has(key) || !branches.has(key)) return false;
      const { steps } = thread.branches[i]!;
      return steps.length > 0 && !steps.some(isBadLink);
    });
    return idle < 0 ? [] : [{ thread, idle }];
  });
