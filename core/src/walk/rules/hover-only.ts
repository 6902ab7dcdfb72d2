import { onlyRule } from '../only-rule.ts';

export const hoverOnly = onlyRule({
  id: 'hover-only',
  words: 'hover only',
  meaning: 'a frame that is come to, or a thread that fires, only where a pointer can hover: with a finger nobody gets there',
  spares: 'what a click or a tap leads to as well',
  way: 'finger',
  isMeant: ({ cue }) => cue.type === 'hover' || cue.type === 'leave',
  frame: (name) => `Only hovering leads to ${name}; with a finger nobody gets there.`,
  thread: (owner) => `What ${owner} does is got at only by hovering; with a finger nobody gets there.`,
});
