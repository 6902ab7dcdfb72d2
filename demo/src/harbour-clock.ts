import { compose, type PlacedSpec, type TimelineSpec } from '@zany/core/testing';
import { Files } from './assets.ts';
import { bell, surf } from './sounds.ts';

/**
 * A motion study of twelve seconds, one for each hour of the harbour's day: the light turns, the boat comes in and overshoots,
 * letters come one after the other, the clock goes round, the bell rings, lamps come on. Made of keys, spans, clips and sounds only.
 */

type Track = NonNullable<TimelineSpec['tracks']>[number];
type Keys = Track[2];

const FPS = 24;
const s = (seconds: number) => Math.round(seconds * FPS);
const LENGTH = s(12);
const [WIDTH, HEIGHT] = [960, 540];

const ink = '#1d3540';
const lamp = '#f0b13c';

const track = (layer: string, property: Track[1], keys: Keys): Track => [layer, property, keys];

const TITLE = [...'KITTIWAKE'];
const LAMPS = [592, 640, 688, 736, 784];

/** Dark words by day, light ones by night. */
const dusk: Keys = [
  [s(7.6), ink, 'ease-in-out'],
  [s(8.8), '#fbf7ee'],
];

/** The letters fall in from above, each an eighth of a second after the one before. */
const letters: Readonly<Record<string, PlacedSpec>> = Object.fromEntries(
  TITLE.map((letter, i) => [
    `Letter ${i + 1}`,
    {
      type: 'text' as const,
      text: letter,
      at: [84 + i * 40, 64, 44, 60] as const,
      style: { ink },
      letters: { size: 44, weight: 700, align: 'center' as const, family: 'Bricolage Grotesque' as const },
    },
  ])
);
const letterTracks = TITLE.flatMap((_, i): Track[] => {
  const begin = s(4.5) + i * 3;
  return [
    track(`Letter ${i + 1}`, 'y', [
      [begin, -70, 'overshoot(0.12)'],
      [begin + s(0.6), 64],
    ]),
    track(`Letter ${i + 1}`, 'opacity', [
      [begin, 0],
      [begin + 4, 1],
    ]),
    track(`Letter ${i + 1}`, 'ink', dusk),
  ];
});

const lamps: Readonly<Record<string, PlacedSpec>> = Object.fromEntries(
  LAMPS.map((x, i) => [`Lamp ${i + 1}`, { type: 'oval' as const, at: [x, 330, 14, 14] as const, style: { fill: lamp } }])
);
const lampTracks = LAMPS.flatMap((_, i): Track[] => [
  track(`Lamp ${i + 1}`, 'opacity', [
    [s(9.5) + i * 5, 0],
    [s(9.5) + i * 5 + 6, 1],
  ]),
  track(`Lamp ${i + 1}`, 'scale', [
    [s(9.5) + i * 5, 0, 'spring(0.5)'],
    [s(9.5) + i * 5 + s(0.7), 1],
  ]),
]);

const waves = (high: number) =>
  `M0 ${high}C8 ${high - 8} 17 ${high - 8} 25 ${high}C33 ${high + 8} 42 ${high + 8} 50 ${high}C58 ${high - 8} 67 ${high - 8} 75 ${high}C83 ${high + 8} 92 ${high + 8} 100 ${high}L100 100L0 100Z`;

const sea = (color: string, length: number): { readonly timeline: TimelineSpec; readonly layers: Readonly<Record<string, PlacedSpec>> } => ({
  timeline: {
    length,
    loop: true,
    tracks: [
      track('Water', 'path', [
        [0, waves(20), 'ease-in-out'],
        [length / 2, waves(32), 'ease-in-out'],
        [length - 1, waves(20)],
      ]),
    ],
  },
  layers: { Water: { type: 'path', at: [0, 0, 960, 160], path: waves(20), style: { fill: color } } },
});

