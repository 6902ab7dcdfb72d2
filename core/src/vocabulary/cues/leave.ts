import { ON_LAYERS, definePlainCue } from './define.ts';

export const leave = definePlainCue('leave', {
  label: 'left by the pointer',
  meaning: 'the pointer goes off the layer',
  when: 'When the pointer leaves',
  owners: ON_LAYERS,
  pointer: 'moving',
});
