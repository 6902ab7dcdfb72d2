import type { LayoutTask } from './layout';

const GAP_X = 56;
const GAP_RANK = 120;
const GAP_Y = 48;
const MARGIN = 40;
/** Width to height that a map aims at: that of the desk. */
const SHAPE = 1.5;

type Frame = LayoutTask['frames'][number];

/**
 * Places many frames by how many steps they are from the start, each rank in as many columns as give the whole the shape of a
 * desk. Quick for any number of links, where a layout that minds every link takes minutes and gives a ribbon.
 */
export function inColumns(frames: readonly Frame[], links: LayoutTask['links'], start: readonly string[]) {
  const ranks = ranksOf(frames, links, start);
  const rows = bestRows(ranks);
  const columns = ranks.flatMap((rank) =>
    Array.from({ length: Math.ceil(rank.length / rows) }, (_, c) => ({ frames: rank.slice(c * rows, (c + 1) * rows), begins: c === 0 }))
  );
  const heights = columns.map((column) => heightOf(column.frames));
  const height = Math.max(0, ...heights) + 2 * MARGIN;
  const places = new Map<string, { x: number; y: number }>();
  let x = MARGIN;
  columns.forEach((column, i) => {
    if (i > 0) x += column.begins ? GAP_RANK : GAP_X;
    let y = (height - heights[i]!) / 2;
    for (const frame of column.frames) {
      places.set(frame.id, { x, y });
      y += frame.height + GAP_Y;
    }
    x += widthOf(column.frames);
  });
  return { places, width: x + MARGIN, height };
}

/** Frames by steps from the start; within a rank those that one frame leads to stay together. What nothing reaches begins anew. */
function ranksOf(frames: readonly Frame[], links: LayoutTask['links'], start: readonly string[]): Frame[][] {
  const byId = new Map(frames.map((frame) => [frame.id, frame]));
  const next = new Map<string, string[]>();
  for (const [from, to] of links) next.set(from, [...(next.get(from) ?? []), to]);
  const seen = new Set<string>();
  const ranks: Frame[][] = [];
  const take = (ids: readonly string[]) => ids.filter((id) => byId.has(id) && !seen.has(id) && seen.add(id));
  for (const root of [...start, ...byId.keys()])
    for (let ids = take([root]), rank = 0; ids.length; ids = ids.flatMap((id) => take(next.get(id) ?? [])), rank++)
      (ranks[rank] ??= []).push(...ids.map((id) => byId.get(id)!));
  return ranks;
}

const heightOf = (frames: readonly Frame[]) => frames.reduce((sum, frame) => sum + frame.height + GAP_Y, -GAP_Y);
const widthOf = (frames: readonly Frame[]) => Math.max(...frames.map((frame) => frame.width));

/** How many frames stand in a column, so that the whole comes nearest to the wanted shape. */
function bestRows(ranks: readonly (readonly Frame[])[]): number {
  const all = ranks.flat();
  if (all.length === 0) return 1;
  const wide = all.reduce((sum, frame) => sum + frame.width, 0) / all.length;
  const high = all.reduce((sum, frame) => sum + frame.height, 0) / all.length;
  const most = Math.max(...ranks.map((rank) => rank.length));
  let best = { rows: 1, off: Infinity };
  for (let rows = 1; rows <= most; rows++) {
    const columns = ranks.reduce((sum, rank) => sum + Math.ceil(rank.length / rows), 0);
    const width = columns * (wide + GAP_X) + ranks.length * (GAP_RANK - GAP_X);
    const off = Math.abs(Math.log(width / (rows * (high + GAP_Y)) / SHAPE));
    if (off < best.off) best = { rows, off };
  }
  return best.rows;
}
