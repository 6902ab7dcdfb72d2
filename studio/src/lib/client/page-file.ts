import type { BroughtIn } from '@zany/core';
import { linksOf } from './svg-layers';

type PageAbout = Pick<BroughtIn, 'title' | 'size' | 'links'>;

/** A picture of a page that more is known of than its name. */
export class PageFile extends File {
  constructor(
    parts: BlobPart[],
    name: string,
    /** The document that it is a page of, without an ending. */
    readonly source: string,
    readonly about: PageAbout
  ) {
    super(parts, name, { type: 'image/png' });
  }
}

/** SVG files beyond this are pictures only: laying them out would take too long. */
const MOST_SVG = 2_000_000;

/** What is known of a file that becomes a frame: its name, its size, where it leads. */
export async function aboutOf(file: File): Promise<PageAbout> {
  if (file instanceof PageFile) return file.about;
  const isDrawing = (/\.svg$/i.test(file.name) || file.type === 'image/svg+xml') && file.size <= MOST_SVG;
  const svg = isDrawing ? await file.text() : '';
  // Most have none, and need not be laid out to see it.
  const links = /<(\w+:)?a[\s>]/.test(svg) ? linksOf(svg) : [];
  return links.length ? { links } : {};
}
