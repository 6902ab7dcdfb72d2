import type * as why from './why.ts';

/** The same as `why.ts` where nobody is there to be told, as in an exported page: what did not happen is not explained. */

export const explainBranches: typeof why.explainBranches = () => [];

export const whyDisabled: typeof why.whyDisabled = () => ({ code: 'disabled', sentence: '' });

export const whyNoClick: typeof why.whyNoClick = () => undefined;

export const whyNoKey: typeof why.whyNoKey = () => undefined;
