import { stillScreen, type Program } from '@zany/core';
import { paintWhole } from '$lib/shared/thumb-paint';
import { Context } from 'svgcanvas';
import { draw, type Drawn, type Seen } from './paint';
import type { Box } from './routes';

/** The whole map on paper: as SVG, drawn by the same hand as on the screen. */

/** So wide a usual frame is on paper, CSS px. */
const FRAME = 150;

/** Around everything, CSS px. */
const MARGIN = 24;

/** Pixels of a picture for one CSS px of paper. */
const SHARPNESS = 1.5;

export interface Printed {
  readonly program: Program;
  readonly title: string;
  readonly drawn: Drawn;
  /** All that is on the map, in its own measure. */
  readonly whole: Box;
  /** How much smaller each frame stands on the map than it is. */
  readonly scaleOf: (frame: string) => number;
  readonly assetUrl: (asset: string) => string;
}

/** How the whole map is drawn so that frames can be read. */
export function seenWhole(boxes: readonly Box[], whole: Box): Seen {
  const widths = boxes.map(({ width }) => width).sort((a, b) => a - b);
  const scale = Math.min(1.4, FRAME / (widths[Math.floor(widths.length / 2)] ?? FRAME));
  return {
    view: { x: MARGIN - whole.x * scale, y: MARGIN - whole.y * scale, scale },
    width: Math.ceil(whole.width * scale + 2 * MARGIN),
    height: Math.ceil(whole.height * scale + 2 * MARGIN),
    sharpness: 1,
    isMoving: false,
  };
}

/** The whole map as an SVG document with the pictures of its frames in it. */
export async function mapAsSvg({ program, title, drawn, whole, scaleOf, assetUrl }: Printed): Promise<string> {
  const boxes = drawn.sheets.map(({ box }) => box);
  const seen = seenWhole(boxes, whole);
  const pictures = new Map<string, HTMLCanvasElement>();
  for (const { id } of drawn.sheets) {
    const screen = stillScreen(program, id);
    const picture = screen && (await paintWhole({ screen, assetUrl, scale: seen.view.scale * scaleOf(id) * SHARPNESS }));
    if (picture) pictures.set(id, onPage(picture));
  }
  const context = new Context(seen.width, seen.height);
  const nothing = { lit: [], drawn: null, hovered: null, target: null };
  draw(context as unknown as OffscreenCanvasRenderingContext2D, seen, drawn, nothing, (frame) => (pictures.get(frame) ?? null) as ImageBitmap | null);
  const svg: SVGElement = context.getSvg();
  svg.setAttribute('viewBox', `0 0 ${seen.width} ${seen.height}`);
  const [named, ground] = ['title', 'rect'].map((tag) => document.createElementNS(svg.namespaceURI, tag)) as [Element, Element];
  named.textContent = title;
  for (const [name, value] of [
    ['width', '100%'],
    ['height', '100%'],
    ['fill', drawn.inks.paper],
  ] as const)
    ground.setAttribute(name, value);
  svg.prepend(named, ground);
  return new XMLSerializer().serializeToString(svg);
}

function onPage(picture: OffscreenCanvas): HTMLCanvasElement {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [picture.width, picture.height];
  canvas.getContext('2d')!.drawImage(picture, 0, 0);
  return canvas;
}

/** Hands a document to the browser's printing, which also keeps it as PDF: one page as large as it is. */
export function printSvg(svg: string, title: string): void {
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;width:0;height:0;border:0';
  frame.title = title;
  const [width, height] = ['width', 'height'].map((name) => new RegExp(`^<svg[^>]* ${name}="([\\d.]+)`).exec(svg)?.[1] ?? '1000');
  const style = `@page { size: ${width}px ${height}px; margin: 0 } body { margin: 0 } svg { display: block }`;
  frame.srcdoc = `<!doctype html><title></title><style>${style}</style>${svg}`;
  frame.onload = () => {
    const page = frame.contentWindow!;
    page.document.title = title;
    page.onafterprint = () => frame.remove();
    page.print();
  };
  document.body.append(frame);
}
