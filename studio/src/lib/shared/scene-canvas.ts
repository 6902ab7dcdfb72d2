import { paintScreen } from '@zany/player';
import { layerKind, outlinesOf, properties, valueIn, type Screen, type Shown } from '@zany/core';
import { pictureNow } from './thumb-paint';

/**
 * A screen on one canvas, for as long as much of it moves with every frame: hundreds of elements that each stand elsewhere cost the
 * browser more than painting them anew. Once it rests, elements show it.
 */

/** With fewer layers elements are as fast. */
const MANY = 100;

/** The most pixels the canvas may have. */
const MOST_PIXELS = 8_000_000;

export class SceneCanvas {
  private canvas: HTMLCanvasElement | null = null;

  constructor(
    private readonly node: HTMLElement,
    private readonly assetUrl: (asset: string) => string
  ) {}

  /** Paints a screen, so many pixels of the display for one of its own; false where a canvas would not say the same as elements. */
  paint(screen: Screen, scale: number): boolean {
    if (screen.surfaces.reduce((all, surface) => all + surface.all.length, 0) < MANY) return false;
    if (!screen.surfaces.every((surface) => surface.all.every(isPaintable))) return false;
    const canvas = this.canvas ?? document.createElement('canvas');
    const fine = Math.min(scale, Math.sqrt(MOST_PIXELS / (screen.width * screen.height)));
    const [width, height] = [screen.width, screen.height].map((side) => Math.max(1, Math.round(side * fine))) as [number, number];
    // Setting a size clears a canvas, and takes its time.
    if (canvas.width !== width) canvas.width = width;
    if (canvas.height !== height) canvas.height = height;
    const context = canvas.getContext('2d');
    if (!context) return false;
    let isWhole = true;
    paintScreen(context, screen, {
      scale: fine,
      picture: (asset) => {
        const picture = pictureNow(this.assetUrl(asset));
        isWhole &&= picture !== null;
        return picture;
      },
    });
    if (!isWhole) return false;
    if (this.canvas) return true;
    canvas.style.cssText = `position:absolute;left:0;top:0;width:${screen.width}px;height:${screen.height}px`;
    canvas.dataset['sceneCanvas'] = '';
    this.node.append(canvas);
    this.canvas = canvas;
    return true;
  }

  clear(): void {
    this.canvas?.remove();
    this.canvas = null;
  }
}

/** What is only known as a declaration of style. */
const declared = properties.filter(({ css }) => css && !css.isPainted);

/** What a canvas paints as elements show it: no films, no fields, nothing see-through that holds something, no outlines faded into each other. */
function isPaintable(shown: Shown): boolean {
  const { node, opacity, children, path } = shown;
  const { draws } = layerKind(node.layer);
  if (declared.some((kind) => valueIn(shown, kind) !== kind.neutral)) return false;
  if (path !== undefined && outlinesOf(path).length > 1) return false;
  return draws !== 'film' && draws !== 'field' && (opacity >= 1 || children.length === 0);
}
