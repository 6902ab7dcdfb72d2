import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { compose } from '@zany/core/testing';
import { writePackage, type Asset } from '@zany/core';
import { Acts, published } from './acts.ts';
import { Seam } from './seam.ts';
import { expect, test } from './studio.ts';

/** A sound of so many seconds, silent in its first half, as a WAV file. */
function wave(seconds: number, rate = 8000): Uint8Array {
  const samples = seconds * rate;
  const bytes = Buffer.alloc(44 + samples, 128);
  bytes.write('RIFF', 0);
  bytes.writeUInt32LE(36 + samples, 4);
  bytes.write('WAVEfmt ', 8);
  bytes.writeUInt32LE(16, 16);
  bytes.writeUInt16LE(1, 20);
  bytes.writeUInt16LE(1, 22);
  bytes.writeUInt32LE(rate, 24);
  bytes.writeUInt32LE(rate, 28);
  bytes.writeUInt16LE(1, 32);
  bytes.writeUInt16LE(8, 34);
  bytes.write('data', 36);
  bytes.writeUInt32LE(samples, 40);
  for (let i = samples / 2; i < samples; i++) bytes[44 + i] = 128 + Math.round(100 * Math.sin((2 * Math.PI * 440 * i) / rate));
  return bytes;
}

const assetOf = (bytes: Uint8Array, name: string, mediaType: Asset['mediaType'], ms: number): Asset => ({
  id: createHash('sha256').update(bytes).digest('hex'),
  name,
  mediaType,
  size: bytes.length,
  width: 320,
  height: 180,
  ms,
});

