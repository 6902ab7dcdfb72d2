import { Union } from '@sinclair/typebox';
import { transitionKinds, type Transition } from './all.ts';
import type { TSchema, TUnsafe } from '@sinclair/typebox';

/** The document form of a transition: that of any one of them. */
export const TransitionSchema = Union(Object.values(transitionKinds).map((kind): TSchema => kind.schema)) as unknown as TUnsafe<Transition>;
