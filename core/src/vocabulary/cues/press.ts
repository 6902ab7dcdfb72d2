import { definePlainCue } from './define.ts';

export const press = definePlainCue('press', {
  label: 'pressed',
  meaning: 'the pointer or a finger goes down on it',
  when: 'When pressed',
  pointer: 'pressing',
});
