import type { LayerType, PageLink, Rect, Style } from '@zany/core';
import { outlineOf, round } from './svg-outline';
import { motionsOf, type Motion, type Motions } from './svg-motion';
import { hrefOf, movingOf, withDrawing } from './svg-read';

/** One shape of an SVG file as a layer will be: its box in the drawing, and how it is painted. CSS pixels of the drawing. */
export interface Shape {
  readonly name: string;
  readonly type: Extract<LayerType, 'box' | 'oval' | 'path' | 'text' | 'picture'>;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly style: Style;
  /** SVG path data in a box of 100 by 100. */
  readonly path?: string;
  readonly text?: string;
  readonly size?: number;
  /** How it moves by itself, in CSS px of the drawing. */
  readonly motions?: readonly Motion[];
  /** A drawing of this shape alone, where no layer can be painted as it is: with a gradient, a mask, dashes. */
  readonly svg?: string;
}

export interface Drawing {
  readonly width: number;
  readonly height: number;
  readonly shapes: readonly Shape[];
  readonly links: readonly PageLink[];
  /** What did not come in, in words. */
  readonly left: readonly string[];
}

const MOST_SHAPES = 500;

/**
 * Reads the shapes of an SVG drawing. The browser lays them out, so transforms and inherited paint are taken in; outlines other than
 * boxes and ovals become paths, and what no layer can be painted as becomes a picture of itself.
 */
export const shapesOf = (svg: string): Drawing | null => withDrawing(svg, measured);

/** Where an SVG drawing leads elsewhere. */
export const linksOf = (svg: string): readonly PageLink[] => withDrawing(svg, (drawing) => linksIn(drawing, sizeOf(drawing))) ?? [];

interface Size {
  readonly width: number;
  readonly height: number;
  /** Where its view begins. */
  readonly x: number;
  readonly y: number;
}

/** How large a drawing is, and gives it that size on screen. */
function sizeOf(drawing: SVGSVGElement): Size {
  const view = drawing.viewBox.baseVal;
  const width = view?.width || drawing.width.baseVal.value || 300;
  const height = view?.height || drawing.height.baseVal.value || 150;
  drawing.setAttribute('width', String(width));
  drawing.setAttribute('height', String(height));
  return { width, height, x: view?.x ?? 0, y: view?.y ?? 0 };
}

function linksIn(drawing: SVGSVGElement, { width, height, x: left, y: top }: Size): PageLink[] {
  const corner = drawing.getScreenCTM()!.inverse();
  return [...drawing.querySelectorAll<SVGAElement>('a')].flatMap((node): PageLink[] => {
    const href = hrefOf(node);
    if (node.closest(HIDDEN) || href === '') return [];
    const box = placeOf(node, corner.multiply(node.getScreenCTM()!));
    const from = { x: Math.max(0, (box.x - left) / width), y: Math.max(0, (box.y - top) / height) };
    const to = { x: Math.min(1, (box.x + box.width - left) / width), y: Math.min(1, (box.y + box.height - top) / height) };
    if (!(to.x > from.x && to.y > from.y)) return [];
    const title = node.querySelector(':scope > title')?.textContent;
    const name = [node.getAttribute('aria-label'), title, node.id, node.textContent, href]
      .map((text) => text?.replace(/\s+/g, ' ').trim())
      .find(Boolean)!;
    const area = { ...from, width: to.x - from.x, height: to.y - from.y };
    return [{ name: name.slice(0, 60), area, to: /^[a-z][a-z0-9+.-]*:/i.test(href) ? { address: href } : { file: href } }];
  });
}

