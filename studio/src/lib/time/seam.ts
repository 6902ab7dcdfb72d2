import { groupedBy, keysOf, type Item, type SceneProgram, type Timeline, type TrackOf, isMediaLayer } from '@zany/core';

/** How time is laid out on the seam: timeline frames as CSS px, rows for layers, curves for values. */

export const NAMES = 148;
export const ROW = 26;

/** A layer that does something in time, or is selected so that it may. */
export interface SeamRow {
  readonly item: Item;
  readonly depth: number;
  readonly tracks: readonly { readonly id: string; readonly track: TrackOf }[];
  readonly spans: readonly { readonly id: string; readonly from: number; readonly to: number }[];
}

/** Rows in the order of the cue sheet: what has keys or a span, is something that plays, or is selected; or all. */
export function rowsOf(scene: SceneProgram, selection: readonly string[], all: boolean): SeamRow[] {
  const timeline = scene.scene.timeline;
  const tracks = groupedBy(
    Object.entries(timeline?.tracks ?? {}).map(([id, track]) => ({ id, track })),
    ({ track }) => track.layer
  );
  const spans = groupedBy(
    Object.entries(timeline?.spans ?? {}).map(([id, span]) => ({ id, ...span })),
    ({ layer }) => layer
  );
  const chosen = new Set(selection);
  const none: readonly never[] = [];
  const rows: SeamRow[] = [];
  const visit = (items: readonly Item[], depth: number) => {
    for (let i = items.length - 1; i >= 0; i--) {
      const item = items[i]!;
      const { id, type } = item.layer;
      const own = { tracks: tracks.get(id) ?? none, spans: spans.get(id) ?? none };
      const plays = type === 'placement' || isMediaLayer({ type });
      if (all || own.tracks.length || own.spans.length || chosen.has(id) || (plays && timeline)) rows.push({ item, depth, ...own });
      if (item.children.length) visit(item.children, depth + 1);
    }
  };
  visit(
    scene.items.filter((item) => item.parent === null),
    0
  );
  return rows;
}

/** Steps of the ruler in frames, so that its numbers stand at least so far apart. */
export function rulerStep(perFrame: number, fps: number, apart = 56): number {
  const steps = [1, 2, 5, 10, fps / 2, fps, fps * 2, fps * 5, fps * 10, fps * 30, fps * 60, fps * 300, fps * 600].filter(
    (step) => step >= 1 && Number.isInteger(step)
  );
  return [...new Set(steps)].sort((a, b) => a - b).find((step) => step * perFrame >= apart) ?? fps * 3600;
}

/** A track as the curve of its values: from its least at the bottom to its greatest at the top; colours run straight. */
export const curveOf = (...curve: Parameters<typeof pointsOf>): string =>
  pointsOf(...curve)
    .map(([x, y]) => `${x.toFixed(1)},${y.toFixed(1)}`)
    .join(' ');

/** The same as points, in CSS px. */
export function pointsOf(
  track: TrackOf,
  valueAt: (time: number) => number | string,
  x: (time: number) => number,
  height: number
): (readonly [x: number, y: number])[] {
  const y = heightsOf(track, height);
  const points: (readonly [number, number])[] = [];
  const keys = keysOf(track);
  keys.forEach((key, i) => {
    points.push([x(key.time), y(key.value)]);
    const next = keys[i + 1];
    if (!next || typeof key.value !== 'number' || key.easing === undefined) return;
    // Eased ways are drawn in steps of about four pixels, at most forty.
    const steps = Math.min(40, Math.max(2, Math.round((x(next.time) - x(key.time)) / 4)));
    for (let s = 1; s < steps; s++) {
      const time = key.time + ((next.time - key.time) * s) / steps;
      points.push([x(time), y(valueAt(time))]);
    }
  });
  return points;
}

/** Where values of a track stand in the height of its row: the greatest at the top; what is no number in the middle. */
export function heightsOf({ keys }: TrackOf, height: number): (value: number | string) => number {
  const numbers = Object.values(keys).map(({ value }) => (typeof value === 'number' ? value : 0));
  const [least, most] = [Math.min(...numbers), Math.max(...numbers)];
  return (value) => (typeof value !== 'number' || most === least ? height / 2 : height - 5 - ((value - least) / (most - least)) * (height - 10));
}

/** All times of a row's keys, each once. */
export const keyTimes = (row: SeamRow): number[] =>
  [...new Set(row.tracks.flatMap(({ track }) => Object.values(track.keys).map((key) => key.time)))].sort((a, b) => a - b);

export const isEmptyTime = (timeline: Timeline | null): boolean => !timeline || (!timeline.labels && !timeline.tracks && !timeline.spans);
