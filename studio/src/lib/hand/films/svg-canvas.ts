import { rgbOf } from '@zany/core';
import svgpath from 'svgpath';

/**
 * What is painted on a canvas, as SVG (W3C, SVG 1.1 as far as other programs read it): the parts of a canvas with which screens are
 * painted, each mark as an element of its own. Areas and lines stay areas and lines, letters stay letters.
 */

type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

/** An outline for marks, stretched by two factors. */
export class SvgOutline {
  constructor(
    readonly d: string,
    readonly byX: number,
    readonly byY: number
  ) {}
}

/** A picture with the address that stands for it in the file. */
export interface SvgPicture {
  readonly width: number;
  readonly height: number;
  readonly href: string;
}

const BEGUN = {
  matrix: [1, 0, 0, 1, 0, 0] as Matrix,
  /** Groups that were opened for what marks are cut to. */
  groups: 0,
  globalAlpha: 1,
  fillStyle: '#000000',
  strokeStyle: '#000000',
  lineWidth: 1,
  lineCap: 'butt',
  dash: [] as readonly number[],
  shadowColor: 'transparent',
  shadowOffsetX: 0,
  shadowOffsetY: 0,
  shadowBlur: 0,
  font: '10px sans-serif',
  textAlign: 'left',
};

const round = (value: number): number => Math.round(value * 1000) / 1000;

