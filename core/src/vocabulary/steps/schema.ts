import type { TSchema, TUnsafe } from '@sinclair/typebox';
import { stepKinds, type Step, type StepType } from './all.ts';

/** The document form of each step. */
export const stepSchemas = Object.values(stepKinds).map((kind) => kind.schema) as TUnsafe<Step>[];

export const stepSchemaOf = (type: StepType): TSchema => stepKinds[type].schema;
