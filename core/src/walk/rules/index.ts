import type { Rule } from '../finding.ts';
import { askedFor } from './asked-for.ts';
import { badLink } from './bad-link.ts';
import { brokenRoute } from './broken-route.ts';
import { covered } from './covered.ts';
import { crowdedHit } from './crowded-hit.ts';
import { deadEnd } from './dead-end.ts';
import { draftTarget } from './draft-target.ts';
import { emptySection } from './empty-section.ts';
import { endlessLoop } from './endless-loop.ts';
import { expressionError } from './expression-error.ts';
import { hoverOnly } from './hover-only.ts';
import { hurry } from './hurry.ts';
import { labelClash } from './label-clash.ts';
import { looksClickable } from './looks-clickable.ts';
import { lowContrast } from './low-contrast.ts';
import { mediaHangs } from './media-hangs.ts';
import { missingTarget } from './missing-target.ts';
import { mouseOnly } from './mouse-only.ts';
import { neverFires } from './never-fires.ts';
import { noEffect } from './no-effect.ts';
import { noFeedback } from './no-feedback.ts';
import { noKeyboard } from './no-keyboard.ts';
import { noName } from './no-name.ts';
import { noWayHome } from './no-way-home.ts';
import { oddOneOut } from './odd-one-out.ts';
import { offFrame } from './off-frame.ts';
import { oneWay } from './one-way.ts';
import { outOfRange } from './out-of-range.ts';
import { outOfTime } from './out-of-time.ts';
import { repeatedTarget } from './repeated-target.ts';
import { runsThrough } from './runs-through.ts';
import { sameName } from './same-name.ts';
import { smallHit } from './small-hit.ts';
import { staysPlayed } from './stays-played.ts';
import { timerRace } from './timer-race.ts';
import { typeClash } from './type-clash.ts';
import { unreachableFrame } from './unreachable-frame.ts';
import { unreachableSection } from './unreachable-section.ts';
import { unreachableState } from './unreachable-state.ts';
import { unreadVariable } from './unread-variable.ts';
import { unseenHit } from './unseen-hit.ts';
import { unsetVariable } from './unset-variable.ts';

/** The rules of the walk, in the order their findings are listed. To add one: its file, and a line here. */
export const rules: readonly Rule[] = [
  missingTarget,
  brokenRoute,
  askedFor,
  expressionError,
  typeClash,
  deadEnd,
  mediaHangs,
  noWayHome,
  endlessLoop,
  timerRace,
  badLink,
  covered,
  offFrame,
  smallHit,
  crowdedHit,
  unseenHit,
  unreachableFrame,
  unreachableState,
  unreachableSection,
  neverFires,
  noEffect,
  oneWay,
  hurry,
  mouseOnly,
  hoverOnly,
  noKeyboard,
  noName,
  lowContrast,
  looksClickable,
  noFeedback,
  repeatedTarget,
  oddOneOut,
  draftTarget,
  outOfRange,
  sameName,
  unsetVariable,
  unreadVariable,
  labelClash,
  runsThrough,
  outOfTime,
  emptySection,
  staysPlayed,
];
