import type { Rect } from '@zany/core';
import svgpath from 'svgpath';

/** Outlines of the shapes of a drawing as path data in a box of 100 by 100. */

/** As much as a path of a layer may be. */
const MOST = 19_000;
const POINTS = 200;

/** The outline of a shape under a transform; curves stay curves, unless there are more of them than a layer can hold. */
export function outlineOf(node: SVGGeometryElement, matrix: DOMMatrix, box: Rect): string {
  const { a, b, c, d, e, f } = matrix;
  const exact = svgpath(dataOf(node))
    .abs()
    .matrix([a, b, c, d, e, f])
    .translate(-box.x, -box.y)
    .scale(100 / box.width, 100 / box.height)
    .round(2)
    .toString();
  return exact.length <= MOST && /^M/.test(exact) ? exact : sampled(node, matrix, box);
}

/** What a shape is drawn as, in its own space. */
function dataOf(node: SVGGeometryElement): string {
  if (node instanceof SVGLineElement) return `M${node.x1.baseVal.value} ${node.y1.baseVal.value}L${node.x2.baseVal.value} ${node.y2.baseVal.value}`;
  if (node instanceof SVGPolygonElement) return `M${pointsOf(node.points)}Z`;
  if (node instanceof SVGPolylineElement) return `M${pointsOf(node.points)}`;
  if (node instanceof SVGRectElement)
    return rectData(node.x.baseVal.value, node.y.baseVal.value, node.width.baseVal.value, node.height.baseVal.value);
  if (node instanceof SVGCircleElement) return ellipseData(node.cx.baseVal.value, node.cy.baseVal.value, node.r.baseVal.value, node.r.baseVal.value);
  if (node instanceof SVGEllipseElement)
    return ellipseData(node.cx.baseVal.value, node.cy.baseVal.value, node.rx.baseVal.value, node.ry.baseVal.value);
  return node.getAttribute('d') ?? '';
}

const pointsOf = (points: SVGPointList): string => Array.from(points, ({ x, y }) => `${x} ${y}`).join('L');

const rectData = (x: number, y: number, width: number, height: number): string => `M${x} ${y}h${width}v${height}h${-width}Z`;

const ellipseData = (x: number, y: number, rx: number, ry: number): string =>
  `M${x - rx} ${y}A${rx} ${ry} 0 0 1 ${x + rx} ${y}A${rx} ${ry} 0 0 1 ${x - rx} ${y}Z`;

/** To a hundredth. */
export const round = (n: number) => Math.round(n * 100) / 100;

/** Points along an outline; closed where the shape is filled. */
function sampled(node: SVGGeometryElement, matrix: DOMMatrix, { x, y, width, height }: Rect): string {
  const length = node.getTotalLength();
  const closed = node.nodeName !== 'line' && node.nodeName !== 'polyline' && getComputedStyle(node).fill !== 'none';
  const points = Array.from({ length: POINTS }, (_, i) => {
    const point = node.getPointAtLength((length * i) / (closed ? POINTS : POINTS - 1));
    const at = new DOMPoint(point.x, point.y).matrixTransform(matrix);
    return `${round(((at.x - x) / width) * 100)} ${round(((at.y - y) / height) * 100)}`;
  });
  return `M${points.join(' L')}${closed ? ' Z' : ''}`;
}
