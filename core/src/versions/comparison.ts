import type { Program } from '../program/program.ts';
import { tellApart, type Apart } from '../walk/apart.ts';
import { audit } from '../walk/audit.ts';
import { compareVersions, type Change } from '../walk/compare.ts';
import type { ExploreOptions } from '../walk/exploration.ts';
import { differencesBetween, type Differences } from './between.ts';

/** All that is otherwise between two versions of a piece: as they are written, and by what they do. */
export interface Comparison {
  readonly written: Differences;
  readonly changes: readonly Change[];
  readonly apart: Apart;
  /** What was left out of exploring each of them; null where nothing was. */
  readonly cut: { readonly before: string | null; readonly after: string | null };
}

/** Compares two versions; `optionsOf` says how each of them is explored. */
export function comparison(before: Program, after: Program, optionsOf: (which: 'before' | 'after') => ExploreOptions): Comparison {
  const [a, b] = [
    { program: before, audit: audit(before, optionsOf('before')) },
    { program: after, audit: audit(after, optionsOf('after')) },
  ];
  return {
    written: differencesBetween(before, after),
    changes: compareVersions(a, b),
    apart: tellApart(before, after),
    cut: { before: a.audit.exploration.cut, after: b.audit.exploration.cut },
  };
}
