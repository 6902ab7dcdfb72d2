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
  /** The same in the order in which it was found. */
  readonly belows: number[];
  readonly pushes: (Push | null)[];
  /** Told of each place that turns out to lie below. */
  readonly heard: ((below: number, push: Push | null) => void)[];
}

export class Stacks {
  private readonly places: Place[] = [placeFor('')];
  private readonly numbers = new Map<string, number>();

  /** The frame on the top; '' for the empty stack. */
  topOf = (stack: number): string => this.places[stack]!.top;

  /** The place for a frame on top of others, as a row is come to. */
  place(row: number, depth: number, top: string): number {
    const key = `${row} ${depth} ${top}`;
    let number = this.numbers.get(key);
    if (number === undefined) {
      this.numbers.set(key, (number = this.places.length));
      this.places.push(placeFor(top));
    }
    return number;
  }

  /** What lies below a place was found. */
  lay(stack: number, below: number, push: Push | null): void {
    const place = this.places[stack]!;
    if (place.below.has(below)) return;
    place.below.set(below, push);
    place.belows.push(below);
    place.pushes.push(push);
    // Who asks from now on is told of it then.
    const { length } = place.heard;
    for (let i = 0; i < length; i++) place.heard[i]!(below, push);
  }

  /** What is known to lie below a place, and how it came to. */
  belowOf = (stack: number): ReadonlyMap<number, Push | null> => this.places[stack]!.below;

  /** Goes over everything that is known to lie below a place. */
  eachBelow(stack: number, visit: (below: number, push: Push | null) => void): void {
    const { belows, pushes } = this.places[stack]!;
    const { length } = belows;
    for (let i = 0; i < length; i++) visit(belows[i]!, pushes[i]!);
  }

  /** Calls for everything that lies below a place, now and as it is found. */
  whatLiesBelow(stack: number, hear: (below: number, push: Push | null) => void): void {
    const place = this.places[stack]!;
    place.heard.push(hear);
    this.eachBelow(stack, hear);
  }
}

const placeFor = (top: string): Place => ({ top, below: new Map(), belows: [], pushes: [], heard: [] });
