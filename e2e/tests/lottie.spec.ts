import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { unzipSync, strFromU8 } from 'fflate';
import sharp from 'sharp';
import type { ComposeSpec } from '@zany/core/testing';
import { distance, rgba } from './pixels.ts';
import { expect, test } from './studio.ts';

/** Timelines as Lottie animations: another program that plays them shows at each timeline frame what the pictures show. */

const player = fileURLToPath(import.meta.resolve('lottie-web/build/player/lottie.min.js'));

interface Played {
  setCurrentRawFrameValue(frame: number): void;
}

async function play(page: Page, json: string): Promise<void> {
  const { w, h } = JSON.parse(json) as { w: number; h: number };
  await page.setViewportSize({ width: w, height: h });
  await page.setContent('<style>body{margin:0;background:#ffffff}#stage{line-height:0}</style><div id="stage"></div>');
  await page.addScriptTag({ path: player });
  await page.evaluate((text) => {
    const { lottie } = globalThis as unknown as { lottie: { loadAnimation(options: object): Played } };
    const container = document.getElementById('stage')!;
    const animationData = JSON.parse(text) as object;
    (globalThis as { played?: Played }).played = lottie.loadAnimation({ container, renderer: 'svg', loop: false, autoplay: false, animationData });
  }, json);
}

async function shownAt(page: Page, frame: number): Promise<Uint8Array> {
  await page.evaluate((at) => (globalThis as unknown as { played: Played }).played.setCurrentRawFrameValue(at), frame);
  return (await rgba(await page.screenshot())).data;
}

const key = (...keys: (readonly [number, number | string, string?])[]) => keys;

const spec: ComposeSpec = {
  name: 'Tide',
  size: [240, 160],
  fps: 24,
  parts: {
    Gull: {
      size: [40, 40],
      background: '#ffffff00',
      layers: { Body: { at: [5, 15, 30, 10], type: 'oval', style: { fill: '#26232c' } }, Wing: { at: [15, 0, 10, 20], style: { fill: '#1f4e5f' } } },
      timeline: { length: 10, loop: true, tracks: [['Wing', 'y', key([0, 0, 'linear'], [9, 18])]] },
    },
  },
  frames: {
    Sea: {
      size: [240, 160],
      background: '#f7e6c3',
      layers: {
        Boat: { at: [10, 60, 40, 30], style: { fill: '#0b7a75', corner: 6, line: { color: '#26232c', width: 4 } } },
        Sun: { at: [180, 10, 40, 40], type: 'oval', style: { fill: '#b23a26' } },
        Sail: { at: [90, 20, 60, 60], type: 'path', path: 'M50 0L100 100L0 100Z', style: { fill: '#1f4e5f' } },
        Way: {
          at: [20, 130, 200, 20],
          type: 'path',
          path: 'M0 50C25 0 50 0 50 50C50 100 75 100 100 50',
          style: { line: { color: '#b23a26', width: 6 } },
        },
        Window: { at: [150, 80, 60, 40], type: 'group', clip: true },
        Pane: { at: [-20, -10, 50, 80], in: 'Window', style: { fill: '#c9bda4' } },
        Birds: { at: [60, 90, 80, 80], type: 'placement', part: 'Gull' },
        Late: { at: [0, 0, 20, 20], style: { fill: '#6d3a7c' } },
      },
      timeline: {
        length: 24,
        labels: { Ebb: [0, 'go on'], Flood: [12, 'hold'] },
        spans: [['Late', 12, 17]],
        tracks: [
          ['Boat', 'x', key([0, 10, 'ease-in-out'], [23, 150])],
          ['Boat', 'rotation', key([0, 0, 'spring(0.4)'], [23, 45])],
          ['Sun', 'opacity', key([0, 1, 'linear'], [23, 0.2])],
          ['Sun', 'fill', key([0, '#b23a26', 'linear'], [23, '#f0b13c'])],
          ['Sail', 'path', key([0, 'M50 0L100 100L0 100Z', 'linear'], [23, 'M0 0L100 50L0 100Z'])],
          ['Way', 'drawn', key([0, 0.1, 'linear'], [23, 1])],
          ['Pane', 'x', key([0, -20, 'linear'], [23, 40])],
        ],
      },
    },
  },
};

