import type { Timed } from './moves.ts';

/**
 * Back stacks without an end. What a frame was come to from stands on its stack: one place for each pair of the row that was come to
 * and the frame come from, whatever lies below it, which may be many. *Back* leads to all of them. So every stack that can be is told
 * exactly, however deep, by as many places as there are ways from frame to frame.
 */

/** The stack with nothing on it. */
export const EMPTY = 0;

/** How a place on a stack was come to. */
export interface Push {
  /** The state that was left, with the stack that then lies below. */
  readonly from: number;
  readonly step: Timed;
  /** The state that was come to. */
  readonly entry: number;
  readonly below: number;
}

interface Place {
  /** The frame on the top. */
  readonly top: string;
  readonly below: Map<number, Push | null>;
  /** Told of each place that turns out to lie below. */
  readonly heard: ((below: number, push: Push | null) => void)[];
}

export class Stacks {
  private readonly places: Place[] = [{ top: '', below: new Map(), heard: [] }];
  private readonly numbers = new Map<string, number>();

  /** The frame on the top; '' for the empty stack. */
  topOf = (stack: number): string => this.places[stack]!.top;

  /** The place for a frame on top of others, as a row is come to. */
  place(row: number, depth: number, top: string): number {
    const key = `${row} ${depth} ${top}`;
    let number = this.numbers.get(key);
    if (number === undefined) {
      this.numbers.set(key, (number = this.places.length));
      this.places.push({ top, below: new Map(), heard: [] });
    }
    return number;
  }

  /** What lies below a place was found. */
  lay(stack: number, below: number, push: Push | null): void {
    const place = this.places[stack]!;
    if (place.below.has(below)) return;
    place.below.set(below, push);
    for (const hear of [...place.heard]) hear(below, push);
  }

  /** What is known to lie below a place, and how it came to. */
  belowOf = (stack: number): ReadonlyMap<number, Push | null> => this.places[stack]!.below;

  /** Calls for everything that lies below a place, now and as it is found. */
  whatLiesBelow(stack: number, hear: (below: number, push: Push | null) => void): void {
    const place = this.places[stack]!;
    place.heard.push(hear);
    for (const [below, push] of [...place.below]) hear(below, push);
  }
}
