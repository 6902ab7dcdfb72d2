import type { Point } from '@zany/core';

/** In films of walks, CSS px. */
export const PRESS_RADIUS = 18;

/** A ring where somebody presses: light inside dark, to be seen on anything. */
export function markPress(context: CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D, { x, y }: Point, radius: number): void {
  for (const [color, share] of [
    ['rgb(38 35 44 / 0.75)', 0.4],
    ['rgb(255 255 255 / 0.95)', 0.17],
  ] as const) {
    context.beginPath();
    context.arc(x, y, radius, 0, 2 * Math.PI);
    context.strokeStyle = color;
    context.lineWidth = radius * share;
    context.stroke();
  }
}
