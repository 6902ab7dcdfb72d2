/** How long nothing has to happen, and how long is waited at most, in milliseconds. */
export interface Patience {
  readonly rest: number;
  readonly longest: number;
}

/** Calls back once after things that come one after the other: when they rest, or when they have gone on for too long. */
export class Rest {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private due: number | null = null;

  constructor(
    private readonly patience: Patience,
    private readonly done: () => void
  ) {}

  /** Something has happened. */
  stir(): void {
    const now = performance.now();
    this.due ??= now + this.patience.longest;
    clearTimeout(this.timer);
    this.timer = setTimeout(() => this.end(), Math.max(0, Math.min(this.patience.rest, this.due - now)));
  }

  stop(): void {
    clearTimeout(this.timer);
    this.due = null;
  }

  private end(): void {
    this.due = null;
    this.done();
  }
}