test('films and sounds are bars in time: scrubbed, played in step, trimmed by their ends', async ({ studio, page }, info) => {
  const bell = wave(4);
  const film = new Uint8Array(await readFile(new URL('../../demo/films/inne.webm', import.meta.url)));
  const [sound, crossing] = [assetOf(bell, 'bell.wav', 'audio/wav', 4000), assetOf(film, 'crossing.webm', 'video/webm', 1500)];
  const piece = compose({
    size: [640, 400],
    fps: 25,
    assets: [sound, crossing],
    frames: {
      Clock: {
        size: [640, 400],
        timeline: { length: 150, spans: [['Bell', 25, 149]] },
        layers: {
          Film: { type: 'video', at: [20, 20, 320, 180], asset: crossing.id, media: { autoplay: true, muted: true, loop: true } },
          Bell: { type: 'sound', at: [20, 220, 320, 48], asset: sound.id, media: { autoplay: true } },
        },
      },
    },
  });
  const origin = await studio.origin();
  const data = Buffer.from(
    writePackage(
      piece,
      new Map([
        [sound.id, bell],
        [crossing.id, film],
      ])
    )
  );
  const answer = await page.request.post('/api/packages', { data, headers: { origin, 'content-type': 'application/octet-stream' } });
  await studio.open(((await answer.json()) as { id: string }).id);
  const seam = new Seam(studio);
  await page.keyboard.press('m');

  // As long as they play, from where they come in.
  const bar = (type: 'video' | 'sound') => page.locator(`[data-media=${type}]`);
  const perFrame = await page.locator('[data-ruler]').evaluate((ruler) => ruler.getBoundingClientRect().width / 150);
  const wide = async (type: 'video' | 'sound') => Math.round((await bar(type).boundingBox())!.width / perFrame);
  await expect.poll(() => wide('sound')).toBe(100);
  const ruler = (await page.locator('[data-ruler]').boundingBox())!;
  expect(Math.round(((await bar('sound').boundingBox())!.x - ruler.x) / perFrame)).toBe(25);
  // The outline is flat where nothing is heard.
  const tall = (share: number) =>
    bar('sound')
      .locator('canvas')
      .evaluate((canvas: HTMLCanvasElement, at) => {
        const x = Math.floor(canvas.width * at);
        const { data: pixels } = canvas.getContext('2d')!.getImageData(x, 0, 1, canvas.height);
        return pixels.filter((value, i) => i % 4 === 3 && value > 0).length / canvas.height;
      }, share);
  await expect.poll(() => tall(0.75)).toBeGreaterThan(0.5);
  expect(await tall(0.25)).toBeLessThan(0.2);

  // The film stands where the playhead does, the sound only once it is there.
  const at = (tag: 'video' | 'audio') =>
    studio.sheet.locator(tag).evaluateAll((list: HTMLMediaElement[]) => list.map((media) => Math.round(media.currentTime * 100) / 100)[0] ?? null);
  await seam.stand('31');
  await expect.poll(() => at('video')).toBe(1.2);
  await expect.poll(() => at('audio')).toBe(0.2);
  await seam.stand('11');
  await expect.poll(() => at('video')).toBe(0.4);
  await expect.poll(() => at('audio')).toBeNull();

  // Played, both keep in step with the seam.
  await page.locator('[data-ruler]').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('Space');
  /** The middle of how far a player was off in a number of frames of the screen, in seconds; `begin` is when it comes in. */
  const off = (tag: 'video' | 'audio', from: number) =>
    studio.sheet.locator(tag).evaluate(async (media: HTMLMediaElement, begin) => {
      const found: number[] = [];
      let before = performance.now();
      for (let i = 0; i < 20; i++) {
        await new Promise((done) => requestAnimationFrame(done));
        // What a busy machine has not drawn yet cannot be in step with what is heard.
        const late = (performance.now() - before) / 1000;
        before = performance.now();
        const moment = Number(document.querySelector('[data-moment]')!.getAttribute('data-moment')) / 25;
        const apart = Math.abs(media.currentTime - ((moment - begin) % media.duration));
        found.push(Math.max(0, Math.min(apart, media.duration - apart) - late));
      }
      return found.sort((a, b) => a - b)[10]!;
    }, from);
  // The moment is a whole frame of 40 ms, on top of the 40 ms that they may be apart.
  await expect.poll(() => at('video')).toBeGreaterThan(0.3);
  expect(await off('video', 0)).toBeLessThan(0.08);
  await page.keyboard.press('Space');
  await seam.stand('27');
  await page.locator('[data-ruler]').focus();
  await page.keyboard.press('Space');
  await expect.poll(() => at('audio'), { timeout: 5000 }).toBeGreaterThan(0.3);
  expect(await off('audio', 1)).toBeLessThan(0.08);
  await page.keyboard.press('Space');

  // Trimmed by its end, it is over sooner, here and where it is handed over.
  const end = (await bar('sound').locator('[data-trim=to]').boundingBox())!;
  await page.mouse.move(end.x + 3, end.y + 8);
  await page.mouse.down();
  await page.mouse.move(end.x + 3 - perFrame * 50, end.y + 8, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => wide('sound')).toBe(50);
  await studio.select('Bell');
  await page.getByRole('toolbar', { name: 'Properties' }).getByRole('button', { name: 'behaves' }).click();
  await expect(page.getByLabel('Plays to, seconds')).toHaveValue('2');
  await page.getByLabel('Plays from, seconds').fill('0.5');
  await page.getByLabel('Plays from, seconds').press('Enter');
  await expect.poll(() => wide('sound')).toBe(38);
  await page.keyboard.press('Escape');
  await seam.stand('51');
  await expect.poll(() => at('audio')).toBe(1.5);

  const other = await published(new Acts(studio), studio, info);
  await other.mouse.click(5, 5);
  await expect
    .poll(() => other.locator('audio').evaluateAll((list: HTMLMediaElement[]) => list[0]?.currentTime ?? 0), { timeout: 6000 })
    .toBeGreaterThan(0.6);
  await expect.poll(() => other.locator('audio').evaluateAll((list: HTMLMediaElement[]) => list[0]?.paused), { timeout: 6000 }).toBe(true);
  expect(await other.locator('audio').evaluate((audio: HTMLMediaElement) => audio.currentTime)).toBeLessThan(2.15);
});
