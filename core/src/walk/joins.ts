/** How a state was come to: from which one, and by what, as numbers. */
export interface Coming {
  readonly from: number;
  readonly deed: number;
}

/** Ways to a state: those that lead into it in all ways in which time can have passed, and those that do in some. */
export interface Ways {
  readonly whole: readonly Coming[];
  readonly partly: readonly Coming[];
}

/**
 * States that are one with others, since all ways in which time can have passed in them are one zone: how each was come to, and which are
 * part of another one by now.
 */
export class Joins {
  private readonly ways = new Map<number, Ways>();
  private readonly parts = new Map<number, number>();

  /** Whether any states are one with others. */
  get isAny(): boolean {
    return this.ways.size > 0;
  }

  /** All ways to a state that is several in one; undefined for others. */
  waysTo(state: number): Ways | undefined {
    return this.ways.get(state);
  }

  /** A state is all that comes in these ways from now on. */
  join(state: number, { whole, partly }: Ways): void {
    this.ways.set(state, { whole: once(whole), partly: once(partly) });
  }

  /** A state that is not followed yet is part of another one from now on. */
  take(state: number, into: number): void {
    this.parts.set(state, into);
  }

  /** The state of which another one is part; null for none. */
  wholeOf(state: number): number | null {
    let whole = this.parts.get(state);
    if (whole === undefined) return null;
    for (let next = this.parts.get(whole); next !== undefined; next = this.parts.get(whole)) whole = next;
    return whole;
  }
}

const once = (ways: readonly Coming[]): Coming[] => [...new Map(ways.map((way) => [`${way.from} ${way.deed}`, way])).values()];
