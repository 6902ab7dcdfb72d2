import { fromMask, Image, type Mask } from 'image-js';
import { straightened, within, type Pixels } from './pixels';
import { boxQuad, canCut, distance, inset, onto, quadOf, sizeOf, straightSides, type Point, type Quad } from './quad';
import { whitened } from './whiten';

/** Pixels along the longest side of the picture in which is looked. */
const LOOKED_AT = 720;

/** What is drawn on paper as a frame takes at least this share of it; and paper this share of a photograph. */
const LEAST = { frame: 0.01, paper: 0.25 } as const;

/** Pictures less wide or high than this are no photographs. */
const SMALLEST = 64;

/** How much brighter paper is than what it lies on, at its edge; light that falls off slowly makes no edge. */
const EDGE = 1.12;

/** Frames found at most, the largest first. */
export const MOST_CUTS = 24;

/** How full of its corners something is at least that counts as having four. */
const FULL = 0.8;

/** A line of at most this many pixels may be left open, as hands leave them at corners. */
const GAP = 3;

/** Whether something is told from paper by being darker than this share of it. */
const INK = 200;

const imageOf = ({ width, height, data }: Pixels): Image =>
  new Image(width, height, { data: new Uint8Array(data.buffer, data.byteOffset, data.byteLength), colorModel: 'RGBA' });

/**
 * The frames that are drawn on paper in a photograph, each by its four corners in pixels of the photograph, row by row; where none is
 * drawn as a box, the paper itself; where no paper can be told, the whole picture.
 */
export function findCuts(photo: Pixels): Quad[] {
  if (Math.min(photo.width, photo.height) < SMALLEST) return [boxQuad(0, 0, photo.width, photo.height)];
  const { pixels, scale } = within(photo, LOOKED_AT);
  const paper = paperIn(pixels);
  const { width, height } = sizeOf(paper);
  const [w, h] = [Math.round(width), Math.round(height)];
  const boxes = boxesOn(straightened(pixels, paper, w, h));
  const back = onto(paper, w, h);
  const found = boxes.length ? boxes.map((box) => quadOf((i) => back(box[i]))) : [paper];
  return found.map((quad) => quadOf((i) => ({ x: quad[i].x / scale, y: quad[i].y / scale })));
}

/** The sheet of paper: the largest bright thing with four corners. */
function paperIn(pixels: Pixels): Quad {
  const { width, height } = pixels;
  const whole = boxQuad(0, 0, width, height);
  const grey = imageOf(pixels).grey().blur({ width: 9, height: 9 });
  const bright = grey.threshold({ algorithm: 'otsu' });
  // What is written on paper is part of it.
  const [largest] = regionsOf(bright.solidFill());
  if (!largest || largest.surface < LEAST.paper * width * height) return whole;
  const quad = straightSides(largest.border);
  const { width: w, height: h } = sizeOf(quad);
  const isPaper = canCut(quad) && largest.surface > FULL * w * h && standsOut(grey, quad);
  return isPaper ? clamped(quad, width, height) : whole;
}

/** Whether what is in four corners is brighter right at its sides than beyond them, where there is a beyond. */
function standsOut(grey: Image, quad: Quad): boolean {
  const step = distance(quad[0], quad[2]) * 0.02;
  const ratios: number[] = [];
  for (let side = 0; side < 4; side++) {
    const [a, b] = [quad[side]!, quad[(side + 1) % 4]!];
    const length = distance(a, b);
    const [ox, oy] = [((b.y - a.y) / length) * step, ((a.x - b.x) / length) * step];
    for (let t = 0.1; t < 0.95; t += 0.1) {
      const on = { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t };
      const [inside, outside] = [brightness(grey, on.x - ox, on.y - oy), brightness(grey, on.x + ox, on.y + oy)];
      if (inside !== null && outside !== null) ratios.push(inside / Math.max(1, outside));
    }
  }
  return ratios.length === 0 || ratios.sort((a, b) => a - b)[Math.floor(ratios.length / 2)]! > EDGE;
}

const brightness = (grey: Image, x: number, y: number): number | null => {
  const [column, row] = [Math.round(x), Math.round(y)];
  return column < 0 || row < 0 || column >= grey.width || row >= grey.height ? null : grey.getValue(column, row, 0);
};

