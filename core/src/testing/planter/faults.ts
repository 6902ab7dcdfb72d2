import type { PlacedSpec, SceneSpec, TimelineSpec, VariableSpec } from '../../compose/compose.ts';
import { layerId, sceneId } from '../../compose/compose.ts';
import type { Operation } from '../../edit/operation.ts';
import type { Piece } from '../../piece/piece.ts';
import { button, text, type Chance, type Clean } from './clean.ts';

/** A fault that was planted, and where it has to be found. */
export interface Planted {
  readonly piece: Clean;
  /** The scene, and the layer in it, that the finding is about; a null layer is the scene itself. */
  readonly at: { readonly scene: string | null; readonly layer: string | null };
  /** What else is so because of it. */
  readonly brings?: readonly string[];
  /** What cannot be said in names: what is gone. */
  readonly edit?: (piece: Piece) => Operation[];
}

/** A piece that can still be changed. */
type Mutable<T> = { -readonly [K in keyof T]: T[K] };
type Scene = Omit<Mutable<SceneSpec>, 'layers'> & { layers: Record<string, PlacedSpec> };
interface Draft {
  readonly frames: Record<string, Scene>;
  readonly parts: Record<string, Scene>;
  readonly sheets: Record<string, Scene>;
  readonly variables: Record<string, VariableSpec>;
}

/** One fault of each kind, by the rule that has to find it; null where a piece has no place for it. */
type Plant = (piece: Draft, chance: Chance) => Omit<Planted, 'piece'> | null;

const pick = <T>(list: readonly T[], chance: Chance): T | undefined => list[Math.floor(chance() * list.length)];

/** A frame that is there to be spoilt, other than those that everything depends on. */
const corner = (piece: Draft, chance: Chance): string =>
  pick(
    Object.keys(piece.frames).filter((name) => !['harbour', 'pay', 'done', 'full', 'answer'].includes(name)),
    chance
  )!;

/** Puts a layer into a frame, in a place that is free in all of them. */
const put = (piece: Draft, frame: string, name: string, layer: PlacedSpec): { scene: string; layer: string } => {
  piece.frames[frame]!.layers[name] = layer;
  return { scene: frame, layer: name };
};

/** Keys of a scene's timeline: of which layer and property, at which frames what. */
type Tracks = NonNullable<NonNullable<SceneSpec['timeline']>['tracks']>;

const track = (layer: string, property: Tracks[number][1], ...keys: Tracks[number][2]): Tracks[number] => [layer, property, keys];

/** Gives a lesson more layers, and more in its time; null where there is no lesson. */
function inLesson(piece: Draft, layers: Record<string, PlacedSpec>, more: InTime, layer: string): Omit<Planted, 'piece'> | null {
  const { lesson } = piece.frames;
  if (!lesson) return null;
  const old = lesson.timeline!;
  const { tracks = [], spans = [], cues = [] } = more;
  lesson.timeline = {
    ...old,
    tracks: [...(old.tracks ?? []), ...tracks],
    spans: [...(old.spans ?? []), ...spans],
    cues: [...(old.cues ?? []), ...cues],
  };
  for (const [name, one] of Object.entries(layers)) put(piece, 'lesson', name, one);
  return { at: { scene: 'lesson', layer } };
}

type InTime = Pick<TimelineSpec, 'tracks' | 'spans' | 'cues'>;

/** Puts a button into the lesson that its timeline brings from one value to another while the flood is shown. */
const keyed = (piece: Draft, property: 'scale' | 'opacity', to: number) =>
  inLesson(piece, { Odd: spare('Away', 'click → go to full') }, { tracks: [track('Odd', property, [24, 1], [47, to])] }, 'Odd');

const ROOM = [210, 560] as const;

/** Puts two sliders into a frame, and a key that asks something of both. */
function askedOfTwo(piece: Draft, scene: string, asks: string): Omit<Planted, 'piece'> {
  for (const [i, name] of ['Grown', 'Small'].entries())
    piece.frames[scene]!.layers[name] = {
      type: 'field',
      label: name,
      at: [ROOM[0], ROOM[1] + i * 60, 160, 52],
      field: { kind: 'slider', min: i, max: 6 - 3 * i },
    };
  const lines = [`key b → if ${asks} → go to full`, 'key g → if Grown.value + Small.value > 8 → go to harbour'];
  piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), ...lines];
  return { at: { scene, layer: null } };
}

const field = (label: string, of: NonNullable<PlacedSpec['field']>): PlacedSpec => ({ type: 'field', label, at: [...ROOM, 160, 52], field: of });
const spare = (words: string, ...lines: string[]) => button(words, ROOM[0], ROOM[1], ...lines);
const onHome = 'click → go to harbour';

/** Puts a panel into a frame that keeps presses off a button behind it while it is shown. */
function panel(piece: Draft, scene: string, more: PlacedSpec) {
  const at = [ROOM[0], ROOM[1] + 60, 160, 52] as const;
  put(piece, scene, 'Behind', { ...spare('Full', 'click → go to full'), at });
  return put(piece, scene, 'Odd', { at, style: { fill: '#dfe7ea' }, hit: { how: 'block' }, ...more });
}

