import { defineTransition, directedSchema, FROM_THE_LEFT } from './define.ts';
import { staying, still, wayOf } from './moving.ts';

export const wipe = defineTransition({
  type: 'wipe',
  label: 'wipe',
  meaning: 'an edge runs across and leaves the new one behind it',
  schema: directedSchema('wipe'),
  fresh: { type: 'wipe', ...FROM_THE_LEFT },
  hasDirection: true,
  ways(onScreen, { to, direction, size: { width, height } }) {
    const hidden = { left: [width, 0, 0, 0], right: [0, 0, width, 0], up: [0, height, 0, 0], down: [0, 0, 0, height] } as const;
    return [...staying(onScreen), wayOf({ ...still(to), cut: hidden[direction] }, still(to))];
  },
  lifted(placed, direction, { width, height }) {
    const cut = { left: [0, 0, width, 0], right: [width, 0, 0, 0], up: [0, 0, 0, height], down: [0, height, 0, 0] } as const;
    return { ...placed, cut: cut[direction] };
  },
});
