import { isOutlined } from '../../vocabulary/layers/all.ts';
import type { Layer } from '../../piece/piece.ts';
import { restValue } from '../reach/in-time.ts';
import { setKey } from './keys.ts';
import type { Timeline } from './timeline.ts';
import type { Tracked } from './types.ts';

/** Ways to come, go and be noticed that are made of ordinary keys, to be changed like any other. */
export interface Preset {
  readonly id: string;
  readonly label: string;
  /** Seconds from its first key to its last. */
  readonly seconds: number;
  /** What it can be put on; anything if not given. */
  readonly suits?: (layer: Layer) => boolean;
  /** Keys by share of that time, from 0 to 1; values from the layer's own and the size of the scene. */
  readonly keys: (layer: Layer, scene: { readonly width: number; readonly height: number }) => readonly PresetTrack[];
}

export interface PresetTrack {
  readonly property: Tracked;
  readonly keys: readonly { readonly at: number; readonly value: number; readonly easing?: string }[];
}

const own = (layer: Layer, property: Tracked): number => Number(restValue(layer, property));

const between = (property: Tracked, from: number, to: number, easing: string): PresetTrack => ({
  property,
  keys: [
    { at: 0, value: from, easing },
    { at: 1, value: to },
  ],
});

/** From beyond an edge of the scene, with a little overshoot. */
const from = (side: 'left' | 'right' | 'top' | 'bottom'): Preset => ({
  id: `from-${side}`,
  label: `come in from the ${side}`,
  seconds: 0.6,
  keys: (layer, { width, height }) => {
    const across = side === 'left' || side === 'right';
    const outside = { left: -layer.pose.width, right: width, top: -layer.pose.height, bottom: height }[side];
    return [between(across ? 'x' : 'y', outside, across ? layer.pose.x : layer.pose.y, 'overshoot(0.1)')];
  },
});

const hasWords = (layer: Layer) => layer.text !== undefined && layer.text !== '';

/** To add one: a line here. */
export const presets: readonly Preset[] = [
  { id: 'fade-in', label: 'fade in', seconds: 0.5, keys: (layer) => [between('opacity', 0, own(layer, 'opacity'), 'ease-out')] },
  { id: 'fade-out', label: 'fade out', seconds: 0.5, keys: (layer) => [between('opacity', own(layer, 'opacity'), 0, 'ease-in')] },
  from('left'),
  from('right'),
  from('top'),
  from('bottom'),
  { id: 'grow', label: 'grow', seconds: 0.5, keys: (layer) => [between('scale', 0, own(layer, 'scale'), 'spring(0.3)')] },
  {
    id: 'fall',
    label: 'fall and rest',
    seconds: 0.8,
    keys: (layer) => {
      const { y, height } = layer.pose;
      return [
        {
          property: 'y',
          keys: [
            { at: 0, value: y - 3 * height, easing: 'ease-in' },
            { at: 0.55, value: y, easing: 'ease-out' },
            { at: 0.75, value: y - height * 0.4, easing: 'ease-in' },
            { at: 1, value: y },
          ],
        },
      ];
    },
  },
  {
    id: 'draw',
    label: 'draw the line',
    seconds: 1,
    suits: isOutlined,
    keys: () => [between('drawn', 0, 1, 'ease-in-out')],
  },
  { id: 'type', label: 'type out', seconds: 1.5, suits: hasWords, keys: () => [between('typed', 0, 1, 'linear')] },
  {
    id: 'count',
    label: 'count up',
    seconds: 1.5,
    suits: (layer) => hasWords(layer) && /\d|\{/.test(layer.text!),
    keys: () => [between('counted', 0, 1, 'ease-out')],
  },
  {
    id: 'shake',
    label: 'shake',
    seconds: 0.5,
    keys: (layer) => [
      {
        property: 'x',
        keys: [0, 0.2, 0.4, 0.6, 0.8, 1].map((at, i) => ({ at, value: layer.pose.x + [0, -10, 9, -6, 4, 0][i]!, easing: 'ease-in-out' })),
      },
    ],
  },
];

/** Puts a preset on layers, from a timeline frame on; the timeline grows where it would end too early. */
export function applyPreset(
  timeline: Timeline,
  preset: Preset,
  layers: readonly Layer[],
  scene: { readonly width: number; readonly height: number },
  at: number,
  fps: number,
  makeId: () => string
): Timeline {
  const frames = Math.max(1, Math.round(preset.seconds * fps));
  const long = { ...timeline, length: Math.max(timeline.length, at + frames + 1) };
  return layers.reduce(
    (all, layer) =>
      preset.keys(layer, scene).reduce((next, { property, keys }) => {
        const id = makeId();
        return keys.reduce(
          (done, { at: share, value, easing }) =>
            setKey(done, id, layer.id, property, { time: at + Math.round(share * frames), value, ...(easing !== undefined && { easing }) }),
          next
        );
      }, all),
    long
  );
}
