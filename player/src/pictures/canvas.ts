type Context = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Films have no holes: what nothing is painted on is white in them. */
export function onWhite(context: Context): void {
  const { width, height } = context.canvas;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalCompositeOperation = 'destination-over';
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, width, height);
}

/** Where a picture stands that is put in the middle of a size, in pixels; null where it has that size. */
export function middleOf(
  picture: { readonly width: number; readonly height: number },
  { width, height }: { readonly width: number; readonly height: number },
  scale: number
): { readonly width: number; readonly height: number; readonly x: number; readonly y: number } | null {
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)];
  if (w === picture.width && h === picture.height) return null;
  return { width: w, height: h, x: Math.round((w - picture.width) / 2), y: Math.round((h - picture.height) / 2) };
}
