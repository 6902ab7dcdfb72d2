import type { Operation } from '../edit/operation.ts';
import { scopeOf, type LineScope } from '../lines/scope.ts';
import { Beside } from '../once.ts';
import type { Program } from '../program/program.ts';
import type { RunEvent } from '../run/state.ts';
import type { Exploration } from './exploration.ts';
import type { Place } from './place.ts';
import type { Trap } from './traps.ts';

export type Severity = 'must' | 'look' | 'note';

export const severityWords: Record<Severity, string> = { must: 'must fix', look: 'worth a look', note: 'note' };

/** Where a way begins, and what is done on it, in order. */
export interface Route {
  readonly from: string;
  readonly events: readonly RunEvent[];
}

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
  readonly route?: Route;
  /** A change that mends it. */
  readonly fix?: { readonly label: string; readonly operations: readonly Operation[] };
}

export interface RuleContext {
  readonly program: Program;
  readonly scope: LineScope;
  readonly exploration: Exploration;
  readonly traps: readonly Trap[];
  /** What a rule says of something seen, and of nothing but its names and the way there: as before where all ways are as they were. */
  readonly told: <T extends object>(seen: T, tell: (seen: T) => Finding) => Finding;
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

/** `ways` stands for all ways to where something is seen; null where each is to be asked for again. */
export const contextOf = (program: Program, exploration: Exploration, traps: readonly Trap[], ways: object | null): RuleContext => ({
  program,
  scope: scopeOf(program.piece),
  exploration,
  traps,
  told: (seen, tell) => {
    const old = ways && toldOf.get(seen);
    return old && old.ways === ways ? old.found : toldOf.set(seen, { ways, found: tell(seen) }).found;
  },
});

const toldOf = new Beside<object, { readonly ways: object | null; readonly found: Finding }>();
