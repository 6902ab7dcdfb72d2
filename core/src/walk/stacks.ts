import { Pairs } from './pairs.ts';

/**
 * Back stacks without an end. What a frame was come to from stands on its stack: one place for each pair of the row that was come to
 * and the frame come from, whatever lies below it, which may be many. *Back* leads to all of them. So every stack that can be is told
 * exactly, however deep, by as many places as there are ways from frame to frame.
 */

/** No state, and nothing that was done. */
const NOBODY = -1;

/** The stack with nothing on it. */
export const EMPTY = 0;

/** How a place on a stack was come to. */
export interface Push {
  /** The state that was left, with the stack that then lies below. */
  readonly from: number;
  /** What was done, as a number for edges. */
  readonly deed: number;
  /** The state that was come to. */
  readonly entry: number;
}

interface Place {
  /** The frame on the top. */
  readonly top: string;
  /** What lies below, in the order in which that was found. */
  readonly belows: number[];
  /** How each came to: the states that were left, with what was done there; nobody where it lies there with others. */
  readonly froms: number[];
  readonly deeds: number[];
  /** The state that was come to. */
  entry: number;
  /** Told of each place that turns out to lie below. */
  readonly heard: ((below: number) => void)[];
}

export class Stacks {
  private readonly places: Place[] = [placeFor('')];
  /** Places by the row that was come to, and by what was put there. */
  private readonly numbers = new Pairs();
  /** Where one place stands among those that lie below another. */
  private readonly laid = new Pairs();

  /** The frame on the top; '' for the empty stack. */
  topOf = (stack: number): string => this.places[stack]!.top;

  /** The place for a frame, with a number of its own, on top of others as a row is come to: the first that is put there, or one after. */
  place(row: number, depth: number, top: string, frame: number): number {
    const what = frame + depth * MOST_FRAMES;
    const known = this.numbers.get(row, what);
    if (known >= 0) return known;
    this.numbers.set(row, what, this.places.length);
    return this.places.push(placeFor(top)) - 1;
  }

  /** Whether it was found that one place lies below another. */
  isLaid = (stack: number, below: number): boolean => this.laid.get(stack, below) >= 0;

  /** What lies below a place was found; where it came to lie there by itself, from which state and by what. */
  lay(stack: number, below: number, from = NOBODY, deed = NOBODY, entry = NOBODY): void {
    if (this.isLaid(stack, below)) return;
    const place = this.places[stack]!;
    this.laid.set(stack, below, place.belows.length);
    place.belows.push(below);
    place.froms.push(from);
    place.deeds.push(deed);
    if (entry !== NOBODY) place.entry = entry;
    // Who asks from now on is told of it then.
    const { length } = place.heard;
    for (let i = 0; i < length; i++) place.heard[i]!(below);
  }

  /** What is known to lie below a place. */
  belowOf = (stack: number): readonly number[] => this.places[stack]!.belows;

  /** How one place came to lie below another; null where it did so with others, or does not. */
  pushOn(stack: number, below: number): Push | null {
    const at = this.laid.get(stack, below);
    const { froms, deeds, entry } = this.places[stack]!;
    return at < 0 || froms[at] === NOBODY ? null : { from: froms[at]!, deed: deeds[at]!, entry };
  }

  /** Goes over everything that is known to lie below a place, and whether it came to lie there by itself. */
  eachBelow(stack: number, visit: (below: number, isPut: boolean) => void): void {
    const { belows, froms } = this.places[stack]!;
    const { length } = belows;
    for (let i = 0; i < length; i++) visit(belows[i]!, froms[i] !== NOBODY);
  }

  /** Calls for everything that turns out to lie below a place from now on. */
  hear(stack: number, hear: (below: number) => void): void {
    this.places[stack]!.heard.push(hear);
  }

  /** Calls for everything that lies below a place, now and as it is found. */
  whatLiesBelow(stack: number, hear: (below: number) => void): void {
    this.hear(stack, hear);
    this.eachBelow(stack, hear);
  }
}

const placeFor = (top: string): Place => ({ top, belows: [], froms: [], deeds: [], entry: NOBODY, heard: [] });

/** More frames than a piece has. */
const MOST_FRAMES = 2 ** 15;
