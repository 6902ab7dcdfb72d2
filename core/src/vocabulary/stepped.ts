/** What came of a step. */

/** How long a step takes: milliseconds, or until a playhead's section has ended. */
export type Took = number | { readonly root: string; readonly instance: string };

/** What one step did. */
export interface Stepped {
  readonly sentence: string;
  readonly done: boolean;
  readonly took?: Took;
  /** Why it did nothing. */
  readonly whyNot?: { readonly code: string; readonly sentence: string };
  /** The scene that what comes after it belongs to from now on. */
  readonly movedTo?: string;
}

export const done = (sentence: string, more: Partial<Stepped> = {}): Stepped => ({ sentence, done: true, ...more });

export const notDone = (code: string, sentence: string): Stepped => ({ sentence, done: false, whyNot: { code, sentence } });

export const isStepped = (value: object): value is Stepped => 'sentence' in value;
