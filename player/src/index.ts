export { keyOf, padButtons, sendKey } from './input.ts';
export { beginOf, endOf } from './media.ts';
export { makePad } from './pad.ts';
export { paintMoment, paintScreen, type PaintOptions } from './paint-screen.ts';
export { Player, type PlayerOptions } from './player.ts';
export { ScreenView, type ScreenOptions } from './screen-view.ts';
export { forgetLines } from './text-lines.ts';
