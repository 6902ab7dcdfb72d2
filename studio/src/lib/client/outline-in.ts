import svgpath from 'svgpath';
import type { Rect } from '@zany/core';

/** The outline of one layer as another would have it that is to look the same where it is; boxes in one space, outlines in hundredths of theirs. */
export const outlineIn = (box: Rect, path: string, from: Rect): string =>
  svgpath(path)
    .scale(from.width / box.width, from.height / box.height)
    .translate(((from.x - box.x) / box.width) * 100, ((from.y - box.y) / box.height) * 100)
    .round(3)
    .toString();
