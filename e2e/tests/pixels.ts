import sharp from 'sharp';

/** A picture as its pixels, four bytes each: red, green, blue, and how opaque it is. */
export const rgba = async (picture: Uint8Array) => sharp(picture).ensureAlpha().raw().toBuffer({ resolveWithObject: true });

/** How far two pictures are from each other on average, of 255. */
export function distance(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!);
  return sum / a.length;
}
