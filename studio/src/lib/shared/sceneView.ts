import { ScreenView } from '@zany/player';
import { atRest, pictureAt, type Picture, type Screen } from '@zany/core';
import type { Action } from 'svelte/action';

export interface SceneParameters {
  /** A settled screen, or a moment of a change. */
  readonly screen?: Screen | null;
  readonly picture?: Picture | null;
  readonly assetUrl: (asset: string) => string;
}

/** Shows a screen in an element, unscaled; the element scales it. */
export const sceneView: Action<HTMLElement, SceneParameters> = (node, parameters) => {
  const view = new ScreenView(document, { assetUrl: parameters.assetUrl, live: false });
  node.append(view.root);
  const show = ({ screen, picture }: SceneParameters) => {
    const now = picture ?? (screen ? pictureAt(atRest(screen), 0) : null);
    if (now) view.show(now);
  };
  show(parameters);
  return { update: show, destroy: () => view.root.remove() };
};
