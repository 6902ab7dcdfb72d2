import { groupedBy } from '@zany/core';
import type { LayoutAnswer, LayoutTask } from './layout';

type Frame = LayoutTask['frames'][number];

/** Room between pieces of cloth, CSS px of the map. */
const GAP = 70;
const MARGIN = 40;
/** Width to height that a map aims at: that of the desk. */
const SHAPE = 1.9;

/** Whether frames stand in bundles that say more of the whole than how each frame leads. */
export const areBundled = (frames: readonly Frame[]): boolean =>
  new Set(frames.flatMap(({ bundle }) => bundle ?? [])).size > 1 && frames.filter(({ bundle }) => bundle !== null).length * 2 > frames.length;

/**
 * Places frames bundle by bundle, in each as lines are written, in their own order; bundles follow each other as one comes to them from
 * the start, in rows that give the whole the shape of a desk.
 */
export function inBundles(frames: readonly Frame[], links: LayoutTask['links'], start: readonly string[]): Omit<LayoutAnswer, 'version'> {
  const blocks = blocksOf(frames, links, start).map(inLines);
  const area = blocks.reduce((sum, { width, height }) => sum + (width + GAP) * (height + GAP), 0);
  const most = Math.max(Math.sqrt(area * SHAPE), ...blocks.map(({ width }) => width));
  const places = new Map<string, { x: number; y: number }>();
  let [x, y, high, wide] = [MARGIN, MARGIN, 0, 0];
  for (const block of blocks) {
    if (x > MARGIN && x + block.width > most + MARGIN) [x, y, high] = [MARGIN, y + high + GAP, 0];
    for (const [id, place] of block.places) places.set(id, { x: x + place.x, y: y + place.y });
    x += block.width + GAP;
    wide = Math.max(wide, x);
    high = Math.max(high, block.height);
  }
  return { places, width: wide, height: y + high + MARGIN };
}

const GAP_X = 56;
const GAP_Y = 48;
/** Cloth around the frames of a bundle, with room for its name. */
const HEM = 30;

function inLines(frames: readonly Frame[]): { places: Map<string, { x: number; y: number }>; width: number; height: number } {
  const [wide, high] = [Math.max(...frames.map(({ width }) => width)) + GAP_X, Math.max(...frames.map(({ height }) => height)) + GAP_Y];
  const columns = Math.max(1, Math.min(frames.length, Math.round(Math.sqrt((frames.length * SHAPE * high) / wide))));
  const places = new Map(frames.map(({ id }, i) => [id, { x: HEM + (i % columns) * wide, y: HEM + Math.floor(i / columns) * high }]));
  return { places, width: columns * wide - GAP_X + 2 * HEM, height: Math.ceil(frames.length / columns) * high - GAP_Y + 2 * HEM };
}

/** Frames by bundle, in the order in which one comes to them; those in none are one block, the last. */
function blocksOf(frames: readonly Frame[], links: LayoutTask['links'], start: readonly string[]): Frame[][] {
  const byId = new Map(frames.map((frame) => [frame.id, frame]));
  const next = groupedBy(links, ([from]) => from);
  const seen = new Set<string>();
  for (const root of [...start, ...byId.keys()])
    for (let edge = [root]; edge.length;) {
      edge = edge.filter((id) => byId.has(id) && !seen.has(id) && seen.add(id));
      edge = edge.flatMap((id) => (next.get(id) ?? []).map(([, to]) => to));
    }
  const order = new Set([...seen].map((id) => byId.get(id)!.bundle));
  const blocks = groupedBy(frames, ({ bundle }) => bundle);
  return [...order].sort((a, b) => Number(a === null) - Number(b === null)).map((bundle) => blocks.get(bundle)!);
}
