import { DEFAULT_INK } from './ink.ts';

/** A line that is new by one of its properties. */
export const FRESH_LINE = { color: DEFAULT_INK, width: 1 } as const;
