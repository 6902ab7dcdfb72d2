import type { Locator, Page } from '@playwright/test';

/** How far two pictures are apart when both are made as small as the second: a mean of all channels, of 255, and of the worst tenth. */
export async function apart(large: Buffer, small: Locator): Promise<{ mean: number; worst: number }> {
  const shot = `data:image/png;base64,${large.toString('base64')}`;
  return small.evaluate(async (image: HTMLImageElement, url) => {
    const loaded = new Image();
    loaded.src = url;
    await loaded.decode();
    const [width, height] = [image.naturalWidth, image.naturalHeight];
    const pixels = (source: HTMLImageElement) => {
      const canvas = new OffscreenCanvas(width, height);
      const context = canvas.getContext('2d')!;
      context.imageSmoothingQuality = 'high';
      context.drawImage(source, 0, 0, width, height);
      return context.getImageData(0, 0, width, height).data;
    };
    const [a, b] = [pixels(loaded), pixels(image)];
    const off = Array.from(a, (value, i) => Math.abs(value - b[i]!)).sort((x, y) => y - x);
    const meanOf = (list: number[]) => list.reduce((sum, one) => sum + one, 0) / list.length;
    return { mean: meanOf(off), worst: meanOf(off.slice(0, Math.ceil(off.length / 10))) };
  }, shot);
}

/** How many pixels of two pictures differ by more than each of `most` of 255 in any channel; all of them where their sizes differ. */
export async function different(page: Page, one: Buffer, other: Buffer, ...most: readonly number[]): Promise<readonly number[]> {
  return page.evaluate(
    async ({ urls, most }) => {
      const [a, b] = await Promise.all(
        urls.map(async (url) => {
          const image = new Image();
          image.src = url;
          await image.decode();
          const context = new OffscreenCanvas(image.width, image.height).getContext('2d')!;
          context.drawImage(image, 0, 0);
          return context.getImageData(0, 0, image.width, image.height);
        })
      );
      if (a!.width !== b!.width || a!.height !== b!.height) return most.map(() => a!.width * a!.height);
      const counts = most.map(() => 0);
      for (let i = 0; i < a!.data.length; i += 4) {
        const off = Math.max(...[0, 1, 2].map((channel) => Math.abs(a!.data[i + channel]! - b!.data[i + channel]!)));
        most.forEach((least, at) => (counts[at]! += Number(off > least)));
      }
      return counts;
    },
    { urls: [one, other].map((png) => `data:image/png;base64,${png.toString('base64')}`), most }
  );
}
