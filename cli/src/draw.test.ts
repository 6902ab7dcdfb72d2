import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import { apply, compile, keepWalk, stepsOf, unwrap, writePackage, type Piece } from '@zany/core';
import { compose, layerId } from '@zany/core/testing';
import { strFromU8, unzipSync } from 'fflate';
import { GifReader } from 'omggif';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { afterAll, beforeAll, expect, test } from 'vitest';

const zany = fileURLToPath(new URL('../../zany', import.meta.url));
let folder = '';
let file = '';

/** Two frames of 100 × 60, one with two states and one with a timeline of ten frames, a part, a bundle and a kept walk. */
function harbour(): Piece {
  const piece = compose({
    name: 'Harbour',
    size: [100, 60],
    parts: { Bell: { size: [20, 10], layers: { Dome: { at: [0, 0, 20, 10], style: { fill: '#b23a26' } } } } },
    frames: {
      Home: {
        background: '#ffffff',
        states: { Calm: {}, Storm: { Sea: { style: { fill: '#333333' } } } },
        layers: {
          Sea: { at: [0, 30, 100, 30], style: { fill: '#0b7a75' } },
          On: { at: [0, 0, 50, 20], type: 'text', text: 'On', lines: ['click → go to Pier'] },
        },
      },
      Pier: {
        background: '#e6b84f',
        layers: { Boat: { at: [0, 0, 10, 60], style: { fill: '#000000' } } },
        timeline: {
          length: 10,
          tracks: [
            [
              'Boat',
              'x',
              [
                [0, 0],
                [9, 90],
              ],
            ],
          ],
        },
      },
    },
  });
  const steps = stepsOf(compile(piece), 'Home', [{ type: 'click', layer: layerId('Home', 'On') }])!;
  const { piece: walked } = unwrap(
    apply(
      piece,
      keepWalk(piece, 'To the pier', 'Home', steps, () => 'w')
    )
  );
  return { ...walked, head: { ...walked.head, bundles: { quay: { name: 'Quay', order: 'a' } } } };
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'zany-draw-'));
  file = join(folder, 'harbour.zip');
  await writeFile(file, writePackage(harbour(), new Map()));
});
afterAll(() => rm(folder, { recursive: true, force: true }));

interface Ran {
  readonly code: number;
  readonly out: string;
  readonly err: string;
}

const draw = (...args: string[]): Promise<Ran> =>
  new Promise((resolve) => {
    execFile(zany, ['draw', file, '--out', join(folder, 'out'), ...args], (error, out, err) =>
      resolve({ code: typeof error?.code === 'number' ? error.code : 0, out, err })
    );
  });

const drawn = async (...args: string[]): Promise<Uint8Array> => {
  expect(await draw(...args)).toMatchObject({ code: 0, err: '' });
  return readFile(join(folder, 'out'));
};

async function colorAt(picture: Uint8Array, x: number, y: number): Promise<string> {
  const { data, info } = await sharp(picture).ensureAlpha().raw().toBuffer({ resolveWithObject: true });
  const at = (y * info.width + x) * 4;
  return [...data.subarray(at, at + 3)].map((value) => value.toString(16).padStart(2, '0')).join('');
}

test('frames as pictures: as they begin, in their states, in a size; parts and bundles by name', async () => {
  const files = unzipSync(await drawn('--as', 'png', '--states', '--scale', '3'));
  expect(Object.keys(files).sort()).toEqual(['home-calm.png', 'home-storm.png', 'pier.png']);
  expect(await sharp(files['home-storm.png']).metadata()).toMatchObject({ width: 300, height: 180 });
  expect(await Promise.all([colorAt(files['home-calm.png']!, 150, 170), colorAt(files['home-storm.png']!, 150, 170)])).toEqual(['0b7a75', '333333']);
  // Something is written there.
  const { channels } = await sharp(files['home-calm.png']).extract({ left: 0, top: 0, width: 150, height: 60 }).stats();
  expect(channels[0]!.min).toBeLessThan(90);
  const bell = unzipSync(await drawn('--as', 'png', '--only', 'Bell', 'Pier'));
  expect(Object.keys(bell).sort()).toEqual(['bell.png', 'pier.png']);
  expect(await colorAt(bell['bell.png']!, 5, 5)).toBe('b23a26');
});

test('frames as drawings and as one document lead where a click leads', async () => {
  const files = unzipSync(await drawn('--as', 'svg'));
  expect(Object.keys(files).sort()).toEqual(['home.svg', 'pier.svg']);
  const home = strFromU8(files['home.svg']!);
  expect(home).toContain('href="pier.svg"');
  expect(home).toContain('>On</text>');
  expect(home).toContain('@font-face');
  expect(await colorAt(await sharp(Buffer.from(files['pier.svg']!)).png().toBuffer(), 50, 30)).toBe('e6b84f');

  const pdf = await PDFDocument.load(await drawn('--as', 'pdf'));
  expect(pdf.getPages().map((page) => [page.getWidth(), page.getHeight()])).toEqual([
    [75, 45],
    [75, 45],
  ]);
  expect(pdf.getPage(0).node.Annots()!.size()).toBe(1);
  expect(strFromU8(await drawn('--as', 'walk-through'))).toContain('click → go to Pier');
});

