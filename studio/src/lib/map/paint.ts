import { groupedBy } from '@zany/core';
import { withRoom, type Label } from './labels';
import { pointOn, type Box, type Curve } from './routes';
import { isSeen, type View } from './view';
import type { Mark, MarkKind } from './web';

/** Draws the map on a canvas: ribbons under the frames, what is lit over them, and words in one size at any scale. */

export interface Sheet {
  readonly id: string;
  readonly box: Box;
  readonly name: string;
  /** Names of its states. */
  readonly states: readonly string[];
  readonly color: string;
  /** Passed over by a search, a filter or what is focused on. */
  readonly isFaint: boolean;
  readonly isOpen: boolean;
  readonly isDraft: boolean;
  readonly isFound: boolean;
  /** Of its kind; null where it has none. */
  readonly kind: { readonly mark: string; readonly color: string } | null;
  readonly tags: readonly Tag[];
  readonly marks: readonly Mark[];
  /** Where it was pressed, from its corner, and whether anything came of it. */
  readonly presses: readonly { readonly x: number; readonly y: number; readonly met: boolean }[];
  /** Names of heavier ones stand where not all have room. */
  readonly weight: number;
}

export interface Tag {
  readonly words: string;
  readonly tone: 'good' | 'part' | 'none' | 'bad' | 'plain';
}

/** A piece of cloth under the frames of a bundle. */
export interface Cloth {
  readonly name: string;
  readonly box: Box;
  readonly frames: number;
  readonly loose: number;
  /** By hand: its frames are not seen. */
  readonly isFolded: boolean;
}

export interface Strand {
  readonly curve: Curve;
  readonly count: number;
  /** The count says how often it was gone, not of how many threads it is. */
  readonly isWeighed: boolean;
  readonly isWalked: boolean;
  readonly isConditional: boolean;
  readonly isFaint: boolean;
}

/** What part of the map is drawn, on so large a canvas; CSS px, and pixels for one of them. */
export interface Seen {
  readonly view: View;
  readonly width: number;
  readonly height: number;
  readonly sharpness: number;
  /** While something moves all that takes long is left out. */
  readonly isMoving: boolean;
}

/** All that is on the map, in colours of the theme. */
export interface Drawn {
  /** Ground for bundles, behind everything. */
  readonly cloths: readonly Cloth[];
  readonly strands: readonly Strand[];
  /** The same between bundles, drawn instead where frames are too small to be told apart. */
  readonly seams: readonly Strand[];
  readonly sheets: readonly Sheet[];
  readonly inks: Inks;
}

/** What is pointed at, and the stitch that somebody draws. */
export interface Pointed {
  readonly lit: readonly (Strand & { readonly words: string | null })[];
  readonly drawn: { readonly x: number; readonly y: number; readonly toX: number; readonly toY: number } | null;
  /** The frame that is pointed at, and the one that the stitch would lead to. */
  readonly hovered: string | null;
  readonly target: string | null;
}

export type PictureOf = (frame: string) => ImageBitmap | null;

/** All that is drawn, and how. */
interface Drawing extends Seen, Drawn, Pointed {
  readonly pictureOf: PictureOf;
}

export interface Inks {
  readonly gold: string;
  readonly teal: string;
  readonly plum: string;
  readonly brick: string;
  readonly ink: string;
  readonly soft: string;
  readonly paper: string;
  readonly line: string;
  readonly wash: Readonly<Record<Tag['tone'], string>>;
}

export function inksOf(element: HTMLElement): Inks {
  const style = getComputedStyle(element);
  const of = (name: string) => style.getPropertyValue(`--${name}`).trim();
  return {
    gold: of('gold'),
    teal: of('teal'),
    plum: of('plum'),
    brick: of('brick-text'),
    ink: of('ink'),
    soft: of('soft'),
    paper: of('sheet'),
    line: of('line'),
    wash: { good: of('teal-wash'), part: of('gold-fill'), none: of('tan'), bad: of('brick-wash'), plain: of('sheet') },
  };
}

/** With more ribbons than this they are drawn as plain lines: a machine without a graphics card takes long for stitches. */
const MOST_STITCHED = 260;

/** Frames narrower than this on screen are plain sheets of their colour, CSS px. */
const TINY = 10;

/** Narrower than this on screen what is wrong with a frame is a dot, CSS px. */
const SMALL = 48;