test('an animation that is handed over shows at each moment what the piece shows, when another program plays it', async ({
  studio,
  page,
  context,
}) => {
  await studio.given(spec);
  await studio.desk('Hand over');
  const save = async (button: string) => {
    const [download] = await Promise.all([page.waitForEvent('download', { timeout: 60_000 }), page.getByRole('button', { name: button }).click()]);
    return unzipSync(await readFile(await download.path()));
  };
  await page.getByLabel('Form of the film').selectOption('png');
  const pictures = await save('Save the film');
  const files = await save('Save the animations');
  expect(Object.keys(files).sort()).toEqual(['gull.json', 'sea.json']);
  const json = strFromU8(files['sea.json']!);
  const { fr, op, markers } = JSON.parse(json) as { fr: number; op: number; markers: object[] };
  expect([fr, op, markers]).toEqual([
    24,
    24,
    [
      { tm: 0, cm: 'Ebb', dr: 12 },
      { tm: 12, cm: 'Flood', dr: 12 },
    ],
  ]);

  const other = await context.newPage();
  await play(other, json);
  for (let frame = 0; frame < 24; frame++) {
    const { data } = await rgba(pictures[`${String(frame + 1).padStart(2, '0')}.png`]!);
    expect(distance(await shownAt(other, frame), data), `timeline frame ${frame + 1}`).toBeLessThan(2);
  }
  // Brought in again it is a part of its own, with as many timeline frames.
  await studio.desk('Build');
  await page.locator('[data-chooser]').setInputFiles([{ name: 'sea.json', mimeType: 'application/json', buffer: Buffer.from(json) }]);
  await expect(page.getByText(/^Brought in: the part Sea with \d+ layers\./)).toBeVisible();
  await expect(page.getByRole('button', { name: 'Open the part Sea' })).toBeVisible();
  await page.getByRole('region', { name: 'Strip' }).getByRole('tab', { name: 'Time' }).click();
  await expect(page.locator('[data-knot]')).not.toHaveCount(0);
  // Two moments are told from each other, so that near is near.
  expect(distance(await shownAt(other, 0), await shownAt(other, 23))).toBeGreaterThan(10);
  await other.close();
});

test('words stand where they stand in the piece, are typed and counted, and what is left out is said', async ({ studio, page, context }) => {
  await studio.given({
    ...spec,
    parts: {},
    frames: {
      Sign: {
        size: [240, 160],
        background: '#ffffff',
        layers: {
          Fare: {
            at: [20, 20, 200, 50],
            type: 'text',
            text: 'Fare 240',
            letters: { size: 40, family: 'monospace', align: 'center', place: 'middle' },
            style: { ink: '#b23a26' },
          },
          Shade: { at: [20, 100, 40, 40], style: { fill: '#0b7a75', shadow: { x: 2, y: 2, blur: 4, color: '#000000' } } },
        },
        timeline: { length: 10, tracks: [['Fare', 'counted', key([0, 0, 'linear'], [9, 1])]] },
      },
    },
  });
  await studio.desk('Hand over');
  await expect(page.getByText('Sign, Shade: its shadow')).toBeAttached();
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the animations' }).click()]);
  const json = strFromU8(unzipSync(await readFile(await download.path()))['sign.json']!);
  const other = await context.newPage();
  await play(other, json);
  await shownAt(other, 0);
  const letters = () => other.locator('svg > g text').evaluateAll((nodes) => nodes.map((node) => node.textContent!.trim()).join(''));
  expect(await letters()).toBe('Fare0');
  const { data, info } = await sharp(Buffer.from(await shownAt(other, 9)), { raw: { width: 240, height: 160, channels: 4 } })
    .raw()
    .toBuffer({ resolveWithObject: true });
  expect(await letters()).toBe('Fare240');
  const inked = Array.from({ length: info.height }, (_, y) => y).filter((y) =>
    Array.from({ length: info.width }, (_, x) => data[(y * info.width + x) * 4 + 1]!).some((green) => green < 120)
  );
  // In the middle of a box from 20 to 70.
  const line = inked.filter((y) => y < 90);
  expect(Math.abs((line[0]! + line.at(-1)!) / 2 - 45)).toBeLessThan(5);
  await other.close();
});
