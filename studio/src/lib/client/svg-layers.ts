import type { LayerType, Style } from '@zany/core';

/** One shape of an SVG file as a layer will be: its box in the drawing, and how it is painted. CSS pixels of the drawing. */
export interface Shape {
  readonly name: string;
  readonly type: Extract<LayerType, 'box' | 'oval' | 'path' | 'text'>;
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly style: Style;
  /** SVG path data in a box of 100 by 100. */
  readonly path?: string;
  readonly text?: string;
  readonly size?: number;
}

export interface Drawing {
  readonly width: number;
  readonly height: number;
  readonly shapes: readonly Shape[];
  /** What layers cannot say, such as a gradient, in words. */
  readonly left: readonly string[];
}

const MOST_SHAPES = 500;
const POINTS = 120;

/**
 * Reads the shapes of an SVG drawing. The browser lays them out, so transforms and inherited paint are taken in; outlines other than
 * boxes, ovals and texts become paths of points. Nothing of the file is shown or run: it is parsed apart and only measured.
 */
export function shapesOf(svg: string): Drawing | null {
  const parsed = new DOMParser().parseFromString(svg, 'image/svg+xml');
  const root = parsed.documentElement;
  if (root.nodeName !== 'svg') return null;
  for (const bad of root.querySelectorAll('script, foreignObject, image, use, animate, set, a, style')) bad.remove();
  for (const node of [root, ...root.querySelectorAll('*')])
    for (const { name, value } of [...node.attributes]) if (/^on/i.test(name) || /url\(\s*['"]?(?!#)/i.test(value)) node.removeAttribute(name);
  const holder = document.createElement('div');
  holder.style.cssText = 'position:fixed;left:-20000px;top:0;visibility:hidden';
  const drawing = document.importNode(root, true) as unknown as SVGSVGElement;
  holder.append(drawing);
  document.body.append(holder);
  try {
    return measured(drawing);
  } finally {
    holder.remove();
  }
}

function measured(drawing: SVGSVGElement): Drawing {
  const view = drawing.viewBox.baseVal;
  const width = view?.width || drawing.width.baseVal.value || 300;
  const height = view?.height || drawing.height.baseVal.value || 150;
  drawing.setAttribute('width', String(width));
  drawing.setAttribute('height', String(height));
  const left = new Set<string>();
  const shapes: Shape[] = [];
  const corner = drawing.getScreenCTM()!.inverse();
  for (const node of drawing.querySelectorAll<SVGGraphicsElement>('rect, circle, ellipse, path, polygon, polyline, line, text')) {
    if (node.closest('defs, clipPath, mask, symbol, pattern, marker')) continue;
    if (shapes.length >= MOST_SHAPES) {
      left.add(`more than ${MOST_SHAPES} shapes`);
      break;
    }
    const shape = shapeOf(node, corner.multiply(node.getScreenCTM()!), left);
    if (shape) shapes.push(shape);
  }
  return { width, height, shapes, left: [...left] };
}

function shapeOf(node: SVGGraphicsElement, matrix: DOMMatrix, left: Set<string>): Shape | null {
  const box = node.getBBox();
  const corners = [
    [box.x, box.y],
    [box.x + box.width, box.y],
    [box.x, box.y + box.height],
    [box.x + box.width, box.y + box.height],
  ].map(([x, y]) => new DOMPoint(x, y).matrixTransform(matrix));
  const [x, y] = [Math.min(...corners.map((point) => point.x)), Math.min(...corners.map((point) => point.y))];
  const width = Math.max(...corners.map((point) => point.x)) - x;
  const height = Math.max(...corners.map((point) => point.y)) - y;
  if (width < 0.5 && height < 0.5) return null;
  const place = { x: round(x), y: round(y), width: Math.max(1, round(width)), height: Math.max(1, round(height)) };
  const style = paintOf(node, left);
  const name = (node.getAttribute('aria-label') ?? node.id) || nameOf[node.nodeName] || 'Shape';
  const straight = Math.abs(matrix.b) < 1e-6 && Math.abs(matrix.c) < 1e-6;
  if (node instanceof SVGTextElement)
    return {
      name,
      type: 'text',
      ...place,
      style: { ...(style.fill && { ink: style.fill }) },
      text: node.textContent ?? '',
      size: sizeOf(node, matrix),
    };
  if (straight && node instanceof SVGRectElement)
    return { name, type: 'box', ...place, style: { ...style, ...(node.rx.baseVal.value && { corner: round(node.rx.baseVal.value * matrix.a) }) } };
  if (straight && (node instanceof SVGCircleElement || node instanceof SVGEllipseElement)) return { name, type: 'oval', ...place, style };
  return node instanceof SVGGeometryElement ? { name, type: 'path', ...place, style, path: outline(node, matrix, place) } : null;
}

const nameOf: Record<string, string> = { rect: 'Box', circle: 'Oval', ellipse: 'Oval', text: 'Text', line: 'Line' };

const round = (n: number) => Math.round(n * 100) / 100;

const sizeOf = (node: SVGTextElement, matrix: DOMMatrix): number =>
  Math.max(1, round(parseFloat(getComputedStyle(node).fontSize) * Math.hypot(matrix.a, matrix.b)));

/** Points along an outline, in a box of 100 by 100; closed where the shape is filled. */
function outline(
  node: SVGGeometryElement,
  matrix: DOMMatrix,
  { x, y, width, height }: { x: number; y: number; width: number; height: number }
): string {
  const length = node.getTotalLength();
  const closed = node.nodeName !== 'line' && node.nodeName !== 'polyline' && getComputedStyle(node).fill !== 'none';
  const points = Array.from({ length: POINTS }, (_, i) => {
    const point = node.getPointAtLength((length * i) / (closed ? POINTS : POINTS - 1));
    const at = new DOMPoint(point.x, point.y).matrixTransform(matrix);
    return `${round(((at.x - x) / width) * 100)} ${round(((at.y - y) / height) * 100)}`;
  });
  return `M${points.join(' L')}${closed ? ' Z' : ''}`;
}

function paintOf(node: SVGElement, left: Set<string>): Style {
  const { fill, stroke, strokeWidth, opacity, fillOpacity, strokeOpacity } = getComputedStyle(node);
  const colorOf = (paint: string, alpha: string): string | undefined => {
    if (paint.startsWith('url(')) left.add('gradients and patterns');
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
    ...(Number(opacity) < 1 && { opacity: Number(opacity) }),
  };
}
