import type { WhyNot } from './state.ts';

/** How long a step takes: milliseconds, or until a playhead's section has ended. */
export type Took = number | { readonly root: string; readonly instance: string };

/** What one step did. */
export interface Stepped {
  readonly sentence: string;
  readonly done: boolean;
  readonly took?: Took;
  readonly whyNot?: WhyNot;
  /** The scene that what comes after it belongs to from now on. */
  readonly movedTo?: string;
}

export const done = (sentence: string, more: Partial<Stepped> = {}): Stepped => ({ sentence, done: true, ...more });

export const notDone = (code: string, sentence: string): Stepped => ({ sentence, done: false, whyNot: { code, sentence } });
