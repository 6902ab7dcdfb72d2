import { compose, type ComposeSpec, type PlacedSpec, type SceneSpec } from '../compose/compose.ts';
import type { Piece } from '../piece/piece.ts';
import type { KeptWalk } from '../piece/walks.ts';
import type { RunEvent } from '../run/state.ts';
import type { CueType } from '../vocabulary/cues/all.ts';
import type { StepType } from '../vocabulary/steps/all.ts';
import type { Transition } from '../vocabulary/transitions/all.ts';

/** Small pieces that show what a cue, a step and a transition does: what is done in them, to be seen as a film. */
export interface MovingExample {
  readonly piece: Piece;
  readonly walk: Pick<KeptWalk, 'from' | 'steps'>;
}

/** CSS px of an example's frame. */
export const EXAMPLE_SIZE = { width: 160, height: 96 } as const;

const SIZE = [EXAMPLE_SIZE.width, EXAMPLE_SIZE.height] as const;
const [SAND, TEAL, GOLD, BRICK, DIM] = ['#f7e6c3', '#1f4e5f', '#f0b13c', '#b23a26', '#d9c9a6'];

type Layers = Readonly<Record<string, PlacedSpec>>;

/** What can be done by the names of layers, as they are found once the piece is there. */
type Doing = (idOf: (name: string) => string) => readonly RunEvent[];

interface Told {
  readonly spec: ComposeSpec;
  readonly does: Doing;
}

const BELL = { at: [12, 28, 52, 40], text: 'Bell', style: { fill: TEAL, ink: '#ffffff', corner: 8 }, letters: { size: 14 } } as const;
const BOAT = { at: [14, 72, 26, 14], style: { fill: BRICK, corner: 4 } } as const;
const SHOW = 'show Glow · dissolve 200 ms';
const HIDE = 'hide Glow · dissolve 200 ms';

const click = (id: string): RunEvent => ({ type: 'click', layer: id });
const wait = (ms: number): RunEvent => ({ type: 'wait', ms });
const IN_BELL = { x: 38, y: 48 } as const;

/** A bell that is pressed, and a lamp that comes on. */
const pier = (bell: readonly string[], more: Layers = {}, frame: Partial<SceneSpec> = {}): ComposeSpec['frames'] => ({
  Pier: {
    size: SIZE,
    background: SAND,
    ending: true,
    ...frame,
    layers: {
      Lamp: { at: [100, 26, 44, 44], type: 'oval', style: { fill: DIM }, pin: ['top'] },
      Glow: { at: [100, 26, 44, 44], type: 'oval', style: { fill: GOLD }, hidden: true, pin: ['top'] },
      Bell: { ...BELL, lines: bell },
      ...more,
    },
  },
});

const onBell = (type: 'click' | 'double-click' | 'long-press' | 'hover', line: string): Told => ({
  spec: { frames: pier([`${line} → ${SHOW}`]) },
  does: (idOf) => [{ type, layer: idOf('Bell') } as RunEvent],
});

const onFrame = (line: string, does: readonly RunEvent[], frame: Partial<SceneSpec> = {}): Told => ({
  spec: { frames: pier([], {}, { ...frame, lines: [`${line} → ${SHOW}`] }) },
  does: () => does,
});

const byClick = (line: string, more: Layers = {}, frame: Partial<SceneSpec> = {}, then: readonly RunEvent[] = []): Told => ({
  spec: { frames: pier([`click → ${line}`], more, frame) },
  does: (idOf) => [click(idOf('Bell')), ...then],
});

const sailing = (autoplay: boolean): Partial<SceneSpec> => ({
  timeline: {
    length: 40,
    autoplay,
    labels: { Ebb: [0, 'hold'], Flood: [20, 'hold'] },
    tracks: [
      [
        'Boat',
        'x',
        [
          [0, 14, 'linear'],
          [39, 120],
        ],
      ],
    ],
  },
});

/** A timeline that plays on to its end. */
const sailingOn = (autoplay: boolean): Partial<SceneSpec> => {
  const { timeline } = sailing(autoplay);
  return { timeline: { ...timeline!, labels: { Sea: [20, 'go on'] } } };
};

const draggable = { ...BELL, drag: { axis: 'both' } } as const;
const dragged = (line: string, more: Layers = {}): Told => ({
  spec: { frames: pier([], { ...more, Bell: { ...draggable, lines: [`${line} → ${SHOW}`] } }) },
  does: (idOf) => [{ type: 'drag', layer: idOf('Bell'), dx: 30, dy: 20 }],
});

/** Where somebody tells another layer something, and the bell hears of it. */
const heard = (line: string, told: string, bell: Partial<PlacedSpec> = {}): Told => ({
  spec: {
    frames: pier([], { Bell: { ...BELL, ...bell, lines: [`${line} → ${SHOW}`] } as PlacedSpec, Boat: { ...BOAT, lines: [`click → ${told}`] } }),
  },
  does: (idOf) => [click(idOf('Boat'))],
});

