import type { Rule } from '../finding.ts';
import { badLink } from './bad-link.ts';
import { covered } from './covered.ts';
import { deadEnd } from './dead-end.ts';
import { emptySection } from './empty-section.ts';
import { expressionError } from './expression-error.ts';
import { labelClash } from './label-clash.ts';
import { looksClickable } from './looks-clickable.ts';
import { missingTarget } from './missing-target.ts';
import { noWayHome } from './no-way-home.ts';
import { outOfTime } from './out-of-time.ts';
import { repeatedTarget } from './repeated-target.ts';
import { runsThrough } from './runs-through.ts';
import { smallHit } from './small-hit.ts';
import { unreachableFrame } from './unreachable-frame.ts';

/** The rules of the walk, in the order their findings are listed. To add one: its file, and a line here. */
export const rules: readonly Rule[] = [
  missingTarget,
  expressionError,
  deadEnd,
  noWayHome,
  badLink,
  covered,
  smallHit,
  unreachableFrame,
  looksClickable,
  repeatedTarget,
  labelClash,
  runsThrough,
  outOfTime,
  emptySection,
];
