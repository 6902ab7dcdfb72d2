import type { Report } from '../run/state.ts';

/** Whether a link was opened in the same tab, so that the piece is gone; mail and telephone open beside it. */
export const leavesPiece = (reports: readonly Report[]): boolean =>
  reports.some(({ effects }) => effects.some((effect) => effect.type === 'open' && effect.tab === 'same' && /^https?:/i.test(effect.address)));
