import { ON_LAYERS, definePlainCue } from './define.ts';

export const focus = definePlainCue('focus', {
  label: 'gets the focus',
  meaning: 'the keyboard comes to it',
  when: 'When it gets the focus',
  owners: ON_LAYERS,
});
