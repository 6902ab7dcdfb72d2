import type { ComposeSpec, PlacedSpec, SceneSpec } from '../../compose/compose.ts';

/** Pieces with nothing wrong in them, which use everything: what faults are planted in. */

export type Clean = Mutable<Pick<ComposeSpec, 'variables' | 'parts' | 'sheets' | 'frames' | 'lines'>>;
type Mutable<T> = { -readonly [K in keyof T]: T[K] };

/** A number from 0 up to 1. */
export type Chance = () => number;

const LOOKS = { hover: { style: { fill: '#2b6678' } }, press: { style: { fill: '#163b48' }, ms: 60 } } as const;

/** A button that lacks nothing. */
export const button = (text: string, x: number, y: number, ...lines: string[]): PlacedSpec => ({
  at: [x, y, 160, 52],
  text,
  style: { fill: '#1f4e5f', ink: '#ffffff', corner: 8 },
  looks: LOOKS,
  lines,
});

export const text = (words: string, x: number, y: number): PlacedSpec => ({
  type: 'text',
  text: words,
  at: [x, y, 300, 30],
  style: { ink: '#26232c' },
});

type Layers = NonNullable<SceneSpec['layers']>;

/** A frame that leads home. */
const frame = (title: string, layers: Layers, more: Partial<SceneSpec> = {}): SceneSpec => ({
  layers: { Title: text(title, 20, 20), ...layers, Home: button('Home', 20, 760, 'click → go to harbour') },
  ...more,
});

/** What a piece can hold besides its harbour and pay desk: each a frame with all that belongs to it. */
const CORNERS: Readonly<Record<string, (shift: number) => { readonly frame: SceneSpec } & Partial<Clean>>> = {
  boats: (shift) => ({
    frame: frame(
      'Boats today',
      {
        Early: button('06:40 to Skarra', 20, 100 + shift, 'click → set Boat to "Early"; then go to pay'),
        Late: button('18:05 to Inne', 20, 180 + shift, 'click → set Boat to "Late"; then go to pay'),
        Chosen: text('{Boat}', 20, 300),
        More: button('Next boats', 20, 1100, 'click → scroll to top · 300 ms ease-out'),
      },
      { contentHeight: 1400, lines: ['swipe left → go to pay'] }
    ),
    variables: { Boat: { type: 'choice', initial: 'Early', options: ['Early', 'Late'] } },
  }),
  cards: (shift) => ({
    frame: frame('Cards', {
      Ask: button('What is a card?', 20, 100 + shift, 'click → lay over answer at center scrim 40%'),
      Menu: { type: 'placement', part: 'Menu', at: [20, 400, 200, 120] },
      Lamp: { type: 'placement', part: 'Lamp', at: [240, 400, 100, 60] },
    }),
    frames: {
      answer: {
        size: [300, 240],
        layers: { Words: text('Ten crossings for the price of eight', 10, 20), Close: button('Close', 70, 160, 'click → lift') },
      },
    },
    parts: {
      Menu: {
        size: [200, 120],
        states: { Shut: { Sheet: { hidden: true } }, Open: {} },
        layers: {
          Top: { ...button('Menu', 0, 0, 'click → toggle this with Open · tween 200 ms ease-out'), at: [0, 0, 200, 52] },
          Sheet: { ...text('Timetable, fares, islands', 0, 70), style: { ink: '#26232c' } },
        },
      },
      Lamp: {
        size: [100, 60],
        states: { Off: {}, On: { Bulb: { style: { fill: '#ffd34d' } } } },
        layers: {
          Bulb: {
            at: [0, 0, 100, 60],
            text: 'Lamp',
            style: { fill: '#f3ead9', ink: '#26232c' },
            looks: { hover: { style: { fill: '#e8dcc4' } } },
            lines: ['click → toggle this with On'],
          },
        },
      },
    },
  }),
  lesson: (shift) => ({
    frame: frame(
      'The tide',
      {
        Boat: { at: [20, 200, 80, 40], style: { fill: '#8f5c00' } },
        Ebb: button('Ebb', 20, 430 + shift, 'click → play from Ebb'),
        Flood: button('Flood', 200, 430 + shift, 'click → play from Flood'),
      },
      {
        timeline: {
          length: 48,
          labels: { Ebb: [0, 'hold'], Flood: [24, 'hold'] },
          tracks: [
            [
              'Boat',
              'y',
              [
                [0, 200],
                [23, 300],
              ],
            ],
            [
              'Boat',
              'x',
              [
                [24, 20],
                [47, 240],
              ],
            ],
          ],
        },
      }
    ),
  }),
  film: (shift) => ({
    frame: frame('The crossing', {
      Film: {
        type: 'video',
        at: [20, 100 + shift, 320, 180],
        label: 'The crossing',
        media: { autoplay: true },
        lines: ['media ended → go to harbour'],
      },
    }),
  }),
  clips: (shift) => ({
    frame: frame('Weather', {
      Gull: { type: 'placement', part: 'Gull', at: [20, 100 + shift, 100, 60] },
      Wave: { type: 'placement', part: 'Gull', at: [200, 100 + shift, 100, 60] },
    }),
    parts: {
      Gull: {
        size: [100, 60],
        timeline: {
          length: 24,
          tracks: [
            [
              'Wing',
              'y',
              [
                [0, 0],
                [23, 20],
              ],
            ],
          ],
        },
        layers: { Wing: { at: [0, 0, 60, 20], style: { fill: '#6f6776' } } },
      },
    },
  }),
  notice: (shift) => ({
    frame: frame(
      'Notices',
      {
        Tell: button('Tell me', 20, 100 + shift, 'click → put this in told'),
        Note: { ...text('We will tell you', 20, 300), hidden: true },
      },
      { states: { quiet: {}, told: { Note: { hidden: false } } }, lines: ['after 3 s in told → put this in quiet'] }
    ),
  }),
};