function measured(drawing: SVGSVGElement): Drawing {
  const size = sizeOf(drawing);
  const { width, height } = size;
  const left: string[] = [];
  const shapes: Shape[] = [];
  const corner = drawing.getScreenCTM()!.inverse();
  for (const node of drawing.querySelectorAll<SVGGraphicsElement>(SHAPES)) {
    if (node.closest(HIDDEN)) continue;
    if (shapes.length >= MOST_SHAPES) {
      left.push(`more than ${MOST_SHAPES} shapes`);
      break;
    }
    const matrix = corner.multiply(node.getScreenCTM()!);
    const shape = shapeOf(drawing, node, matrix);
    if (!shape) continue;
    const placed = { ...shape, x: round(shape.x - size.x), y: round(shape.y - size.y) };
    const moved = motionsIn(node, placed, matrix);
    shapes.push({ ...placed, ...(moved.motions.length && { motions: moved.motions }) });
    left.push(...moved.left.map((what) => `${shape.name}’s motion (${what})`));
  }
  return { width, height, shapes, links: linksIn(drawing, size), left };
}

/** How a shape moves by itself, where it stands upright: its own, not what groups around it do. */
function motionsIn(node: SVGGraphicsElement, { x, y, width, height }: Shape, matrix: DOMMatrix): Motions {
  const written = movingOf(node);
  const isUpright = Math.abs(matrix.b) < 1e-6 && Math.abs(matrix.c) < 1e-6 && matrix.a > 0 && matrix.d > 0;
  if (written.length === 0) return { motions: [], left: [] };
  if (!isUpright) return { motions: [], left: ['it is turned'] };
  const attributes = Object.fromEntries([...node.attributes].map(({ name, value }) => [name, value] as const));
  return motionsOf(written, { attributes, x, y, width, height, byX: matrix.a, byY: matrix.d });
}

const SHAPES = 'rect, circle, ellipse, path, polygon, polyline, line, text, image';
/** What is drawn only where it is referred to. */
const HIDDEN = 'defs, clipPath, mask, symbol, pattern, marker';

/** The upright box around a shape, in the drawing's own space. */
function placeOf(node: SVGGraphicsElement, matrix: DOMMatrix, grow = 0): Rect {
  const box = node.getBBox();
  const [left, top, right, bottom] = [box.x - grow, box.y - grow, box.x + box.width + grow, box.y + box.height + grow];
  const corners = [
    [left, top],
    [right, top],
    [left, bottom],
    [right, bottom],
  ].map(([x, y]) => new DOMPoint(x, y).matrixTransform(matrix));
  const [x, y] = [Math.min(...corners.map((point) => point.x)), Math.min(...corners.map((point) => point.y))];
  return { x, y, width: Math.max(...corners.map((point) => point.x)) - x, height: Math.max(...corners.map((point) => point.y)) - y };
}

function shapeOf(drawing: SVGSVGElement, node: SVGGraphicsElement, matrix: DOMMatrix): Shape | null {
  const { x, y, width, height } = placeOf(node, matrix);
  if (width < 0.5 && height < 0.5) return null;
  const name = (node.getAttribute('aria-label') ?? node.id) || nameOf[node.nodeName] || 'Shape';
  if (isBeyondLayers(node) || node instanceof SVGImageElement) return { name, type: 'picture', ...cutOut(drawing, node, matrix), style: {} };
  const place = { x, y, width: Math.max(1, round(width)), height: Math.max(1, round(height)) };
  const style = paintOf(node);
  const straight = Math.abs(matrix.b) < 1e-6 && Math.abs(matrix.c) < 1e-6;
  if (node instanceof SVGTextElement) {
    const { fill, opacity } = style;
    return {
      name,
      type: 'text',
      ...place,
      style: { ...(fill && { ink: fill }), ...(opacity !== undefined && { opacity }) },
      text: node.textContent ?? '',
      size: letterSizeOf(node, matrix),
    };
  }
  if (straight && node instanceof SVGRectElement)
    return { name, type: 'box', ...place, style: { ...style, ...(node.rx.baseVal.value && { corner: round(node.rx.baseVal.value * matrix.a) }) } };
  if (straight && (node instanceof SVGCircleElement || node instanceof SVGEllipseElement)) return { name, type: 'oval', ...place, style };
  return node instanceof SVGGeometryElement ? { name, type: 'path', ...place, style, path: outlineOf(node, matrix, place) } : null;
}

