import { Literal, Number as Num, Object as Obj, String as Str, type Static } from '@sinclair/typebox';

/** The document form of each cue; `cues/index.ts` holds what they mean in words and lines. */

const strict = { additionalProperties: false } as const;

export const ClickCue = Obj({ type: Literal('click') }, strict);
export const HoverCue = Obj({ type: Literal('hover') }, strict);
/** `key` is a KeyboardEvent.key value, with Ctrl+, Alt+ or Shift+ in front. */
export const KeyCue = Obj({ type: Literal('key'), key: Str({ minLength: 1, maxLength: 40 }) }, strict);
/** `ms` milliseconds after the frame was entered. */
export const AfterCue = Obj({ type: Literal('after'), ms: Num({ minimum: 1, maximum: 86_400_000 }) }, strict);

export const cueSchemas = [ClickCue, HoverCue, KeyCue, AfterCue];

export type ClickCue = Static<typeof ClickCue>;
export type HoverCue = Static<typeof HoverCue>;
export type KeyCue = Static<typeof KeyCue>;
export type AfterCue = Static<typeof AfterCue>;
export type Cue = ClickCue | HoverCue | KeyCue | AfterCue;
export type CueType = Cue['type'];
