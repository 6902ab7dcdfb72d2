import { readFile, writeFile } from 'node:fs/promises';
import { existsSync } from 'node:fs';
import { chromium } from '@playwright/test';

/** Short films for the kiosk, drawn on a canvas and recorded by the browser; kept as files, since no two recordings are the same bytes. */
export interface Film {
  readonly name: string;
  readonly bytes: Uint8Array;
  readonly width: number;
  readonly height: number;
  readonly ms: number;
}

const WIDTH = 320;
const HEIGHT = 180;
const MS = 1600;
const folder = new URL('../films/', import.meta.url);

const scenes = [
  { name: 'skarra', sky: '#cfe1ea', sea: '#2f6675', sail: '#b23a26' },
  { name: 'tolm', sky: '#f7e7c8', sea: '#4d8794', sail: '#e59a00' },
  { name: 'inne', sky: '#6d3a7c', sea: '#1f4e5f', sail: '#fbf7ee' },
] as const;

export async function films(): Promise<Film[]> {
  const missing = scenes.filter(({ name }) => !existsSync(new URL(`${name}.webm`, folder)));
  if (missing.length) await record(missing);
  return Promise.all(
    scenes.map(async ({ name }) => ({ name, bytes: await readFile(new URL(`${name}.webm`, folder)), width: WIDTH, height: HEIGHT, ms: MS }))
  );
}

async function record(missing: readonly (typeof scenes)[number][]): Promise<void> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
  const page = await browser.newPage();
  for (const scene of missing) {
    // The loader of this script names functions by a helper that the page does not have.
    await page.evaluate('globalThis.__name = (it) => it');
    const base64 = await page.evaluate(draw, { ...scene, width: WIDTH, height: HEIGHT, ms: MS });
    await writeFile(new URL(`${scene.name}.webm`, folder), Buffer.from(base64, 'base64'));
  }
  await browser.close();
}

/** Runs in the browser: a boat crosses while the canvas is recorded. */
async function draw(scene: { sky: string; sea: string; sail: string; width: number; height: number; ms: number }): Promise<string> {
  const canvas = document.createElement('canvas');
  canvas.width = scene.width;
  canvas.height = scene.height;
  const paint = canvas.getContext('2d')!;
  const recorder = new MediaRecorder(canvas.captureStream(15), { mimeType: 'video/webm;codecs=vp8', videoBitsPerSecond: 120_000 });
  const parts: Blob[] = [];
  recorder.ondataavailable = ({ data }) => parts.push(data);
  recorder.start();
  const began = performance.now();
  await new Promise<void>((resolve) => {
    const step = () => {
      const t = (performance.now() - began) / scene.ms;
      paint.fillStyle = scene.sky;
      paint.fillRect(0, 0, scene.width, scene.height);
      paint.fillStyle = scene.sail;
      const x = -40 + t * (scene.width + 40);
      paint.fillRect(x, 88 + 4 * Math.sin(t * 12), 70, 22);
      paint.fillRect(x + 22, 60 + 4 * Math.sin(t * 12), 18, 28);
      paint.fillStyle = scene.sea;
      paint.fillRect(0, 106, scene.width, 80);
      if (t < 1) requestAnimationFrame(step);
      else resolve();
    };
    step();
  });
  const stopped = new Promise((resolve) => (recorder.onstop = resolve));
  recorder.stop();
  await stopped;
  const bytes = new Uint8Array(await new Blob(parts).arrayBuffer());
  return btoa(Array.from(bytes, (byte) => String.fromCharCode(byte)).join(''));
}
