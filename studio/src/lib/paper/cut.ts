import { straightened, type Pixels } from './pixels';
import { sizeOf, type Quad } from './quad';
import { whitened } from './whiten';

/** Pixels along the longest side of what is cut out at most. */
const LONGEST = 4000;

/**
 * What is in four corners as a picture so wide, as high as its sides tell, with its paper made white; a width beyond what the
 * photograph has gives no more of it, so it is not made wider than that.
 */
export function cutOut(photo: Pixels, quad: Quad, width: number, strength: number): Pixels {
  const size = sizeOf(quad);
  const scale = Math.min(width / size.width, 1, LONGEST / Math.max(size.width, size.height));
  const [w, h] = [Math.max(1, Math.round(size.width * scale)), Math.max(1, Math.round(size.height * scale))];
  return whitened(straightened(photo, quad, w, h), strength);
}
