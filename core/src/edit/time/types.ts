import type { Piece } from '../../piece/piece.ts';
import type { Ending, Timeline, Tracked } from '../../piece/schema.ts';

export type TrackOf = NonNullable<Timeline['tracks']>[string];
export type SpanOf = NonNullable<Timeline['spans']>[string];
export type LabelOf = NonNullable<Timeline['labels']>[string];
export type { Ending, Piece, Timeline, Tracked };
