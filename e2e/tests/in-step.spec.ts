import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { fileURLToPath } from 'node:url';
import { htmlPage, type Tracked } from '@zany/core';
import { compose, type ComposeSpec, type PlacedSpec } from '@zany/core/testing';
import { different } from './apart.ts';
import { generator } from './random.ts';
import { expect, test } from './studio.ts';

/** The stage at a moment is what the exported page shows at that moment, pixel by pixel. */

const parts = JSON.parse(readFileSync(fileURLToPath(new URL('../../player/dist/page-parts.json', import.meta.url)), 'utf8')) as {
  runtime: string;
  element: string;
  css: string;
  fonts: Record<string, string>;
};
const pageOf = (spec: ComposeSpec) =>
  htmlPage(compose(spec), new Map(), {
    runtime: parts.runtime,
    element: parts.element,
    css: parts.css,
    fonts: new Map(Object.entries(parts.fonts).map(([family, font]) => [family, new Uint8Array(Buffer.from(font, 'base64'))])),
    hash: (text) => createHash('sha256').update(text, 'utf8').digest('base64'),
    base64: (bytes) => Buffer.from(bytes).toString('base64'),
  });

interface Clocked {
  standAt: (ms: number) => void;
}

/** Time that passes only when told to: what is due then is done, and the screen is drawn once. */
function clockByHand() {
  let now = 0;
  let count = 0;
  const frames = new Map<number, FrameRequestCallback>();
  const timers = new Map<number, { due: number; work: () => void }>();
  performance.now = () => now;
  window.requestAnimationFrame = (draw) => (frames.set(++count, draw), count);
  window.cancelAnimationFrame = (id) => void frames.delete(id);
  window.setTimeout = ((work: () => void, ms = 0) => (timers.set(++count, { due: now + ms, work }), count)) as unknown as typeof setTimeout;
  window.clearTimeout = ((id: number) => void timers.delete(id)) as typeof clearTimeout;
  (window as unknown as Clocked).standAt = (ms) => {
    now = ms;
    for (const [id, { due, work }] of timers) if (due <= now && timers.delete(id)) work();
    const drawn = [...frames.values()];
    frames.clear();
    for (const draw of drawn) draw(now);
  };
}

const FPS = 25;
const LENGTH = 50;
const SIZE = [320, 240] as const;
const { among, from, whole } = generator(11);

const EASINGS = ['linear', 'ease', 'ease-in-out', 'spring(0.4)', 'overshoot(0.2)', 'steps(3)', 'cubic-bezier(0.3, -0.4, 0.6, 1.4)'];
const COLORS = ['#0b7a75', '#e59a00', '#b23a26', '#6d3a7c', '#123456'];

const layers: Readonly<Record<string, () => PlacedSpec>> = {
  Box: () => ({ at: [whole(200), whole(150), 60, 40], style: { fill: among(COLORS), corner: whole(12) }, turnsAlong: whole(3) === 0 }),
  Sun: () => ({ type: 'oval', at: [whole(200), whole(150), 50, 50], style: { fill: among(COLORS), opacity: 0.7 } }),
  Wave: () => ({
    type: 'path',
    at: [whole(150), whole(150), 120, 50],
    path: 'M0 50C25 0 50 100 100 50',
    style: { line: { color: among(COLORS), width: 4 } },
  }),
  Words: () => ({ type: 'text', at: [whole(100), whole(150), 170, 60], text: 'Low water at 1,250 steps', letters: { size: 18 } }),
  Gull: () => ({ type: 'placement', part: 'Gull', at: [whole(200), whole(150), 80, 60] }),
};

const PROPERTIES: Readonly<Record<string, readonly Tracked[]>> = {
  Box: ['x', 'y', 'width', 'height', 'rotation', 'scale', 'opacity', 'fill', 'corner'],
  Sun: ['x', 'y', 'scale', 'opacity', 'fill'],
  Wave: ['x', 'rotation', 'drawn', 'lineWidth', 'lineColor'],
  Words: ['x', 'y', 'typed', 'counted', 'ink', 'opacity'],
  Gull: ['x', 'y', 'rotation', 'width'],
};

