import type { SceneSpec } from '../compose/compose.ts';

/** A part to begin with: made of ordinary layers, states and threads, and so open to any change once it is in a piece. */
export interface Starter {
  readonly id: string;
  /** The name of its part. */
  readonly name: string;
  readonly meaning: string;
  /** The part, and parts that it is made with, by their names. */
  readonly parts: Readonly<Record<string, SceneSpec>>;
}
