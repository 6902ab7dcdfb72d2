import { groupedBy } from '@zany/core';
import type { LayoutAnswer, LayoutTask } from './layout';
import type { Stitch } from './stitches';

/** Frames that are only ever laid over one other: they stand under it, and wherever it stands. */

/** How far they stand in, and from what is above and beside them, CSS px of the map. */
const [IN, GAP] = [26, 16];

/** By such a frame the one that it is laid over. */
export function laidUnder(
  stitches: readonly Pick<Stitch, 'from' | 'to' | 'isLaid'>[],
  start: readonly string[],
  bundleOf: (frame: string) => string | null
): ReadonlyMap<string, string> {
  const under = new Map<string, string>();
  for (const [to, list] of groupedBy(stitches, (stitch) => stitch.to)) {
    const { from } = list[0]!;
    const isOne = list.every((stitch) => stitch.isLaid && stitch.from === from);
    if (isOne && !start.includes(to) && bundleOf(from) === bundleOf(to)) under.set(to, from);
  }
  // What is laid over what it lies under itself has no ground.
  for (const id of [...under.keys()]) {
    const seen = new Set([id]);
    for (let at = under.get(id); at !== undefined; at = under.get(at)) {
      if (seen.has(at)) {
        under.delete(id);
        break;
      }
      seen.add(at);
    }
  }
  return under;
}

type Frames = Pick<LayoutTask, 'frames' | 'links'>;

/** Lays frames out by some way to do so that knows nothing of those under others: each takes the room of all that stands under it. */
export function withThoseUnder(
  { frames, links, under }: Frames & { readonly under: ReadonlyMap<string, string> },
  layout: (task: Frames) => Omit<LayoutAnswer, 'version'>
): Omit<LayoutAnswer, 'version'> {
  const ground = (id: string): string => {
    let at = id;
    while (under.has(at)) at = under.get(at)!;
    return at;
  };
  const hung = groupedBy(
    frames.filter(({ id }) => under.has(id)),
    ({ id }) => ground(id)
  );
  if (hung.size === 0) return layout({ frames, links });
  const grown = frames
    .filter(({ id }) => !under.has(id))
    .map((frame) => {
      const below = hung.get(frame.id);
      if (!below) return frame;
      const width = IN + below.reduce((sum, one) => sum + one.width + GAP, -GAP);
      return { ...frame, width: Math.max(frame.width, width), height: frame.height + GAP + Math.max(...below.map(({ height }) => height)) };
    });
  const pairs = groupedBy(
    links.map(([from, to]) => [ground(from), ground(to)] as const).filter(([from, to]) => from !== to),
    ([from, to]) => `${from} ${to}`
  );
  const { places, ...size } = layout({ frames: grown, links: [...pairs.values()].map(([first]) => first!) });
  const all = new Map(places);
  const heights = new Map(frames.map(({ id, height }) => [id, height]));
  for (const [id, below] of hung) {
    const at = places.get(id);
    if (!at) continue;
    let x = at.x + IN;
    for (const one of below) {
      all.set(one.id, { x, y: at.y + heights.get(id)! + GAP });
      x += one.width + GAP;
    }
  }
  return { places: all, ...size };
}
