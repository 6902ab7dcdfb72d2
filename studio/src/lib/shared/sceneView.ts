import { ScreenView, type ScreenOptions } from '@zany/player';
import { atRest, pictureAt, present, type Picture, type Presentation, type Screen } from '@zany/core';
import { fetchAgainIn } from './fetch-again';
import { SceneCanvas } from './scene-canvas';
import type { Action } from 'svelte/action';

export interface SceneParameters {
  /** A settled screen, or a moment of a change. */
  readonly screen?: Screen | null;
  readonly picture?: Picture | null;
  readonly assetUrl: (asset: string) => string;
  /** Looks come in their own time, as they do when the piece runs; and so they go when this ends. */
  readonly glides?: boolean;
  /** It is looked at from moment to moment. */
  readonly moves?: boolean;
  /** So much of it moves with every frame that one canvas may show it: pixels of the display for one of its own; null once it rests. */
  readonly rushes?: number | null;
  /** Told of the view whose videos and sounds can be played from outside; asked once. */
  readonly onview?: (view: ScreenView | null) => void;
}

/** Shows a screen in an element, unscaled; the element scales it. */
export const sceneView: Action<HTMLElement, SceneParameters> = (node, parameters) => {
  const options: ScreenOptions = { assetUrl: parameters.assetUrl, live: false, media: parameters.onview !== undefined };
  const view = new ScreenView(document, options);
  node.append(view.root);
  const endFetching = fetchAgainIn(view.root);
  const canvas = new SceneCanvas(node, parameters.assetUrl);
  let last: Presentation | null = null;
  let glided = false;
  let frame = 0;

  const draw = (presentation: Presentation) => {
    const now = performance.now();
    view.show(pictureAt(presentation, now));
    if (now < presentation.until) frame = requestAnimationFrame(() => draw(presentation));
  };
  const show = ({ screen, picture, glides = false, moves = false, rushes = null }: SceneParameters) => {
    options.moves = moves;
    cancelAnimationFrame(frame);
    const isPainted = rushes !== null && !!screen && canvas.paint(screen, rushes);
    view.root.style.display = isPainted ? 'none' : '';
    if (isPainted) return;
    canvas.clear();
    if (picture) return view.show(picture);
    if (!screen) return;
    const still = matchMedia('(prefers-reduced-motion: reduce)').matches;
    last = last && (glides || glided) ? present(last, screen, [], performance.now(), { still }) : atRest(screen);
    glided = glides;
    draw(last);
  };
  show(parameters);
  parameters.onview?.(view);
  return {
    update: show,
    destroy: () => {
      cancelAnimationFrame(frame);
      parameters.onview?.(null);
      endFetching();
      view.root.remove();
      canvas.clear();
    },
  };
};
