import type { Direction } from './directions.ts';

/** What there is no more to say of than that it happens. */
export type PlainOccasion =
  | 'click'
  | 'double click'
  | 'press'
  | 'release'
  | 'long press'
  | 'hover'
  | 'leave'
  | 'drag start'
  | 'drag'
  | 'in view'
  | 'focus'
  | 'blur'
  | 'change';

/** What happens to a running piece or in it that a thread can wait for, as the engine says it to cues. */
export type Occasion =
  | { readonly type: PlainOccasion }
  /** A layer is let go; over which others, by their paths as the thread means them. */
  | { readonly type: 'drop'; readonly isOver: (path: string) => boolean }
  | { readonly type: 'swipe'; readonly direction: Direction }
  /** CSS px since the direction last turned. */
  | { readonly type: 'scroll'; readonly direction: 'down' | 'up' | null; readonly by: number }
  | { readonly type: 'key'; readonly key: string }
  | { readonly type: 'selected' | 'enabled'; readonly on: boolean }
  | { readonly type: 'state'; readonly change: 'entered' | 'left'; readonly state: string | null }
  | { readonly type: 'variable'; readonly variable: string }
  /** A scene was entered, or came into a state: whoever waits for a time from then on begins to. */
  | { readonly type: 'time'; readonly state: string | null }
  | { readonly type: 'label'; readonly label: string }
  | { readonly type: 'media'; readonly what: 'started' | 'ended' }
  | { readonly type: 'pad'; readonly button: number }
  | { readonly type: 'signal'; readonly signal: string };

export type OccasionType = Occasion['type'];
export type OccasionOf<T extends OccasionType> = Occasion & { readonly type: T };

/** What somebody who tries everything does for a cue; where, is known from the thread. */
export type Tried =
  | { readonly type: 'key'; readonly key: string }
  | { readonly type: 'pad'; readonly button: number }
  | { readonly type: 'signal'; readonly signal: string }
  | { readonly type: 'swipe'; readonly direction: Direction }
  | { readonly type: 'scroll'; readonly by: number }
  | { readonly type: 'media'; readonly what: 'started' | 'ended' };
