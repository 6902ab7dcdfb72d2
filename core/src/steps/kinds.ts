import type { Form, Part, Slot } from '../lines/parts.ts';
import { LAY_PLACES, TWEENABLE, type Step, type StepOf, type StepType } from './schemas.ts';

/** What a step is in words; what it does when it runs is in `run/steps/`. */
export interface StepKind<S extends Step = Step> {
  readonly do: S['do'];
  readonly label: string;
  readonly meaning: string;
  readonly fresh: S;
  /** How it is written; the first that fits is printed. */
  readonly forms: readonly Form[];
}

const slot = (path: string, kind: Slot['kind'], more: Partial<Slot> = {}): Slot => ({ path, kind, ...more });
const form = (type: StepType, sets: Record<string, unknown>, ...parts: Part[]): Form => ({ sets: { do: type, ...sets }, parts });
const words = (values: readonly string[]) => Object.fromEntries(values.map((value) => [value, value]));

const transition = slot('transition', 'transition');
const timing = slot('timing', 'timing');
const cut = { type: 'cut' } as const;
const onOff = (on: string, off: string, both: string) => slot('what', 'words', { words: { [both]: 'toggle', [on]: 'on', [off]: 'off' } });
const inOf = [slot('of', 'playable')];

/** All steps by what they do. To add one: its schema in `schemas.ts`, its entry here, and its file in `run/steps/`. */
export const stepKinds: { readonly [T in StepType]: StepKind<StepOf<T>> } = {
  go: {
    do: 'go',
    label: 'go to',
    meaning: 'another frame: by name, or next, previous, first, last, back, start; “replacing” leaves no trace for back',
    fresh: { do: 'go', target: { to: 'frame', frame: null }, transition: cut },
    forms: [
      form('go', { replace: true }, 'go replacing to', slot('target', 'target'), transition),
      form('go', { replace: undefined }, 'go to', slot('target', 'target'), transition),
    ],
  },
  lay: {
    do: 'lay',
    label: 'lay over',
    meaning:
      'shows a frame over this one, at a side or in the middle; a scrim keeps presses off what lies below; “closing” lifts it at a press beside it',
    fresh: { do: 'lay', frame: null, at: 'center', scrim: 0.4, closes: true, transition: cut },
    forms: [true, undefined].map((closes) =>
      form(
        'lay',
        { closes },
        closes ? 'lay closing over' : 'lay over',
        slot('frame', 'frame', { before: ['at '] }),
        'at',
        slot('at', 'words', { words: words(LAY_PLACES) }),
        { maybe: ['scrim', slot('scrim', 'percent')] },
        transition
      )
    ),
  },
  lift: {
    do: 'lift',
    label: 'lift',
    meaning: 'takes away the topmost frame that was laid over',
    fresh: { do: 'lift', transition: cut },
    forms: [form('lift', {}, 'lift', transition)],
  },
  state: {
    do: 'state',
    label: 'set a state',
    meaning:
      'brings this scene or a placement into a state: a named one, the next or previous (round and round with “around”), or a named one and back again',
    fresh: { do: 'state', to: { state: null }, transition: { type: 'tween', ms: 300, easing: 'ease-out' } },
    forms: stateForms(),
  },
  select: {
    do: 'select',
    label: 'select',
    meaning: 'selects or unselects a layer, or changes which it is',
    fresh: { do: 'select', layer: null, what: 'on' },
    forms: [form('select', {}, onOff('select', 'unselect', 'select or unselect'), slot('layer', 'layer'))],
  },
  enable: {
    do: 'enable',
    label: 'enable',
    meaning: 'enables or disables a layer, or changes which it is',
    fresh: { do: 'enable', layer: null, what: 'on' },
    forms: [form('enable', {}, onOff('enable', 'disable', 'enable or disable'), slot('layer', 'layer'))],
  },
  show: {
    do: 'show',
    label: 'show',
    meaning: 'shows or hides a layer, or changes which it is',
    fresh: { do: 'show', layer: null, what: 'on', transition: { type: 'dissolve', ms: 200, easing: 'ease' } },
    forms: [form('show', {}, onOff('show', 'hide', 'show or hide'), slot('layer', 'layer'), transition)],
  },
  move: {
    do: 'move',
    label: 'move',
    meaning: 'moves a layer by so much, or to a place; numbers may be expressions',
    fresh: { do: 'move', layer: null, how: 'by', x: '0', y: '0', timing: { ms: 300, easing: 'ease-out' } },
    forms: [
      form(
        'move',
        {},
        'move',
        slot('layer', 'layer', { before: ['by ', 'to '] }),
        slot('how', 'words', { words: words(['by', 'to']) }),
        slot('x', 'expression', { before: [','] }),
        ',',
        slot('y', 'expression', { before: [','] }),
        timing
      ),
    ],
  },
  tween: {
    do: 'tween',
    label: 'tween',
    meaning: `brings a number of a layer (${TWEENABLE.join(', ')}) to a value in a time`,
    fresh: { do: 'tween', layer: null, property: 'opacity', value: '0', timing: { ms: 300, easing: 'ease-out' } },
    forms: [
      form(
        'tween',
        {},
        'tween',
        slot('property', 'words', { words: words(TWEENABLE) }),
        'of',
        slot('layer', 'layer', { before: ['to '] }),
        'to',
        slot('value', 'expression', { before: [','] }),
        timing
      ),
    ],
  },
  set: {
    do: 'set',
    label: 'set a variable',
    meaning: 'sets a variable to the value of an expression, within its limits',
    fresh: { do: 'set', variable: null, value: '0' },
    forms: [form('set', {}, 'set', slot('variable', 'variable', { before: ['to '] }), 'to', slot('value', 'expression'))],
  },
  scroll: {
    do: 'scroll',
    label: 'scroll to',
    meaning: 'scrolls to a layer, the top or the bottom',
    fresh: { do: 'scroll', to: { edge: 'top' }, timing: { ms: 300, easing: 'ease-in-out' } },
    forms: [
      form('scroll', { 'to.edge': 'top' }, 'scroll to top', timing),
      form('scroll', { 'to.edge': 'bottom' }, 'scroll to bottom', timing),
      form('scroll', {}, 'scroll to', slot('to.layer', 'layer'), timing),
    ],
  },
  play: {
    do: 'play',
    label: 'play',
    meaning: 'plays this timeline, a placement, a video or sound, or all in a group: from where it is, or from a label',
    fresh: { do: 'play' },
    forms: [
      form('play', {}, 'play', slot('of', 'playable', { before: ['from '] }), 'from', slot('from', 'label', { of: 'of' })),
      form('play', { of: undefined }, 'play from', slot('from', 'label')),
      form('play', { from: undefined }, 'play', ...inOf),
      form('play', { from: undefined, of: undefined }, 'play on'),
    ],
  },
  'show label': {
    do: 'show label',
    label: 'show a moment',
    meaning: 'goes to a label at once and holds there',
    fresh: { do: 'show label', label: null },
    forms: [
      form('show label', {}, 'show in', slot('of', 'playable', { before: ['label '] }), 'label', slot('label', 'label', { of: 'of' })),
      form('show label', { of: undefined }, 'show label', slot('label', 'label')),
    ],
  },
  section: {
    do: 'section',
    label: 'turn to a section',
    meaning: 'plays the section after or before the one that is shown, of this timeline or a placement; after the last comes the first again',
    fresh: { do: 'section', to: 'next' },
    forms: (['next', 'previous'] as const).flatMap((to) => [
      form('section', { to }, `play ${to} section of`, slot('of', 'playable')),
      form('section', { to, of: undefined }, `play ${to} section`),
    ]),
  },
  pause: {
    do: 'pause',
    label: 'pause',
    meaning: 'stops this timeline, a placement, a video or sound, or all in a group',
    fresh: { do: 'pause' },
    forms: [form('pause', {}, 'pause', ...inOf), form('pause', { of: undefined }, 'pause')],
  },
  'start over': {
    do: 'start over',
    label: 'start over',
    meaning: 'plays from the beginning',
    fresh: { do: 'start over' },
    forms: [form('start over', {}, 'start over', ...inOf), form('start over', { of: undefined }, 'start over')],
  },
  wait: {
    do: 'wait',
    label: 'wait',
    meaning: 'lets time pass before the next step',
    fresh: { do: 'wait', ms: 500 },
    forms: [form('wait', {}, 'wait', slot('ms', 'duration'))],
  },
  open: {
    do: 'open',
    label: 'open a link',
    meaning: 'a web, mail or phone address, in the same or in a new tab; with an id for those who measure',
    fresh: { do: 'open', address: 'https://', tab: 'new' },
    forms: [
      ...['new', 'same'].map((tab) =>
        form('open', { tab }, 'open', slot('address', 'address'), ...(tab === 'new' ? ['in new tab'] : []), 'as', slot('measure', 'quoted'))
      ),
      ...['new', 'same'].map((tab) =>
        form('open', { tab, measure: undefined }, 'open', slot('address', 'address'), ...(tab === 'new' ? ['in new tab'] : []))
      ),
    ],
  },
  send: {
    do: 'send',
    label: 'send a signal',
    meaning: 'to threads that wait for it, and to the page around the piece',
    fresh: { do: 'send', signal: 'hello' },
    forms: [form('send', {}, 'send', slot('signal', 'text'))],
  },
};

