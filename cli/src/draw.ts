import { count } from '@zany/core';
import parts from '@zany/player/page-parts.json' with { type: 'json' };
import { picturedBy, WishFault, type DrawWish } from '@zany/player/pictures';
import { load, Unreadable, write } from './files.ts';

/** Pictures a file: frames in a zip or a document, a timeline or a walk as a film. What could not be painted is printed. */
export async function drawFile(file: string, out: string, wish: DrawWish, print: (text: string) => void): Promise<number> {
  const { program, piece, assets } = await load(file);
  try {
    const pictured = picturedBy(program, wish);
    // What paints is native code, and only needed here.
    const { drawn, Painter } = await import('@zany/player/pictures-node').catch((error: unknown) => {
      throw new Unreadable(`What paints pictures cannot be loaded on this machine: ${(error as Error).message}`);
    });
    const painter = new Painter(piece, assets, parts.fonts);
    const day = new Date().toLocaleDateString('en-GB', { dateStyle: 'long' });
    const bytes = await drawn(wish.as, pictured, { program, painter, scale: wish.scale, painted: () => undefined }, day);
    await write(out, bytes);
    print(`${out}: ${count(pictured.shots.length, 'picture')}, ${bytes.length} bytes`);
    for (const name of painter.unseen) print(`  left out: ${name}, which cannot be painted here`);
    return 0;
  } catch (error) {
    throw error instanceof WishFault ? new Unreadable(`${file}: ${error.message}`) : error;
  }
}