export const faults: Readonly<Record<string, readonly Plant[]>> = {
  'missing-target': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      const edit = (made: Piece): Operation[] =>
        [...made.threads.values()]
          .filter(({ owner }) => owner === layerId(scene, 'Home'))
          .map(({ id }) => ({ op: 'set', table: 'threads', id, path: ['branches', '0', 'steps', '0', 'target', 'frame'], value: null }));
      return { at: { scene, layer: 'Home' }, edit, brings: ['dead-end', 'no-way-home', 'odd-one-out', 'no-effect', 'media-hangs'] };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const at = put(piece, scene, 'Odd', spare('Away', 'click → go to lost'));
      piece.frames['lost'] = { layers: { Home: button('Home', 20, 760, onHome) } };
      return { at, edit: () => [{ op: 'remove', table: 'scenes', id: 'lost' }] };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const edit = (made: Piece): Operation[] =>
        [...made.threads.values()]
          .filter(({ owner }) => owner === layerId(scene, 'Home'))
          .map(({ id }) => ({ op: 'set', table: 'threads', id, path: ['branches', '0', 'steps'], value: [] }));
      return { at: { scene, layer: 'Home' }, edit, brings: ['dead-end', 'no-way-home', 'odd-one-out', 'no-effect', 'media-hangs'] };
    },
    (piece, chance) => {
      piece.variables['Wind'] = { type: 'number', initial: 3, min: 0, max: 9 };
      const at = put(piece, corner(piece, chance), 'Odd', field('Wind', { kind: 'slider', min: 0, max: 9, variable: 'Wind' }));
      return { at, edit: () => [{ op: 'remove', table: 'variables', id: 'Wind' }] };
    },
  ],
  'broken-route': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      const event = { type: 'click', layer: layerId('harbour', `To ${scene}`) };
      const value = { name: 'Once', order: 'a', from: 'harbour', steps: [{ event, frame: 'pay' }] };
      const edit = ({ head }: Piece): Operation[] => [{ op: 'set', table: 'piece', id: head.id, path: ['walks', 'once'], value }];
      return { at: { scene: 'harbour', layer: null }, edit };
    },
    (piece) => {
      if (!piece.frames['notice']) return null;
      const event = (scene: string, layer: string) => ({ type: 'click', layer: layerId(scene, layer) });
      const steps = [
        { event: event('harbour', 'To notice'), frame: 'notice', state: 'notice_s_quiet' },
        { event: event('notice', 'Tell'), frame: 'notice', state: 'notice_s_quiet' },
      ];
      const value = { name: 'Once', order: 'a', from: 'harbour', steps };
      const edit = ({ head }: Piece): Operation[] => [{ op: 'set', table: 'piece', id: head.id, path: ['walks', 'once'], value }];
      return { at: { scene: 'notice', layer: null }, edit };
    },
  ],
  'asked-for': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      const value = { words: 'Say when the last boat goes.', by: 'Liv Moe', scene, layer: layerId(scene, 'Home') };
      const edit = ({ head }: Piece): Operation[] => [{ op: 'set', table: 'piece', id: head.id, path: ['asked', 'said'], value }];
      return { at: { scene, layer: 'Home' }, edit };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const value = { words: 'Too much at once.', by: 'Odd Vik', scene };
      const edit = ({ head }: Piece): Operation[] => [{ op: 'set', table: 'piece', id: head.id, path: ['asked', 'said'], value }];
      return { at: { scene, layer: null }, edit };
    },
  ],
  'draft-target': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.draft = true;
      return { at: { scene: 'harbour', layer: `To ${scene}` } };
    },
    (piece) => {
      if (!piece.frames['answer']) return null;
      piece.frames['answer']!.draft = true;
      return { at: { scene: 'cards', layer: 'Ask' } };
    },
  ],
  'looks-clickable': [
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', spare('Away')) }),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', { type: 'hit', at: [...ROOM, 160, 52] }) }),
  ],
  'no-feedback': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      delete (piece.frames[scene]!.layers['Home'] as { looks?: unknown }).looks;
      return { at: { scene, layer: 'Home' } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.layers['Home'] = { ...piece.frames[scene]!.layers['Home']!, looks: { focus: { style: { fill: '#163b48' } } } };
      return { at: { scene, layer: 'Home' } };
    },
    (piece) => {
      const bar = piece.sheets['bar']!;
      bar.layers['Tickets'] = { ...bar.layers['Tickets']!, looks: {} };
      return { at: { scene: 'bar', layer: 'Tickets' } };
    },
    (piece) => {
      const lamp = piece.parts['Lamp'];
      if (!lamp) return null;
      lamp.layers['Bulb'] = { ...lamp.layers['Bulb']!, looks: { hover: { style: { fill: '#f3ead9' } } } };
      return { at: { scene: 'Lamp', layer: 'Bulb' } };
    },
  ],
  'odd-one-out': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.layers['Home'] = { ...piece.frames[scene]!.layers['Home']!, lines: ['click → go to full'] };
      return { at: { scene, layer: 'Home' } };
    },
  ],
  'repeated-target': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      const layers = piece.frames[scene]!.layers;
      layers['One'] = button('Fares', 20, 560, 'click → open https://kittiwake.example/fares in new tab');
      layers['Two'] = button('Islands', 20, 620, 'click → open https://kittiwake.example/fares in new tab');
      const edit = (): Operation[] => [{ op: 'set', table: 'layers', id: layerId(scene, 'Two'), path: ['copyOf'], value: layerId(scene, 'One') }];
      return { at: { scene, layer: 'Two' }, edit };
    },
  ],
  'expression-error': [
    (piece, chance) => ({
      at: put(piece, corner(piece, chance), 'Odd', spare('Away', 'click → if Seats / 0 > 1 → go to harbour')),
      brings: [],
    }),
    (piece, chance) => ({
      at: put(piece, corner(piece, chance), 'Odd', { ...text('Few', ROOM[0], ROOM[1]), when: { x: 'Odd.x + 1' } }),
      brings: ['endless-loop'],
    }),
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.layers['Bags'] = field('Bags', { kind: 'slider', min: 0, max: 4 });
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'key b → if 12 / Bags.value > 5 → go to full'];
      return { at: { scene, layer: null } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const layers = piece.frames[scene]!.layers;
      layers['Bags'] = field('Bags', { kind: 'slider', min: 0, max: 4 });
      return { at: put(piece, scene, 'Odd', text('{12 / Bags.value} each', ROOM[0], ROOM[1] + 60)) };
    },
  ],
  'type-clash': [
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', field('Who', { kind: 'text', variable: 'Seats' })) }),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', spare('Away', 'click → if Seats = "two" → go to harbour')) }),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', spare('Away', 'click → set Seats to "two"')) }),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', { ...text('Few', ROOM[0], ROOM[1]), when: { opacity: 'Seats = 2' } }) }),
  ],
  'unset-variable': [
    (piece, chance) => {
      piece.variables['Wind'] = { type: 'number', initial: 3 };
      put(piece, corner(piece, chance), 'Odd', text('Wind {Wind}', ROOM[0], ROOM[1]));
      return { at: { scene: null, layer: null } };
    },
    (piece, chance) => {
      piece.variables['Open'] = { type: 'yes/no', initial: true };
      put(piece, corner(piece, chance), 'Odd', { ...text('Open', ROOM[0], ROOM[1]), when: { shown: 'Open' } });
      return { at: { scene: null, layer: null } };
    },
  ],
  'unread-variable': [
    (piece, chance) => {
      piece.variables['Wind'] = { type: 'number', initial: 3, max: 9 };
      put(piece, corner(piece, chance), 'Odd', spare('Away', 'click → set Wind to Wind + 1'));
      return { at: { scene: null, layer: null } };
    },
    (piece, chance) => {
      piece.variables['Wind'] = { type: 'number', initial: 3, min: 0, max: 9 };
      put(piece, corner(piece, chance), 'Odd', field('Wind', { kind: 'slider', min: 0, max: 9, variable: 'Wind' }));
      return { at: { scene: null, layer: null } };
    },
  ],
  'out-of-range': [
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', spare('Away', 'click → set Seats to 7')), brings: [] }),
    (piece, chance) => ({
      at: put(piece, corner(piece, chance), 'Odd', spare('Away', 'click → if Seats > 5 → go to full; otherwise → go to harbour')),
      brings: ['never-fires'],
    }),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', field('Bags', { kind: 'slider', min: 0, max: 4, value: 9 })) }),
    (piece) => {
      if (!piece.frames['boats']) return null;
      const { layers } = piece.frames['boats']!;
      layers['Odd'] = spare('Night', 'click → set Boat to "Night"');
      return { at: { scene: 'boats', layer: 'Odd' }, brings: ['no-effect'] };
    },
    (piece, chance) => {
      piece.parts['Lamp'] = {
        size: [60, 60],
        states: { off: {}, on: {} },
        layers: { Glow: { at: [0, 0, 60, 60], lines: ['click → toggle Lamp with on'], label: 'Glow' } },
      };
      const scene = corner(piece, chance);
      put(piece, scene, 'Lamp', { type: 'placement', part: 'Lamp', at: [...ROOM, 60, 60] });
      return {
        at: put(piece, scene, 'Odd', { ...text('Lit', ROOM[0], ROOM[1] + 80), when: { shown: 'Lamp.state = "lit"' } }),
        brings: ['no-feedback'],
      };
    },
    (piece, chance) => {
      piece.parts['Lamp'] = { size: [60, 60], states: { off: {}, on: {} }, layers: { Glow: { at: [0, 0, 60, 60], style: { fill: '#8a6d1f' } } } };
      const state = 'if Seats > 1 then "on" else "of"';
      return { at: put(piece, corner(piece, chance), 'Odd', { type: 'placement', part: 'Lamp', at: [...ROOM, 60, 60], when: { state } }) };
    },
  ],
  'same-name': [
    (piece) => {
      piece.frames['pay']!.layers['Twin'] = { ...text('Read them first', ROOM[0], ROOM[1]), name: 'Terms' };
      return { at: { scene: 'pay', layer: 'Pay' } };
    },
  ],
  'bad-link': [
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', spare('Away', 'click → open www.kittiwake.example/help in new tab')) }),
  ],
  'runs-through': [
    (piece) => {
      if (!piece.frames['lesson']) return null;
      const { lesson } = piece.frames;
      lesson!.timeline = {
        ...lesson!.timeline!,
        length: 72,
        labels: { Ebb: [0, 'hold'], Flood: [24, 'go on'], Slack: [48, 'hold'] },
        tracks: [
          ...lesson!.timeline!.tracks!,
          [
            'Boat',
            'width',
            [
              [48, 80],
              [71, 120],
            ],
          ],
        ],
      };
      lesson!.layers['Slack'] = spare('Slack', 'click → play from Slack');
      return { at: { scene: 'lesson', layer: null } };
    },
  ],
  'label-clash': [
    (piece) => {
      if (!piece.frames['lesson']) return null;
      const { lesson } = piece.frames;
      lesson!.timeline = { ...lesson!.timeline!, labels: { ...lesson!.timeline!.labels, Slack: [24, 'hold'] } };
      return { at: { scene: 'lesson', layer: null }, brings: ['unreachable-section', 'never-fires', 'no-effect'] };
    },
    (piece) => {
      if (!piece.frames['lesson']) return null;
      const edit = (made: Piece): Operation[] =>
        Object.keys(made.scenes.get('lesson')!.timeline!.labels!).map((label) => ({
          op: 'set',
          table: 'scenes',
          id: 'lesson',
          path: ['timeline', 'labels', label, 'name'],
          value: 'Ebb',
        }));
      return { at: { scene: 'lesson', layer: null }, edit };
    },
  ],
  'empty-section': [
    (piece) => {
      if (!piece.frames['lesson']) return null;
      const { lesson } = piece.frames;
      lesson!.timeline = { ...lesson!.timeline!, length: 72, labels: { ...lesson!.timeline!.labels, Slack: [48, 'hold'] } };
      lesson!.layers['Slack'] = spare('Slack', 'click → play from Slack');
      return { at: { scene: 'lesson', layer: null } };
    },
  ],
  'out-of-time': [
    (piece) => {
      if (!piece.frames['lesson']) return null;
      const { lesson } = piece.frames;
      lesson!.timeline = {
        ...lesson!.timeline!,
        tracks: [
          ...lesson!.timeline!.tracks!,
          [
            'Boat',
            'opacity',
            [
              [30, 1],
              [60, 0.5],
            ],
          ],
        ],
      };
      return { at: { scene: 'lesson', layer: null } };
    },
    (piece) => inLesson(piece, { Odd: text('Low water', ...ROOM) }, { spans: [['Odd', 9, 4]] }, 'Odd'),
    (piece) => inLesson(piece, { Odd: text('Low water', ...ROOM) }, { cues: [[4, 'Odd', 'play']] }, 'Odd'),
  ],
  'unreachable-section': [
    (piece) => {
      if (!piece.frames['lesson']) return null;
      const { lesson } = piece.frames;
      lesson!.layers['Flood'] = { ...lesson!.layers['Flood']!, lines: ['click → play from Ebb'] };
      return { at: { scene: 'lesson', layer: null }, brings: ['repeated-target'] };
    },
  ],
  'stays-played': [
    (piece) => {
      if (!piece.frames['clips']) return null;
      const { layers } = piece.frames['clips']!;
      layers['Wave'] = { ...layers['Wave']!, reentry: 'once' };
      return { at: { scene: 'clips', layer: 'Wave' } };
    },
  ],
  covered: [
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.layers['Lid'] = { ...button('Lid', 20, 760, 'click → go to pay'), at: [0, 740, 200, 90] };
      return { at: { scene, layer: 'Home' }, brings: ['dead-end', 'no-way-home', 'crowded-hit', 'media-hangs'] };
    },
    (piece) => {
      if (!piece.frames['answer']) return null;
      piece.frames['answer']!.layers['Lid'] = { ...button('Lid', 60, 150, 'click → lift'), at: [60, 150, 180, 70] };
      return { at: { scene: 'answer', layer: 'Close' }, brings: ['crowded-hit'] };
    },
    // Below the fold.
    (piece) => {
      if (!piece.frames['boats']) return null;
      piece.frames['boats']!.layers['Lid'] = { ...button('Lid', 10, 1090, 'click → go to full'), at: [10, 1090, 180, 72] };
      return { at: { scene: 'boats', layer: 'More' }, brings: ['never-fires'] };
    },
    // The last of what scrolls, under a bar that stays.
    (piece) => {
      if (!piece.frames['boats']) return null;
      const { boats } = piece.frames;
      boats!.layers['More'] = { ...boats!.layers['More']!, at: [20, 1340, 160, 52] };
      boats!.layers['Bar'] = { ...button('Bar', 0, 780, 'click → go to full'), at: [0, 780, 390, 64], pin: ['bottom'] };
      boats!.layers['Home'] = { ...boats!.layers['Home']!, at: [20, 690, 160, 52] };
      return { at: { scene: 'boats', layer: 'More' }, brings: ['never-fires'] };
    },
  ],
  'small-hit': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.layers['Home'] = { ...piece.frames[scene]!.layers['Home']!, at: [20, 760, 160, 20] };
      return { at: { scene, layer: 'Home' } };
    },
    (piece) => {
      if (!piece.frames['notice']) return null;
      const { notice } = piece.frames;
      notice!.states = { ...notice!.states, told: { ...notice!.states!['told'], Home: { pose: { width: 30 } } } };
      return { at: { scene: 'notice', layer: 'Home' } };
    },
    (piece) => {
      if (!piece.frames['cards']) return null;
      const { layers } = piece.frames['cards']!;
      layers['Lamp'] = { ...layers['Lamp']!, at: [240, 400, 40, 24] };
      return { at: { scene: 'Lamp', layer: 'Bulb' } };
    },
    (piece) => keyed(piece, 'scale', 0.3),
  ],
  'crowded-hit': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      return { at: put(piece, scene, 'Odd', button('Full?', 182, 760, 'click → go to full')) };
    },
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', button('Full?', 160, 760, 'click → go to full')) }),
    (piece) => (piece.frames['boats'] ? { at: put(piece, 'boats', 'Odd', button('Full?', 182, 1100, 'click → go to full')) } : null),
  ],
  'off-frame': [
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', button('Away', 420, 500, 'click → go to full')) }),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', button('Away', 20, -200, 'click → go to full')) }),
    (piece, chance) => {
      const scene = corner(piece, chance);
      const { layers } = piece.frames[scene]!;
      layers['Window'] = { type: 'group', clip: true, at: [...ROOM, 160, 60] };
      layers['Odd'] = { ...button('Away', 0, 80, 'click → go to full'), in: 'Window' };
      return { at: { scene, layer: 'Odd' } };
    },
    (piece) => {
      const nears: Tracks = [track('Odd', 'x', [24, 700], [47, 420])];
      return inLesson(piece, { Odd: button('Away', 20, 500, 'click → go to full') }, { tracks: nears }, 'Odd');
    },
  ],
  'unseen-hit': [
    (piece, chance) => ({
      at: put(piece, corner(piece, chance), 'Odd', {
        ...spare('Away', 'click → go to full'),
        style: { fill: '#1f4e5f', ink: '#ffffff', opacity: 0 },
      }),
    }),
    (piece) => {
      if (!piece.frames['notice']) return null;
      const { notice } = piece.frames;
      notice!.states = { ...notice!.states, told: { ...notice!.states!['told'], Home: { style: { opacity: 0 } } } };
      return { at: { scene: 'notice', layer: 'Home' } };
    },
    (piece) => keyed(piece, 'opacity', 0),
    (piece, chance) => {
      const scene = corner(piece, chance);
      const at = put(piece, scene, 'Odd', spare('Away', 'click → go to full'));
      put(piece, scene, 'Cover', { at: [ROOM[0] - 10, ROOM[1] - 30, 180, 120], style: { fill: '#fbf7ee' } });
      return { at };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const at = put(piece, scene, 'Odd', spare('Away', 'click → go to full'));
      put(piece, scene, 'Patch', { at: [...ROOM, 160, 52], style: { fill: '#fbf7ee' } });
      return { at };
    },
    (piece) => {
      const cover: PlacedSpec = { at: [ROOM[0] - 10, 900, 180, 120], style: { fill: '#fbf7ee' } };
      const comes: Tracks = [
        [
          'Cover',
          'y',
          [
            [24, 900],
            [47, ROOM[1] - 30],
          ],
        ],
      ];
      return inLesson(piece, { Odd: spare('Away', 'click → go to full'), Cover: cover }, { tracks: comes }, 'Odd');
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const frame = piece.frames[scene]!;
      if (frame.timeline || scene === 'boats') return null;
      put(piece, scene, 'Odd', spare('Away', 'click → go to full'));
      put(piece, scene, 'Cover', { at: [ROOM[0] - 10, 900, 180, 120], style: { fill: '#fbf7ee' } });
      const comes: Tracks = [
        [
          'Cover',
          'y',
          [
            [0, 900],
            [40, ROOM[1] - 30],
          ],
        ],
      ];
      frame.timeline = { length: 48, tracks: comes };
      return { at: { scene, layer: 'Odd' } };
    },
  ],
  'low-contrast': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.layers['Title'] = { ...piece.frames[scene]!.layers['Title']!, style: { ink: '#b0b0b0' } };
      return { at: { scene, layer: 'Title' } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.layers['Home'] = {
        ...piece.frames[scene]!.layers['Home']!,
        looks: { hover: { style: { fill: '#e8dcc4' } }, press: { style: { fill: '#163b48' } } },
      };
      return { at: { scene, layer: 'Home' } };
    },
    (piece) => {
      if (!piece.frames['notice']) return null;
      const { notice } = piece.frames;
      notice!.states = { ...notice!.states, told: { Note: { hidden: false, style: { ink: '#c9bda4' } } } };
      return { at: { scene: 'notice', layer: 'Note' } };
    },
    (piece) => {
      const menu = piece.parts['Menu'];
      if (!menu) return null;
      menu.layers['Top'] = { ...menu.layers['Top']!, style: { fill: '#f3ead9', ink: '#e8dcc4' } };
      return { at: { scene: 'Menu', layer: 'Top' } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const { layers } = piece.frames[scene]!;
      const [x, y] = [ROOM[0], ROOM[1] - 60];
      layers['Panel'] = { type: 'box', at: [x, y, 200, 40], style: { fill: '#173b46' } };
      layers['Words'] = { ...text('Ten crossings', x, y), at: [x + 10, y + 5, 180, 30], style: { ink: '#ffffff' } };
      put(piece, scene, 'Odd', spare('Plain', 'click → hide Panel'));
      return { at: { scene, layer: 'Words' }, brings: ['no-effect'] };
    },
    (piece) => {
      const pales: Tracks = [track('Words', 'ink', [24, '#2b2433'], [47, '#d8d0c0'])];
      return inLesson(piece, { Words: text('High water', ...ROOM) }, { tracks: pales }, 'Words');
    },
    (piece) => {
      const panel: PlacedSpec = { type: 'box', at: [ROOM[0] - 10, ROOM[1] - 10, 180, 60], style: { fill: '#fbf7ee' } };
      const darkens: Tracks = [track('Panel', 'fill', [24, '#fbf7ee'], [47, '#3a3340'])];
      return inLesson(piece, { Panel: panel, Words: text('High water', ...ROOM) }, { tracks: darkens }, 'Words');
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const frame = piece.frames[scene]!;
      if (frame.timeline || scene === 'boats') return null;
      const fades: Tracks = [track('Words', 'opacity', [0, 1], [40, 0.3])];
      frame.timeline = { length: 48, tracks: fades };
      return { at: put(piece, scene, 'Words', text('High water', ...ROOM)) };
    },
  ],
  'no-keyboard': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      return { at: put(piece, scene, 'Odd', { ...spare('Away', 'long press 600 ms → go to full') }) };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'swipe right → go to full'];
      return { at: { scene, layer: null } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames['far'] = { layers: { Home: button('Home', 20, 760, onHome) } };
      return { at: put(piece, scene, 'Odd', { ...spare('Far', 'click → go to far'), role: 'text' }), brings: ['mouse-only'] };
    },
  ],
  'no-name': [
    (piece, chance) => ({
      at: put(piece, corner(piece, chance), 'Hit area 2', { type: 'hit', at: [...ROOM, 160, 52], lines: ['click → go to full'] }),
    }),
  ],
  'dead-end': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      if (scene === 'film' || scene === 'boats') return null;
      delete (piece.frames[scene]!.layers as Record<string, unknown>)['Home'];
      return { at: { scene, layer: null } };
    },
    (piece) => {
      if (!piece.frames['notice']) return null;
      const { notice } = piece.frames;
      notice!.states = { ...notice!.states, told: { ...notice!.states!['told'], Home: { hidden: true }, Tell: { hidden: true } } };
      notice!.lines = [];
      return { at: { scene: 'notice', layer: null }, brings: ['one-way'] };
    },
    (piece) => {
      if (!piece.frames['answer']) return null;
      delete (piece.frames['answer']!.layers as Record<string, unknown>)['Close'];
      return { at: { scene: 'cards', layer: null }, brings: ['one-way'] };
    },
  ],
  'no-way-home': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      const { frames } = piece;
      put(piece, scene, 'Odd', spare('Far', 'click → go to far'));
      frames['far'] = { layers: { On: button('On', 20, 100, 'click → go to farther') } };
      frames['farther'] = { layers: { On: button('On', 20, 100, 'click → go to far') } };
      return { at: { scene: 'far', layer: null } };
    },
  ],
  'media-hangs': [
    (piece) => {
      if (!piece.frames['film']) return null;
      const { layers } = piece.frames['film']!;
      delete (layers as Record<string, unknown>)['Home'];
      layers['Film'] = { ...layers['Film']!, lines: [] };
      return { at: { scene: 'film', layer: 'Film' } };
    },
  ],
  'unreachable-frame': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames['harbour']!.layers[`To ${scene}`] = { ...piece.frames['harbour']!.layers[`To ${scene}`]!, lines: ['click → go to pay'] };
      return { at: { scene, layer: null }, brings: ['unreachable-frame', 'unset-variable'] };
    },
  ],
  'unreachable-state': [
    (piece) => {
      if (!piece.frames['notice']) return null;
      const { notice } = piece.frames;
      notice!.states = { ...notice!.states, never: { Note: { hidden: false } } };
      return { at: { scene: 'notice', layer: null } };
    },
    (piece) => {
      const lamp = piece.parts['Lamp'];
      if (!lamp) return null;
      lamp.states = { ...lamp.states, Broken: { Bulb: { style: { fill: '#c9bda4' } } } };
      return { at: { scene: 'Lamp', layer: null } };
    },
    (piece) => {
      piece.sheets['bar']!.states = { day: {}, night: { Line: { style: { ink: '#1f4e5f' } } } };
      return { at: { scene: 'bar', layer: null } };
    },
  ],
  'never-fires': [
    (piece) => {
      piece.frames['pay']!.layers['Odd'] = spare('Away', 'click → if Seats < 2 and Seats > 1 → go to full');
      return { at: { scene: 'pay', layer: 'Odd' } };
    },
    (piece) => {
      piece.frames['pay']!.layers['Odd'] = spare('Away', 'click → if Seats <= 2 → go to full; otherwise → go to done');
      return { at: { scene: 'pay', layer: 'Odd' } };
    },
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', { ...spare('Away', 'click → go to full'), hidden: true }) }),
    (piece) => {
      const menu = piece.parts['Menu'];
      if (!menu) return null;
      menu.layers['Odd'] = { ...button('Never', 0, 60, 'click → put this in Open'), at: [0, 60, 160, 52], disabled: true };
      return { at: { scene: 'Menu', layer: 'Odd' } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'variable Seats → go to full'];
      return { at: { scene, layer: null } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const bags = field('Bags', { kind: 'slider', min: 0, max: 4, step: 1 });
      put(piece, scene, 'Bags', bags);
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'key b → if Bags.value * Bags.value + Bags.value = 30 → go to full'];
      return { at: { scene, layer: null } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      put(piece, scene, 'Word', field('Word', { kind: 'text' }));
      const asks = 'starts with(Word.value, "Skarra") and contains(Word.value, "@") and string length(Word.value) < 7';
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), `key b → if ${asks} → go to full`];
      return { at: { scene, layer: null } };
    },
    (piece, chance) => askedOfTwo(piece, corner(piece, chance), 'Grown.value + Small.value > 9'),
    (piece, chance) => askedOfTwo(piece, corner(piece, chance), 'Grown.value > Small.value + 6'),
    (piece, chance) => {
      const scene = corner(piece, chance);
      const drag = { axis: 'x', bounds: { left: 0, right: 90, top: 0, bottom: 0 } } as const;
      piece.frames[scene]!.layers['Knob'] = { label: 'Wind', at: [ROOM[0], ROOM[1], 48, 48], drag };
      const lines = [
        `key b → if Knob.x > ${ROOM[0] + 90} → go to full`,
        `key g → if Knob.x > ${ROOM[0] + 44} and Knob.x < ${ROOM[0] + 46} → go to harbour`,
      ];
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), ...lines];
      return { at: { scene, layer: null }, brings: ['mouse-only'] };
    },
  ],
  'no-effect': [
    (piece) => (piece.frames['boats'] ? { at: put(piece, 'boats', 'Odd', spare('Stay', 'click → go to boats')) } : null),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', spare('Stay', 'click → set Seats to Seats')) }),
    (piece, chance) => ({ at: put(piece, corner(piece, chance), 'Odd', spare('Stay', 'click → show Title')) }),
    (piece, chance) => {
      const scene = corner(piece, chance);
      return piece.frames[scene]!.contentHeight
        ? null
        : { at: put(piece, scene, 'Odd', spare('Down', 'click → scroll to bottom · 300 ms ease-out')) };
    },
    (piece) => {
      if (!piece.frames['notice']) return null;
      piece.frames['notice']!.layers['Odd'] = spare('Stay', 'click → put this in quiet');
      piece.frames['notice']!.states = { ...piece.frames['notice']!.states, told: { Note: { hidden: false }, Odd: { hidden: true } } };
      return { at: { scene: 'notice', layer: 'Odd' } };
    },
  ],
  'endless-loop': [
    (piece, chance) => {
      piece.variables['Ebb'] = { type: 'yes/no', initial: false };
      const scene = corner(piece, chance);
      put(piece, scene, 'Odd', spare('Turn', 'click → set Ebb to not(Ebb)'));
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'variable Ebb → set Ebb to not(Ebb)'];
      return { at: { scene, layer: null }, brings: ['no-effect'] };
    },
    (piece) => {
      if (!piece.frames['notice']) return null;
      const { notice } = piece.frames;
      notice!.lines = ['state told → put this in quiet', 'state quiet → put this in told'];
      return { at: { scene: 'notice', layer: null }, brings: ['no-effect', 'never-fires', 'unreachable-state', 'one-way'] };
    },
  ],
  'one-way': [
    (piece) => {
      if (!piece.frames['notice']) return null;
      piece.frames['notice']!.lines = [];
      return { at: { scene: 'notice', layer: null }, brings: [] };
    },
    (piece) => {
      const lamp = piece.parts['Lamp'];
      if (!lamp) return null;
      lamp.layers['Bulb'] = { ...lamp.layers['Bulb']!, lines: ['click → put this in On'] };
      return { at: { scene: 'cards', layer: null } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      put(piece, scene, 'Odd', spare('Tip', 'click → lay over tip at bottom'));
      piece.frames['tip'] = { size: [200, 120], layers: { Words: { ...text('A tip', 10, 20), at: [10, 20, 180, 30] } } };
      return { at: { scene: 'tip', layer: null } };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      put(piece, scene, 'Tip', spare('Tip', 'click → show Odd'));
      return { at: panel(piece, scene, { hidden: true }) };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.variables['Fog'] = { type: 'yes/no', initial: false };
      put(piece, scene, 'Tip', spare('Tip', 'click → set Fog to true'));
      return { at: panel(piece, scene, { when: { shown: 'Fog' } }) };
    },
  ],
  'timer-race': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      if (scene === 'boats') return null;
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'after 9 s → go to full', 'after 9 s → go to harbour'];
      return { at: { scene, layer: null }, brings: ['never-fires'] };
    },
    (piece) => {
      piece.frames['harbour']!.lines = ['after 20 s → go to pay'];
      piece.sheets['bar']!.lines = ['after 20 s → go to full'];
      return { at: { scene: 'harbour', layer: null }, brings: ['never-fires'] };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      if (scene === 'boats' || piece.frames[scene]!.timeline) return null;
      piece.frames[scene]!.timeline = { length: 240, labels: { waits: [0, 'go on'], over: [216, 'hold'] } };
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'label over → go to full', 'after 9 s → go to harbour'];
      return { at: { scene, layer: null }, brings: ['never-fires', 'unreachable-section', 'empty-section'] };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      if (scene === 'boats') return null;
      const lines = [
        'after 9 s → if Seats > 1 → go to full; otherwise → go to harbour',
        'after 9 s → if Seats < 1 → go to harbour; otherwise → go to pay',
      ];
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), ...lines];
      return { at: { scene, layer: null }, brings: ['never-fires'] };
    },
  ],
  'mouse-only': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      put(piece, scene, 'Odd', spare('Far', 'double click → go to far'));
      piece.frames['far'] = { layers: { Home: button('Home', 20, 760, onHome) } };
      return { at: { scene: 'far', layer: null }, brings: ['no-keyboard'] };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      if (scene === 'boats') return null;
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'swipe up → go to far'];
      piece.frames['far'] = { layers: { Home: button('Home', 20, 760, onHome) } };
      return { at: { scene: 'far', layer: null }, brings: ['no-keyboard'] };
    },
  ],
  'hover-only': [
    (piece, chance) => {
      const scene = corner(piece, chance);
      put(piece, scene, 'Odd', spare('Far', 'hover → go to far'));
      piece.frames['far'] = { layers: { Home: button('Home', 20, 760, onHome) } };
      return { at: { scene: 'far', layer: null }, brings: ['mouse-only', 'looks-clickable'] };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const { layers } = piece.frames[scene]!;
      layers['Odd'] = { ...text('Fares', ROOM[0], ROOM[1] - 60), lines: ['hover → show Card'] };
      layers['Card'] = { ...spare('Ten crossings', 'click → go to full'), hidden: true };
      return { at: { scene, layer: 'Card' }, brings: ['mouse-only', 'looks-clickable', 'no-effect'] };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      const at = put(piece, scene, 'Odd', spare('Timetable', 'leave → open https://kittiwake.example/times'));
      return { at, brings: ['looks-clickable'] };
    },
  ],
  hurry: [
    (piece, chance) => {
      const scene = corner(piece, chance);
      return { at: put(piece, scene, 'Odd', spare('Buy', 'click → set Seats to Seats - 1; then wait 800 ms; then go to done')) };
    },
    (piece, chance) => {
      const scene = corner(piece, chance);
      piece.frames[scene]!.lines = [...(piece.frames[scene]!.lines ?? []), 'key b → set Seats to Seats - 1; then wait 600 ms; then go to done'];
      return { at: { scene, layer: null } };
    },
  ],
};

/** The id of a layer of a planted piece. */
export const placeOf = ({ scene, layer }: Planted['at']): { readonly scene: string | null; readonly layer?: string } => ({
  scene: scene === null ? null : sceneId(scene),
  ...(scene !== null && layer !== null && { layer: layerId(scene, layer) }),
});
