import { readFile } from 'node:fs/promises';
import type { Download } from '@playwright/test';
import { unzipSync } from 'fflate';
import { GifReader } from 'omggif';
import sharp from 'sharp';
import { test, expect, type Studio } from './studio.ts';

/** Pictures and films are decoded by others, and show what was meant. */

const bytesOf = async (download: Download): Promise<Uint8Array> => readFile(await download.path());

async function save(studio: Studio, button: string): Promise<{ readonly name: string; readonly bytes: Uint8Array }> {
  const [download] = await Promise.all([
    studio.page.waitForEvent('download', { timeout: 90_000 }),
    studio.page.getByRole('button', { name: button }).click(),
  ]);
  return { name: download.suggestedFilename(), bytes: await bytesOf(download) };
}

const rgba = async (png: Uint8Array) => sharp(png).ensureAlpha().raw().toBuffer({ resolveWithObject: true });

/** How far two pictures are from each other on average, of 255. */
function distance(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!);
  return sum / a.length;
}

test('a film of a timeline as GIF shows at each moment what the pictures show, for as long as it takes', async ({ studio, page }) => {
  await studio.given({
    name: 'Tide',
    size: [120, 80],
    fps: 24,
    frames: {
      Sea: {
        size: [120, 80],
        background: '#f7e6c3',
        layers: { Boat: { at: [0, 20, 30, 30], style: { fill: '#0b7a75' } }, Sun: { at: [90, 5, 20, 20], type: 'oval', style: { fill: '#b23a26' } } },
        timeline: {
          length: 24,
          loop: true,
          tracks: [
            [
              'Boat',
              'x',
              [
                [0, 0, 'linear'],
                [23, 80],
              ],
            ],
            [
              'Sun',
              'opacity',
              [
                [0, 1, 'linear'],
                [23, 0],
              ],
            ],
          ],
        },
      },
    },
  });
  await studio.desk('Hand over');
  const film = page.getByRole('region', { name: 'Film of a timeline' });
  await expect(film).toContainText('24 pictures, 24 a second');
  const gif = await save(studio, 'Save the film');
  expect(gif.name).toBe('tide-sea.gif');
  await page.getByLabel('Form of the film').selectOption('png');
  const zip = unzipSync((await save(studio, 'Save the film')).bytes);
  expect(Object.keys(zip).sort()).toEqual(Array.from({ length: 24 }, (_, i) => `${String(i + 1).padStart(2, '0')}.png`));

  const reader = new GifReader(gif.bytes as Buffer);
  expect([reader.width, reader.height, reader.numFrames(), reader.loopCount()]).toEqual([120, 80, 24, 0]);
  const delays = Array.from({ length: 24 }, (_, i) => reader.frameInfo(i).delay);
  expect(delays.reduce((sum, one) => sum + one, 0)).toBe(100);
  for (let i = 0; i < 24; i++) {
    const { data, info } = await rgba(zip[`${String(i + 1).padStart(2, '0')}.png`]!);
    expect([info.width, info.height]).toEqual([120, 80]);
    const shown = new Uint8Array(120 * 80 * 4);
    reader.decodeAndBlitFrameRGBA(i, shown);
    expect(distance(shown, data)).toBeLessThan(2);
    // The boat's left edge stands where its track says.
    const row = Array.from({ length: 120 }, (_, x) => data[(35 * 120 + x) * 4]! < 40);
    expect(Math.abs(row.indexOf(true) - (80 * i) / 23)).toBeLessThanOrEqual(1);
  }
  await page.getByLabel('From timeline frame').fill('7');
  await page.getByLabel('Which of them').selectOption('2');
  await expect(film).toContainText('9 pictures, 12 a second');
  expect(Object.keys(unzipSync((await save(studio, 'Save the film')).bytes))).toEqual(
    ['07', '09', '11', '13', '15', '17', '19', '21', '23'].map((name) => `${name}.png`)
  );
});

test('frames as pictures: in each state, in three sizes, some of them', async ({ studio, page }) => {
  await studio.given({
    name: 'Harbour',
    size: [100, 60],
    frames: {
      Home: {
        size: [100, 60],
        states: { Calm: {}, Storm: { Sea: { style: { fill: '#333333' } } } },
        layers: { Sea: { at: [0, 0, 100, 60], style: { fill: '#0b7a75' } } },
      },
      'HOME 2': { size: [100, 60], background: '#ffffff', layers: {} },
    },
  });
  await studio.desk('Hand over');
  await page.getByLabel('in each of their states').check();
  await page.getByLabel('Size of the pictures').selectOption({ label: '3×' });
  const files = unzipSync((await save(studio, 'Save the pictures')).bytes);
  expect(Object.keys(files).sort()).toEqual(['home-2.png', 'home-calm.png', 'home-storm.png']);
  const storm = await rgba(files['home-storm.png']!);
  expect([storm.info.width, storm.info.height, ...storm.data.subarray(0, 3)]).toEqual([300, 180, 0x33, 0x33, 0x33]);
  await page.getByLabel('in each of their states').uncheck();
  await page.getByLabel('Which frames').selectOption({ index: 1 });
  expect(Object.keys(unzipSync((await save(studio, 'Save the pictures')).bytes))).toEqual(['home.png']);
});

test('making a long film can be stopped, and nothing is saved then', async ({ studio, page }) => {
  await studio.given({
    name: 'Long',
    size: [400, 400],
    frames: {
      Sea: {
        size: [400, 400],
        layers: { Boat: { at: [0, 20, 30, 30], style: { fill: '#0b7a75' } } },
        timeline: {
          length: 1500,
          tracks: [
            [
              'Boat',
              'x',
              [
                [0, 0, 'linear'],
                [1499, 300],
              ],
            ],
          ],
        },
      },
    },
  });
  await studio.desk('Hand over');
  let downloads = 0;
  page.on('download', () => downloads++);
  await page.getByRole('button', { name: 'Save the film' }).click();
  await expect(page.getByRole('progressbar', { name: 'Pictures made' })).toBeVisible();
  await page.getByRole('button', { name: 'stop' }).click();
  await expect(page.getByRole('progressbar', { name: 'Pictures made' })).toBeHidden();
  await expect(page.getByRole('button', { name: 'Save the film' })).toBeEnabled();
  expect(downloads).toBe(0);
});
