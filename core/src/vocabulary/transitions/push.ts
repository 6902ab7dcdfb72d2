import { vectorOf } from '../directions.ts';
import { defineTransition, directedSchema, FROM_THE_LEFT } from './define.ts';
import { isOutOfSight, still, wayOf, type Change, type Placed } from './moving.ts';

export const push = defineTransition({
  type: 'push',
  label: 'push',
  meaning: 'the new one comes in from a side and moves the old one out',
  schema: directedSchema('push'),
  fresh: { type: 'push', ...FROM_THE_LEFT },
  hasDirection: true,
  isBounded: true,
  bringsBack: true,
  /** All frames move together by as much as brings the new one to rest; it comes in next to the outermost one. */
  ways(onScreen, change) {
    const { to, size } = change;
    const there = onScreen.find((placed) => placed.frame === to);
    const incoming = there ?? entering(onScreen, change);
    return [...onScreen, ...(there ? [] : [incoming])].map((placed) => {
      if (placed.frame === to) return wayOf(placed, still(to));
      const moved = { ...placed, x: placed.x - incoming.x, y: placed.y - incoming.y };
      // In the middle of another kind of change it may not be moved out of sight by that.
      return wayOf(placed, there && !isOutOfSight(moved, size) ? { ...moved, opacity: 0 } : moved);
    });
  },
});

function entering(onScreen: readonly Placed[], { to, direction, size }: Change): Placed {
  const way = vectorOf[direction];
  const along = onScreen.map((placed) => -(placed.x * way.x + placed.y * way.y));
  const outermost = Math.max(0, ...along);
  const lead = onScreen[along.indexOf(outermost)] ?? { x: 0, y: 0 };
  return {
    ...still(to),
    x: way.x === 0 ? lead.x : -way.x * (outermost + size.width),
    y: way.y === 0 ? lead.y : -way.y * (outermost + size.height),
  };
}
