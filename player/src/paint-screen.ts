import {
  countedText,
  DEFAULT_INK,
  outlinesOf,
  typedPart,
  atRest,
  pictureAt,
  placeOfLetters,
  settledValues,
  type Picture as Moment,
  type Pictured,
  type Screen,
  type Shown,
  type Values,
  isOutlined,
  layerKind,
} from '@zany/core/engine';
import { dashOf, fieldWords, fontOf } from './appearance.ts';
import { linesOf } from './text-lines.ts';

/**
 * A screen as a picture, for where many are on show and nobody presses in them. It says the same as the elements of
 * `ScreenView`, except that layers in a see-through group are each see-through by themselves, and outlines that are faded into each
 * other let through what is behind where both are.
 */

type Canvas = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;
type Picture = CanvasImageSource & { readonly width: number; readonly height: number };

export interface PaintOptions {
  /** Pixels of the canvas for one CSS pixel of the screen. */
  readonly scale: number;
  /** A picture file, or the beginning of a film; null while it is on its way. */
  readonly picture: (asset: string, kind: 'picture' | 'video') => Picture | null;
  /** An outline with its width and its height by two factors, as the canvas takes it, where that is no canvas of a browser. */
  readonly outline?: (data: string, byX: number, byY: number) => Path2D;
  /** Another canvas of a size in pixels, where that is none of a browser. */
  readonly another?: (width: number, height: number) => OffscreenCanvas;
}

function browserOutline(data: string, byX: number, byY: number): Path2D {
  const path = new Path2D();
  path.addPath(new Path2D(data), new DOMMatrix([byX, 0, 0, byY, 0, 0]));
  return path;
}

const browserCanvas = (width: number, height: number): OffscreenCanvas => new OffscreenCanvas(width, height);

interface Painting extends PaintOptions {
  readonly canvas: Canvas;
  /** Fonts that the texts are set in. */
  readonly fonts: Set<string>;
  /** Of layers that are under way. */
  readonly values: Moment['values'];
  readonly ghosts?: Pictured['ghosts'];
}

/** Paints a screen with its corner at the corner of the canvas; gives the fonts of its texts, as the canvas writes them. */
export const paintScreen = (canvas: Canvas, screen: Screen, options: PaintOptions): ReadonlySet<string> =>
  paintMoment(canvas, pictureAt(atRest(screen), 0), options);

/** The same of a screen at a moment at which much may be under way. */
export function paintMoment(canvas: Canvas, moment: Moment, options: PaintOptions): ReadonlySet<string> {
  const painting: Painting = { ...options, canvas, fonts: new Set(), values: moment.values };
  const { scale } = options;
  canvas.setTransform(scale, 0, 0, scale, 0, 0);
  canvas.clearRect(0, 0, moment.width, moment.height);
  for (const pictured of moment.scenes) paintScene(painting, moment, pictured);
  return painting.fonts;
}

function paintScene(painting: Painting, { width, height }: Moment, pictured: Pictured): void {
  const { canvas } = painting;
  const { surface, x, y, opacity, cut } = pictured;
  if (surface.scrim !== null) {
    canvas.fillStyle = `rgb(0 0 0 / ${surface.scrim * opacity})`;
    canvas.fillRect(0, 0, width, height);
  }
  if (opacity <= 0) return;
  const at = [x + cut[0], y + cut[1], surface.width - cut[0] - cut[2], surface.height - cut[1] - cut[3]] as const;
  if (opacity < 1) return paintThrough(painting, pictured, opacity, at);
  canvas.save();
  canvas.beginPath();
  canvas.rect(...at);
  canvas.clip();
  canvas.translate(x, y);
  paintInScene(painting, pictured);
  canvas.restore();
}

/** A scene that is see-through as a whole: painted by itself first. */
function paintThrough(painting: Painting, pictured: Pictured, opacity: number, at: readonly [number, number, number, number]): void {
  const { canvas, scale, another = browserCanvas } = painting;
  const own = another(Math.max(1, canvas.canvas.width), Math.max(1, canvas.canvas.height));
  const context = own.getContext('2d')!;
  context.setTransform(scale, 0, 0, scale, 0, 0);
  paintScene({ ...painting, canvas: context }, { width: 0, height: 0, scenes: [], values: painting.values }, { ...pictured, opacity: 1 });
  canvas.save();
  canvas.setTransform(1, 0, 0, 1, 0, 0);
  canvas.beginPath();
  canvas.rect(...(at.map((side) => side * scale) as [number, number, number, number]));
  canvas.clip();
  canvas.globalAlpha *= opacity;
  canvas.drawImage(own, 0, 0);
  canvas.restore();
}