const valueOf: Partial<Record<Tracked, () => number | string>> = {
  width: () => from(20, 120),
  height: () => from(20, 90),
  rotation: () => from(-90, 90),
  scale: () => from(0.4, 1.6),
  opacity: () => from(0, 1),
  drawn: () => from(0, 1),
  typed: () => from(0, 1),
  counted: () => from(0, 1),
  corner: () => from(0, 20),
  lineWidth: () => from(1, 8),
  fill: () => among(COLORS),
  ink: () => among(COLORS),
  lineColor: () => among(COLORS),
};

function keys(property: Tracked) {
  const times = [...new Set(Array.from({ length: 2 + whole(3) }, () => whole(LENGTH)))].sort((a, b) => a - b);
  return times.map((time) => [time, valueOf[property]?.() ?? from(0, 200), among(EASINGS)] as const);
}

/** A frame whose time is made up: sections that go on, layers with keys, spans. */
function made(): NonNullable<ComposeSpec['frames']>[string] {
  const names = Object.keys(layers);
  return {
    size: SIZE,
    timeline: {
      length: LENGTH,
      labels: { Ebb: [0, 'go on'], Flood: [10 + whole(30), 'hold'] },
      tracks: names.flatMap((name) => PROPERTIES[name]!.filter(() => whole(2) === 0).map((property) => [name, property, keys(property)] as const)),
      spans: [['Sun', whole(20), 25 + whole(25)]],
    },
    layers: Object.fromEntries(names.map((name) => [name, layers[name]!()])),
  };
}

const spec: ComposeSpec = {
  size: SIZE,
  fps: FPS,
  parts: {
    Gull: {
      size: [80, 60],
      background: '#ffffff00',
      timeline: {
        length: 20,
        loop: true,
        tracks: [
          [
            'Wing',
            'y',
            [
              [0, 0],
              [10, 40, 'ease-in-out'],
              [19, 0],
            ],
          ],
        ],
      },
      layers: { Wing: { at: [10, 0, 60, 12], style: { fill: '#1f4e5f' } } },
    },
  },
  frames: Object.fromEntries(Array.from({ length: 10 }, (_, i) => [`Tide ${i + 1}`, made()])),
};

test('the stage shows each moment as the exported page does, forward and backward', async ({ studio, page, browser }, info) => {
  test.setTimeout(300_000);
  await page.setViewportSize({ width: 1280, height: 900 });
  await studio.given(spec);
  await page.keyboard.press('m');
  // A window of its own: a page behind another one is not drawn for seconds.
  const other = await browser.newPage();
  await other.setViewportSize({ width: SIZE[0], height: SIZE[1] });
  await other.addInitScript(clockByHand);
  mkdirSync(info.outputDir, { recursive: true });
  const names = Object.keys(spec.frames!);
  let compared = 0;
  for (const name of names) {
    await studio.openFrame(name);
    await page.keyboard.press('Shift+0');
    const moments = [...new Set(Array.from({ length: 6 }, () => whole(LENGTH)))].sort((a, b) => a - b);
    const file = info.outputPath(`${name}.html`);
    // The frame that is looked at comes first.
    writeFileSync(file, pageOf({ ...spec, frames: { [name]: spec.frames![name]! } }));
    await other.goto(`file://${file}`);
    const played: Buffer[] = [];
    for (const moment of moments) {
      await other.evaluate((ms) => (window as unknown as Clocked).standAt(ms), (moment * 1000) / FPS);
      played.push(await other.locator('.zany-screen').screenshot());
    }
    const stage = studio.sheet.locator('.zany-screen').first();
    for (const way of ['forward', 'backward'] as const)
      for (const i of way === 'forward' ? [...moments.keys()] : [...moments.keys()].reverse()) {
        await page.getByRole('textbox', { name: 'Moment' }).fill(String(moments[i]! + 1));
        await page.getByRole('textbox', { name: 'Moment' }).press('Enter');
        await expect(page.locator('[data-moment]')).toHaveAttribute('data-moment', String(moments[i]));
        const shot = await stage.screenshot();
        const where = `${name}, frame ${moments[i]! + 1}, ${way}`;
        // Edges that are not upright are rastered by where they are in the window: by shades, at a few pixels.
        const [much, little] = await different(page, shot, played[i]!, 64, 2);
        expect(much, where).toBeLessThan(12);
        expect(little, where).toBeLessThan((SIZE[0] * SIZE[1]) / 400);
        compared++;
      }
  }
  expect(compared).toBeGreaterThanOrEqual(100);
});
