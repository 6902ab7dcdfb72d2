import { ON_LAYERS, definePlainCue } from './define.ts';

export const dragStart = definePlainCue('drag start', {
  label: 'drag begins',
  meaning: 'a layer that can be dragged begins to move',
  when: 'When a drag begins',
  owners: ON_LAYERS,
  pointer: 'moving',
});
