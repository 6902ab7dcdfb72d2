import type { LineReader } from '../lines/reader.ts';
import { writeRaw } from '../lines/raw.ts';
import { durationWords } from '../words.ts';
import type { AfterCue, ClickCue, Cue, CueType, HoverCue, KeyCue } from './schemas.ts';

export type OwnerKind = 'layer' | 'scene' | 'piece';

/** What a cue is in words: one entry feeds the cue sheet, thread lines, completion, reports and docs. */
export interface CueKind<C extends Cue = Cue> {
  readonly type: C['type'];
  /** In menus. */
  readonly label: string;
  readonly meaning: string;
  readonly owners: readonly OwnerKind[];
  /** What a new cue of this type starts as. */
  readonly fresh: C;
  /** The beginning of the sentence on screen. */
  when(cue: C): string;
  /** The beginning of a thread line. */
  print(cue: C): string;
  /** Reads what follows the cue's first word. */
  read(reader: LineReader): C;
}

const click: CueKind<ClickCue> = {
  type: 'click',
  label: 'clicked',
  meaning: 'pressed and released on the same layer, with pointer, finger, Enter or space',
  owners: ['layer', 'scene', 'piece'],
  fresh: { type: 'click' },
  when: () => 'When clicked',
  print: () => 'click',
  read: () => ({ type: 'click' }),
};

const hover: CueKind<HoverCue> = {
  type: 'hover',
  label: 'hovered',
  meaning: 'the pointer comes onto the layer',
  owners: ['layer'],
  fresh: { type: 'hover' },
  when: () => 'When hovered',
  print: () => 'hover',
  read: () => ({ type: 'hover' }),
};

const key: CueKind<KeyCue> = {
  type: 'key',
  label: 'key',
  meaning: 'a key goes down, on its own or with Ctrl, Alt or Shift',
  owners: ['layer', 'scene', 'piece'],
  fresh: { type: 'key', key: 'Enter' },
  when: (cue) => `When ${keyWords(cue.key)} is pressed`,
  print: (cue) => `key ${writeRaw(cue.key)}`,
  read: (reader) => ({ type: 'key', key: reader.raw('a key', KEY_NAMES) }),
};

const after: CueKind<AfterCue> = {
  type: 'after',
  label: 'after a time',
  meaning: 'that long after the frame was entered',
  owners: ['layer', 'scene'],
  fresh: { type: 'after', ms: 2000 },
  when: (cue) => `After ${durationWords(cue.ms)}`,
  print: (cue) => `after ${durationWords(cue.ms)}`,
  read: (reader) => ({ type: 'after', ms: reader.duration() }),
};

/** Keys offered in completion; any other KeyboardEvent.key value can be written as well. */
export const KEY_NAMES = [
  'ArrowRight',
  'ArrowLeft',
  'ArrowUp',
  'ArrowDown',
  'Enter',
  'Escape',
  'Space',
  'Home',
  'End',
  'PageUp',
  'PageDown',
  'Backspace',
  'Tab',
];

const KEY_SIGNS: Record<string, string> = { ArrowRight: '→', ArrowLeft: '←', ArrowUp: '↑', ArrowDown: '↓' };

/** A key as people read it. */
export const keyWords = (key: string): string => KEY_SIGNS[key] ?? key;

/** All cues by type. To add one: its schema in `schemas.ts`, its entry here, and where it fires in `run/`. */
export const cueKinds: { readonly [T in CueType]: CueKind<Extract<Cue, { type: T }>> } = { click, hover, key, after };

/** The entry of a cue, typed loosely enough to be called with it. */
export const cueKind = (type: CueType): CueKind => cueKinds[type] as CueKind;
