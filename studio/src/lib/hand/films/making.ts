import { MOST_PIXELS, type Shot } from '@zany/core';
import { markPress, middleOf, onWhite as whiteBehind, PRESS_RADIUS } from '@zany/player/pictures';
import { paintWhole, type Picture } from '$lib/shared/thumb-paint';

export type { Picture };

/** So long pictures are painted at a time, ms, before anything else has its turn: pressing stop is among it. */
const AT_A_TIME = 12;

/** Lets whatever waits have its turn. */
export const breath = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

/** Paints pictures one after the other; stops where it is told to. */
export async function* painted<S extends Shot>(
  shots: readonly S[],
  assetUrl: (asset: string) => string,
  scale: number,
  stop: AbortSignal
): AsyncGenerator<{ readonly shot: S; readonly picture: Picture }> {
  let begun = performance.now();
  for (const shot of shots) {
    if (performance.now() - begun > AT_A_TIME) {
      await breath();
      begun = performance.now();
    }
    if (stop.aborted) return;
    const picture = await paintWhole({ screen: shot.screen, assetUrl, scale, mostPixels: MOST_PIXELS });
    if (!picture) throw new Error(`${shot.name} cannot be painted: it would have too many pixels.`);
    if (shot.press) {
      const context = picture.getContext('2d')!;
      context.setTransform(scale, 0, 0, scale, 0, 0);
      markPress(context, shot.press, PRESS_RADIUS);
    }
    yield { shot, picture: shot.size ? within(picture, shot.size, scale) : picture };
  }
}

/** A picture in the middle of a size. */
function within(picture: Picture, size: { readonly width: number; readonly height: number }, scale: number): Picture {
  const place = middleOf(picture, size, scale);
  if (!place) return picture;
  const around = new OffscreenCanvas(place.width, place.height);
  around.getContext('2d')!.drawImage(picture, place.x, place.y);
  return around;
}

/** The same with white behind it. */
export function onWhite(picture: Picture): Picture {
  whiteBehind(picture.getContext('2d')!);
  return picture;
}

export async function pngOf(picture: Picture): Promise<Uint8Array> {
  return new Uint8Array(await (await picture.convertToBlob({ type: 'image/png' })).arrayBuffer());
}
