import { fromMask, Image, type Mask } from 'image-js';
import { straightened, within, type Pixels } from './pixels';
import { boxQuad, canCut, distance, inset, onto, quadOf, sizeOf, straightSides, type Point, type Quad } from './quad';
import { whitened } from './whiten';

/** Pixels along the longest side of the picture in which is looked. */
const LOOKED_AT = 720;

/** What is drawn on paper as a frame takes at least this share of it, a part of one this; and paper this share of a photograph. */
const LEAST = { frame: 0.01, strip: 0.001, paper: 0.25 } as const;

/** Pictures less wide or high than this are no photographs. */
const SMALLEST = 64;

/** How much brighter paper is than what it lies on, at its edge; light that falls off slowly makes no edge. */
const EDGE = 1.12;

/** Frames found at most, the largest first. */
const MOST_CUTS = 24;

/** How full of its corners something is at least that counts as having four. */
const FULL = 0.8;

/** Parts of one frame fill at least this share of it; what boxes leave free between them is more. */
const PARTED = 0.88;

/** Two boxes have a side in common where their corners are as near as this share of its length. */
const SEAM = 0.12;

/** A line of at most this many pixels may be left open, as hands leave them at corners. */
const GAP = 3;

/** Arrows from box to box, and what else hangs on one, go away where they are at most twice so many pixels thick. */
const ARROW = 8;

/** Darker than this of 255 is ink, on paper that was made white. */
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
  const [largest] = regionsOf(bright.solidFill(), LEAST.paper);
  if (!largest) return whole;
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
  const lines = ink.dilate({ iterations: GAP });
  // What is filled stays, what is a line goes.
  const solid = lines.solidFill().erode({ iterations: ARROW }).dilate({ iterations: ARROW });
  const outer = boxesIn(regionsOf(solid, LEAST.frame)).map((quad) => inset(quad, GAP + strokeOf(ink, quad)));
  const inner = joined(boxesIn(regionsOf(lines.invert(), LEAST.strip).filter(({ isInside }) => isInside)));
  const frames = outermostOf(inner).filter((quad) => areaOf(quad) > LEAST.frame * paper.width * paper.height);
  const boxes = outer.flatMap((quad) => {
    const held = frames.filter((frame) => isAround(quad, middleOf(frame)));
    const share = held.reduce((sum, frame) => sum + areaOf(frame), 0) / areaOf(quad);
    // Boxes that arrows lead around in a ring hold what is between them; a box that lines part is filled by its parts.
    return held.length > 1 && share < PARTED ? held : [quad];
  });
  const others = frames.filter((frame) => !outer.some((quad) => isAround(quad, middleOf(frame))));
  return inRows([...boxes, ...others].sort((a, b) => areaOf(b) - areaOf(a)).slice(0, MOST_CUTS));
}

/** Of regions those with four corners. */
const boxesIn = (regions: readonly Region[]): Quad[] =>
  regions.flatMap(({ border, surface }) => {
    const quad = straightSides(border);
    const share = surface / areaOf(quad);
    // What is more than its corners hold has arms.
    return canCut(quad) && share > FULL && share < 2 - FULL ? [quad] : [];
  });

const areaOf = (quad: Quad): number => {
  const { width, height } = sizeOf(quad);
  return width * height;
};

const middleOf = (quad: Quad): Point => ({ x: (quad[0].x + quad[2].x) / 2, y: (quad[0].y + quad[2].y) / 2 });

const isAround = (quad: Quad, { x, y }: Point): boolean =>
  [0, 1, 2, 3].every((i) => {
    const [a, b] = [quad[i]!, quad[(i + 1) % 4]!];
    return (b.x - a.x) * (y - a.y) - (b.y - a.y) * (x - a.x) > 0;
  });

const outermostOf = (quads: readonly Quad[]): Quad[] =>
  quads.filter((quad) => !quads.some((other) => areaOf(other) > areaOf(quad) && isAround(other, middleOf(quad))));

/** Boxes with a whole side in common made one: a line from side to side parts a frame into a head and what is below it. */
function joined(quads: readonly Quad[]): Quad[] {
  const left = [...quads];
  for (let i = 0; i < left.length; i++)
    for (let j = 0; j < left.length; j++) {
      const one = i === j ? null : (below(left[i]!, left[j]!) ?? beside(left[i]!, left[j]!));
      if (!one) continue;
      left[i] = one;
      left.splice(j, 1);
      if (j < i) i--;
      j = -1;
    }
  return left;
}

const isNear = (a: Point, b: Point, size: number): boolean => distance(a, b) < size;

/** Both as one where the second stands right below the first. */
function below(a: Quad, b: Quad): Quad | null {
  const near = sizeOf(a).width * SEAM;
  return isNear(a[3], b[0], near) && isNear(a[2], b[1], near) ? [a[0], a[1], b[2], b[3]] : null;
}

/** Both as one where the second stands right of the first. */
function beside(a: Quad, b: Quad): Quad | null {
  const near = sizeOf(a).height * SEAM;
  return isNear(a[1], b[0], near) && isNear(a[2], b[3], near) ? [a[0], b[1], b[2], a[3]] : null;
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
  /** With what it holds. */
  readonly surface: number;
  /** Pixels at its outline. */
  readonly border: readonly Point[];
  /** Whether it ends before the picture does. */
  readonly isInside: boolean;
}

/** What hangs together in a mask and takes at least such a share of it, the largest first. */
const regionsOf = (mask: Mask, least: number): Region[] =>
  fromMask(mask)
    .getRois({ kind: 'white', minSurface: least * mask.width * mask.height })
    .sort((a, b) => b.surface - a.surface)
    .slice(0, MOST_CUTS * 4)
    .map((roi) => {
      const { column, row } = roi.origin;
      return {
        surface: roi.filledSurface,
        border: roi.getBorderPoints().map((point) => ({ x: point.column + column + 0.5, y: point.row + row + 0.5 })),
        isInside: column > 0 && row > 0 && column + roi.width < mask.width && row + roi.height < mask.height,
      };
    });

/** How thick the line of a box is, in pixels: the middle one of many looks inwards from its sides. */
function strokeOf(ink: Mask, quad: Quad): number {
  const middle = middleOf(quad);
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
