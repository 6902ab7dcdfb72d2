import type { Operation } from '../edit/operation.ts';
import { scopeOf, type LineScope } from '../lines/scope.ts';
import type { Program } from '../program/program.ts';
import type { RunEvent } from '../run/state.ts';
import type { Exploration } from './exploration.ts';
import type { Place } from './place.ts';
import type { Trap } from './traps.ts';

export type Severity = 'must' | 'look' | 'note';

export const severityWords: Record<Severity, string> = { must: 'must fix', look: 'worth a look', note: 'note' };

/** A loose end. */
export interface Finding {
  /** The rule and the place: the same loose end keeps its id from edit to edit. */
  readonly id: string;
  readonly rule: string;
  readonly severity: Severity;
  readonly place: Place;
  /** What it is about, in a few words. */
  readonly title: string;
  readonly sentence: string;
  /** Events that lead from `from` to the place, to be replayed; absent where there is no such way. */
  readonly route?: { readonly from: string; readonly events: readonly RunEvent[] };
  /** A change that mends it. */
  readonly fix?: { readonly label: string; readonly operations: readonly Operation[] };
}

export interface RuleContext {
  readonly program: Program;
  readonly scope: LineScope;
  readonly exploration: Exploration;
  readonly traps: readonly Trap[];
}

/** One rule of the walk: in a few words beside what it is about, and with its line in the catalogue. */
export interface Rule {
  readonly id: string;
  readonly words: string;
  readonly meaning: string;
  /** What looks like it and is meant: of that it says nothing. */
  readonly spares: string;
  readonly check: (context: RuleContext) => Finding[];
}

export function finding(
  rule: string,
  severity: Severity,
  place: Place,
  title: string,
  sentence: string,
  more: Pick<Finding, 'route' | 'fix'> = {}
): Finding {
  const id = [rule, place.scene, place.layer, place.thread].filter((part) => part !== undefined && part !== null).join(':');
  return { id, rule, severity, place, title, sentence, ...more };
}

export const contextOf = (program: Program, exploration: Exploration, traps: readonly Trap[]): RuleContext => ({
  program,
  scope: scopeOf(program.piece),
  exploration,
  traps,
});
