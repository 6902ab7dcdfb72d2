import { execFile } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { Download, Page } from '@playwright/test';
import { unzipSync } from 'fflate';
import { GifReader } from 'omggif';
import sharp from 'sharp';
import type * as Pdf from 'pdfjs-dist';
import { readPackage, unwrap, writePackage } from '@zany/core';
import { compose } from '@zany/core/testing';
import { axeOn } from './axe.ts';
import { distance, rgba } from './pixels.ts';
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

/** A film as a browser plays it: what it shows in the middle of each picture, as RGBA. */
const played = (page: Page, film: Uint8Array, perSecond = 24) =>
  page.evaluate(
    async ([coded, rate]) => {
      const bytes = Uint8Array.from(atob(coded), (letter) => letter.charCodeAt(0));
      const video = document.createElement('video');
      video.src = URL.createObjectURL(new Blob([bytes], { type: 'video/webm' }));
      await new Promise((resolve, reject) => {
        video.onloadeddata = resolve;
        video.onerror = () => reject(new Error('The film cannot be played.'));
      });
      const { videoWidth: width, videoHeight: height, duration: seconds } = video;
      const context = new OffscreenCanvas(width, height).getContext('2d')!;
      const pictures: string[] = [];
      // What was sought is not always what is drawn yet: the browser says when it is.
      document.body.append(video);
      const show = async (time: number) => {
        const shown = new Promise((resolve) => video.requestVideoFrameCallback(resolve));
        video.currentTime = time;
        await shown;
      };
      // Elsewhere first: what is shown already is not shown again.
      await show(seconds / 2);
      for (let i = 0; i < Math.round(seconds * rate); i++) {
        await show((i + 0.5) / rate);
        context.drawImage(video, 0, 0);
        pictures.push(btoa(String.fromCharCode(...context.getImageData(0, 0, width, height).data)));
      }
      video.remove();
      return { width, height, seconds, pictures };
    },
    [Buffer.from(film).toString('base64'), perSecond] as const
  );

interface PdfRead {
  readonly title: string;
  readonly outline: readonly (readonly [title: string, page: number])[];
  readonly pages: readonly {
    /** Points. */
    readonly width: number;
    readonly height: number;
    readonly links: readonly { readonly area: readonly number[]; readonly to: number | string }[];
    /** As it is drawn with two pixels for a CSS px. */
    readonly shown: { readonly width: number; readonly height: number; readonly pixels: string };
  }[];
}

/** A PDF as another program reads it, in an empty page of the browser. */
async function readPdf(page: Page, bytes: Uint8Array): Promise<PdfRead> {
  await page.goto('about:blank');
  for (const part of ['pdf.worker.mjs', 'pdf.mjs']) {
    const path = fileURLToPath(import.meta.resolve(`pdfjs-dist/build/${part}`));
    await page.addScriptTag({ type: 'module', path });
  }
  await page.waitForFunction(() => ['pdfjsLib', 'pdfjsWorker'].every((name) => name in globalThis));
  return page.evaluate(async (coded) => {
    const { pdfjsLib } = globalThis as unknown as { pdfjsLib: typeof Pdf };
    const pdf = await pdfjsLib.getDocument({ data: Uint8Array.from(atob(coded), (letter) => letter.charCodeAt(0)) }).promise;
    const pageOf = async (dest: unknown) => {
      const [at] = (typeof dest === 'string' ? await pdf.getDestination(dest) : dest) as Parameters<typeof pdf.getPageIndex>;
      return pdf.getPageIndex(at);
    };
    const { info } = await pdf.getMetadata();
    const outline: [string, number][] = [];
    for (const { title, dest } of (await pdf.getOutline()) ?? []) outline.push([title, await pageOf(dest)]);
    const pages: PdfRead['pages'][number][] = [];
    for (let i = 1; i <= pdf.numPages; i++) {
      const one = await pdf.getPage(i);
      const [, , width, height] = one.view as [number, number, number, number];
      const links: { area: number[]; to: number | string }[] = [];
      for (const { rect, dest, url } of (await one.getAnnotations()) as { rect: number[]; dest?: unknown; url?: string }[])
        links.push({ area: rect, to: url ?? (await pageOf(dest)) });
      const viewport = one.getViewport({ scale: 2 / 0.75 });
      const canvas = document.createElement('canvas');
      [canvas.width, canvas.height] = [Math.round(viewport.width), Math.round(viewport.height)];
      await one.render({ canvas, viewport }).promise;
      const { data } = canvas.getContext('2d')!.getImageData(0, 0, canvas.width, canvas.height);
      let pixels = '';
      for (const value of data) pixels += String.fromCharCode(value);
      pages.push({ width, height, links, shown: { width: canvas.width, height: canvas.height, pixels: btoa(pixels) } });
    }
    return { title: (info as { Title: string }).Title, outline, pages };
  }, Buffer.from(bytes).toString('base64'));
}

