import type { Program } from '../program/program.ts';
import { noteStep } from './acted.ts';
import { enterHeads, restingHeads, syncPresence } from './heads.ts';
import { Runner, type Duties } from './runner.ts';
import type { RunEvent, RunState } from './state.ts';
import { runStep } from './acting.ts';
import { PlainStore, type Store } from './store.ts';
import { explainBranches } from './why.ts';

const duties: Duties = { runStep, enterHeads, restingHeads, syncPresence, writesTexts: true, explainBranches };

/** A runner that is to answer to an event, with all that steps do. */
export const runnerFor = (program: Program, run: RunState, event: RunEvent = { type: 'wait', ms: 0 }): Runner =>
  new Runner(program, new PlainStore(run), event, duties);

/** The same in a store of another kind; what is only looked at, and why something does not happen, is not asked. */
export const runnerIn = (program: Program, store: Store, event: RunEvent = { type: 'wait', ms: 0 }): Runner =>
  new Runner(program, store, event, quiet);

const quiet: Duties = { ...duties, writesTexts: false, explainBranches: () => [], noteStep };
