export { appearanceOf, DEFAULT_FAMILY, type Appearance } from './appearance.ts';
export { keyOf, Player, type PlayerOptions } from './player.ts';
export { SceneView, type SceneOptions } from './scene-view.ts';
