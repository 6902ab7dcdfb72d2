/** Screens as files for others: what a browser and what a program without one have in common. */
export { middleOf, onWhite } from './canvas.ts';
export { GifFilm } from './gif.ts';
export { pdfOf, type Page } from './pdf.ts';
export { markPress, PRESS_RADIUS } from './press-mark.ts';
export { faceRule, SvgMaker, type DrawingSources } from './svg.ts';
export { drawForms, drawnAs, filmOfKept, picturedBy, WishFault, type DrawForm, type DrawWish } from './wish.ts';
export type { SvgPicture } from './svg-canvas.ts';
