import { ON_LAYERS, definePlainCue } from './define.ts';

export const hover = definePlainCue('hover', {
  label: 'hovered',
  meaning: 'the pointer comes onto the layer',
  when: 'When hovered',
  owners: ON_LAYERS,
  pointer: 'moving',
});
