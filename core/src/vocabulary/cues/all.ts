import type { Static, TSchema } from '@sinclair/typebox';
import type { Occasion, OccasionType, Tried } from '../occasions.ts';
import { after } from './after.ts';
import { blur } from './blur.ts';
import { change } from './change.ts';
import { click } from './click.ts';
import type { CueKind } from './define.ts';
import { doubleClick } from './double-click.ts';
import { drag } from './drag.ts';
import { dragStart } from './drag-start.ts';
import { drop } from './drop.ts';
import { enabled } from './enabled.ts';
import { focus } from './focus.ts';
import { hover } from './hover.ts';
import { inView } from './in-view.ts';
import { key } from './key.ts';
import { label } from './label.ts';
import { leave } from './leave.ts';
import { longPress } from './long-press.ts';
import { media } from './media.ts';
import { pad } from './pad.ts';
import { press } from './press.ts';
import { release } from './release.ts';
import { scroll } from './scroll.ts';
import { selected } from './selected.ts';
import { signal } from './signal.ts';
import { state } from './state.ts';
import { swipe } from './swipe.ts';
import { variable } from './variable.ts';

/** All cues, in the order of menus. To add one: its file, and its line here. */
const all = [
  click,
  doubleClick,
  press,
  release,
  hover,
  leave,
  longPress,
  dragStart,
  drag,
  drop,
  swipe,
  scroll,
  inView,
  key,
  focus,
  blur,
  change,
  selected,
  enabled,
  state,
  variable,
  after,
  label,
  media,
  pad,
  signal,
] as const;

/** As a document holds it. */
export type Cue = Static<(typeof all)[number]['schema']>;
export type CueType = Cue['type'];
export type CueOf<T extends CueType> = Extract<Cue, { type: T }>;

/** A kind as it is seen by those who have a cue of it and do not know which. */
export type AnyCueKind = CueKind<TSchema, never> & { readonly type: CueType; readonly fresh: Cue; readonly hears: OccasionType };

/** All cues by type. */
export const cueKinds = Object.fromEntries(all.map((kind) => [kind.type, kind])) as unknown as { readonly [T in CueType]: AnyCueKind };

export const cueKind = (type: CueType): AnyCueKind => cueKinds[type];

/** Whether a cue waits for what happens. */
export function fitsOccasion(cue: Cue, occasion: Occasion): boolean {
  const { hears, fits } = cueKinds[cue.type];
  return hears === occasion.type && (fits === undefined || fits(cue, occasion as never));
}

/** Whether it waits for such a thing, whichever it is. */
export const waitsFor = (cue: Cue, type: OccasionType): boolean => cueKinds[cue.type].hears === type;

/** What somebody who tries everything does for it. */
export const triedFor = (cue: Cue): readonly Tried[] => cueKinds[cue.type].tries?.(cue as never) ?? [];

/** How long a cue that waits for a time waits, in ms. */
export const waitOf = (cue: Cue): number => cueKinds[cue.type].waits!(cue as never);

/** Whether the pointer makes it, or only a press of it. */
export const isPointed = (cue: Cue): boolean => cueKinds[cue.type].pointer !== undefined;
export const isPressed = (cue: Cue): boolean => cueKinds[cue.type].pointer === 'pressing';
