import type { Step } from '../vocabulary/steps/all.ts';
import { outwardNodes } from '../program/node.ts';
import { branchKey, type Call, type Runner } from './runner.ts';
import { scrollRange } from './scrolling.ts';
import type { Effect } from './state.ts';

/** Whether steps do anything at all. */

/** What is seen or heard, or leaves the piece. */
const OUTWARD: ReadonlySet<Effect['type']> = new Set<Effect['type']>(['open', 'signal', 'media']);

/** Notes what a step of a branch did. */
export function noteStep(runner: Runner, call: Call, branch: number, step: Step, isChanged: boolean, effects: readonly Effect[]): void {
  const { acted } = runner;
  const key = branchKey(call.thread.id, branch);
  if (mayScroll(runner, call, step) || effects.some(({ type }) => OUTWARD.has(type))) acted.set(key, 'outside');
  else if (isChanged && !acted.has(key)) acted.set(key, 'inside');
}

/** Whether a step scrolls what can be scrolled: whether it is where it leads to already depends on whoever scrolled before. */
function mayScroll(runner: Runner, call: Call, step: Step): boolean {
  if (step.do !== 'scroll') return false;
  const place = 'edge' in step.to ? null : runner.placeFor(call, step.to.layer);
  const around = place?.node ? outwardNodes(place.node.parent).find(({ layer }) => layer.scroll) : undefined;
  const range = scrollRange(runner, place?.root.scene ?? call.root ?? runner.run.frame, around?.key ?? '');
  return range.x > 0 || range.y > 0;
}
