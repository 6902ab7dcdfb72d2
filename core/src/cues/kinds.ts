import type { Form, Part, Slot } from '../lines/parts.ts';
import { printForm } from '../lines/form.ts';
import type { LineScope } from '../lines/scope.ts';
import { DIRECTIONS } from '../transitions/directions.ts';
import { durationWords } from '../words.ts';
import type { Cue, CueOf, CueType } from './schemas.ts';
import { keyWords } from './words.ts';

export { KEY_NAMES, keyWords, sameKey } from './words.ts';

export type OwnerKind = 'layer' | 'scene' | 'piece';

/** What a cue is: one entry feeds the cue sheet, thread lines, completion, reports and docs. */
export interface CueKind<C extends Cue = Cue> {
  readonly type: C['type'];
  /** In menus. */
  readonly label: string;
  readonly meaning: string;
  readonly owners: readonly OwnerKind[];
  /** What a new cue of this type starts as. */
  readonly fresh: C;
  /** How it is written; the first that fits is printed. */
  readonly forms: readonly Form[];
  /** The beginning of the sentence on screen. */
  when(cue: C, scope: LineScope): string;
}

const slot = (path: string, kind: Slot['kind'], more: Partial<Slot> = {}): Slot => ({ path, kind, ...more });
const form = (type: CueType, sets: Record<string, unknown>, ...parts: Part[]): Form => ({ sets: { type, ...sets }, parts });

const anywhere: readonly OwnerKind[] = ['layer', 'scene', 'piece'];
const onLayer: readonly OwnerKind[] = ['layer'];
const inScene: readonly OwnerKind[] = ['layer', 'scene'];

function plain<T extends CueType>(type: T, label: string, meaning: string, when: string, owners = anywhere): CueKind<CueOf<T>> {
  return { type, label, meaning, owners, fresh: { type } as CueOf<T>, forms: [form(type, {}, type)], when: () => when } as unknown as CueKind<
    CueOf<T>
  >;
}

const words = (values: readonly string[]) => Object.fromEntries(values.map((value) => [value, value]));
const print = (cue: Cue, scope: LineScope, path: string, kind: 'layer' | 'state' | 'label' | 'variable') =>
  printForm({ sets: {}, parts: [slot(path, kind)] }, cue, scope);

