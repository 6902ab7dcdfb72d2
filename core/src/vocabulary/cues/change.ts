import { ON_LAYERS, definePlainCue } from './define.ts';

export const change = definePlainCue('change', {
  label: 'changed',
  meaning: 'what stands in a field is another value',
  when: 'When changed',
  owners: ON_LAYERS,
});
