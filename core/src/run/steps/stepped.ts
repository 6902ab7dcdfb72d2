import type { StepOf, StepType } from '../../steps/schemas.ts';
import type { Call, Runner } from '../runner.ts';
import type { Stepped } from '../stepped.ts';

export { done, notDone, type Stepped, type Took } from '../stepped.ts';

/** What a step does when it runs. */
export type StepRunner<T extends StepType> = (runner: Runner, call: Call, step: StepOf<T>) => Stepped;