/** What an outside player says cannot be seen in a picture. */
const CUES: Readonly<Partial<Record<CueType, Told>>> = {
  click: onBell('click', 'click'),
  'double click': onBell('double-click', 'double click'),
  press: {
    spec: { frames: pier([`press → ${SHOW}`, `release → ${HIDE}`]) },
    does: () => [{ type: 'press', ...IN_BELL }, wait(600), { type: 'release', ...IN_BELL }],
  },
  release: { spec: { frames: pier([`release → ${SHOW}`]) }, does: () => [{ type: 'press', ...IN_BELL }, wait(600), { type: 'release', ...IN_BELL }] },
  hover: onBell('hover', 'hover'),
  leave: {
    spec: { frames: pier([`leave → ${SHOW}`]) },
    does: (idOf) => [{ type: 'hover', layer: idOf('Bell') }, wait(600), { type: 'leave' }],
  },
  'long press': onBell('long-press', 'long press 500 ms'),
  'drag start': dragged('drag start'),
  drag: dragged('drag'),
  drop: dragged('drop on Slot', { Slot: { at: [44, 44, 48, 44], style: { line: { color: TEAL, width: 2 }, corner: 8 } } }),
  swipe: { spec: { frames: pier([`swipe left → ${SHOW}`]) }, does: (idOf) => [{ type: 'swipe', layer: idOf('Bell'), direction: 'left' }] },
  scroll: onFrame('scroll down 30', [{ type: 'scroll', layer: null, x: 0, y: 60 }], { contentHeight: 200 }),
  'in view': {
    spec: {
      frames: pier([], { Far: { at: [12, 130, 60, 40], style: { fill: BRICK, corner: 8 }, lines: [`in view → ${SHOW}`] } }, { contentHeight: 200 }),
    },
    does: () => [{ type: 'scroll', layer: null, x: 0, y: 90 }],
  },
  key: onFrame('key Enter', [{ type: 'key', key: 'Enter' }]),
  focus: { spec: { frames: pier([`focus → ${SHOW}`]) }, does: (idOf) => [{ type: 'focus', layer: idOf('Bell') }] },
  blur: {
    spec: { frames: pier([`blur → ${SHOW}`]) },
    does: (idOf) => [{ type: 'focus', layer: idOf('Bell') }, wait(600), { type: 'focus', layer: null }],
  },
  change: {
    spec: {
      frames: pier([], { Bell: { at: [12, 34, 60, 28], type: 'field', field: { kind: 'text', value: 'Skarra' }, lines: [`change → ${SHOW}`] } }),
    },
    does: (idOf) => [{ type: 'value', layer: idOf('Bell'), value: 'Tolm' }],
  },
  selected: heard('selected', 'select Bell', { looks: { selected: { style: { fill: GOLD } } } }),
  enabled: heard('enabled', 'enable Bell', { disabled: true, looks: { disabled: { style: { opacity: 0.4 } } } }),
  state: {
    spec: {
      frames: pier(
        ['click → put this in Light'],
        {},
        { states: { Dark: {}, Light: { Bell: { style: { fill: BRICK } } } }, lines: [`state Light → ${SHOW}`] }
      ),
    },
    does: (idOf) => [click(idOf('Bell'))],
  },
  variable: {
    spec: {
      variables: { Seats: { type: 'number', initial: 2 } },
      frames: pier(
        ['click → set Seats to Seats + 1'],
        { Bell: { ...BELL, text: 'Seats {Seats}', lines: ['click → set Seats to Seats + 1'] } },
        { lines: [`variable Seats → ${SHOW}`] }
      ),
    },
    does: (idOf) => [click(idOf('Bell'))],
  },
  after: onFrame('after 1 s', [wait(1600)]),
  label: {
    spec: { frames: pier([], { Boat: BOAT }, { ...sailingOn(true), lines: [`label Sea → ${SHOW}`] }) },
    does: () => [wait(1700)],
  },
  pad: onFrame('pad 0', [{ type: 'pad', button: 0 }]),
  signal: { spec: { frames: pier(['click → send rung'], {}, { lines: [`signal rung → ${SHOW}`] }) }, does: (idOf) => [click(idOf('Bell'))] },
};

const CARD: ComposeSpec['frames'][string] = {
  size: [160, 56],
  background: '#ffffff',
  ending: true,
  layers: {
    Close: { at: [50, 10, 60, 36], text: 'Close', style: { fill: BRICK, ink: '#ffffff', corner: 8 }, lines: ['click → lift · dissolve 300 ms'] },
  },
};

