import type { RunEvent } from '../run/state.ts';
import type { Clock } from './clock.ts';
import type { Edges } from './edges.ts';
import type { Memory } from './memory.ts';
import type { Move, Timed } from './moves.ts';
import { isInCore, type Outcome } from './outcome.ts';

/** What an outcome comes to where some of what tells states apart is left as it begins: worked out once for all states in which it does. */
export interface Effect {
  readonly outcome: Outcome;
  /** The number of the outcome. */
  readonly number: number;
  /** It depends on what is left: what comes of it besides where it leads is told where that is explored. */
  readonly isElsewhere: boolean;
  /** It depends on what is left and can be set at will. */
  readonly isFree: boolean;
  /** Nothing to do with what was come from, and nothing but a row and what waits comes of it. */
  readonly isPlain: boolean;
  /** The same, but that frames may be put on what was come from, or taken off it. */
  readonly isSimple: boolean;
  /** It starts nothing that waits, and ends nothing. */
  readonly isTimeless: boolean;
  /** All columns that it writes, those of cleared scenes first, as far as there were so many columns. */
  columns: readonly number[];
  values: readonly number[];
  known: number;
  /** So often account was kept of it. */
  accounted: number;
  isUsed: boolean;
  /** It is known what it brings anything into. */
  isEntered: boolean;
  /** It led to another state. */
  hasMoved: boolean;
  /** Whether it does nothing to what is explored here, as of so many things that wait. */
  isOutside: boolean;
  waits: number;
  /** How it was taken last. */
  move: Move | null;
  step: Timed | null;
  /** That as a number for edges; -1 before it is one. */
  deed: number;
  /** All that there is to say of it was said, but for more places where it comes about, and where it leads. */
  isTold: boolean;
  /** Too much tells it apart for it to be found at once. */
  isWide: boolean;
}

export class Effects {
  private readonly known: (Effect | undefined)[] = [];

  constructor(
    private readonly memory: Memory,
    private readonly clock: Clock,
    /** Columns that are left as they begin. */
    private readonly left: ReadonlySet<number>,
    private readonly edges: Edges,
    /** Those of them that can be set at will. */
    private readonly free: ReadonlySet<number>
  ) {}

  of(outcome: Outcome): Effect {
    const number = this.memory.numberOf(outcome);
    const effect = (this.known[number] ??= this.made(outcome, number));
    if (effect.known !== this.memory.slots.columns.length && outcome.cleared.length > 0) this.write(effect);
    return effect;
  }

  private made(outcome: Outcome, number: number): Effect {
    const { leaves, isTaken, pushed, endless, isHurry, isDeep, starts, ended, endedHeads } = outcome;
    const reads = this.left.size > 0 ? this.memory.readsOf(outcome) : [];
    const isSimple = !leaves && !isHurry && !isDeep && endless.length === 0;
    const effect: Effect = {
      outcome,
      number,
      isElsewhere: reads.some((column) => this.left.has(column)),
      isFree: reads.some((column) => this.free.has(column)),
      isPlain: isSimple && !isTaken && pushed.length === 0,
      isSimple,
      isTimeless: [starts, ended, endedHeads].every(({ length }) => length === 0),
      columns: [],
      values: [],
      known: 0,
      accounted: 0,
      isUsed: false,
      isEntered: false,
      hasMoved: false,
      isOutside: false,
      waits: -1,
      move: null,
      step: null,
      deed: -1,
      isTold: false,
      isWide: false,
    };
    this.write(effect);
    return effect;
  }

  private write(effect: Effect): void {
    const { slots } = this.memory;
    const { cleared, columns, values } = effect.outcome;
    const gone = [...new Set(cleared.flatMap((scene) => slots.of(scene).map(({ column }) => column)))].filter((column) => !columns.includes(column));
    effect.columns = [...gone, ...columns];
    effect.values = [...gone.map(() => 0), ...values.map((value, i) => (this.left.has(columns[i]!) ? 0 : value))];
    effect.known = slots.columns.length;
  }

  /** Whether it is told elsewhere, and does nothing to what is explored here. */
  isOutside(effect: Effect): boolean {
    if (!effect.isElsewhere) return false;
    const { length } = this.memory.times.waits;
    if (effect.waits !== length) {
      effect.isOutside = !isInCore(effect.outcome, (column) => !this.left.has(column), this.clock.hits);
      effect.waits = length;
    }
    return effect.isOutside;
  }

  /** What is done, as it is taken on a route. */
  step(effect: Effect, number: number, event: RunEvent, move: Move): Timed {
    if (effect.move === move) return effect.step!;
    const step = { event, moves: [move], ...(effect.isFree && { sought: { event: number, outcome: effect.outcome } }) };
    // One of which all was told stays as it was: it is looked up as that.
    if (effect.isTold) return step;
    effect.move = move;
    effect.step = step;
    effect.deed = -1;
    return step;
  }

  /** The same as a number for edges. */
  deed(effect: Effect, step = effect.step!): number {
    if (step !== effect.step) return this.edges.deed(step, effect.outcome.threads);
    if (effect.deed < 0) effect.deed = this.edges.deed(step, effect.outcome.threads);
    return effect.deed;
  }
}
