import { escaped, rgbOf, type Rect } from '@zany/core';
import svgpath from 'svgpath';

/**
 * What is painted on a canvas, as SVG (W3C, SVG 1.1 as far as other programs read it): the parts of a canvas with which screens are
 * painted, each mark as an element of its own. Areas and lines stay areas and lines, letters stay letters.
 */

type Matrix = readonly [a: number, b: number, c: number, d: number, e: number, f: number];

const IDENTITY: Matrix = [1, 0, 0, 1, 0, 0];

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

/** What a canvas keeps with `save`, as it begins. */
class Drawn {
  matrix: Matrix = IDENTITY;
  /** Groups that were opened for what marks are cut to. */
  groups = 0;
  globalAlpha = 1;
  fillStyle = '#000000';
  strokeStyle = '#000000';
  lineWidth = 1;
  lineCap = 'butt';
  dash: readonly number[] = [];
  shadowColor = 'transparent';
  shadowOffsetX = 0;
  shadowOffsetY = 0;
  shadowBlur = 0;
  font = '10px sans-serif';
  textAlign = 'left';
}

const KEPT = Object.keys(new Drawn()) as (keyof Drawn)[];

const round = (value: number): number => Math.round(value * 1000) / 1000;

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

/** A colour as what marks are painted with. */
function paintOf(name: 'fill' | 'stroke', written: string): Readonly<Record<string, string | number | null>> {
  const { color, alpha } = colorIn(written);
  return { [name]: color, [`${name}-opacity`]: alpha < 1 ? alpha : null };
}

export class SvgCanvas extends Drawn {
  private readonly out: string[] = [];
  private readonly definitions: string[] = [];
  private readonly links: string[] = [];
  private readonly kept: Drawn[] = [];
  private outline = '';
  textBaseline = 'alphabetic';

  constructor(
    readonly width: number,
    readonly height: number,
    /** How wide letters are. */
    private readonly measuring: Pick<OffscreenCanvasRenderingContext2D, 'font' | 'measureText'>
  ) {
    super();
  }

  /** An area, over all that is painted, that leads to an address. */
  link(name: string, href: string, { x, y, width, height }: Rect): void {
    const area = attributes({ x, y, width, height, 'fill-opacity': 0 });
    this.links.push(`<a${attributes({ href })}><title>${escaped(name)}</title><rect${area}/></a>`);
  }

  /** The whole file, with styles. */
  file(title: string, style: string): string {
    const { width, height } = this;
    return [
      `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink"${attributes({ width, height, viewBox: `0 0 ${width} ${height}` })}>`,
      `<title>${escaped(title)}</title>`,
      ...(style ? [`<style>${style}</style>`] : []),
      ...(this.definitions.length ? [`<defs>${this.definitions.join('')}</defs>`] : []),
      ...this.out,
      ...this.links,
      '</svg>\n',
    ].join('\n');
  }

  // ── what a canvas has ──────────────────────────────────────────────────────

  setLineDash(dash: readonly number[]): void {
    this.dash = dash;
  }

  save(): void {
    this.kept.push(Object.fromEntries(KEPT.map((name) => [name, this[name]])) as unknown as Drawn);
    this.groups = 0;
  }

  restore(): void {
    const before = this.kept.pop();
    if (!before) return;
    if (this.groups > 0) this.out.push('</g>'.repeat(this.groups));
    Object.assign(this, before);
  }

  setTransform(...matrix: Matrix): void {
    this.matrix = matrix;
  }

  private by([a, b, c, d, e, f]: Matrix): void {
    const [A, B, C, D, E, F] = this.matrix;
    this.matrix = [A * a + C * b, B * a + D * b, A * c + C * d, B * c + D * d, A * e + C * f + E, B * e + D * f + F];
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
    this.groups++;
  }

  fill(outline?: SvgOutline): void {
    this.mark(`<${this.shapeOf(outline)}${attributes(paintOf('fill', this.fillStyle))}${this.placed()}/>`);
  }

  stroke(outline?: SvgOutline): void {
    const { lineWidth, lineCap, dash } = this;
    const line = {
      fill: 'none',
      ...paintOf('stroke', this.strokeStyle),
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
    this.measuring.font = this.font;
    return this.measuring.measureText(words);
  }

  fillText(words: string, x: number, y: number): void {
    if (!words.trim()) return;
    const written = {
      x,
      y,
      ...paintOf('fill', this.fillStyle),
      'text-anchor': { left: null, center: 'middle', right: 'end' }[this.textAlign] ?? null,
      // Another face, where the own is missing, takes as much room.
      textLength: this.measureText(words).width,
      style: `font:${this.font};white-space:pre`,
    };
    this.mark(`<text${attributes(written)}${this.placed()}>${escaped(words)}</text>`);
  }

  drawImage({ href }: SvgPicture, x: number, y: number, width: number, height: number): void {
    const image = { x, y, width, height, preserveAspectRatio: 'none', href, 'xlink:href': href };
    this.mark(`<image${attributes(image)}${this.placed()}/>`);
  }

  // ── marks ──────────────────────────────────────────────────────────────────

  private placed(): string {
    const { matrix } = this;
    return matrix.every((value, i) => value === IDENTITY[i]) ? '' : ` transform="matrix(${matrix.map(round).join(' ')})"`;
  }

  /** The name and the place of a shape: an outline of its own, or what was begun last. */
  private shapeOf(outline: SvgOutline | undefined): string {
    return outline ? `path${attributes({ d: svgpath(outline.d).scale(outline.byX, outline.byY).round(3).toString() })}` : this.outline;
  }

  private mark(element: string): void {
    const { globalAlpha, shadowColor, shadowOffsetX, shadowOffsetY, shadowBlur } = this;
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