/** From this on it is said beside a frame that it leads to one that many lead to, CSS px. */
const ROOMY = 100;

const FONT = '"Atkinson Hyperlegible Next", sans-serif';
const LETTERS = 12;
const LINE_HEIGHT = 16;

export function draw(context: OffscreenCanvasRenderingContext2D, how: Seen, all: Drawn, pointed: Pointed, pictureOf: PictureOf): void {
  const drawing: Drawing = { ...how, ...all, ...pointed, pictureOf };
  const { view, width, height, isMoving, inks, sharpness: dpr } = drawing;
  context.setTransform(dpr, 0, 0, dpr, 0, 0);
  context.clearRect(0, 0, width, height);
  context.setTransform(dpr * view.scale, 0, 0, dpr * view.scale, dpr * view.x, dpr * view.y);
  const isFolded = isFar(drawing);
  if (isFolded) drawStrands(context, { ...drawing, strands: all.seams }, inks);
  drawCloths(context, drawing, inks, isFolded);
  if (!isFolded) drawStrands(context, drawing, inks);
  const sheets = drawing.sheets.filter(({ box }) => isSeen(view, { width, height }, box, 40 * view.scale));
  for (const sheet of sheets) drawSheet(context, sheet, pictureOf(sheet.id), pointed.target === sheet.id, view, inks);
  drawLit(context, drawing, inks);
  if (drawing.drawn) {
    const { x, y, toX, toY } = drawing.drawn;
    context.strokeStyle = inks.teal;
    context.lineWidth = 3 / view.scale;
    context.setLineDash([7 / view.scale, 5 / view.scale]);
    context.beginPath();
    context.moveTo(x, y);
    context.lineTo(toX, toY);
    context.stroke();
    context.setLineDash([]);
  }
  context.setTransform(dpr, 0, 0, dpr, 0, 0);
  drawWords(context, drawing, sheets, inks, isMoving);
}

/** Narrower than this on screen frames fold into their bundles, CSS px. */
const FAR = 27;

/** Whether all bundles fold by themselves. */
export const isFar = ({ cloths, sheets, view }: Pick<Drawing, 'cloths' | 'sheets' | 'view'>): boolean =>
  cloths.length > 1 && sheets.length > 12 && (sheets[0]?.box.width ?? 0) * view.scale < FAR;

function drawCloths(context: OffscreenCanvasRenderingContext2D, { cloths, view }: Drawing, inks: Inks, isFolded: boolean): void {
  for (const { box, isFolded: isAway } of cloths) {
    context.fillStyle = inks.paper;
    context.globalAlpha = isFolded || isAway ? 1 : 0.45;
    context.beginPath();
    context.roundRect(box.x, box.y, box.width, box.height, 14);
    context.fill();
    context.globalAlpha = 1;
    context.strokeStyle = inks.line;
    context.lineWidth = 1.2 / view.scale;
    context.setLineDash([5 / view.scale, 4 / view.scale]);
    context.stroke();
    context.setLineDash([]);
    if (isAway) drawPleats(context, box, view, inks);
  }
}

/** Folds of a cloth that lies over its frames. */
const PLEATS = [0.25, 0.5, 0.75];

function drawPleats(context: OffscreenCanvasRenderingContext2D, { x, y, width, height }: Box, view: View, inks: Inks): void {
  context.strokeStyle = inks.line;
  context.lineWidth = 1.2 / view.scale;
  context.beginPath();
  for (const at of PLEATS) {
    context.moveTo(x + width * at, y);
    context.bezierCurveTo(x + width * (at + 0.05), y + height / 3, x + width * (at - 0.05), y + (2 * height) / 3, x + width * at, y + height);
  }
  context.stroke();
}

function trace(context: OffscreenCanvasRenderingContext2D, [x, y, ax, ay, bx, by, ex, ey]: Curve): void {
  context.moveTo(x, y);
  context.bezierCurveTo(ax, ay, bx, by, ex, ey);
}

/** So wide on screen: more for more threads. */
const wideFor = ({ count, isWeighed }: Pick<Strand, 'count' | 'isWeighed'>) =>
  1.3 + (isWeighed ? Math.min(8, Math.log2(count + 1) * 1.3) : Math.min(2.2, Math.log2(count) * 0.7));

