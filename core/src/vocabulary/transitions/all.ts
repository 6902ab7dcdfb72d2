import type { Static } from '@sinclair/typebox';
import { cover } from './cover.ts';
import { cut } from './cut.ts';
import type { TransitionKind } from './define.ts';
import { dissolve } from './dissolve.ts';
import { push } from './push.ts';
import { tween } from './tween.ts';
import { uncover } from './uncover.ts';
import { wipe } from './wipe.ts';

/** All transitions, in the order of menus. To add one: its file, and its line here. */
const all = [cut, dissolve, push, cover, uncover, wipe, tween] as const;

/** As a document holds it. */
export type Transition = Static<(typeof all)[number]['schema']>;
export type TransitionType = Transition['type'];
export type TimedTransition = Exclude<Transition, { type: 'cut' }>;

/** A kind as it is seen by those who have a transition of it and do not know which. */
export type AnyTransitionKind = TransitionKind & { readonly type: TransitionType; readonly fresh: Transition };

/** All transitions by type. */
export const transitionKinds = Object.fromEntries(all.map((kind) => [kind.type, kind])) as unknown as {
  readonly [T in TransitionType]: AnyTransitionKind;
};
