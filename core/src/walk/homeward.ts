import type { Exploration } from './exploration.ts';

/**
 * From where home can be reached. What *back* leads to depends on what lies on the back stack, of which a state knows the top: so it
 * is worked out for each state whether home can be reached without going back over where it was come from, and if not, where going
 * back can lead; and then for a whole stack, place by place.
 */
export class Homeward {
  private readonly near: Set<number>;
  /** The rows that going back from a state can lead to. */
  private readonly returns = new Map<number, ReadonlySet<number>>();

  constructor(
    private readonly exploration: Exploration,
    /** States that are home. */
    home: Iterable<number>
  ) {
    this.near = new Set(home);
    if (exploration.levels) this.workOut(exploration.levels);
    else this.grow();
  }

  /** The stack, from its top down, with which home cannot be reached from a state; null where it always can. */
  lostWith(state: number): readonly number[] | null {
    const { levels } = this.exploration;
    if (this.near.has(state)) return null;
    if (!levels) return [];
    let left = MOST_STACKS;
    const seen = new Set<string>();
    const lost = (states: readonly number[], stack: number): readonly number[] | null => {
      if (--left < 0 || states.some((one) => this.near.has(one))) return null;
      const rows = new Set(states.flatMap((one) => [...(this.returns.get(one) ?? [])]));
      const key = `${stack} ${states.join()}`;
      if (seen.has(key)) return null;
      seen.add(key);
      for (const below of levels.below(stack)) {
        const come = [...rows].flatMap((row) => levels.at(row, below) ?? []);
        if (come.length < rows.size) continue;
        const rest = rows.size ? lost(come, below) : anyStack(levels, below);
        if (rest) return [below, ...rest];
      }
      return levels.below(stack).length === 0 ? [] : null;
    };
    return lost([state], levels.stackOf(state));
  }

  /** Where going back leads nowhere new: whatever leads to home. */
  private grow(): void {
    const sources = sourcesIn(this.exploration);
    for (const at of this.near) for (const source of sources[at]!) this.near.add(source);
  }

  private workOut(levels: NonNullable<Exploration['levels']>): void {
    const { edges } = this.exploration;
    const { near, returns } = this;
    const returned = edges.states.map((at) => new Set(edges.of(at).flatMap(({ to, back }) => (back ? [levels.rowOf(to)] : []))));
    returned.forEach((rows, at) => returns.set(at, rows));
    // Who has to be looked at again when more is known of a state.
    const askers: Set<number>[] = edges.states.map(() => new Set());
    const open = new Set(edges.states);
    for (const at of open) {
      open.delete(at);
      const rows = returned[at]!;
      const [before, wasNear] = [rows.size, near.has(at)];
      const take = (to: number) => {
        askers[to]!.add(at);
        if (near.has(to)) near.add(at);
        for (const row of returned[to]!) rows.add(row);
      };
      for (const { to, back } of edges.of(at)) {
        if (back) continue;
        if (levels.stackOf(to) === levels.stackOf(at)) {
          take(to);
          continue;
        }
        askers[to]!.add(at);
        if (near.has(to)) near.add(at);
        // And on from where going back leads to.
        for (const row of returned[to]!) {
          const come = levels.at(row, levels.stackOf(at));
          if (come !== undefined) take(come);
        }
      }
      if (rows.size !== before || near.has(at) !== wasNear) for (const one of askers[at]!) open.add(one);
    }
  }
}

/** All that a state leads to, also by what is not followed there. */
export const endsOf = ({ edges, beyond }: Exploration, state: number): readonly number[] => [...edges.endsOf(state), ...(beyond.get(state) ?? [])];

/** For each state those that lead to it. */
export function sourcesIn({ edges, beyond }: Exploration): readonly (readonly number[])[] {
  const sources = edges.sources();
  for (const [from, ends] of beyond) for (const to of ends) sources[to]!.push(from);
  return sources;
}

/** Stacks that are tried for one state, before nothing is said of it. */
const MOST_STACKS = 5000;

/** Any stack that goes on from a place down. */
function anyStack(levels: NonNullable<Exploration['levels']>, stack: number): readonly number[] {
  const seen = new Set<number>();
  const down = (at: number): number[] | null => {
    const below = levels.below(at);
    if (below.length === 0) return [];
    if (seen.has(at)) return null;
    seen.add(at);
    for (const one of below) {
      const rest = down(one);
      if (rest) return [one, ...rest];
    }
    return null;
  };
  return down(stack) ?? [];
}
