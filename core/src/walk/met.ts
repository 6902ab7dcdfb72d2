import type { Deed } from './edges.ts';
import type { State } from './exploration.ts';
import { Ints } from './ints.ts';
import type { Timed } from './moves.ts';

/** A start was come to from nowhere, by nothing. */
const NONE = -1;

/** States by the numbers in the order in which they were met, with how each was come to: as numbers, since there are many. */
export class Met {
  private readonly parents = new Ints();
  private readonly cameBy = new Ints();
  private readonly begun = new Ints();
  /** Start frames by their numbers. */
  private readonly starts: string[] = [];
  private readonly listed: State[] = [];

  constructor(
    /** What is done, by its numbers. */
    private readonly deeds: readonly Deed[],
    private readonly frameOf: (state: number) => string
  ) {}

  get length(): number {
    return this.parents.length;
  }

  /** One more that somebody begins in. */
  begin(frame: string): void {
    this.parents.push(NONE);
    this.cameBy.push(NONE);
    this.begun.push(this.starts.push(frame) - 1);
  }

  /** One more that a deed leads to, on the way on from where another one was begun. */
  come(parent: number, deed: number, onFrom: number): void {
    this.parents.push(parent);
    this.cameBy.push(deed);
    this.begun.push(this.begun.at(onFrom));
  }

  parentOf(state: number): number {
    return this.parents.at(state);
  }

  startOf(state: number): string {
    return this.starts[this.begun.at(state)]!;
  }

  /** What it was come to by from its parent; null for a start. */
  stepOf(state: number): Timed | null {
    const deed = this.cameBy.at(state);
    return deed === NONE ? null : this.deeds[deed]!.step;
  }

  /** All of them, for those who look at each. */
  get list(): readonly State[] {
    for (let state = this.listed.length; state < this.length; state++) {
      const [parent, start] = [this.parents.at(state), this.startOf(state)];
      this.listed.push({ frame: this.frameOf(state), parent, event: this.stepOf(state)?.event ?? null, start });
    }
    return this.listed;
  }
}
