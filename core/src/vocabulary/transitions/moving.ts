import { vectorOf, type Direction } from '../directions.ts';

/** Whole frames on their way: what transitions are made of. */

/**
 * A frame as it is on screen: moved by x and y in CSS pixels of the piece, more or less opaque, and cut off at its edges by so
 * much. Later ones are in front.
 */
export interface Placed {
  readonly frame: string;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
  /** CSS pixels cut off at the left, top, right and bottom. */
  readonly cut: readonly [number, number, number, number];
}

/** The way of one frame. */
export interface Way {
  readonly frame: string;
  readonly from: Placed;
  readonly to: Placed;
}

/** CSS pixels of the piece. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** What a change is: to a frame, in a direction, in a box of a size. */
export interface Change {
  readonly to: string;
  readonly direction: Direction;
  readonly size: Size;
}

const WHOLE: Placed['cut'] = [0, 0, 0, 0];

export const still = (frame: string): Placed => ({ frame, x: 0, y: 0, opacity: 1, cut: WHOLE });

export const wayOf = (from: Placed, to: Placed): Way => ({ frame: to.frame, from, to });

export const isOutOfSight = ({ x, y, opacity, cut }: Placed, { width, height }: Size): boolean =>
  opacity === 0 || Math.abs(x) >= width || Math.abs(y) >= height || cut[0] + cut[2] >= width || cut[1] + cut[3] >= height;

/** The ways of frames that stay where they are. */
export const staying = (onScreen: readonly Placed[]): Way[] => onScreen.map((placed) => wayOf(placed, placed));

/** A frame moved in a direction by the whole box. */
export const movedOut = (placed: Placed, { direction, size }: Change, by: 1 | -1 = 1): Placed => {
  const way = vectorOf[direction];
  return { ...placed, x: way.x === 0 ? placed.x : by * way.x * size.width, y: way.y === 0 ? placed.y : by * way.y * size.height };
};
