import type { Ambient } from './ambient.ts';
import type { Effect } from './effects.ts';
import type { Spot } from './exploration.ts';
import type { Moment } from './moment.ts';
import type { Timed } from './moves.ts';

/** Places that are remembered for a branch, at most. */
const MOST_SPOTS = 8;

/** Keeps account of what happens while a piece is explored: what fires, where, and whether it does anything. */
export class Account {
  readonly fired = new Set<string>();
  readonly branches = new Set<string>();
  readonly acted = new Set<string>();
  readonly endless = new Map<string, Moment & { readonly step: Timed }>();
  readonly failed = new Map<string, Moment & { readonly step: Timed }>();
  readonly places = new Map<string, Spot[]>();
  /** How many branches one event fires at most. */
  together = 0;

  /** What happens on the way in. */
  begin(threads: readonly string[], branches: readonly string[], acted: readonly string[]): void {
    for (const thread of threads) this.fired.add(thread);
    for (const branch of branches) this.branches.add(branch);
    for (const branch of acted) this.acted.add(branch);
  }

  /** Whether anything more is remembered of an effect: its branches have as many places as are. */
  isFull({ accounted }: Effect): boolean {
    return accounted >= MOST_SPOTS;
  }

  /** An effect comes about in a state. */
  keep(effect: Effect, state: number, step: Timed, { stirring }: Ambient, at: () => Moment): void {
    const { threads, branches, acted, endless, failed } = effect.outcome;
    effect.accounted++;
    for (const thread of threads) this.fired.add(thread);
    this.together = Math.max(this.together, branches.length);
    const spot: Spot = { state, event: step.event, step };
    for (const branch of branches) {
      this.branches.add(branch);
      const spots = this.places.get(branch);
      if (!spots) this.places.set(branch, [spot]);
      else if (spots.length < MOST_SPOTS) spots.push(spot);
      if (stirring.has(branch)) this.acted.add(branch);
    }
    for (const branch of acted) this.acted.add(branch);
    for (const thread of endless) if (!this.endless.has(thread)) this.endless.set(thread, { ...at(), step });
    for (const thread of failed) if (!this.failed.has(thread)) this.failed.set(thread, { ...at(), step });
  }

  /** An effect leads to another state: what it clears was other than it begins. */
  move(effect: Effect): void {
    if (effect.hasMoved) return;
    effect.hasMoved = true;
    for (const branch of effect.outcome.clearing) this.acted.add(branch);
  }
}
