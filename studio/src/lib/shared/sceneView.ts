import { SceneView } from '@zany/player';
import type { SceneProgram } from '@zany/core';
import type { Action } from 'svelte/action';

export interface SceneParameters {
  readonly scene: SceneProgram | null;
  readonly assetUrl: (asset: string) => string;
  /** Layers shown with their hover and press looks. */
  readonly over?: readonly string[];
  readonly pressed?: readonly string[];
}

/** Shows a scene in an element, unscaled; the element scales it. */
export const sceneView: Action<HTMLElement, SceneParameters> = (node, parameters) => {
  const view = new SceneView(document, { assetUrl: parameters.assetUrl, live: false });
  node.append(view.root);
  const show = ({ scene, over = [], pressed = [] }: SceneParameters) => {
    if (!scene) return;
    view.show(scene);
    view.point(over, pressed);
  };
  show(parameters);
  return { update: show, destroy: () => view.root.remove() };
};
