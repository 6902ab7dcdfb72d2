import { endingWords, sectionsOf, trackValue, type Section, type Timeline, type TrackOf } from '@zany/core';
import { pointsOf, ROW } from './seam';

/**
 * The seam while something is pulled along it, drawn on a canvas: elements that change with every frame make the browser lay out,
 * paint and layer the page anew each time, which takes more than all the rest of such a frame. It looks as the elements do.
 */

/** The colours of the theme, as a canvas names them, and the letters of the page. */
export interface SeamInk {
  readonly line: string;
  readonly thread: string;
  readonly sheet: string;
  readonly gold: string;
  readonly goldWash: string;
  readonly goldFill: string;
  readonly teal: string;
  readonly tealWash: string;
  readonly ink: string;
  readonly soft: string;
  readonly letters: string;
}

/** The names that the theme has for them. */
const NAMED: Readonly<Record<Exclude<keyof SeamInk, 'letters'>, string>> = {
  line: '--line',
  thread: '--gold-text',
  sheet: '--sheet',
  gold: '--gold',
  goldWash: '--gold-wash',
  goldFill: '--gold-fill',
  teal: '--teal',
  tealWash: '--teal-wash',
  ink: '--ink',
  soft: '--soft',
};

/** What an element's surroundings are inked with; asking makes the browser work out all styles. */
export function inkOf(element: Element): SeamInk {
  const style = getComputedStyle(element);
  const colors = Object.fromEntries(Object.entries(NAMED).map(([name, variable]) => [name, style.getPropertyValue(variable).trim()]));
  return { ...(colors as unknown as SeamInk), letters: style.fontFamily };
}

/** A canvas of a size in CSS px, empty, to be drawn on in CSS px. */
export function sized(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D | null {
  const context = canvas.getContext('2d');
  const scale = devicePixelRatio;
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)];
  // Setting a size takes its time.
  if (canvas.width !== w) canvas.width = w;
  if (canvas.height !== h) canvas.height = h;
  context?.setTransform(scale, 0, 0, scale, 0, 0);
  context?.clearRect(0, 0, width, height);
  return context;
}

/** A row of the seam, or one property in it. */
export interface DrawnLine {
  readonly tracks: readonly TrackOf[];
  /** It shows one property of an open row. */
  readonly isOpen: boolean;
  readonly spans: readonly { readonly from: number; readonly to: number }[];
  readonly knots: readonly { readonly time: number; readonly y: number; readonly isOn: boolean }[];
}

type Canvas = CanvasRenderingContext2D;
type X = (time: number) => number;

/** CSS px across. */
const KNOT = 11;

/** How wide a border of so many CSS px is drawn: browsers round down to whole pixels of the display, but not to none. */
const border = (width: number) => Math.max(1, Math.floor(width * devicePixelRatio)) / devicePixelRatio;

/** A line of the seam, its corner at the corner of the canvas; `x` is the middle of a timeline frame, in CSS px. */
export function drawLine(canvas: Canvas, { tracks, isOpen, spans, knots }: DrawnLine, x: X, ink: SeamInk): void {
  canvas.lineWidth = 1;
  for (const { from, to } of spans) drawSpan(canvas, x(from - 0.5), x(to + 0.5), ink);
  canvas.strokeStyle = ink.thread;
  canvas.globalAlpha = isOpen ? 1 : 0.55;
  canvas.lineWidth = isOpen ? 1.6 : 1.1;
  for (const track of tracks) {
    canvas.beginPath();
    for (const [px, py] of pointsOf(track, (time) => trackValue(track, time), x, ROW)) canvas.lineTo(px, py);
    canvas.stroke();
  }
  canvas.globalAlpha = 1;
  canvas.lineWidth = border(1.5);
  for (const { time, y, isOn } of knots) {
    canvas.beginPath();
    canvas.arc(x(time), y, (KNOT - canvas.lineWidth) / 2, 0, 2 * Math.PI);
    canvas.fillStyle = isOn ? ink.gold : ink.sheet;
    canvas.fill();
    canvas.strokeStyle = isOn ? ink.ink : ink.thread;
    canvas.stroke();
  }
}

function drawSpan(canvas: Canvas, left: number, right: number, ink: SeamInk): void {
  canvas.beginPath();
  canvas.roundRect(left + 0.5, 4.5, Math.max(1, right - left - 1), 17, 4);
  canvas.globalAlpha = 0.8;
  canvas.fillStyle = ink.tealWash;
  canvas.fill();
  canvas.globalAlpha = 1;
  canvas.strokeStyle = ink.teal;
  canvas.stroke();
}

