import type { TUnsafe } from '@sinclair/typebox';
import { stepKinds, type Step } from './all.ts';

/** The document form of each step. */
export const stepSchemas = Object.values(stepKinds).map((kind) => kind.schema) as TUnsafe<Step>[];