/** All cues by type. To add one: its schema in `schemas.ts`, its entry here, and where it fires in `run/`. */
export const cueKinds: { readonly [T in CueType]: CueKind<CueOf<T>> } = {
  click: plain('click', 'clicked', 'pressed and released on the same layer, with pointer, finger, Enter or space', 'When clicked'),
  'double click': plain('double click', 'double-clicked', 'clicked twice within 400 ms; the click cue fires for both as well', 'When double-clicked'),
  press: plain('press', 'pressed', 'the pointer or a finger goes down on it', 'When pressed'),
  release: plain('release', 'let go', 'a press that began on it ends, wherever that is', 'When let go'),
  hover: plain('hover', 'hovered', 'the pointer comes onto the layer', 'When hovered', onLayer),
  leave: plain('leave', 'left by the pointer', 'the pointer goes off the layer', 'When the pointer leaves', onLayer),
  'long press': {
    type: 'long press',
    label: 'pressed long',
    meaning: 'held down for that long without moving; it is then no click',
    owners: onLayer,
    fresh: { type: 'long press', ms: 500 },
    forms: [form('long press', {}, 'long press', slot('ms', 'duration'))],
    when: (cue) => `When pressed for ${durationWords(cue.ms)}`,
  },
  'drag start': plain('drag start', 'drag begins', 'a layer that can be dragged begins to move', 'When a drag begins', onLayer),
  drag: plain('drag', 'dragged', 'at every move of a drag', 'While dragged', onLayer),
  drop: {
    type: 'drop',
    label: 'dropped',
    meaning: 'a dragged layer is let go, anywhere or over a certain layer',
    owners: onLayer,
    fresh: { type: 'drop' },
    forms: [form('drop', {}, 'drop', 'on', slot('on', 'layer')), form('drop', { on: undefined }, 'drop')],
    when: (cue, scope) => (cue.on === undefined ? 'When dropped' : `When dropped on ${print(cue, scope, 'on', 'layer')}`),
  },
  swipe: {
    type: 'swipe',
    label: 'swiped',
    meaning: 'pressed and moved 40 px or more in one direction within 800 ms',
    owners: anywhere,
    fresh: { type: 'swipe', direction: 'left' },
    forms: [form('swipe', {}, 'swipe', slot('direction', 'words', { words: words(DIRECTIONS) }))],
    when: (cue) => `When swiped ${cue.direction}`,
  },
  scroll: {
    type: 'scroll',
    label: 'scrolled',
    meaning: 'the scene (or this scrolling group) is scrolled that far since its direction last turned',
    owners: inScene,
    fresh: { type: 'scroll', direction: 'down', by: 20 },
    forms: [form('scroll', {}, 'scroll', slot('direction', 'words', { words: words(['down', 'up']) }), slot('by', 'number'))],
    when: (cue) => `When scrolled ${cue.direction} by ${cue.by}`,
  },
  'in view': plain('in view', 'scrolled into view', 'scrolling brings any of it into what can be seen', 'When scrolled into view', onLayer),
  key: {
    type: 'key',
    label: 'key',
    meaning: 'a key goes down, on its own or with Ctrl, Alt or Shift',
    owners: anywhere,
    fresh: { type: 'key', key: 'Enter' },
    forms: [form('key', {}, 'key', slot('key', 'key'))],
    when: (cue) => `When ${keyWords(cue.key)} is pressed`,
  },
  focus: plain('focus', 'gets the focus', 'the keyboard comes to it', 'When it gets the focus', onLayer),
  blur: plain('blur', 'loses the focus', 'the keyboard goes elsewhere', 'When it loses the focus', onLayer),
  change: plain('change', 'changed', 'what stands in a field is another value', 'When changed', onLayer),
  selected: {
    type: 'selected',
    label: 'selected or unselected',
    meaning: 'it becomes selected, or is no longer, however that came about',
    owners: onLayer,
    fresh: { type: 'selected', what: 'on' },
    forms: [form('selected', {}, slot('what', 'words', { words: { selected: 'on', unselected: 'off' } }))],
    when: (cue) => (cue.what === 'on' ? 'When selected' : 'When unselected'),
  },
  enabled: {
    type: 'enabled',
    label: 'enabled or disabled',
    meaning: 'it becomes enabled, or is no longer, however that came about',
    owners: onLayer,
    fresh: { type: 'enabled', what: 'on' },
    forms: [form('enabled', {}, slot('what', 'words', { words: { enabled: 'on', disabled: 'off' } }))],
    when: (cue) => (cue.what === 'on' ? 'When enabled' : 'When disabled'),
  },
  state: {
    type: 'state',
    label: 'state entered or left',
    meaning: 'the scene (or the part that this placement shows) comes into a state, also as it begins, or goes out of one',
    owners: inScene,
    fresh: { type: 'state', change: 'entered', state: null },
    forms: [
      form('state', { change: 'entered', state: null }, 'any state'),
      form('state', { change: 'entered' }, 'state', slot('state', 'state')),
      form('state', { change: 'left', state: null }, 'leave any state'),
      form('state', { change: 'left' }, 'leave state', slot('state', 'state')),
    ],
    when: (cue, scope) => {
      const name = cue.state === null ? 'any state' : print(cue, scope, 'state', 'state');
      return cue.change === 'entered' ? `When ${name} begins` : `When ${name} ends`;
    },
  },
  variable: {
    type: 'variable',
    label: 'variable changed',
    meaning: 'a variable has another value, however that came about',
    owners: anywhere,
    fresh: { type: 'variable', variable: null },
    forms: [form('variable', {}, 'variable', slot('variable', 'variable'))],
    when: (cue, scope) => `When ${print(cue, scope, 'variable', 'variable')} changes`,
  },
  after: {
    type: 'after',
    label: 'after a time',
    meaning: 'that long after the scene was entered, or after it came into a state',
    owners: inScene,
    fresh: { type: 'after', ms: 2000 },
    forms: [
      form('after', {}, 'after', slot('ms', 'duration'), 'in', slot('state', 'state')),
      form('after', { state: undefined }, 'after', slot('ms', 'duration')),
    ],
    when: (cue, scope) => `After ${durationWords(cue.ms)}${cue.state === undefined ? '' : ` in ${print(cue, scope, 'state', 'state')}`}`,
  },
  label: {
    type: 'label',
    label: 'label reached',
    meaning: 'the timeline of the scene comes to a label, by playing or at once',
    owners: inScene,
    fresh: { type: 'label', label: null },
    forms: [form('label', {}, 'label', slot('label', 'label'))],
    when: (cue, scope) => `When ${print(cue, scope, 'label', 'label')} is reached`,
  },
  media: {
    type: 'media',
    label: 'media started or ended',
    meaning: 'a video or sound begins to play, or has come to its end',
    owners: onLayer,
    fresh: { type: 'media', what: 'ended' },
    forms: [form('media', {}, 'media', slot('what', 'words', { words: words(['started', 'ended']) }))],
    when: (cue) => (cue.what === 'started' ? 'When it starts' : 'When it ends'),
  },
  pad: {
    type: 'pad',
    label: 'pad button',
    meaning: 'a numbered hardware button: on the pad simulator, a digit key, or over HTTP',
    owners: anywhere,
    fresh: { type: 'pad', button: 0 },
    forms: [form('pad', {}, 'pad', slot('button', 'number'))],
    when: (cue) => `When pad button ${cue.button} is pressed`,
  },
  signal: {
    type: 'signal',
    label: 'signal',
    meaning: 'a signal comes in, from a step in the piece or from the page around it',
    owners: anywhere,
    fresh: { type: 'signal', signal: 'hello' },
    forms: [form('signal', {}, 'signal', slot('signal', 'text'))],
    when: (cue) => `When ${cue.signal} comes in`,
  },
};

/** The entry of a cue, typed loosely enough to be called with it. */
export const cueKind = (type: CueType): CueKind => cueKinds[type] as CueKind;
