import { count, type Finding } from '@zany/core';

/** What the pill in the header says: what was found, and whether all there is was walked. */
export interface PillWords {
  readonly text: string;
  /** The same where there is little room. */
  readonly brief?: string;
  readonly meaning: string;
  readonly tone: 'walking' | 'clean' | 'part' | 'look' | 'must';
}

export interface Walked {
  readonly findings: readonly Finding[];
  /** What was cut; null where all was walked. */
  readonly cut: string | null;
  /** More may be found yet. */
  readonly isCurrent: boolean;
}

/** Never says that all is well of what was not shown. */
export function pillWords(walked: Walked | null): PillWords {
  if (!walked) return { text: 'walking…', meaning: 'The piece is being walked.', tone: 'walking' };
  const { findings, cut, isCurrent } = walked;
  const must = findings.filter(({ severity }) => severity === 'must').length;
  const found = findings.length ? count(findings.length, 'loose end') : '';
  const mustWords = must ? `${must} must be fixed. ` : '';
  if (!isCurrent)
    return {
      text: found ? `${found} · walking…` : 'walking…',
      meaning: `${mustWords}The piece is being walked; more may be found.`,
      tone: 'walking',
    };
  if (cut !== null)
    return {
      text: found ? `${found} · not all walked` : 'not all walked',
      ...(found && { brief: `${found} · in part` }),
      meaning: `${mustWords}Not everything was walked: ${cut}.`,
      tone: must ? 'must' : 'part',
    };
  if (!findings.length) return { text: 'no loose end', meaning: 'Everything was walked, and nothing was found.', tone: 'clean' };
  return { text: found, meaning: mustWords || 'Nothing must be fixed. ', tone: must ? 'must' : 'look' };
}
