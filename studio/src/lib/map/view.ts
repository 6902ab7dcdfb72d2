import type { Box } from './routes';

/** What part of the map is seen: where its corner stands in the desk, and how large it is drawn. CSS pixels. */
export interface View {
  readonly x: number;
  readonly y: number;
  readonly scale: number;
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

export const MOST = 4;

const MARGIN = 20;

/** All of the map, in the middle of the desk. */
export function fitted(map: Size, desk: Size): View {
  const scale = Math.max(0.005, Math.min(1.4, (desk.width - 2 * MARGIN) / map.width, (desk.height - 2 * MARGIN) / map.height));
  return { x: (desk.width - map.width * scale) / 2, y: (desk.height - map.height * scale) / 2, scale };
}

/** Zoomed about a point of the desk, which stays where it is. */
export function zoomed(view: View, to: number, least: number, x: number, y: number): View {
  const scale = Math.max(Math.min(least, MOST), Math.min(MOST, to));
  return { x: x - ((x - view.x) / view.scale) * scale, y: y - ((y - view.y) / view.scale) * scale, scale };
}

/** With a place of the map in the middle of the desk. */
export const centredOn = ({ scale }: View, desk: Size, x: number, y: number): View => ({
  x: desk.width / 2 - x * scale,
  y: desk.height / 2 - y * scale,
  scale,
});

/** Whether any of a box of the map is seen, or comes so near to it; CSS px of the desk. */
export const isSeen = ({ x, y, scale }: View, desk: Size, box: Box, near: number): boolean =>
  (box.x + box.width) * scale + x > -near &&
  (box.y + box.height) * scale + y > -near &&
  box.x * scale + x < desk.width + near &&
  box.y * scale + y < desk.height + near;

export const onMap = (view: View, x: number, y: number) => ({ x: (x - view.x) / view.scale, y: (y - view.y) / view.scale });
