export { keyOf, padButtons, sendKey } from './input.ts';
export { makePad } from './pad.ts';
export { Player, type PlayerOptions } from './player.ts';
export { ScreenView, type ScreenOptions } from './screen-view.ts';
