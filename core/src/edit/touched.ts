/** What an edit changed, so that programs and audits recompute only that. */
export interface Touched {
  /** Scenes whose own values, layers or threads changed, came or went. */
  readonly scenes: ReadonlySet<string>;
  /** Frames came, went, were renamed or reordered, or the piece's head changed. */
  readonly frames: boolean;
  readonly pieceThreads: boolean;
  readonly variables: boolean;
}
