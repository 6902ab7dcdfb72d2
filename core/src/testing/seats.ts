import type { SceneSpec } from '../compose/compose.ts';

/** A part that is free or taken, and looks it; a press of it changes which. */
export const seat = (width: number, height: number): SceneSpec => ({
  size: [width, height],
  states: { Free: {}, Taken: { chair: { style: { fill: '#aa3311' } } } },
  layers: { chair: { at: [0, 0, width, height], lines: ['click → next state around'] } },
});
