import { definePlainCue } from './define.ts';

export const release = definePlainCue('release', {
  label: 'let go',
  meaning: 'a press that began on it ends, wherever that is',
  when: 'When let go',
  pointer: 'pressing',
});
