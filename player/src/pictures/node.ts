/** What paints screens as files where there is no browser. */
export { drawn, type Painted } from './draw.ts';
export { Painter, type Faces } from './painter.ts';