function paintInScene(painting: Painting, { surface, background, scroll, ghosts }: Pictured): void {
  const { canvas } = painting;
  if (background) {
    canvas.fillStyle = background;
    canvas.fillRect(0, 0, surface.width, surface.height);
  }
  for (const one of fromTheBack(entriesOf(surface.tops, ghosts, ''))) {
    const pin = one.shown.node.layer.pin ?? [];
    const dx = pin.includes('left') || pin.includes('right') ? 0 : scroll.x;
    const dy = pin.includes('top') || pin.includes('bottom') ? 0 : scroll.y;
    paintLayer({ ...painting, ghosts }, one, -dx, -dy);
  }
}

/** A layer that is painted; with values where it is not as it will be. */
interface Entry {
  readonly shown: Shown;
  readonly values?: Values;
}

/** The layers in something, with those that fade away in it. */
function entriesOf(list: readonly Shown[], ghosts: Pictured['ghosts'], parent: string): readonly Entry[] {
  const gone = ghosts.get(parent) ?? [];
  const keys = new Set(gone.length ? list.map(({ node }) => node.key) : []);
  return [...list.map((shown) => ({ shown })), ...gone.filter(({ shown }) => !keys.has(shown.node.key))];
}

const NO_GHOSTS: Pictured['ghosts'] = new Map();

const fromTheBack = (list: readonly Entry[]): readonly Entry[] =>
  list.length > 1 ? [...list].sort((a, b) => a.shown.node.at - b.shown.node.at) : list;

function paintLayer(painting: Painting, { shown, values: own }: Entry, dx: number, dy: number): void {
  const { canvas } = painting;
  const values = own ?? painting.values.get(shown.node.key) ?? settledValues(shown);
  if (values.opacity <= 0 || values.width <= 0 || values.height <= 0) return;
  canvas.save();
  canvas.translate(values.x + dx, values.y + dy);
  turn(canvas, shown, values);
  canvas.globalAlpha *= values.opacity;
  paintShape(painting, shown, values);
  paintContent(painting, shown, values);
  // In what fades away itself nothing else does.
  const ghosts = own ? NO_GHOSTS : (painting.ghosts ?? NO_GHOSTS);
  const inside = entriesOf(shown.children, ghosts, shown.node.key);
  if (inside.length) paintInside(painting, shown, values, inside);
  canvas.restore();
}

function turn(canvas: Canvas, { anchor }: Shown, { rotation, scale, width, height }: Values): void {
  if (rotation === 0 && scale === 1) return;
  const [x, y] = [anchor.x * width, anchor.y * height];
  canvas.translate(x, y);
  canvas.rotate((rotation * Math.PI) / 180);
  canvas.scale(scale, scale);
  canvas.translate(-x, -y);
}

function paintInside(painting: Painting, shown: Shown, values: Values, entries: readonly Entry[]): void {
  const { canvas } = painting;
  const { layer, inside } = shown.node;
  canvas.save();
  if (layer.clip || layer.scroll) clipTo(canvas, values.width, values.height, radiusOf(shown, values));
  if (inside) canvas.scale(values.width / inside.scene.scene.width, values.height / inside.scene.scene.height);
  else canvas.translate(-values.scrollX, -values.scrollY);
  for (const one of fromTheBack(entries)) paintLayer(painting, one, 0, 0);
  canvas.restore();
}

const isDrawn = (shown: Shown) => isOutlined(shown.node.layer);

const radiusOf = ({ node }: Shown, { corner, width, height }: Values): number =>
  layerKind(node.layer).isRound ? Infinity : Math.min(corner, width / 2, height / 2);

function outline(canvas: Canvas, width: number, height: number, radius: number, inset = 0): void {
  canvas.beginPath();
  const [w, h] = [Math.max(0, width - 2 * inset), Math.max(0, height - 2 * inset)];
  if (radius === Infinity) canvas.ellipse(width / 2, height / 2, w / 2, h / 2, 0, 0, 2 * Math.PI);
  else if (radius > inset) canvas.roundRect(inset, inset, w, h, radius - inset);
  else canvas.rect(inset, inset, w, h);
}

function clipTo(canvas: Canvas, width: number, height: number, radius: number): void {
  outline(canvas, width, height, radius);
  canvas.clip();
}

/** The fill, the line around it, and the shadow. */
function paintShape(painting: Painting, shown: Shown, values: Values): void {
  const { canvas } = painting;
  if (isDrawn(shown)) return;
  const radius = radiusOf(shown, values);
  if (values.fill && layerKind(shown.node.layer).draws !== 'nothing') {
    outline(canvas, values.width, values.height, radius);
    canvas.fillStyle = values.fill;
    withShadow(painting, values, () => canvas.fill());
  }
  if (values.lineColor && values.lineWidth > 0) {
    outline(canvas, values.width, values.height, radius, values.lineWidth / 2);
    canvas.strokeStyle = values.lineColor;
    canvas.lineWidth = values.lineWidth;
    canvas.stroke();
  }
}

function withShadow({ canvas, scale }: Painting, values: Values, paint: () => void): void {
  if (!values.shadowColor) return paint();
  canvas.shadowColor = values.shadowColor;
  // Shadows of a canvas take no part in its transforms.
  canvas.shadowOffsetX = values.shadowX * scale;
  canvas.shadowOffsetY = values.shadowY * scale;
  canvas.shadowBlur = values.shadowBlur * scale;
  paint();
  canvas.shadowColor = 'transparent';
}