function drawStrands(context: OffscreenCanvasRenderingContext2D, { strands, lit, view, isMoving }: Drawing, inks: Inks): void {
  const isStitched = !isMoving && strands.length <= MOST_STITCHED;
  if (isStitched) context.setLineDash([6 / view.scale, 4.5 / view.scale]);
  context.lineCap = isStitched ? 'round' : 'butt';
  // Those drawn alike are drawn together.
  const groups = groupedBy(strands, (strand) => `${strand.isWalked} ${strand.isFaint} ${Math.round(wideFor(strand) * 2)}`);
  const fade = (lit.length ? 0.4 : 1) * (strands.length > 60 ? 0.75 : 1);
  for (const group of groups.values()) {
    const [first] = group as [Strand];
    const { isWalked, isFaint } = first;
    context.globalAlpha = (isFaint ? 0.12 : strands.length > MOST_STITCHED ? 0.5 : 0.85) * fade;
    context.strokeStyle = isWalked ? inks.teal : inks.gold;
    context.lineWidth = wideFor(first) / view.scale;
    context.beginPath();
    for (const { curve } of group) trace(context, curve);
    context.stroke();
  }
  context.setLineDash([]);
  context.globalAlpha = 1;
  if (isMoving) return;
  // Knots and eyelets keep their size on screen, down to where they would cover what they are on.
  const dot = Math.min(1.6, Math.max(0.5, view.scale * 3)) / view.scale;
  for (const { curve, isFaint, isWalked } of strands) {
    context.globalAlpha = (isFaint ? 0.15 : 1) * fade;
    const [x, y, , , , , ex, ey] = curve;
    context.fillStyle = isWalked ? inks.teal : inks.gold;
    context.beginPath();
    context.arc(x, y, 2.2 * dot, 0, 7);
    context.fill();
    context.beginPath();
    context.arc(ex, ey, 2.8 * dot, 0, 7);
    context.fillStyle = inks.paper;
    context.fill();
    context.strokeStyle = isWalked ? inks.teal : inks.gold;
    context.lineWidth = 1.5 * dot;
    context.stroke();
  }
  context.globalAlpha = 1;
}

function drawSheet(
  context: OffscreenCanvasRenderingContext2D,
  sheet: Sheet,
  picture: ImageBitmap | null,
  isTarget: boolean,
  { scale }: View,
  inks: Inks
): void {
  const { box, isFaint } = sheet;
  context.globalAlpha = isFaint ? 0.22 : 1;
  const isTiny = box.width * scale < TINY;
  if (!isTiny) {
    context.fillStyle = 'rgba(38, 35, 44, 0.16)';
    context.fillRect(box.x + 1.5 / scale, box.y + 2.5 / scale, box.width, box.height);
  }
  if (picture && !isTiny) context.drawImage(picture, box.x, box.y, box.width, box.height);
  else {
    context.fillStyle = sheet.color;
    context.fillRect(box.x, box.y, box.width, box.height);
  }
  const edge = (color: string, wide: number, dash: readonly number[] = []) => {
    context.strokeStyle = color;
    context.lineWidth = wide / scale;
    context.setLineDash(dash.map((one) => one / scale));
    const out = wide / 2 / scale;
    context.strokeRect(box.x - out, box.y - out, box.width + 2 * out, box.height + 2 * out);
    context.setLineDash([]);
  };
  if (!isTiny) drawPresses(context, sheet, scale);
  if (isTarget) edge(inks.teal, 3);
  else if (sheet.isOpen) edge(inks.gold, 2.5);
  else if (sheet.isFound) edge(inks.plum, 2.5);
  else if (sheet.isDraft) edge(inks.soft, 1.5, [5, 3]);
  else edge(inks.line, 1);
  if (box.width * scale < SMALL && sheet.tags.some(({ tone }) => tone === 'bad')) {
    context.fillStyle = inks.brick;
    context.beginPath();
    context.arc(box.x + box.width, box.y, Math.min(3.2, box.width * scale * 0.16) / scale, 0, 7);
    context.fill();
  }
  context.globalAlpha = 1;
}