const clamped = (quad: Quad, width: number, height: number): Quad =>
  quadOf((i) => ({ x: Math.max(0, Math.min(width, quad[i].x)), y: Math.max(0, Math.min(height, quad[i].y)) }));

/** What is drawn as a box on straightened paper: closed lines with four corners; the outermost, in reading order. */
function boxesOn(paper: Pixels): Quad[] {
  const ink = inkOn(paper);
  // A line that is nearly closed holds what is in it.
  const closed = ink.dilate({ iterations: GAP }).solidFill();
  const boxes = regionsOf(closed)
    .map(({ border, surface }) => ({ quad: straightSides(border), surface }))
    .filter(({ quad, surface }) => {
      const size = sizeOf(quad);
      return canCut(quad) && surface > FULL * size.width * size.height;
    })
    .map(({ quad }) => inset(quad, GAP + strokeOf(ink, quad)));
  return inRows(boxes.slice(0, MOST_CUTS));
}

/** Where there is ink on paper; nothing at its very edge, where the table begins. */
function inkOn(paper: Pixels): Mask {
  const { width, height } = paper;
  const edge = Math.ceil(Math.max(width, height) * 0.01);
  const ink = imageOf(whitened(paper, 1))
    .grey()
    .threshold({ threshold: INK / 255 })
    .invert();
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) if (x < edge || y < edge || x >= width - edge || y >= height - edge) ink.setBit(x, y, 0);
  return ink;
}

interface Region {
  readonly surface: number;
  /** Pixels at its outline. */
  readonly border: readonly Point[];
}

/** What hangs together in a mask, the largest first. */
const regionsOf = (mask: Mask): Region[] =>
  fromMask(mask, { allowCorners: true })
    .getRois({ kind: 'white', minSurface: LEAST.frame * mask.width * mask.height })
    .sort((a, b) => b.surface - a.surface)
    .slice(0, MOST_CUTS * 2)
    .map((roi) => ({
      surface: roi.surface,
      border: roi.getBorderPoints().map(({ column, row }) => ({ x: column + roi.origin.column + 0.5, y: row + roi.origin.row + 0.5 })),
    }));

/** How thick the line of a box is, in pixels: the middle one of many looks inwards from its sides. */
function strokeOf(ink: Mask, quad: Quad): number {
  const middle = { x: (quad[0].x + quad[2].x) / 2, y: (quad[0].y + quad[2].y) / 2 };
  const looks: number[] = [];
  const most = Math.max(4, distance(quad[0], quad[2]) * 0.02);
  for (let side = 0; side < 4; side++)
    for (let t = 0.2; t <= 0.8; t += 0.05) {
      const [a, b] = [quad[side]!, quad[(side + 1) % 4]!];
      const from = { x: a.x + (b.x - a.x) * t, y: a.y + (b.y - a.y) * t };
      const far = distance(from, middle);
      let last = 0;
      for (let i = 0; i <= most + GAP; i++) {
        const [x, y] = [Math.round(from.x + ((middle.x - from.x) * i) / far), Math.round(from.y + ((middle.y - from.y) * i) / far)];
        if (x >= 0 && y >= 0 && x < ink.width && y < ink.height && ink.getBit(x, y)) last = i - GAP;
      }
      looks.push(last);
    }
  return Math.max(1, looks.sort((a, b) => a - b)[Math.floor(looks.length / 2)]! + 2);
}

/** As one reads: rows from above, and each from the left. What overlaps by half of its height stands in one row. */
function inRows(quads: readonly Quad[]): Quad[] {
  const span = (quad: Quad) => [Math.min(quad[0].y, quad[1].y), Math.max(quad[2].y, quad[3].y)] as const;
  const rows: { top: number; bottom: number; quads: Quad[] }[] = [];
  for (const quad of [...quads].sort((a, b) => span(a)[0] - span(b)[0])) {
    const [top, bottom] = span(quad);
    const row = rows.find((other) => Math.min(bottom, other.bottom) - Math.max(top, other.top) > (bottom - top) / 2);
    if (row) row.quads.push(quad);
    else rows.push({ top, bottom, quads: [quad] });
  }
  return rows.flatMap((row) => row.quads.sort((a, b) => a[0].x - b[0].x));
}
