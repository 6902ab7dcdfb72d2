import type { Rect } from '@zany/core';

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Room to the selection: above it, and below, where the handles for turning stand. */
const ABOVE = 12;
const BELOW = 26;
/** Room to the edges of the stage. */
const EDGE = 6;

/**
 * Where the bar of properties stands in the view of the stage: by the selection where it fits in whole, else at the edge where it
 * covers none or the least of it. All in CSS px of the view; it never reaches beyond.
 */
export function placeBar(selection: Rect, bar: Size, view: Size): { left: number; top: number } {
  const left = Math.max(EDGE, Math.min(selection.x, view.width - bar.width - EDGE));
  const least = EDGE;
  const most = Math.max(EDGE, view.height - bar.height - EDGE);
  const above = selection.y - ABOVE - bar.height;
  const below = selection.y + selection.height + BELOW;
  const bySelection = [above, below].find((top) => top >= least && top <= most);
  if (bySelection !== undefined) return { left, top: bySelection };
  const covered = (top: number) => Math.max(0, Math.min(top + bar.height, selection.y + selection.height) - Math.max(top, selection.y));
  return { left, top: covered(least) <= covered(most) ? least : most };
}