test('a film of a timeline as WebM and as GIF shows at each moment what the pictures show, for as long as it takes', async ({ studio, page }) => {
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
  const webm = await save(studio, 'Save the film');
  expect(webm.name).toBe('tide-sea.webm');
  await page.getByLabel('Form of the film').selectOption('gif');
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
  // A browser that plays the other film shows the same at each moment.
  const film24 = await played(page, webm.bytes);
  expect([film24.width, film24.height, Math.round(film24.seconds * 24)]).toEqual([120, 80, 24]);
  for (let i = 0; i < 24; i++) {
    const { data } = await rgba(zip[`${String(i + 1).padStart(2, '0')}.png`]!);
    expect(distance(Buffer.from(film24.pictures[i]!, 'base64'), data), `picture ${i + 1}`).toBeLessThan(6);
  }
  // Each moment as a drawing is what the picture of it is.
  await page.getByLabel('Form of the film').selectOption('svg');
  const drawings = unzipSync((await save(studio, 'Save the film')).bytes);
  expect(Object.keys(drawings).sort()).toEqual(Array.from({ length: 24 }, (_, i) => `${String(i + 1).padStart(2, '0')}.svg`));
  for (const moment of ['01', '12', '24'])
    expect(distance((await rgba(drawings[`${moment}.svg`]!)).data, (await rgba(zip[`${moment}.png`]!)).data), moment).toBeLessThan(2);
  await page.getByLabel('Form of the film').selectOption('png');
  await page.getByLabel('From timeline frame').fill('7');
  await page.getByLabel('Which of them').selectOption('2');
  await expect(film).toContainText('9 pictures, 12 a second');
  expect(Object.keys(unzipSync((await save(studio, 'Save the film')).bytes))).toEqual(
    ['07', '09', '11', '13', '15', '17', '19', '21', '23'].map((name) => `${name}.png`)
  );
});

test('a kept walk as a film: what is pressed is marked, the change goes as it does, and it ends where the walk ends', async ({ studio, page }) => {
  const piece = compose({
    name: 'Crossing',
    size: [120, 80],
    frames: {
      Home: {
        size: [120, 80],
        background: '#f7e6c3',
        layers: { Go: { at: [20, 10, 80, 60], lines: ['click → go to Trip · push left 400 ms linear'] } },
      },
      Trip: {
        size: [120, 80],
        background: '#0b7a75',
        layers: { Next: { at: [0, 0, 120, 80], lines: ['click → go to Far · dissolve 400 ms linear'] } },
      },
      Far: { size: [100, 80], background: '#b23a26', layers: {} },
    },
  });
  const idOf = (name: string) => [...piece.layers.values(), ...piece.scenes.values()].find((one) => one.name === name)!.id;
  const step = (layer: string, frame: string) => ({ event: { type: 'click', layer: idOf(layer) }, frame: idOf(frame) }) as const;
  const walk = { name: 'To the far side', order: 'a0', from: idOf('Home'), steps: [step('Go', 'Trip'), step('Next', 'Far')] };
  await studio.givenPiece({ ...piece, head: { ...piece.head, walks: { w1: walk } } });
  await studio.desk('Hand over');
  await page.getByLabel("Form of the walk's film").selectOption('gif');
  const gif = await save(studio, "Save the walk's film");
  expect(gif.name).toBe('crossing-to-the-far-side.gif');
  const reader = new GifReader(gif.bytes as Buffer);
  // 800 + 400 ms, the change of 400 and 500 after it, 400 before the next, that with its 500, and 1200 at the end: 25 a second.
  expect([reader.width, reader.height, reader.numFrames()]).toEqual([120, 80, 116]);
  const shown = new Uint8Array(120 * 80 * 4);
  const at: number[][] = [];
  const colors = Array.from({ length: reader.numFrames() }, (_, i) => {
    reader.decodeAndBlitFrameRGBA(i, shown);
    at.push([...shown.subarray((5 * 120 + 60) * 4).subarray(0, 3)]);
    return [2, 117].map((x) => [...shown.subarray((75 * 120 + x) * 4).subarray(0, 3)]);
  });
  const near = (color: readonly number[] | undefined, hex: string) =>
    [1, 3, 5].every((from, i) => Math.abs(color![i]! - parseInt(hex.slice(from, from + 2), 16)) < 12);
  const first = colors[0]!;
  expect(first.every((color) => near(color, '#f7e6c3'))).toBe(true);
  // In the middle of the push the one is on the left, the other on the right.
  const pushed = colors[35]!;
  expect([near(pushed[0], '#f7e6c3'), near(pushed[1], '#0b7a75')]).toEqual([true, true]);
  // Half through the dissolve: neither, and the last frame stands in the middle of a film that is wider.
  const [left] = colors[68]!;
  expect([near(left, '#0b7a75'), near(left, '#b23a26')]).toEqual([false, false]);
  const last = colors.at(-1)!;
  expect(last.map((color) => near(color, '#ffffff'))).toEqual([true, true]);
  expect(near(at.at(-1), '#b23a26')).toBe(true);
  // A film of the other kind says the same.
  await page.getByLabel("Form of the walk's film").selectOption('webm');
  const webm = await save(studio, "Save the walk's film");
  const film = await played(page, webm.bytes, 25);
  expect([film.width, film.height, film.pictures.length]).toEqual([120, 80, 116]);
  const pressed = (i: number) => {
    const pixels = Buffer.from(film.pictures[i]!, 'base64');
    return pixels[(40 * 120 + 60 + 18) * 4]! > 225 && pixels[(40 * 120 + 60 + 18) * 4 + 2]! > 215;
  };
  expect([pressed(10), pressed(25), pressed(50)]).toEqual([false, true, false]);
});

