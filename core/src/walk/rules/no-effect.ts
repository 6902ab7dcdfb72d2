import { addressProblem } from '../../vocabulary/address.ts';
import type { Step } from '../../vocabulary/steps/all.ts';
import { branchKeysOf, ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
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
  check: ({ program: { piece }, exploration }) => {
    if (!isComplete(exploration)) return [];
    return threadsIn(piece).flatMap((thread) => {
      const idle = branchKeysOf(thread).findIndex((key, i) => {
        if (exploration.acted.has(key) || !exploration.branches.has(key)) return false;
        const { steps } = thread.branches[i]!;
        return steps.length > 0 && !steps.some(isBadLink);
      });
      if (idle < 0 || lostInThread(piece, thread) !== null || isFaulty(piece, thread)) return [];
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
