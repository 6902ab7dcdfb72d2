/** What stands on the shelf: bundles, and the frames in them. */

export interface BundleEntry {
  readonly kind: 'bundle';
  /** Unlike all other entries. */
  readonly key: string;
  /** Null for frames that are in none, after others that are. */
  readonly bundle: string | null;
  /** Those that follow each other here. */
  readonly frames: readonly string[];
  readonly isFolded: boolean;
}

export interface FrameEntry {
  readonly kind: 'frame';
  readonly key: string;
  /** Its place among all frames, from 0 on. */
  readonly place: number;
}

export type ShelfEntry = BundleEntry | FrameEntry;

/**
 * Frames in their order, under the bundles that they are in. Of a bundle that is folded only the frame is there that is open. Without
 * any bundle there is nothing but frames.
 */
export function shelfEntries(
  frames: readonly string[],
  bundleOf: (frame: string) => string | null,
  folded: ReadonlySet<string>,
  open: string | null
): ShelfEntry[] {
  const entries: ShelfEntry[] = [];
  for (let at = 0; at < frames.length;) {
    const bundle = bundleOf(frames[at]!);
    let end = at + 1;
    while (end < frames.length && bundleOf(frames[end]!) === bundle) end++;
    const run = frames.slice(at, end);
    const isFolded = bundle !== null && folded.has(bundle);
    if (bundle !== null || at > 0) entries.push({ kind: 'bundle', key: `bundle ${bundle ?? ''} ${run[0]!}`, bundle, frames: run, isFolded });
    run.forEach((id, i) => {
      if (!isFolded || id === open) entries.push({ kind: 'frame', key: id, place: at + i });
    });
    at = end;
  }
  return entries;
}

/** Where something that is dragged goes: beside a frame, or into a bundle. */
export interface ShelfDrop {
  /** The key of the entry that it is dragged over, and where over it. */
  readonly at: string;
  readonly side: 'before' | 'after' | 'in';
  /** The frame before which it goes; null for the end. */
  readonly before: string | null;
  readonly bundle: string | null;
}

/** Where frames go that are dragged over another one, over its upper half or its lower: there, and into the bundle that it is in. */
export function dropBeside(frames: readonly string[], bundleOf: (frame: string) => string | null, over: string, isUpper: boolean): ShelfDrop {
  const before = isUpper ? over : (frames[frames.indexOf(over) + 1] ?? null);
  return { at: over, side: isUpper ? 'before' : 'after', before, bundle: bundleOf(over) };
}

/** Where frames go by a key: one place on, past those that go with them; or first into the bundle that begins or ends there. */
export function stepOf(
  frames: readonly string[],
  bundleOf: (frame: string) => string | null,
  chosen: readonly string[],
  by: -1 | 1
): Pick<ShelfDrop, 'before' | 'bundle'> | null {
  const places = chosen.map((id) => frames.indexOf(id));
  const edge = by < 0 ? Math.min(...places) : Math.max(...places);
  const own = bundleOf(frames[edge]!);
  const next = frames[edge + by];
  if (next === undefined) return own === null ? null : { before: by < 0 ? frames[0]! : null, bundle: null };
  if (bundleOf(next) !== own) return { before: by < 0 ? (frames[edge] ?? null) : next, bundle: bundleOf(next) };
  return { before: by < 0 ? next : (frames[edge + 2] ?? null), bundle: own };
}