/** A dot where something came of a press, a cross where nothing did. */
function drawPresses(context: OffscreenCanvasRenderingContext2D, { box, presses }: Sheet, scale: number): void {
  const size = Math.min(3.5, Math.max(1.6, box.width * scale * 0.02)) / scale;
  for (const { x, y, met } of presses) {
    const [at, down] = [box.x + x, box.y + y];
    context.beginPath();
    if (met) {
      context.arc(at, down, size, 0, 7);
      context.fillStyle = '#0b7a75';
      context.fill();
      context.strokeStyle = '#ffffff';
      context.lineWidth = size * 0.4;
      context.stroke();
      continue;
    }
    context.moveTo(at - size, down - size);
    context.lineTo(at + size, down + size);
    context.moveTo(at + size, down - size);
    context.lineTo(at - size, down + size);
    context.strokeStyle = '#ffffff';
    context.lineWidth = size;
    context.stroke();
    context.strokeStyle = '#b23a26';
    context.lineWidth = size * 0.55;
    context.stroke();
  }
}

function drawLit(context: OffscreenCanvasRenderingContext2D, { lit, view }: Drawing, inks: Inks): void {
  context.lineCap = 'round';
  for (const { curve, isWalked } of lit) {
    const color = isWalked ? inks.teal : inks.gold;
    context.strokeStyle = inks.paper;
    context.lineWidth = 5 / view.scale;
    context.beginPath();
    trace(context, curve);
    context.stroke();
    context.strokeStyle = color;
    context.lineWidth = 2.6 / view.scale;
    context.setLineDash([7 / view.scale, 5 / view.scale]);
    context.stroke();
    context.setLineDash([]);
    context.fillStyle = color;
    context.beginPath();
    context.arc(curve[0], curve[1], 4 / view.scale, 0, 7);
    context.fill();
    context.beginPath();
    context.arc(curve[6], curve[7], 4.5 / view.scale, 0, 7);
    context.fillStyle = inks.paper;
    context.fill();
    context.lineWidth = 2.2 / view.scale;
    context.stroke();
  }
}

const widths = new Map<string, number>();

/** How wide words are, CSS px; measured once. */
function widthOf(context: OffscreenCanvasRenderingContext2D, words: string, isBold: boolean): number {
  const key = `${isBold} ${words}`;
  let width = widths.get(key);
  if (width === undefined) {
    context.font = `${isBold ? '600 ' : ''}${LETTERS}px ${FONT}`;
    width = context.measureText(words).width;
    widths.set(key, width);
  }
  return width;
}

/** As many names as have room, one at least, and how many more there are. */
function namesIn(context: OffscreenCanvasRenderingContext2D, names: readonly string[], width: number): string {
  for (let count = names.length; count > 1; count--) {
    const words = `${names.slice(0, count).join(' · ')}${count < names.length ? ` +${names.length - count}` : ''}`;
    if (widthOf(context, words, false) <= width) return words;
  }
  return `${names[0]}${names.length > 1 ? ` +${names.length - 1}` : ''}`;
}

const markTones: Readonly<Record<MarkKind, 'gold' | 'plum' | 'soft' | 'teal'>> = {
  back: 'soft',
  hub: 'gold',
  toHub: 'gold',
  sheet: 'plum',
  piece: 'teal',
  said: 'gold',
};

interface Line extends Label {
  readonly words: string;
  readonly isBold: boolean;
  readonly ink: string;
  readonly ground: string | null;
  readonly alpha: number;
}