export function harbourClock() {
  const files = new Files();
  const ring = files.add('bell.wav', 'audio/wav', bell(), 320, 48, 700);
  const surge = files.add('surf.wav', 'audio/wav', surf(4), 320, 48, 4000);
  const part = (color: string, length: number) => ({ size: [960, 160] as const, background: '#ffffff00', ...sea(color, length) });
  const piece = compose({
    id: 'clock',
    name: 'Harbour clock',
    size: [WIDTH, HEIGHT],
    fps: FPS,
    assets: files.list,
    parts: {
      'Sea behind': part('#3f7a86', 72),
      'Sea in front': part('#1f4e5f', 48),
      Gull: {
        size: [60, 30],
        background: '#ffffff00',
        timeline: {
          length: 16,
          loop: true,
          tracks: [
            track('Wings', 'path', [
              [0, 'M0 80L50 40L100 80', 'ease-in-out'],
              [8, 'M0 20L50 70L100 20', 'ease-in-out'],
              [15, 'M0 80L50 40L100 80'],
            ]),
          ],
        },
        layers: { Wings: { type: 'path', at: [0, 0, 60, 30], path: 'M0 80L50 40L100 80', style: { line: { color: ink, width: 3 } } } },
      },
    },
    frames: {
      Harbour: {
        background: '#f7d9a8',
        ending: true,
        timeline: {
          length: LENGTH,
          labels: { Dawn: [0, 'go on'], Crossing: [s(3), 'go on'], Bells: [s(7), 'go on'], Night: [s(9.5), 'hold'] },
          spans: [
            ['Again', s(11), LENGTH - 1],
            ['Gull', s(2), s(8)],
          ],
          cues: [0, 1, 2].map((n) => [s(7) + n * 16, 'Bell sound', 'start over'] as const),
          tracks: [
            track('Sky', 'fill', [
              [0, '#f3b98a', 'ease-in-out'],
              [s(3), '#bfe0ea', 'linear'],
              [s(7), '#bfe0ea', 'ease-in'],
              [s(9), '#e08a63', 'ease-in-out'],
              [s(10.5), '#22304f'],
            ]),
            track('Sun', 'x', [
              [0, 60],
              [s(9.5), 840],
            ]),
            track('Sun', 'y', [
              [0, 380, 'ease-out'],
              [s(4.75), 40, 'ease-in'],
              [s(9.5), 400],
            ]),
            track('Horizon', 'drawn', [
              [s(0.3), 0, 'ease-in-out'],
              [s(2.3), 1],
            ]),
            track('Hour hand', 'rotation', [
              [0, 180],
              [s(12) - 1, 540],
            ]),
            track('Minute hand', 'rotation', [
              [0, 0],
              [s(12) - 1, 4320],
            ]),
            track('Boat', 'x', [
              [s(3), -240, 'overshoot(0.06)'],
              [s(6.2), 300],
            ]),
            track('Boat', 'rotation', [
              [s(3), -4, 'ease-in-out'],
              [s(4.4), 3, 'ease-in-out'],
              [s(5.6), -2, 'spring(0.6)'],
              [s(6.8), 0],
            ]),
            track('Gull', 'x', [
              [s(2), -60, 'ease-in-out'],
              [s(5), 460, 'ease-in-out'],
              [s(8), 980],
            ]),
            track('Gull', 'y', [
              [s(2), 260, 'ease-out'],
              [s(4), 120, 'ease-in-out'],
              [s(6), 190, 'ease-in-out'],
              [s(8), 60],
            ]),
            track('Bell', 'rotation', [
              [s(7), 0, 'ease-out'],
              [s(7.2), 24, 'ease-in-out'],
              [s(7.6), -22, 'ease-in-out'],
              [s(8), 18, 'ease-in-out'],
              [s(8.4), -12, 'spring(0.7)'],
              [s(9.8), 0],
            ]),
            ...letterTracks,
            track('Line below', 'typed', [
              [s(6), 0],
              [s(7.5), 1],
            ]),
            track('Line below', 'counted', [
              [s(6), 0, 'ease-out'],
              [s(8), 1],
            ]),
            track('Line below', 'ink', dusk),
            track('Surf', 'volume', [
              [0, 0.15],
              [s(4), 0.7],
              [s(7), 0.7],
              [s(12) - 1, 0.25],
            ]),
            ...lampTracks,
          ],
        },
        layers: {
          Sky: { at: [0, 0, WIDTH, HEIGHT], style: { fill: '#f3b98a' }, locked: true },
          Sun: { type: 'oval', at: [60, 380, 84, 84], style: { fill: '#f4c767' } },
          Horizon: { type: 'line', at: [0, 396, 960, 1], path: 'M0 50L100 50', style: { line: { color: '#fbf7ee', width: 2 } } },
          Gull: { type: 'placement', part: 'Gull', at: [-60, 260, 60, 30], turnsAlong: true },
          'Sea behind': { type: 'placement', part: 'Sea behind', at: [0, 380, 960, 160] },
          Boat: { type: 'group', at: [-240, 350, 220, 98], pose: { anchor: { x: 0.5, y: 0.9 } } },
          Funnel: { at: [90, 0, 34, 34], in: 'Boat', style: { fill: '#b4472e', corner: 3 } },
          Cabin: { at: [44, 26, 120, 34], in: 'Boat', style: { fill: '#fbf7ee', corner: 4 } },
          Hull: { type: 'path', at: [0, 58, 220, 40], path: 'M0 0L100 0L86 100L12 100Z', in: 'Boat', style: { fill: ink } },
          'Sea in front': { type: 'placement', part: 'Sea in front', at: [0, 420, 960, 160] },
          Pier: { at: [560, 352, 400, 188], style: { fill: '#4a3b33' } },
          Tower: { at: [812, 140, 108, 232], style: { fill: '#6b5446', corner: 6 } },
          Face: { type: 'oval', at: [822, 156, 88, 88], style: { fill: '#fbf7ee', line: { color: ink, width: 4 } } },
          'Hour hand': { at: [863, 176, 6, 24], pose: { anchor: { x: 0.5, y: 1 } }, style: { fill: ink, corner: 3 } },
          'Minute hand': { at: [864, 164, 4, 36], pose: { anchor: { x: 0.5, y: 1 } }, style: { fill: '#b4472e', corner: 2 } },
          Bell: {
            type: 'path',
            at: [846, 262, 40, 44],
            path: 'M40 0L60 0C62 40 74 70 100 86L0 86C26 70 38 40 40 0Z',
            pose: { anchor: { x: 0.5, y: 0 } },
            style: { fill: lamp },
          },
          ...lamps,
          ...letters,
          'Line below': {
            type: 'text',
            text: '12 hours, 48 crossings, 1,250 gulls',
            at: [88, 130, 420, 32],
            style: { ink },
            letters: { size: 20 },
          },
          Again: {
            at: [400, 250, 160, 52],
            text: 'Once more',
            style: { fill: lamp, corner: 26, ink: '#26232c' },
            letters: { size: 19, weight: 650 },
            looks: { hover: { style: { fill: '#f7c968' }, ms: 150 } },
            lines: ['click → play from Dawn'],
          },
          Surf: { type: 'sound', at: [20, 20, 40, 20], asset: surge, media: { autoplay: true, loop: true }, label: 'Surf' },
          'Bell sound': { type: 'sound', at: [70, 20, 40, 20], asset: ring, label: 'Bell' },
        },
      },
    },
  });
  return { piece, assets: files.bytes };
}
