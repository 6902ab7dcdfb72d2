import { defineTransition, timedSchema, USUAL } from './define.ts';

export const tween = defineTransition({
  type: 'tween',
  label: 'tween',
  meaning: 'layers that both have (copies first, then by name and type) go from pose to pose; the others fade',
  schema: timedSchema('tween'),
  fresh: { type: 'tween', ...USUAL },
  movesLayers: true,
});