test('frames as pictures: in each state, in three sizes, some of them', async ({ studio, page }) => {
  await studio.given({
    name: 'Harbour',
    size: [100, 60],
    parts: {
      Bell: {
        size: [20, 10],
        states: { Still: {}, Rung: { Dome: { style: { fill: '#b23a26' } } } },
        layers: { Dome: { at: [0, 0, 20, 10], style: { fill: '#26232c' } } },
      },
    },
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
  await page.getByLabel('Which frames').selectOption('all parts');
  const parts = unzipSync((await save(studio, 'Save the pictures')).bytes);
  expect(Object.keys(parts).sort()).toEqual(['bell-rung.png', 'bell-still.png']);
  const rung = await rgba(parts['bell-rung.png']!);
  expect([rung.info.width, rung.info.height, ...rung.data.subarray(0, 3)]).toEqual([60, 30, 0xb2, 0x3a, 0x26]);
  await page.getByLabel('in each of their states').uncheck();
  await page.getByLabel('Which frames').selectOption({ index: 1 });
  expect(Object.keys(unzipSync((await save(studio, 'Save the pictures')).bytes))).toEqual(['home.png']);
});

test('frames as a PDF: pages that look as the pictures do, lead where a click leads, and are called by name', async ({ studio, page, context }) => {
  await studio.given({
    name: 'Crossing',
    size: [200, 120],
    variables: { Seats: { type: 'number', initial: 0 } },
    frames: {
      Home: {
        size: [200, 120],
        background: '#f7e6c3',
        layers: {
          Plan: {
            at: [20, 30, 80, 44],
            text: 'Plan',
            style: { fill: '#0b7a75', ink: '#ffffff' },
            lines: ['click → if Seats > 0 → go to Paid; otherwise → go to Trip'],
          },
          Web: { at: [120, 30, 60, 44], style: { fill: '#b23a26' }, lines: ['click → open https://kittiwake.example/fahrten-süd in new tab'] },
        },
      },
      Trip: {
        size: [200, 240],
        states: { Calm: {}, Storm: { Sea: { style: { fill: '#333333' } } } },
        layers: { Sea: { at: [0, 0, 200, 240], style: { fill: '#0b7a75' }, lines: ['click → go to Home'] } },
      },
      Paid: { size: [200, 120], background: '#ffffff', layers: {} },
    },
  });
  await studio.desk('Hand over');
  await page.getByLabel('Size of the pictures').selectOption({ label: '2×' });
  await page.getByLabel('in each of their states').check();
  const pictures = unzipSync((await save(studio, 'Save the pictures')).bytes);
  await page.getByLabel('Form of the pictures').selectOption('pdf');
  const saved = await save(studio, 'Save the pictures');
  expect(saved.name).toBe('crossing.pdf');

  const reader = await context.newPage();
  const { pages, outline, title } = await readPdf(reader, saved.bytes);
  await reader.close();
  expect(title).toBe('Crossing');
  expect(outline).toEqual([
    ['Home', 0],
    ['Trip Calm', 1],
    ['Trip Storm', 2],
    ['Paid', 3],
  ]);
  expect(pages.map(({ width, height }) => [width, height])).toEqual([
    [150, 90],
    [150, 180],
    [150, 180],
    [150, 90],
  ]);
  expect(pages.map(({ links }) => links)).toEqual([
    [
      { area: [15, 34.5, 75, 67.5], to: 1 },
      { area: [90, 34.5, 135, 67.5], to: 'https://kittiwake.example/fahrten-s%C3%BCd' },
    ],
    [{ area: [0, 0, 150, 180], to: 0 }],
    [{ area: [0, 0, 150, 180], to: 0 }],
    [],
  ]);
  for (const [i, name] of ['home', 'trip-calm', 'trip-storm', 'paid'].entries()) {
    const { data, info } = await rgba(pictures[`${name}.png`]!);
    expect([info.width, info.height]).toEqual([pages[i]!.shown.width, pages[i]!.shown.height]);
    expect(distance(Buffer.from(pages[i]!.shown.pixels, 'base64'), data), name).toBeLessThan(1);
  }
});

test('a walk-through is printed on A4, a frame to a side: its areas numbered on the picture, and what is done there beside it', async ({
  studio,
  page,
  context,
}) => {
  await studio.given({
    name: 'Round trip',
    size: [200, 120],
    frames: {
      Home: {
        size: [200, 120],
        background: '#0b7a75',
        layers: { Plan: { at: [20, 30, 80, 44], text: 'Plan', lines: ['click → go to Trip'] } },
      },
      Trip: { size: [200, 120], background: '#f7e6c3', layers: {}, lines: ['after 2 s → go to Home'] },
    },
  });
  await studio.openFrame('Trip');
  await page.getByRole('button', { name: 'note', exact: true }).click();
  await page.keyboard.type('Ask for the fare.');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Then wait.');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Note of Trip: Ask for the fare. Then wait.' })).toBeVisible();
  await studio.saved();
  await studio.desk('Hand over');
  await page.getByLabel('Form of the pictures').selectOption('walk');
  const saved = await save(studio, 'Save the pictures');
  expect(saved.name).toBe('round-trip.walk-through.html');

  const reader = await context.newPage();
  await reader.setContent(Buffer.from(saved.bytes).toString());
  const home = reader.locator('section').first();
  await expect(home.locator('rect')).toHaveCount(1);
  await expect(home.locator('article')).toHaveText(/^\s*1 Plan\s+click → go to Trip \(Trip is 2\)/);
  await expect(reader.locator('section').last().locator('article').first()).toHaveText(/^\s*Note\s+Ask for the fare\.\s+Then wait\.$/);
  const picture = await home.locator('image').getAttribute('href');
  const { data, info } = await rgba(Buffer.from(picture!.split(',')[1]!, 'base64'));
  expect([info.width, info.height, ...data.subarray(0, 3)]).toEqual([400, 240, 0x0b, 0x7a, 0x75]);
  expect((await axeOn(reader).analyze()).violations.map(({ id: rule }) => rule)).toEqual([]);
  const { pages } = await readPdf(reader, await reader.pdf({ preferCSSPageSize: true, printBackground: true }));
  await reader.close();
  expect(pages.map(({ width, height }) => [Math.round(width), Math.round(height)])).toEqual([
    [842, 595],
    [842, 595],
    [842, 595],
  ]);
  expect(pages.map(({ links }) => links.map(({ to }) => to))).toEqual([[1, 2], [2], [1]]);
});

