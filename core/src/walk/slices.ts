import type { Explorer } from './explorer.ts';
import type { Memory, Outcome } from './memory.ts';

/**
 * What tells states apart, cut into slices that can be explored by themselves. Some of it decides where one can be, what can be done
 * there and when: the core, with all that it depends on. The rest depends on the core, and nothing depends on it but itself: sixty seats
 * that are taken or free are sixty times two states, not two to the sixtieth.
 */
export interface Slices {
  /** What is left out where only the core is explored. */
  readonly all: ReadonlySet<number>;
  /** For each slice, what is left out where it is explored with the core. */
  readonly others: readonly ReadonlySet<number>[];
}

/** Fields of the run itself: where one is, what lies over it, what waits. */
const CORE = ['frame', 'overlays', 'activities', 'over', 'focus', 'pointer', 'pad'] as const;

const isOutcome = (answer: object): answer is Outcome => 'cleared' in answer;

/** The slices that everything that was found so far allows; null where there are fewer than two. */
export function slicesOf(memory: Memory, explorers: readonly Explorer[]): Slices | null {
  const core = new Set<number>(CORE.map((name) => memory.slots.named(name).column));
  const outcomes: Outcome[] = [];
  for (const { uses } of explorers)
    for (const { answer } of uses) {
      const leads = isOutcome(answer) && !(answer.leaves || answer.isTaken || answer.isHurry || answer.isDeep || answer.pushed.length > 0);
      if (isOutcome(answer)) outcomes.push(answer);
      if (!leads) for (const column of memory.readsOf(answer)) core.add(column);
    }
  for (let size = -1; size !== core.size;) {
    size = core.size;
    for (const outcome of outcomes)
      if (outcome.cleared.length > 0 || outcome.columns.some((column) => core.has(column)))
        for (const column of memory.readsOf(outcome)) core.add(column);
  }
  const rest = [...new Set(outcomes.flatMap(({ columns }) => columns))].filter((column) => !core.has(column));
  const groups = new Map(rest.map((column) => [column, column]));
  const rootOf = (column: number): number => {
    let at = column;
    while (groups.get(at) !== at) at = groups.get(at)!;
    return at;
  };
  const isRest = new Set(rest);
  for (const outcome of outcomes) {
    const [first, ...others] = memory.readsOf(outcome).filter((column) => isRest.has(column));
    if (first === undefined) continue;
    for (const other of [...others, ...outcome.columns.filter((column) => isRest.has(column))]) groups.set(rootOf(other), rootOf(first));
  }
  const roots = [...new Set(rest.map(rootOf))];
  const sizes = roots.map((root) =>
    rest.reduce((size, column) => size * (rootOf(column) === root ? memory.slots.columns[column]!.values.length : 1), 1)
  );
  // One by one they have to be fewer than all together.
  if (sizes.reduce((all, size) => Math.min(all * size, 1e9), 1) <= 1 + sizes.reduce((all, size) => all + size, 0)) return null;
  return { all: new Set(rest), others: roots.map((root) => new Set(rest.filter((column) => rootOf(column) !== root))) };
}

/** The same slices as one text to compare. */
export const wordsOf = (slices: Slices | null): string =>
  slices === null ? '' : JSON.stringify([[...slices.all].sort(), slices.others.map((one) => [...one].sort()).sort()]);
