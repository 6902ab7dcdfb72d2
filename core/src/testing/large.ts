import { keysBetween } from '../edit/order.ts';
import type { Layer, Piece, Scene, Thread } from '../piece/piece.ts';
import { FORMAT, type PieceJson } from '../piece/schema.ts';
import { pieceFromTrusted } from '../piece/trusted.ts';

/** How large a made piece is. */
export interface LargeSize {
  readonly frames: number;
  /** In all frames together. */
  readonly layers: number;
  readonly threads: number;
  /** Parts; the last layer of every frame is a placement of one. */
  readonly parts?: number;
}

/** The large piece that the budgets speak of. */
export const LARGE: LargeSize = { frames: 400, layers: 24_000, threads: 2_000, parts: 60 };

/** A piece of a given size, made from a seed: every frame can be reached, layers stand in a grid, threads lead on and about. */
export function largePiece({ frames, layers, threads, parts = 0 }: LargeSize, seed = 7): Piece {
  const random = generator(seed);
  const json: PieceJson = {
    format: FORMAT,
    id: 'large',
    name: 'Large',
    width: 390,
    height: 844,
    start: ['f0'],
    scenes: {},
    layers: {},
    threads: {},
    variables: {},
    assets: {},
  };
  const frameKeys = keysBetween(null, null, frames);
  const perFrame = Math.floor(layers / frames);
  const layerKeys = keysBetween(null, null, perFrame);
  for (let f = 0; f < frames; f++) {
    const scene: Scene = { id: `f${f}`, use: 'frame', name: `Frame ${f + 1}`, order: frameKeys[f]!, width: 390, height: 844, background: '#ffffff' };
    json.scenes[scene.id] = scene;
    for (let i = 0; i < perFrame; i++) {
      const layer = gridLayer(`f${f}-l${i}`, scene.id, i, layerKeys[i]!);
      json.layers[layer.id] = layer;
    }
  }
  const partKeys = keysBetween(null, null, parts);
  for (let p = 0; p < parts; p++) {
    const part: Scene = { id: `p${p}`, use: 'part', name: `Part ${p + 1}`, order: partKeys[p]!, width: 180, height: 128, background: '#00000000' };
    json.scenes[part.id] = part;
    for (let i = 0; i < PART_LAYERS; i++) {
      const layer = gridLayer(`p${p}-l${i}`, part.id, i, layerKeys[i]!);
      json.layers[layer.id] = layer;
    }
  }
  if (parts)
    for (let f = 0; f < frames; f++) {
      const { text: _text, ...layer } = json.layers[`f${f}-l${perFrame - 1}`]!;
      json.layers[layer.id] = { ...layer, type: 'placement', style: {}, part: `p${f % parts}` };
    }
  for (let t = 0; t < threads; t++) {
    const from = t % frames;
    const to = t < frames ? (from + 1) % frames : Math.floor(random() * frames);
    const thread: Thread = {
      id: `t${t}`,
      on: 'layer',
      owner: `f${from}-l${Math.floor(t / frames)}`,
      order: 'a0',
      cue: { type: 'click' },
      branches: [
        {
          steps: [
            { do: 'go', target: { to: 'frame', frame: `f${to}` }, transition: { type: 'push', direction: 'left', ms: 300, easing: 'ease-out' } },
          ],
        },
      ],
      enabled: true,
    };
    json.threads[thread.id] = thread as PieceJson['threads'][string];
  }
  return pieceFromTrusted(json);
}

const PART_LAYERS = 6;

const gridLayer = (id: string, scene: string, place: number, order: string): Layer => ({
  id,
  scene,
  parent: null,
  order,
  name: `Layer ${place + 1}`,
  type: place % 3 === 2 ? 'text' : 'box',
  pose: { x: 12 + (place % 6) * 62, y: 12 + Math.floor(place / 6) * 80, width: 56, height: 48 },
  style: { fill: '#f0b13c', corner: 8 },
  ...(place % 3 === 2 && { text: `Text ${place + 1}` }),
});

/** Uniform numbers from 0 up to 1, the same for the same seed (mulberry32). */
export function generator(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t = (t + Math.imul(t ^ (t >>> 7), t | 61)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  };
}
