import type { Static } from '@sinclair/typebox';
import type { Target } from '../target.ts';
import type { StepKind } from './define.ts';
import { enable } from './enable.ts';
import { go } from './go.ts';
import { lay } from './lay.ts';
import { lift } from './lift.ts';
import { move } from './move.ts';
import { open } from './open.ts';
import { pause } from './pause.ts';
import { play } from './play.ts';
import { scroll } from './scroll.ts';
import { section } from './section.ts';
import { select } from './select.ts';
import { send } from './send.ts';
import { set } from './set.ts';
import { show } from './show.ts';
import { showLabel } from './show-label.ts';
import { startOver } from './start-over.ts';
import { state } from './state.ts';
import { tween } from './tween.ts';
import { wait } from './wait.ts';

/** All steps, in the order of menus. To add one: its file, and its line here. */
const all = [
  go,
  lay,
  lift,
  state,
  select,
  enable,
  show,
  move,
  tween,
  set,
  scroll,
  play,
  showLabel,
  section,
  pause,
  startOver,
  wait,
  open,
  send,
] as const;

/** As a document holds it. */
export type Step = Static<(typeof all)[number]['schema']>;
export type StepType = Step['do'];
export type StepOf<T extends StepType> = Extract<Step, { do: T }>;
export type GoToStep = StepOf<'go'>;
export type OpenStep = StepOf<'open'>;

/** A kind as it is seen by those who have a step of it and do not know which. */
export type AnyStepKind = StepKind & { readonly do: StepType; readonly fresh: Step };

/** All steps by what they do. */
export const stepKinds = Object.fromEntries(all.map((kind) => [kind.do, kind])) as unknown as { readonly [T in StepType]: AnyStepKind };

export const stepKind = (type: StepType): AnyStepKind => stepKinds[type];

/** The frame that a step brings onto the screen, or the place; null where it brings none. */
export const targetOf = (step: Step): Target | null => stepKind(step.do).leadsTo?.(step) ?? null;

/** The label that a step brings a timeline to; null where it names none. */
export const labelOf = (step: Step): string | null => stepKind(step.do).labelOf?.(step) ?? null;