/** What is opened outside of a piece cannot either. */
const STEPS: Readonly<Partial<Record<StepType, Told>>> = {
  go: {
    spec: {
      frames: {
        ...pier(['click → go to Far · push left 500 ms ease-out']),
        Far: { size: SIZE, background: TEAL, ending: true, layers: { Boat: { at: [60, 40, 40, 22], style: { fill: GOLD, corner: 6 } } } },
      },
    },
    does: (idOf) => [click(idOf('Bell'))],
  },
  lay: {
    spec: { frames: { ...pier(['click → lay over Card at bottom scrim 30 % · cover up 400 ms ease-out']), Card: CARD } },
    does: (idOf) => [click(idOf('Bell'))],
  },
  lift: {
    spec: { frames: { ...pier(['click → lay over Card at bottom scrim 30 %']), Card: CARD } },
    does: (idOf) => [click(idOf('Bell')), click(idOf('Close'))],
  },
  state: byClick(
    'put this in Light · dissolve 300 ms',
    {},
    { states: { Dark: {}, Light: { Lamp: { style: { fill: GOLD } }, Bell: { pose: { y: 8 } } } } }
  ),
  select: byClick('select Boat', { Boat: { ...BOAT, looks: { selected: { style: { fill: GOLD, line: { color: TEAL, width: 3 } } } } } }),
  enable: byClick('disable Boat', { Boat: { ...BOAT, looks: { disabled: { style: { opacity: 0.25 } } }, lines: ['click → show Glow'] } }),
  show: byClick(SHOW),
  move: byClick('move Boat by 90, 0 · 500 ms ease-out', { Boat: BOAT }),
  tween: byClick('tween rotation of Boat to 180 · 700 ms ease-in-out', { Boat: { ...BOAT, at: [100, 40, 44, 16] } }),
  set: {
    spec: {
      variables: { Seats: { type: 'number', initial: 2 } },
      frames: pier([], { Bell: { ...BELL, text: 'Seats {Seats}', lines: ['click → set Seats to Seats + 1'] } }),
    },
    does: (idOf) => [click(idOf('Bell')), click(idOf('Bell'))],
  },
  scroll: byClick(
    'scroll to bottom · 600 ms ease-in-out',
    { Far: { at: [12, 140, 136, 40], style: { fill: BRICK, corner: 8 } } },
    { contentHeight: 200 }
  ),
  play: byClick('play on', { Boat: BOAT }, sailingOn(false), [wait(1700)]),
  'show label': byClick('show label Flood', { Boat: BOAT }, sailing(false)),
  section: byClick('play next section', { Boat: BOAT }, sailing(false), [wait(1000)]),
  pause: {
    spec: { frames: pier(['click → pause'], { Boat: BOAT }, sailingOn(true)) },
    does: (idOf) => [wait(800), click(idOf('Bell')), wait(600)],
  },
  'start over': {
    spec: { frames: pier(['click → start over'], { Boat: BOAT }, sailingOn(true)) },
    does: (idOf) => [wait(1000), click(idOf('Bell')), wait(800)],
  },
  wait: byClick(`wait 1 s; ${SHOW}`, {}, {}, [wait(1400)]),
  send: { spec: { frames: pier(['click → send rung'], {}, { lines: [`signal rung → ${SHOW}`] }) }, does: (idOf) => [click(idOf('Bell'))] },
};

/** What a cue does; null where a picture cannot show it. */
export const exampleOfCue = (type: CueType): MovingExample | null => exampleFrom(CUES[type]);

/** What a step does; null where a picture cannot show it. */
export const exampleOfStep = (type: StepType): MovingExample | null => exampleFrom(STEPS[type]);

/** A transition as it is just now: from one frame to another, or within one. */
export function exampleOfTransition(transition: Transition, within: boolean): MovingExample {
  const spec: ComposeSpec = {
    frames: {
      Pier: {
        size: SIZE,
        background: SAND,
        ending: true,
        states: { Near: {}, Far: { Boat: { pose: { x: 100, y: 20, width: 44 }, style: { fill: GOLD } }, Sign: { hidden: true } } },
        layers: {
          Boat: { ...BOAT, at: [20, 56, 30, 22] },
          Sign: { at: [20, 14, 60, 26], style: { fill: TEAL, corner: 6 } },
          Bell: { at: [0, 0, 10, 10], lines: [within ? 'click → put this in Far' : 'click → go to Far'] },
        },
      },
      Far: { size: SIZE, background: TEAL, ending: true, layers: { Boat: { ...BOAT, at: [90, 20, 50, 32], style: { fill: GOLD, corner: 6 } } } },
    },
  };
  const made = exampleFrom({ spec, does: (idOf) => [click(idOf('Bell'))] })!;
  const threads = [...made.piece.threads.values()].map((thread) => ({
    ...thread,
    branches: thread.branches.map((branch) => ({
      ...branch,
      steps: branch.steps.map((step) => ('transition' in step ? { ...step, transition } : step)),
    })),
  }));
  return { ...made, piece: { ...made.piece, threads: threads.reduce((table, thread) => table.set(thread.id, thread as never), made.piece.threads) } };
}

function exampleFrom(told: Told | undefined): MovingExample | null {
  if (!told) return null;
  const piece = compose({ name: 'Example', size: SIZE, ...told.spec });
  const byName = new Map([...piece.layers.values()].map(({ id, name }) => [name, id] as const));
  const [from] = [...piece.scenes.values()].filter(({ name }) => name === 'Pier').map(({ id }) => id);
  const steps = told.does((name) => byName.get(name)!).map((event) => ({ event, frame: from! }));
  return { piece, walk: { from: from!, steps: steps as unknown as KeptWalk['steps'] } };
}
