import { definePlainCue } from './define.ts';

export const doubleClick = definePlainCue('double click', {
  label: 'double-clicked',
  meaning: 'clicked twice within 400 ms; the click cue fires for both as well',
  when: 'When double-clicked',
  pointer: 'pressing',
});