/** A piece of a harbour, a pay desk and some corners; the same chance gives the same piece. */
export function cleanPiece(chance: Chance): Clean {
  const names = Object.keys(CORNERS).filter(() => chance() < 0.6);
  const chosen = names.length > 1 ? names : ['boats', 'cards'];
  const corners = chosen.map((name) => [name, CORNERS[name]!(Math.floor(chance() * 6) * 4)] as const);
  const ways = Object.fromEntries(corners.map(([name], i) => [`To ${name}`, button(name, 20, 100 + i * 70, `click → go to ${name}`)]));
  const all = <T>(of: (corner: Partial<Clean>) => Readonly<Record<string, T>> | undefined): Record<string, T> =>
    Object.assign({}, ...corners.map(([, corner]) => of(corner) ?? {}));
  return {
    variables: { Seats: { type: 'number', initial: 2, min: 0, max: 2 }, ...all((one) => one.variables) },
    parts: all((one) => one.parts),
    sheets: { bar: { layers: { Tickets: button('Tickets', 210, 690, 'click → go to pay'), Line: { ...text('Kittiwake Line', 210, 640) } } } },
    frames: {
      harbour: { layers: { Title: text('Harbour', 20, 20), ...ways }, over: ['bar'] },
      ...Object.fromEntries(corners.map(([name, corner]) => [name, corner.frame])),
      ...all((one) => one.frames),
      pay: frame(
        'Pay',
        {
          Terms: { type: 'field', at: [20, 100, 60, 60], label: 'I have read the terms', field: { kind: 'checkbox' } },
          Left: text('{Seats} seats left', 20, 200),
          Pay: {
            ...button('Pay', 20, 300, 'click → if Seats > 0 → set Seats to Seats - 1; then go to done; otherwise → go to full'),
            looks: { ...LOOKS, disabled: { style: { opacity: 0.5 } } },
            when: { enabled: 'Terms.selected' },
          },
        },
        { over: [] }
      ),
      done: frame('Thank you', {}, { ending: true }),
      full: frame('No seats left', { Again: button('Bring more', 20, 200, 'click → set Seats to 2') }),
    },
  };
}
