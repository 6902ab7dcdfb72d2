import type { TUnsafe } from '@sinclair/typebox';
import { cueKinds, type Cue } from './all.ts';

/** The document form of each cue. */
export const cueSchemas = Object.values(cueKinds).map((kind) => kind.schema) as TUnsafe<Cue>[];