/** The forms of a state step: of a placement or of this scene; to a state, a neighbour, or there and back. */
function stateForms(): Form[] {
  return [true, false].flatMap((named) => {
    const of = named ? [slot('of', 'stateful', { before: ['in ', 'to ', 'with '] })] : [];
    const sets = named ? {} : { of: undefined };
    const state = (path: string) => slot(path, 'state', { of: 'of' });
    return [
      form('state', { ...sets, 'to.move': 'next', 'to.wrap': true }, named ? 'next state around of' : 'next state around', ...of, transition),
      form(
        'state',
        { ...sets, 'to.move': 'previous', 'to.wrap': true },
        named ? 'previous state around of' : 'previous state around',
        ...of,
        transition
      ),
      form('state', { ...sets, 'to.move': 'next', 'to.wrap': undefined }, named ? 'next state of' : 'next state', ...of, transition),
      form('state', { ...sets, 'to.move': 'previous', 'to.wrap': undefined }, named ? 'previous state of' : 'previous state', ...of, transition),
      form('state', sets, 'toggle', ...of, named ? 'with' : 'this with', state('to.toggle'), transition),
      form('state', sets, 'put', ...of, named ? 'in' : 'this in', state('to.state'), transition),
    ];
  });
}

export const stepKind = (type: StepType): StepKind => stepKinds[type] as StepKind;
