import { ON_LAYERS, definePlainCue } from './define.ts';

export const drag = definePlainCue('drag', {
  label: 'dragged',
  meaning: 'at every move of a drag',
  when: 'While dragged',
  owners: ON_LAYERS,
  pointer: 'moving',
});
