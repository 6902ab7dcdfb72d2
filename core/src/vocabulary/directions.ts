export const DIRECTIONS = ['left', 'right', 'up', 'down'] as const;

export type Direction = (typeof DIRECTIONS)[number];

/** The way a thing moves, as unit steps: x to the right, y down. */
export const vectorOf: Record<Direction, { x: number; y: number }> = {
  left: { x: -1, y: 0 },
  right: { x: 1, y: 0 },
  up: { x: 0, y: -1 },
  down: { x: 0, y: 1 },
};
