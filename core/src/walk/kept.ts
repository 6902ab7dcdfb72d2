import type { KeptEvent, KeptStep, KeptWalk } from '../piece/walks.ts';
import { expand } from '../program/expand.ts';
import type { Program } from '../program/program.ts';
import { valueWords, type Value } from '../expression/ast.ts';
import { valueOfVariable } from '../run/environment.ts';
import { stateOf } from '../run/resolve.ts';
import { advance, start } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { listWords } from '../words.ts';

/** Walks that are kept: what was done, and where it led. */

/** What came of a step, as far as a kept walk holds it to that. */
type Outcome = Omit<KeptStep, 'event'>;

/** Where a run is: the frame, its state, and what lies over it. */
function standOf(program: Program, run: RunState): Omit<Outcome, 'values'> {
  const scene = program.scenes.get(run.frame);
  const root = run.roots[run.frame];
  const state = scene && root ? stateOf(root, expand(program, scene).instances.get('')!) : null;
  return {
    frame: run.frame,
    ...(run.overlays.length && { laid: run.overlays.map(({ frame }) => frame) }),
    ...(state !== null && { state }),
  };
}

/** The variables of the piece that a step made another. */
function setBetween(program: Program, before: RunState, run: RunState): NonNullable<Outcome['values']> {
  return [...program.variables.values()].flatMap(({ id, scene }) => {
    const [was, value] = [before, run].map((one) => valueOfVariable(program, one, id, id)) as [Value, Value];
    return scene === null && was !== value ? { variable: id, value } : [];
  });
}

/** A walk as it is kept: the events with what came of each; null where it cannot begin there. */
export function stepsOf(program: Program, from: string, events: readonly KeptEvent[]): KeptStep[] | null {
  let run = start(program, from);
  if (!run) return null;
  const steps: KeptStep[] = [];
  for (const event of events) {
    const before = run;
    ({ run } = advance(program, before, event as RunEvent));
    const values = setBetween(program, before, run);
    steps.push({ event, ...standOf(program, run), ...(values.length && { values }) });
  }
  return steps;
}

export interface Walked {
  /** How many steps led where they have to. */
  readonly held: number;
  /** What is otherwise after the first that does not; null where all hold. */
  readonly broken: string | null;
}

/** Walks a kept walk by the engine. */
export function walkKept(program: Program, { from, steps }: KeptWalk): Walked {
  let run = program.frameAt.has(from) ? start(program, from) : null;
  if (!run) return { held: 0, broken: 'The frame it begins on is gone.' };
  for (const [i, step] of steps.entries()) {
    ({ run } = advance(program, run, step.event as RunEvent));
    const difference = differenceOf(program, step, standOf(program, run)) ?? valueDifference(program, step, run);
    if (difference) return { held: i, broken: difference };
  }
  return { held: steps.length, broken: null };
}

/** Of the variables that a step made another, the first that is not what it has to be. */
function valueDifference(program: Program, { values = [] }: Outcome, run: RunState): string | null {
  for (const { variable: id, value } of values) {
    const variable = program.variables.get(id);
    if (!variable) return 'a variable that it set is gone';
    const now = valueOfVariable(program, run, id, id);
    if (now !== value) return `${variable.name} is ${valueWords(now)} instead of ${valueWords(value)}`;
  }
  return null;
}

function differenceOf({ piece: { scenes } }: Program, wanted: Outcome, now: Outcome): string | null {
  const nameOf = (id: string) => scenes.get(id)?.name ?? 'a frame that is gone';
  if (wanted.frame !== now.frame) return `it leads to ${nameOf(now.frame)} instead of ${nameOf(wanted.frame)}`;
  const [a, b] = [wanted.laid ?? [], now.laid ?? []];
  const over = (ids: readonly string[]) => (ids.length ? listWords(ids.map(nameOf)) : 'nothing');
  if (a.join() !== b.join()) return `${over(b)} lies over ${nameOf(now.frame)} instead of ${over(a)}`;
  const stateName = (id: string | undefined) =>
    id === undefined ? 'no state' : (scenes.get(now.frame)?.states?.[id]?.name ?? 'a state that is gone');
  return wanted.state === now.state ? null : `${nameOf(now.frame)} is in ${stateName(now.state)} instead of ${stateName(wanted.state)}`;
}