function paintContent(painting: Painting, shown: Shown, values: Values): void {
  switch (layerKind(shown.node.layer).draws) {
    case 'picture':
    case 'film':
      return paintPicture(painting, shown, values);
    case 'outline':
      return paintPath(painting, shown, values);
    case 'field':
      return paintText(painting, shown, values, fieldWords(shown));
    case 'layers':
    case 'sound':
      return;
    default:
      if (shown.text) paintText(painting, shown, values, countedText(shown.text, values.counted));
  }
}

const MIDDLE = { x: 0.5, y: 0.5 };

function paintPicture({ canvas, picture }: Painting, shown: Shown, values: Values): void {
  const isFilm = layerKind(shown.node.layer).draws === 'film';
  const image = shown.asset === undefined ? null : picture(shown.asset, isFilm ? 'video' : 'picture');
  if (!image?.width || !image.height) return;
  const { fit = isFilm ? 'contain' : 'fill', crop: place = MIDDLE } = shown.node.layer;
  const { width, height } = values;
  const by = fit === 'contain' ? Math.min(width / image.width, height / image.height) : Math.max(width / image.width, height / image.height);
  const [w, h] = fit === 'fill' ? [width, height] : [image.width * by, image.height * by];
  canvas.save();
  clipTo(canvas, width, height, radiusOf(shown, values));
  canvas.drawImage(image, (width - w) * place.x, (height - h) * place.y, w, h);
  canvas.restore();
}

function paintPath(painting: Painting, shown: Shown, values: Values): void {
  const { canvas } = painting;
  const { outline: own = '', stroke } = layerKind(shown.node.layer);
  for (const { outline, share } of outlinesOf(values.path ?? own)) {
    canvas.save();
    canvas.globalAlpha *= share;
    paintOutline(painting, stroke, values, outline);
    canvas.restore();
  }
}

function paintOutline(painting: Painting, wide: number | undefined, values: Values, outline: string): void {
  const { canvas, outline: made = browserOutline } = painting;
  const path = made(outline, values.width / 100, values.height / 100);
  const stroke = values.lineColor ?? (wide === undefined ? null : (values.fill ?? DEFAULT_INK));
  const width = values.lineWidth || (wide ?? 0);
  withShadow(painting, values, () => {
    if (wide === undefined && values.fill) {
      canvas.fillStyle = values.fill;
      canvas.fill(path);
    }
    if (!stroke || width <= 0) return;
    canvas.strokeStyle = stroke;
    canvas.lineWidth = width;
    if (values.drawn <= 0) return;
    canvas.lineCap = 'round';
    canvas.setLineDash(dashOf(values, outline) ?? []);
    canvas.stroke(path);
  });
}

const unspaced = (text: string) => [...text].filter((letter) => letter.trim()).length;

/** As much of a line as holds so many letters. */
function beginning(line: string, letters: number): string {
  let count = 0;
  return [...line].filter((letter) => (letter.trim() ? ++count : count) <= letters).join('');
}

function paintText({ canvas, fonts }: Painting, shown: Shown, values: Values, text: string): void {
  if (!text) return;
  const font = fontOf(shown.letters, values.size);
  fonts.add(font);
  canvas.font = font;
  const { align, place, leading } = placeOfLetters(shown.letters, !layerKind(shown.node.layer).isProse);
  const border = values.lineColor && !isDrawn(shown) ? values.lineWidth : 0;
  const width = values.width - 2 * border;
  const lines = linesOf(text, width, font, (words) => canvas.measureText(words).width);
  const step = values.size * leading;
  const { fontBoundingBoxAscent: ascent, fontBoundingBoxDescent: descent } = canvas.measureText('x');
  const free = values.height - 2 * border - step * lines.length;
  const top = border + free * { top: 0, middle: 0.5, bottom: 1 }[place];
  canvas.fillStyle = values.ink ?? DEFAULT_INK;
  canvas.textAlign = align;
  canvas.textBaseline = 'alphabetic';
  const x = border + width * { left: 0, center: 0.5, right: 1 }[align];
  // Letters that are there, spaces left out: lines are broken at those.
  let left = values.typed < 1 ? unspaced(typedPart(text, values.typed)) : Infinity;
  lines.forEach((line, i) => {
    const y = top + step * i + (step - ascent - descent) / 2 + ascent;
    const letters = left === Infinity ? 0 : unspaced(line);
    if (letters <= left) canvas.fillText(line, x, y);
    else if (left > 0) {
      // The beginning of a line stands where it will stand in the whole.
      const from = x - canvas.measureText(line).width * { left: 0, center: 0.5, right: 1 }[align];
      canvas.textAlign = 'left';
      canvas.fillText(beginning(line, left), from, y);
      canvas.textAlign = align;
    }
    left -= Math.min(left, letters);
  });
}