/** CSS px: wider than `WIDE` a section has room for the words of its ending, wider than `SIGNED` for a sign of it. */
export const WIDE = 156;
export const SIGNED = 44;
export const SIGNS: Readonly<Record<Section['ending']['do'], string>> = { hold: '■', loop: '↻', 'go on': '→', 'go to': '↷' };

/** CSS px. */
const SECTIONS = 26;

/** The sections of a timeline as panels, those that are in view. */
export function drawSections(canvas: Canvas, timeline: Timeline, perFrame: number, view: readonly [from: number, to: number], ink: SeamInk): void {
  sectionsOf(timeline).forEach((section, i) => {
    const left = section.from * perFrame;
    const width = (section.to - section.from + 1) * perFrame;
    if (left > view[1] || left + width < view[0]) return;
    canvas.save();
    canvas.beginPath();
    canvas.rect(left, 0, width, SECTIONS);
    canvas.clip();
    canvas.translate(left, 0);
    drawSection(canvas, timeline, section, i % 2 === 1, width, ink);
    canvas.restore();
  });
}

function drawSection(canvas: Canvas, timeline: Timeline, section: Section, isOdd: boolean, width: number, ink: SeamInk): void {
  canvas.fillStyle = isOdd ? ink.goldWash : ink.tealWash;
  canvas.globalAlpha = isOdd ? 0.7 : 0.55;
  canvas.fillRect(0, 0, width, SECTIONS);
  canvas.globalAlpha = 1;
  canvas.fillStyle = ink.line;
  canvas.fillRect(width - 1, 0, 1, SECTIONS);
  canvas.fillStyle = ink.gold;
  canvas.fillRect(width - 3, 0, 2, SECTIONS);
  canvas.textBaseline = 'middle';
  const label = section.label === null ? undefined : timeline.labels?.[section.label];
  const room = width > SIGNED ? drawEnding(canvas, timeline, section, width, ink) : width - 8;
  if (!label) return;
  canvas.font = `600 12px ${ink.letters}`;
  const tag = Math.max(2, Math.min(room - 2, canvas.measureText(label.name).width + 14));
  canvas.lineWidth = 1;
  canvas.beginPath();
  canvas.roundRect(2.5, 3.5, tag - 1, 19, [3, 9, 9, 3]);
  canvas.fillStyle = ink.sheet;
  canvas.fill();
  canvas.strokeStyle = ink.line;
  canvas.stroke();
  // Nothing else is drawn in this section.
  canvas.beginPath();
  canvas.rect(2, 0, tag - 6, SECTIONS);
  canvas.clip();
  canvas.fillStyle = ink.ink;
  canvas.fillText(label.name, 9, SECTIONS / 2 + 0.5);
}

/** How a section ends, in words where there is room for them; gives how much room it leaves, in CSS px. */
function drawEnding(canvas: Canvas, timeline: Timeline, section: Section, width: number, ink: SeamInk): number {
  const words = width > WIDE ? endingWords(timeline, section) : SIGNS[section.ending.do];
  const isChip = section.label !== null;
  canvas.font = `${isChip ? 13 : 11}px ${ink.letters}`;
  const needs = canvas.measureText(words).width;
  const left = width - 12 - (isChip ? 7 : 0) - needs;
  canvas.fillStyle = ink.soft;
  canvas.fillText(words, left, SECTIONS / 2 + 0.5);
  if (!isChip) return left - 8;
  canvas.setLineDash([3, 3]);
  canvas.strokeStyle = ink.line;
  canvas.lineWidth = 1;
  canvas.beginPath();
  canvas.roundRect(left - 6.5, 3, needs + 13, 20, 6);
  canvas.stroke();
  canvas.setLineDash([]);
  return left - 15;
}

/** What is pulled in words, on a tag at a place of the ruler; it stays in view. */
export function drawWords(canvas: Canvas, words: string, x: number, wide: number, ink: SeamInk): void {
  canvas.font = `600 12px ${ink.letters}`;
  canvas.textBaseline = 'middle';
  const width = canvas.measureText(words).width + 14;
  const left = Math.max(1, Math.min(x + 8, wide - width - 2));
  canvas.beginPath();
  canvas.roundRect(left, 0.5, width, 17, 4);
  canvas.fillStyle = ink.goldFill;
  canvas.fill();
  canvas.lineWidth = 1;
  canvas.strokeStyle = ink.gold;
  canvas.stroke();
  canvas.fillStyle = ink.ink;
  canvas.fillText(words, left + 7, 9.5);
}