/** Whether it is painted as no layer can be: with a gradient or pattern, masked, clipped, blurred, dashed, or with holes. */
function isBeyondLayers(node: SVGGraphicsElement): boolean {
  const { fill, stroke, strokeDasharray, fillRule } = getComputedStyle(node);
  if (fill.startsWith('url(') || stroke.startsWith('url(') || (stroke !== 'none' && strokeDasharray !== 'none')) return true;
  if (fillRule === 'evenodd' && node.nodeName === 'path') return true;
  return withAround(node).some((around) => {
    const { clipPath, mask, filter, mixBlendMode } = getComputedStyle(around);
    return clipPath !== 'none' || (mask !== 'none' && mask.includes('url(')) || filter !== 'none' || mixBlendMode !== 'normal';
  });
}

/** A node and the groups around it, up to the drawing. */
function withAround(node: Element): Element[] {
  const found: Element[] = [];
  for (let at: Element | null = node; at instanceof SVGElement && at.ownerSVGElement; at = at.parentElement) found.push(at);
  return found;
}

/** The drawing with nothing but one shape in it, cut to the box of that. */
function cutOut(drawing: SVGSVGElement, node: SVGGraphicsElement, matrix: DOMMatrix): Rect & { svg: string } {
  const isBlurred = withAround(node).some((around) => getComputedStyle(around).filter !== 'none');
  const { width, height } = node.getBBox();
  const line = getComputedStyle(node).stroke === 'none' ? 0 : parseFloat(getComputedStyle(node).strokeWidth) || 0;
  const place = placeOf(node, matrix, line / 2 + (isBlurred ? Math.max(width, height) * 0.15 : 0));
  node.setAttribute('data-kept', '');
  const copy = drawing.cloneNode(true) as SVGSVGElement;
  node.removeAttribute('data-kept');
  for (const other of copy.querySelectorAll(SHAPES)) if (!other.hasAttribute('data-kept') && !other.closest(HIDDEN)) other.remove();
  copy.querySelector('[data-kept]')?.removeAttribute('data-kept');
  const size = { width: Math.max(1, round(place.width)), height: Math.max(1, round(place.height)) };
  copy.setAttribute('viewBox', `${round(place.x)} ${round(place.y)} ${size.width} ${size.height}`);
  copy.setAttribute('width', String(size.width));
  copy.setAttribute('height', String(size.height));
  return { x: place.x, y: place.y, ...size, svg: new XMLSerializer().serializeToString(copy) };
}

const nameOf: Record<string, string> = { image: 'Picture', rect: 'Box', circle: 'Oval', ellipse: 'Oval', text: 'Text', line: 'Line' };

const letterSizeOf = (node: SVGTextElement, matrix: DOMMatrix): number =>
  Math.max(1, round(parseFloat(getComputedStyle(node).fontSize) * Math.hypot(matrix.a, matrix.b)));

function paintOf(node: SVGElement): Style {
  const { fill, stroke, strokeWidth, fillOpacity, strokeOpacity } = getComputedStyle(node);
  const opacity = withAround(node).reduce((product, around) => product * Number(getComputedStyle(around).opacity), 1);
  const colorOf = (paint: string, alpha: string): string | undefined => {
    const found = /rgba?\((\d+), (\d+), (\d+)(?:, ([\d.]+))?\)/.exec(paint);
    if (!found) return undefined;
    const share = Number(found[4] ?? 1) * Number(alpha);
    const hex = [found[1], found[2], found[3], ...(share < 1 ? [Math.round(share * 255)] : [])].map((part) =>
      Number(part).toString(16).padStart(2, '0')
    );
    return `#${hex.join('')}`;
  };
  const filled = colorOf(fill, fillOpacity);
  const lined = colorOf(stroke, strokeOpacity);
  return {
    ...(filled && { fill: filled }),
    ...(lined && { line: { color: lined, width: Math.max(0.5, Math.min(200, parseFloat(strokeWidth) || 1)) } }),
    ...(opacity < 1 && { opacity: round(opacity) }),
  };
}
