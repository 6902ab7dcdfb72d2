import { ON_LAYERS, definePlainCue } from './define.ts';

export const blur = definePlainCue('blur', {
  label: 'loses the focus',
  meaning: 'the keyboard goes elsewhere',
  when: 'When it loses the focus',
  owners: ON_LAYERS,
});
