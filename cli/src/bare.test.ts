import { mkdir, mkdtemp, rm } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath, pathToFileURL } from 'node:url';
import { advance, compile, parseExpression, start, type Report, type RunEvent } from '@zany/core';
import type * as Engine from '@zany/core/engine';
import { generator, randomEvents, richPiece } from '@zany/core/testing';
import { afterAll, beforeAll, expect, test } from 'vitest';

/** What is taken out of the engine for an exported page makes no difference to what happens there. */

const root = fileURLToPath(new URL('../..', import.meta.url));
let folder = '';
let bare: typeof Engine;

beforeAll(async () => {
  await mkdir(join(root, '.data'), { recursive: true });
  folder = await mkdtemp(join(root, '.data/bare-'));
  const { build } = await import('vite');
  const { forPages } = (await import(pathToFileURL(join(root, 'scripts/build-runtime.mjs')).href)) as { forPages: [] };
  await build({
    root,
    configFile: false,
    logLevel: 'warn',
    plugins: forPages,
    build: { outDir: folder, minify: false, lib: { entry: join(root, 'core/src/engine.ts'), formats: ['es'], fileName: () => 'engine.js' } },
  });
  bare = (await import(/* @vite-ignore */ pathToFileURL(join(folder, 'engine.js')).href)) as typeof Engine;
}, 60_000);
afterAll(() => rm(folder, { recursive: true, force: true }));

/** What came of an event, without what is only said of it. */
const happened = (reports: readonly Report[]) =>
  reports
    .map(({ fired, effects, layer }) => ({
      layer,
      effects,
      fired: fired.map(({ steps, ...one }) => ({ ...one, steps: steps.map(({ done }) => done) })),
    }))
    .filter(({ fired, effects }) => fired.length || effects.length);

/** What nobody does in a page: there people press, move and let go, and by name only what has the focus is clicked. */
const BY_NAME: ReadonlySet<RunEvent['type']> = new Set(['double-click', 'long-press', 'hold', 'let-go', 'beside', 'hover', 'drag', 'swipe']);

const isOfPage = (event: RunEvent): boolean => !BY_NAME.has(event.type) && !(event.type === 'click' && event.layer === null);

test('the engine of a page does the same', () => {
  let fired = 0;
  for (let seed = 0; seed < 150; seed++) {
    const piece = richPiece(seed);
    const [program, page] = [compile(piece), bare.compileWith(piece, parseExpression)];
    let [mine, theirs] = [start(program), bare.start(page)];
    expect(theirs).toEqual(mine);
    for (const event of randomEvents(program, generator(seed), 40).filter(isOfPage)) {
      const [here, there] = [advance(program, mine!, event), bare.advance(page, theirs!, event)];
      expect(there.run, `piece ${seed}`).toEqual(here.run);
      expect(happened(there.reports), `piece ${seed}`).toEqual(happened(here.reports));
      const steps = there.reports.flatMap((report) => report.fired.flatMap((one) => one.steps));
      fired += steps.length;
      [mine, theirs] = [here.run, there.run];
    }
  }
  expect(fired).toBeGreaterThan(1000);
}, 60_000);