const escaped = (text: string): string => text.replace(/[&<>"]/g, (sign) => `&#${sign.codePointAt(0)};`);

const attributes = (of: Readonly<Record<string, string | number | null>>): string =>
  Object.entries(of)
    .flatMap(([name, value]) => (value === null ? [] : ` ${name}="${typeof value === 'number' ? round(value) : escaped(value)}"`))
    .join('');

/** `#rrggbb`, with an alpha or not, or `rgb(r g b / a)`. */
function colorIn(color: string): { readonly color: string; readonly alpha: number } {
  const written = /^rgb\((\d+) (\d+) (\d+) \/ ([\d.]+)\)$/.exec(color);
  if (written) return { color: `rgb(${written.slice(1, 4).join(',')})`, alpha: Number(written[4]) };
  return { color: color.slice(0, 7), alpha: rgbOf(color).alpha };
}

export class SvgCanvas {
  private readonly out: string[] = [];
  private readonly definitions: string[] = [];
  private readonly kept: (typeof BEGUN)[] = [];
  private now = { ...BEGUN };
  private outline = '';
  textBaseline = 'alphabetic';

  constructor(
    readonly width: number,
    readonly height: number,
    /** How wide letters are. */
    private readonly measuring: Pick<OffscreenCanvasRenderingContext2D, 'font' | 'measureText'>
  ) {}

  /** The whole file, with styles and with more at its end. */
  file(title: string, style: string, more = ''): string {
    const { width, height } = this;
    return [
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"${attributes({ width, height, viewBox: `0 0 ${width} ${height}` })}>`,
      `<title>${escaped(title)}</title>`,
      ...(style ? [`<style>${style}</style>`] : []),
      ...(this.definitions.length ? [`<defs>${this.definitions.join('')}</defs>`] : []),
      ...this.out,
      `${more}</svg>\n`,
    ].join('\n');
  }

  // ── what a canvas has ──────────────────────────────────────────────────────

  get globalAlpha(): number {
    return this.now.globalAlpha;
  }
  set globalAlpha(value: number) {
    this.now.globalAlpha = value;
  }
  set fillStyle(value: string) {
    this.now.fillStyle = value;
  }
  set strokeStyle(value: string) {
    this.now.strokeStyle = value;
  }
  set lineWidth(value: number) {
    this.now.lineWidth = value;
  }
  set lineCap(value: string) {
    this.now.lineCap = value;
  }
  set shadowColor(value: string) {
    this.now.shadowColor = value;
  }
  set shadowOffsetX(value: number) {
    this.now.shadowOffsetX = value;
  }
  set shadowOffsetY(value: number) {
    this.now.shadowOffsetY = value;
  }
  set shadowBlur(value: number) {
    this.now.shadowBlur = value;
  }
  set font(value: string) {
    this.now.font = value;
    this.measuring.font = value;
  }
  set textAlign(value: string) {
    this.now.textAlign = value;
  }
  setLineDash(dash: readonly number[]): void {
    this.now.dash = dash;
  }

  save(): void {
    this.kept.push(this.now);
    this.now = { ...this.now, groups: 0 };
  }

  restore(): void {
    const before = this.kept.pop();
    if (!before) return;
    if (this.now.groups > 0) this.out.push('</g>'.repeat(this.now.groups));
    this.now = before;
  }

  setTransform(...matrix: Matrix): void {
    this.now.matrix = matrix;
  }

  private by([a, b, c, d, e, f]: Matrix): void {
    const [A, B, C, D, E, F] = this.now.matrix;
    this.now.matrix = [A * a + C * b, B * a + D * b, A * c + C * d, B * c + D * d, A * e + C * f + E, B * e + D * f + F];
  }

  translate(x: number, y: number): void {
    this.by([1, 0, 0, 1, x, y]);
  }
  scale(x: number, y: number): void {
    this.by([x, 0, 0, y, 0, 0]);
  }
  rotate(angle: number): void {
    const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
    this.by([cos, sin, -sin, cos, 0, 0]);
  }

  beginPath(): void {
    this.outline = '';
  }
  rect(x: number, y: number, width: number, height: number): void {
    this.outline = `rect${attributes({ x, y, width, height })}`;
  }
  roundRect(x: number, y: number, width: number, height: number, radius: number): void {
    const rx = Math.min(radius, width / 2, height / 2);
    this.outline = `rect${attributes({ x, y, width, height, rx })}`;
  }
  ellipse(cx: number, cy: number, rx: number, ry: number): void {
    this.outline = `ellipse${attributes({ cx, cy, rx, ry })}`;
  }

  clip(): void {
    const id = `cut${this.definitions.length}`;
    this.definitions.push(`<clipPath id="${id}"><${this.outline}${this.placed()}/></clipPath>`);
    this.out.push(`<g clip-path="url(#${id})">`);
    this.now.groups++;
  }

  fill(outline?: SvgOutline): void {
    const { color, alpha } = colorIn(this.now.fillStyle);
    this.mark(`<${this.shapeOf(outline)}${attributes({ fill: color, 'fill-opacity': alpha < 1 ? alpha : null })}${this.placed()}/>`);
  }

  stroke(outline?: SvgOutline): void {
    const { strokeStyle, lineWidth, lineCap, dash } = this.now;
    const { color, alpha } = colorIn(strokeStyle);
    const line = {
      fill: 'none',
      stroke: color,
      'stroke-opacity': alpha < 1 ? alpha : null,
      'stroke-width': lineWidth,
      'stroke-linecap': lineCap === 'butt' ? null : lineCap,
      'stroke-dasharray': dash.length ? dash.map(round).join(' ') : null,
    };
    this.mark(`<${this.shapeOf(outline)}${attributes(line)}${this.placed()}/>`);
  }

  fillRect(x: number, y: number, width: number, height: number): void {
    this.rect(x, y, width, height);
    this.fill();
  }

  /** Nothing was painted before. */
  clearRect(): void {}

  measureText(words: string): TextMetrics {
    return this.measuring.measureText(words);
  }

  fillText(words: string, x: number, y: number): void {
    if (!words.trim()) return;
    const { font, textAlign, fillStyle } = this.now;
    const { color, alpha } = colorIn(fillStyle);
    const written = {
      x,
      y,
      fill: color,
      'fill-opacity': alpha < 1 ? alpha : null,
      'text-anchor': { left: null, center: 'middle', right: 'end' }[textAlign] ?? null,
      // Another face, where the own is missing, takes as much room.
      textLength: this.measureText(words).width,
      style: `font:${font};white-space:pre`,
    };
    this.mark(`<text${attributes(written)}${this.placed()}>${escaped(words)}</text>`);
  }

  drawImage({ href }: SvgPicture, x: number, y: number, width: number, height: number): void {
    const image = { x, y, width, height, preserveAspectRatio: 'none', href, 'xlink:href': href };
    this.mark(`<image${attributes(image)}${this.placed()}/>`);
  }

  // ── marks ──────────────────────────────────────────────────────────────────

  private placed(): string {
    const { matrix } = this.now;
    return matrix.every((value, i) => value === BEGUN.matrix[i]) ? '' : ` transform="matrix(${matrix.map(round).join(' ')})"`;
  }

  /** The name and the place of a shape: an outline of its own, or what was begun last. */
  private shapeOf(outline: SvgOutline | undefined): string {
    return outline ? `path${attributes({ d: svgpath(outline.d).scale(outline.byX, outline.byY).round(3).toString() })}` : this.outline;
  }

  private mark(element: string): void {
    const { globalAlpha, shadowColor, shadowOffsetX, shadowOffsetY, shadowBlur } = this.now;
    const opacity = attributes({ opacity: globalAlpha < 1 ? globalAlpha : null });
    if (shadowColor === 'transparent') return void this.out.push(opacity ? `<g${opacity}>${element}</g>` : element);
    const id = `shadow${this.definitions.length}`;
    const { color, alpha } = colorIn(shadowColor);
    const { width, height } = this;
    const region = { filterUnits: 'userSpaceOnUse', x: -width, y: -height, width: 3 * width, height: 3 * height };
    const cast = { dx: shadowOffsetX, dy: shadowOffsetY, stdDeviation: shadowBlur / 2, 'flood-color': color, 'flood-opacity': alpha };
    this.definitions.push(`<filter id="${id}"${attributes(region)} color-interpolation-filters="sRGB"><feDropShadow${attributes(cast)}/></filter>`);
    this.out.push(`<g${opacity} filter="url(#${id})">${element}</g>`);
  }
}
