import { isOnlyPointed, isTypedClick } from '../ways.ts';
import { onlyRule } from '../only-rule.ts';

export const mouseOnly = onlyRule({
  id: 'mouse-only',
  words: 'pointer only',
  meaning: 'a frame that is come to, or a thread that fires, only by pointing, swiping or dragging: with the keyboard nobody gets there',
  spares: 'what a click, a key or the focus leads to as well',
  way: 'keyboard',
  isMeant: (thread, { piece }) => isOnlyPointed(thread.cue) || (thread.cue.type === 'click' && !isTypedClick(piece, thread)),
  frame: (name) => `Only a pointer leads to ${name}; with the keyboard nobody gets there.`,
  thread: (owner) => `What ${owner} does is got at only with a pointer; with the keyboard nobody gets there.`,
});
