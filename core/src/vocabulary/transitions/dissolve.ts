import { defineTransition, timedSchema, USUAL } from './define.ts';
import { still, wayOf } from './moving.ts';

export const dissolve = defineTransition({
  type: 'dissolve',
  label: 'dissolve',
  meaning: 'the new one fades in over the old one',
  schema: timedSchema('dissolve'),
  fresh: { type: 'dissolve', ...USUAL },
  isStill: true,
  bringsBack: true,
  /** If it is on screen already it grows opaque and what is in front of it fades out. */
  ways(onScreen, { to }) {
    const at = onScreen.findIndex((placed) => placed.frame === to);
    const ways = onScreen.map((placed, i) => {
      if (i === at) return wayOf(placed, still(to));
      return wayOf(placed, at >= 0 && i > at ? { ...placed, opacity: 0 } : placed);
    });
    return at < 0 ? [...ways, wayOf({ ...still(to), opacity: 0 }, still(to))] : ways;
  },
  lifted: (placed) => ({ ...placed, opacity: 0 }),
});