test('frames as SVG look as the pictures do, in a browser and elsewhere, and lead to each other', async ({ studio, page, context }) => {
  await studio.given({
    name: 'Drawn',
    size: [240, 160],
    frames: {
      Home: {
        size: [240, 160],
        background: '#f7e6c3',
        layers: {
          Turned: { at: [20, 20, 60, 30], style: { fill: '#0b7a75', corner: 8, opacity: 0.8 }, pose: { rotation: 30 } },
          Sun: { at: [180, 10, 40, 40], type: 'oval', style: { fill: '#b23a2680', shadow: { color: '#00000080', x: 4, y: 6, blur: 8 } } },
          Hill: {
            at: [100, 60, 80, 40],
            type: 'path',
            path: 'M0 100A50 50 0 01100 100Z',
            style: { fill: '#1f4e5f', line: { color: '#333333', width: 3 } },
          },
          Window: { at: [20, 90, 60, 50], type: 'group', clip: true },
          Pane: { at: [-10, -10, 50, 90], in: 'Window', style: { fill: '#c9bda4' } },
          Plan: {
            at: [110, 110, 110, 40],
            text: 'A day on the <islands> & back',
            style: { fill: '#ffffff', ink: '#1f4e5f' },
            lines: ['click → go to Trip'],
          },
        },
      },
      Trip: { size: [240, 160], background: '#0b7a75', layers: { Away: { at: [0, 0, 40, 40], lines: ['click → go to Far'] } } },
      Far: { size: [240, 160], layers: {} },
    },
  });
  await studio.desk('Hand over');
  await page.getByLabel('Size of the pictures').selectOption({ label: '1×' });
  const pictures = unzipSync((await save(studio, 'Save the pictures')).bytes);
  await page.getByLabel('Form of the pictures').selectOption('svg');
  const saved = await save(studio, 'Save the pictures');
  expect(saved.name).toBe('drawn.svg.zip');
  const files = unzipSync(saved.bytes);
  expect(Object.keys(files).sort()).toEqual(['far.svg', 'home.svg', 'trip.svg']);

  const reader = await context.newPage();
  await reader.setViewportSize({ width: 240, height: 160 });
  for (const name of ['home', 'trip']) {
    const { data } = await rgba(pictures[`${name}.png`]!);
    const source = `data:image/svg+xml;base64,${Buffer.from(files[`${name}.svg`]!).toString('base64')}`;
    await reader.setContent(`<style>body{margin:0}img{display:block}</style><img src="${source}">`);
    await reader.locator('img').evaluate((image: HTMLImageElement) => image.decode());
    expect(distance((await rgba(await reader.screenshot())).data, data), `${name} in a browser`).toBeLessThan(1);
    // Another program has not this face, so that letters differ.
    expect(distance((await rgba(files[`${name}.svg`]!)).data, data), `${name} elsewhere`).toBeLessThan(4);
  }
  await reader.setContent(Buffer.from(files['home.svg']!).toString());
  const links = reader.locator('a');
  await expect(links).toHaveCount(1);
  await expect(links).toHaveAttribute('href', 'trip.svg');
  expect(await links.locator('rect').boundingBox()).toMatchObject({ width: 110, height: 40 });
  expect(await reader.locator('text').allTextContents()).toEqual(['A day on the', '<islands> &', 'back']);
  await reader.close();
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

test.describe('painted without a browser', () => {
  const root = fileURLToPath(new URL('../../', import.meta.url));
  const zany = promisify(execFile);

  /** A picture as it is seen from afar: letters have other edges by a shade where they are painted for files, and not for a screen. */
  const fromAfar = async (picture: Uint8Array) => {
    const { width } = await sharp(picture).metadata();
    return rgba(
      await sharp(picture)
        .resize(Math.round(width / 8))
        .png()
        .toBuffer()
    );
  };

  for (const file of ['1-ticket-app', '4-day-trip', '5-pier-kiosk', '6-tide-lesson', '8-harbour-clock'])
    test(`the command line draws ${file} as the desk does`, async ({ studio, page }, info) => {
      // Under a name of its own: others look for the demo by its names.
      const { piece, assets } = unwrap(await readPackage(await readFile(join(root, 'demo/pieces', `${file}.zip`)), null));
      const path = info.outputPath('piece.zip');
      await writeFile(path, writePackage({ ...piece, head: { ...piece.head, name: `Drawn: ${file}` } }, assets));
      const headers = { origin: await studio.origin(), 'content-type': 'application/octet-stream' };
      const answer = await page.request.post('/api/packages', { data: await readFile(path), headers });
      await studio.open(((await answer.json()) as { id: string }).id);
      await studio.desk('Hand over');
      await page.getByLabel('in each of their states').check();
      await page.getByLabel('Size of the pictures').selectOption({ label: '2×' });
      const here = unzipSync((await save(studio, 'Save the pictures')).bytes);
      const out = info.outputPath('drawn.zip');
      const { stdout } = await zany(join(root, 'zany'), ['draw', path, '--as', 'png', '--states', '--scale', '2', '--out', out]);
      const there = unzipSync(await readFile(out));
      expect(Object.keys(there).sort()).toEqual(Object.keys(here).sort());
      // Films are not painted there, and said not to be.
      const films = [...stdout.matchAll(/left out: (\w+)\.webm/g)].map(([, name]) => `${name}.png`);
      expect(films).toHaveLength(file === '5-pier-kiosk' ? 3 : 0);
      for (const name of Object.keys(here).filter((one) => !films.includes(one))) {
        const [a, b] = await Promise.all([fromAfar(here[name]!), fromAfar(there[name]!)]);
        expect([b.info.width, b.info.height], name).toEqual([a.info.width, a.info.height]);
        expect(distance(a.data, b.data), name).toBeLessThan(1.5);
      }
    });
});