function drawWords(context: OffscreenCanvasRenderingContext2D, drawing: Drawing, sheets: readonly Sheet[], inks: Inks, isMoving: boolean): void {
  const { view, cloths, strands, lit, hovered } = drawing;
  const isFolded = isFar(drawing);
  const lines: Line[] = [];
  const add = (key: string, words: string, x: number, y: number, weight: number, ink: string, ground: string | null, isBold: boolean, alpha = 1) => {
    const width = widthOf(context, words, isBold) + (ground === null ? 0 : 8);
    lines.push({ key, words, x, y, width, height: LINE_HEIGHT, weight, ink, ground, isBold, alpha });
    return width;
  };
  const screen = ({ x, y }: { x: number; y: number }) => ({ x: x * view.scale + view.x, y: y * view.scale + view.y });
  for (const { name, box, frames, loose, isFolded: isAway } of cloths) {
    const at = screen(box);
    if (!isFolded && !isAway) {
      // Above the cloth, clear of what stands over its frames.
      add(`cloth ${name}`, name, at.x + 8, at.y - LINE_HEIGHT - 1, 90, inks.soft, inks.paper, true);
      continue;
    }
    const words = `${name} · ${frames}`;
    // On the edge of a cloth that lies over its frames; above one under which they are seen.
    const y = isAway ? at.y - 4 : at.y - LINE_HEIGHT + 1;
    const width = add(`cloth ${name}`, words, at.x + 4, y, 90, inks.ink, inks.paper, true);
    if (loose) add(`cloth ${name} loose`, `● ${loose}`, at.x + 8 + width, y, 55, inks.brick, inks.wash.bad, false);
  }
  for (const { id, box, name, states, kind, tags, marks, weight: own, isFaint } of sheets) {
    const weight = own + (hovered === id ? 200 : 0);
    if (isFolded && weight < 100) continue;
    const alpha = isFaint ? 0.3 : 1;
    const at = screen({ x: box.x, y: box.y + box.height });
    const wide = box.width * view.scale;
    let x = at.x;
    if (kind) x += add(`${id} kind`, kind.mark, x, at.y + 3, weight + 60, kind.color, null, true, alpha) + 4;
    add(`${id} name`, name, x, at.y + 3, weight + (isFaint ? 0 : 50), inks.ink, null, true, alpha);
    // Below the marks, where there are any.
    const below = at.y + 3 + LINE_HEIGHT * (marks.length ? 2 : 1);
    if (states.length && wide >= SMALL) add(`${id} states`, namesIn(context, states, wide), at.x, below, weight + 20, inks.soft, null, false, alpha);
    const top = screen(box);
    let right = top.x + wide + 4;
    for (const [i, tag] of tags.entries()) {
      if (wide < SMALL && tag.tone === 'bad' && hovered !== id) continue;
      const width = widthOf(context, tag.words, false) + 8;
      right -= width + 2;
      add(
        `${id} tag ${i}`,
        tag.words,
        right,
        top.y - 9,
        weight + 70 - i,
        tag.tone === 'bad' ? inks.brick : inks.ink,
        inks.wash[tag.tone],
        false,
        alpha
      );
    }
    if (wide < 56 || isFaint) continue;
    let down = at.y + 3 + LINE_HEIGHT;
    let across = at.x;
    for (const [i, mark] of marks.entries()) {
      if (mark.kind === 'toHub' && wide < ROOMY && hovered !== id) continue;
      const tone = markTones[mark.kind];
      const width = widthOf(context, mark.words, false) + 8;
      if (across > at.x && across + width > at.x + Math.max(wide, 110)) [across, down] = [at.x, down + LINE_HEIGHT + 1];
      if (i > 5) break;
      add(`${id} mark ${i}`, mark.words, across, down, weight + 10 - i, tone === 'gold' ? inks.soft : inks[tone], inks.paper, false);
      across += width + 3;
    }
  }
  for (const [i, one] of lit.entries()) {
    if (one.words === null) continue;
    const at = screen(pointOn(one.curve, 0.5));
    add(`lit ${i}`, one.words, at.x - widthOf(context, one.words, false) / 2, at.y - 8, 200 - i, inks.ink, inks.wash.part, false);
  }
  if (!isMoving && !isFolded && strands.length <= MOST_STITCHED && view.scale > 0.35 && !lit.length)
    for (const [i, { curve, isConditional, count, isFaint }] of strands.entries()) {
      const words = `${isConditional ? 'if ' : ''}${count > 1 ? `× ${count}` : ''}`.trim();
      if (!words || isFaint) continue;
      const at = screen(pointOn(curve, 0.5));
      add(`strand ${i}`, words, at.x - 10, at.y - 8, 5, inks.soft, inks.paper, false);
    }
  const shown = withRoom(lines);
  context.textBaseline = 'middle';
  for (const { key, words, x, y, width, ink, ground, isBold, alpha } of lines) {
    if (!shown.has(key)) continue;
    context.globalAlpha = alpha;
    if (ground !== null) {
      context.fillStyle = ground;
      context.beginPath();
      context.roundRect(x, y, width, LINE_HEIGHT, 5);
      context.fill();
      context.strokeStyle = inks.line;
      context.lineWidth = 1;
      context.stroke();
    }
    context.font = `${isBold ? '600 ' : ''}${LETTERS}px ${FONT}`;
    context.fillStyle = ink;
    context.fillText(words, x + (ground === null ? 0 : 4), y + LINE_HEIGHT / 2 + 0.5);
  }
  context.globalAlpha = 1;
}