test('a timeline as a film, as pictures, drawings and pages, each so many frames', async () => {
  const film = new GifReader(Buffer.from(await drawn('--as', 'gif', '--timeline', 'Pier')));
  expect([film.width, film.height, film.numFrames()]).toEqual([100, 60, 10]);
  const seen = (at: number) => {
    const pixels = new Uint8Array(100 * 60 * 4);
    film.decodeAndBlitFrameRGBA(at, pixels);
    return (x: number) => pixels[(30 * 100 + x) * 4]!;
  };
  // The boat is at the left at first, and at the right at the end.
  expect([seen(0)(5) < 20, seen(0)(95) > 200, seen(9)(5) > 200, seen(9)(95) < 20]).toEqual([true, true, true, true]);
  const some = unzipSync(await drawn('--as', 'png', '--timeline', 'Pier', '--from', '2', '--to', '8', '--every', '3'));
  expect(Object.keys(some)).toEqual(['2.png', '5.png', '8.png']);
  expect((await PDFDocument.load(await drawn('--as', 'pdf', '--timeline', 'Pier', '--every', '5'))).getPageCount()).toBe(2);
  expect(Object.keys(unzipSync(await drawn('--as', 'svg', '--timeline', 'Pier', '--every', '9')))).toEqual(['01.svg', '10.svg']);
});

test('a kept walk as a film: it begins on one frame, and ends on another', async () => {
  const files = unzipSync(await drawn('--as', 'png', '--walk', 'To the pier'));
  const names = Object.keys(files).sort();
  expect(names.length).toBeGreaterThan(25);
  expect(await colorAt(files[names[0]!]!, 90, 50)).toBe('0b7a75');
  expect(await colorAt(files[names.at(-1)!]!, 90, 50)).toBe('e6b84f');
  expect(new GifReader(Buffer.from(await drawn('--as', 'gif', '--walk', 'To the pier'))).numFrames()).toBe(names.length);
});

test('many large pictures take no more memory than a few', async () => {
  const wide = compose({
    size: [1440, 900],
    frames: {
      Sea: {
        layers: { Boat: { at: [0, 0, 90, 90] } },
        timeline: {
          length: 30,
          tracks: [
            [
              'Boat',
              'x',
              [
                [0, 0],
                [29, 1300],
              ],
            ],
          ],
        },
      },
    },
  });
  const path = join(folder, 'wide.zip');
  await writeFile(path, writePackage(wide, new Map()));
  const main = fileURLToPath(new URL('../dist/main.js', import.meta.url));
  const tell = "data:text/javascript,process.on('exit', () => process.stderr.write(String(process.resourceUsage().maxRSS)))";
  const args = ['--import', tell, main, 'draw', path, '--as', 'gif', '--timeline', 'Sea', '--scale', '2', '--out', join(folder, 'out')];
  const { stdout, stderr } = await promisify(execFile)(process.execPath, args);
  expect(stdout).toContain('30 pictures');
  // All of them at once are 30 × 2 × 20 MB.
  expect(Number(stderr) / 1024).toBeLessThan(700);
}, 120_000);

test('what cannot be drawn says why, and what there is', async () => {
  const said = async (...args: string[]) => {
    const { code, err } = await draw(...args);
    expect(code).toBe(2);
    return err.trim();
  };
  expect(await said('--as', 'png', '--only', 'Peir')).toMatch(/There is no frame, part or bundle “Peir”\. There is Home, Pier and Bell\.$/);
  expect(await said('--as', 'png', '--only', 'Quay')).toMatch(/There is no frame, part or bundle “Quay”/);
  expect(await said('--as', 'gif')).toMatch(/Of frames there is png, svg, pdf or walk-through, and no gif\.$/);
  expect(await said('--as', 'gif', '--timeline', 'Home')).toMatch(/Nothing called “Home” has a timeline\. There is Pier\.$/);
  expect(await said('--as', 'gif', '--timeline', 'Pier', '--from', '11')).toMatch(/pictured to 10, so it cannot begin at 11\.$/);
  expect(await said('--as', 'gif', '--walk', 'None')).toMatch(/No walk “None” is kept\. There is To the pier\.$/);
  expect(await said('--as', 'gif', '--walk', 'a', '--timeline', 'Pier')).toMatch(/It can be a timeline or a walk, not both\.$/);
  expect(await said('--as', 'png', '--scale', '500')).toMatch(/home would have more than 64 million pixels\. Choose a smaller size\.$/);
  expect(await said('--as', 'tiff')).toContain('png, svg, pdf, walk-through, gif');
});
