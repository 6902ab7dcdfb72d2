import { definePlainCue } from './define.ts';

export const click = definePlainCue('click', {
  label: 'clicked',
  meaning: 'pressed and released on the same layer, with pointer, finger, Enter or space',
  when: 'When clicked',
  pointer: 'pressing',
});
