import { kept } from '$lib/shared/kept';

/** What stands around the stage. Each can be folded away, and keeps the width it was given. */

interface SideKind {
  readonly label: string;
  readonly key: string;
}

interface ColumnKind extends SideKind {
  /** CSS px: as wide as it opens in a window, at least, and at most. */
  readonly usual: (window: number) => number;
  readonly least: number;
  readonly most: number;
}

const within = (value: number, least: number, most: number): number => Math.round(Math.min(most, Math.max(least, value)));

/** Those that are columns, with a width. */
const columnKinds = {
  shelf: { label: 'shelf', key: 'q', usual: (window) => (window < ROOMY ? 72 : 92), least: 64, most: 180 },
  cues: { label: 'cue sheet', key: 'w', usual: (window) => within(window * 0.22, 262, 380), least: 240, most: 560 },
  beside: { label: 'side column', key: 'l', usual: (window) => within(window * 0.195, 208, 250), least: 200, most: 480 },
} as const satisfies Record<string, ColumnKind>;

export const sideKinds = { ...columnKinds, strip: { label: 'strip', key: 'd' } } as const satisfies Record<string, SideKind>;

export type Column = keyof typeof columnKinds;
export type Side = keyof typeof sideKinds;

const columns = Object.keys(columnKinds) as Column[];

export const sides = Object.keys(sideKinds) as Side[];

/** So wide is what is left of a side that is folded away, in CSS px. */
export const RAIL = 16;

/** In windows as wide as this there is room for every side; in others one begins folded, and opens once it is used. CSS px. */
const ROOMY = 1500;

const KEPT = 'zany-sides';

interface Kept {
  readonly folded?: readonly string[];
  readonly widths?: Readonly<Record<string, number>>;
}

export class Sides {
  private folded: readonly Side[] = $state.raw([]);
  private widths: Partial<Record<Column, number>> = $state.raw({});
  /** What was folded before all of it was. */
  private before: readonly Side[] = [];
  /** CSS px. */
  window = $state(innerWidth);

  constructor() {
    const { folded = this.window < ROOMY ? ['beside'] : [], widths = {} } = (kept(KEPT) ?? {}) as Kept;
    this.folded = sides.filter((side) => Array.isArray(folded) && folded.includes(side));
    this.widths = Object.fromEntries(columns.flatMap((one) => (typeof widths[one] === 'number' ? [[one, this.fitted(one, widths[one])]] : [])));
  }

  private fitted(column: Column, width: number): number {
    const { least, most } = columnKinds[column];
    return within(width, least, most);
  }

  /** Keeps what is folded and how wide all is for the next time. */
  keep(): void {
    localStorage.setItem(KEPT, JSON.stringify({ folded: this.folded, widths: this.widths }));
  }

  isFolded = (side: Side): boolean => this.folded.includes(side);

  fold(side: Side, folded = !this.isFolded(side)): void {
    this.folded = sides.filter((one) => (one === side ? folded : this.isFolded(one)));
    this.keep();
  }

  /** Nothing but the stage; or, where it is so, what there was before. */
  foldAll(): void {
    const all = sides.every(this.isFolded);
    if (!all) this.before = this.folded;
    this.folded = all ? this.before : sides;
    this.keep();
  }

  /** How wide a column is that is open, in whole CSS px. */
  widthOf = (column: Column): number => this.widths[column] ?? columnKinds[column].usual(this.window);

  /** Gives a column a width, null for the usual one; to be kept once it is let go. */
  widen(column: Column, width: number | null): void {
    const { [column]: _old, ...others } = this.widths;
    this.widths = width === null ? others : { ...others, [column]: this.fitted(column, width) };
  }

  /** The columns of the desk, those in whole px: columns that share one overlap for the compositor, which then paints anew at each press. */
  columns(isOpen: (side: Side) => boolean): string {
    const of = (column: Column) => `${isOpen(column) ? this.widthOf(column) : RAIL}px`;
    return `${of('shelf')} ${of('cues')} minmax(0,1fr) ${of('beside')}`;
  }
}
