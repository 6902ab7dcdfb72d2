import { ON_LAYERS, definePlainCue } from './define.ts';

export const inView = definePlainCue('in view', {
  label: 'scrolled into view',
  meaning: 'scrolling brings any of it into what can be seen',
  when: 'When scrolled into view',
  owners: ON_LAYERS,
});
