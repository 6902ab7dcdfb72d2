import { execFile } from 'node:child_process';
import { createServer } from 'node:http';
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { expect, test, type Page } from '@playwright/test';
import { compile, framesOf, readPackage, stillScreen, unwrap, writePackage } from '@zany/core';
import { compose, labOf, richPiece } from '@zany/core/testing';
import { svelte } from '@sveltejs/vite-plugin-svelte';
import { unzipSync } from 'fflate';
import { build } from 'vite';
import { generator } from './random.ts';

/** What is handed over for others' programs works there: tests run, folders are served, packages are bundled. */

const root = join(import.meta.dirname, '../..');
const run = promisify(execFile);
const demos = ['ticket-app', 'crossing-chart', 'summer-banner', 'day-trip', 'pier-kiosk', 'tide-lesson', 'lamplight-banner', 'harbour-clock'];

/** Random pieces whose routes need a group got at by what is outside of it, a long press, odd keys, a frame laid over, focus and time. */
const RICH = [3, 27, 56];

/** What is pressed and held, let go elsewhere, gone from under the finger, and pressed beside what takes presses in it. */
const held = () => {
  const box = (x: number, y: number, ...lines: string[]) => ({ at: [x, y, 80, 60] as const, text: 'Go', lines });
  const home = box(10, 10, 'click → go to quay');
  return compose({
    name: 'held',
    size: [300, 400],
    variables: { n: { type: 'number', initial: 0, min: 0, max: 2 } },
    frames: {
      quay: {
        states: { Up: {}, Down: {} },
        layers: {
          bell: box(10, 10, 'press → put this in Down', 'release → put this in Up'),
          count: box(110, 10, 'press → set n to n + 1', 'click → set n to 0'),
          ask: box(210, 10, 'press → lay closing over sure at bottom'),
          card: { type: 'group', at: [10, 100, 200, 200], lines: ['click → go to far'] },
          ground: { in: 'card', at: [0, 0, 200, 200] },
          star: { in: 'card', at: [70, 70, 60, 60], text: 'Star', lines: ['click → set n to 0'] },
        },
        lines: ['after 1 s in Down → go to rung', 'key k → if n = 2 → go to counted'],
      },
      sure: { size: [300, 100], layers: { yes: box(10, 10, 'click → go to far') } },
      rung: { layers: { home } },
      counted: { layers: { home: { ...home, lines: ['click → set n to 0; go to quay'] } } },
      far: { layers: { home } },
    },
  });
};

/** A folder of its own for each that tests at once, from which the packages of this one are found. */
const folder = join(import.meta.dirname, '../.handed-out', process.env['TEST_WORKER_INDEX'] ?? 'alone');
test.beforeAll(() => mkdir(folder, { recursive: true }));
test.afterAll(() => rm(folder, { recursive: true, force: true }));

const zany = (...args: string[]) => run(join(root, 'zany'), args);

async function exported(piece: string, kind: string, name: string): Promise<Uint8Array> {
  const out = join(folder, name);
  await zany('export', piece, '--to', kind, '--out', out);
  return readFile(out);
}

/** One page at a time, so that a browser without windows does. */
const browser = process.env['ZANY_BROWSER'] ?? '/usr/bin/chromium';
const CONFIG = `import { defineConfig } from '@playwright/test';
export default defineConfig({ testDir: '.', outputDir: 'results', workers: 1, reporter: 'line', timeout: 90_000, use: { launchOptions: { executablePath: '${browser}', args: ['--no-sandbox'] } } });
`;

/** Runs tests that were handed over; what they print. */
async function runTests(at: string): Promise<{ readonly passes: boolean; readonly out: string }> {
  await writeFile(join(at, 'playwright.config.ts'), CONFIG);
  const program = join(root, 'node_modules/@playwright/test/cli.js');
  return run(process.execPath, [program, 'test', '--config', join(at, 'playwright.config.ts')], { cwd: at, timeout: 400_000 }).then(
    ({ stdout }) => ({ passes: true, out: stdout }),
    (error: { stdout?: string }) => ({ passes: false, out: error.stdout ?? String(error) })
  );
}

/** Serves files by name; gives the address, and what ends it. */
async function serve(
  files: (name: string) => Promise<Uint8Array | undefined> | Uint8Array | undefined
): Promise<{ readonly address: string; readonly stop: () => void }> {
  const types: Record<string, string> = { html: 'text/html', js: 'text/javascript', css: 'text/css', svg: 'image/svg+xml', woff2: 'font/woff2' };
  const server = createServer((request, response) => {
    const name = new URL(request.url!, 'http://localhost').pathname.slice(1) || 'index.html';
    void Promise.resolve(files(name)).then((bytes) => {
      response.writeHead(bytes ? 200 : 404, { 'content-type': types[name.split('.').at(-1)!] ?? 'application/octet-stream' });
      response.end(bytes);
    });
  });
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done));
  return { address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`, stop: () => server.close() };
}

function problemsOf(page: Page): string[] {
  const problems: string[] = [];
  page.on('pageerror', ({ message }) => problems.push(message));
  page.on('console', (message) => message.type() === 'error' && problems.push(message.text()));
  return problems;
}

test('tests that are handed over pass against every demo page, and fail after a planted fault', async () => {
  test.setTimeout(600_000);
  const at = join(folder, 'walks');
  await mkdir(at, { recursive: true });
  for (const [i, name] of demos.entries()) {
    const piece = join(root, `demo/pieces/${i + 1}-${name}.zip`);
    await exported(piece, 'playwright', `walks/${name}.spec.ts`);
    await exported(piece, 'html', `walks/${name}.html`);
  }
  for (const [name, piece] of [...RICH.map((seed) => [`rich-${seed}`, richPiece(seed)] as const), ['held', held()] as const]) {
    await writeFile(join(folder, `${name}.zip`), writePackage({ ...piece, head: { ...piece.head, name } }, new Map()));
    await exported(join(folder, `${name}.zip`), 'playwright', `walks/${name}.spec.ts`);
    await exported(join(folder, `${name}.zip`), 'html', `walks/${name}.html`);
  }
  const all = await runTests(at);
  expect(all.passes, all.out).toBe(true);
  expect(all.out).toMatch(/\d{2} passed/);

  const faulty = join(folder, 'faulty');
  await mkdir(faulty, { recursive: true });
  const { piece, assets } = unwrap(await readPackage(await readFile(join(root, 'demo/pieces/1-ticket-app.zip')), null));
  const pay = [...piece.threads.values()].find(({ owner }) => piece.layers.get(owner)?.name === 'Pay now')!;
  const astray = {
    ...pay,
    branches: [{ steps: [{ do: 'go' as const, target: { to: 'frame' as const, frame: 'frame6' }, transition: { type: 'cut' as const } }] }],
  };
  await writeFile(join(folder, 'faulty.zip'), writePackage({ ...piece, threads: piece.threads.set(pay.id, astray as typeof pay) }, assets));
  await exported(join(folder, 'faulty.zip'), 'html', 'faulty/ticket-app.html');
  await exported(join(root, 'demo/pieces/1-ticket-app.zip'), 'playwright', 'faulty/ticket-app.spec.ts');
  const one = await runTests(faulty);
  expect(one.passes).toBe(false);
  expect(one.out).toContain('"frame6"');
});

test('a page as a folder runs from a web server under its own policy', async ({ page }) => {
  const problems = problemsOf(page);
  const files = unzipSync(await exported(join(root, 'demo/pieces/1-ticket-app.zip'), 'folder', 'folder.zip'));
  const { address, stop } = await serve((name) => files[name]);
  await page.goto(address);
  await page.getByRole('button', { name: 'Plan a trip' }).click();
  await expect(page.locator('[data-frame="frame2"]')).toBeVisible();
  expect(await page.evaluate(() => [...document.images].filter((image) => image.naturalWidth === 0).length)).toBe(0);
  expect(problems).toEqual([]);
  stop();
});

test('looks and timelines as CSS are at each moment what the piece is', async ({ page }) => {
  const { among, from, whole } = generator(5);
  const LENGTH = 60;
  const FPS = 30;
  const EASINGS = ['linear', 'ease', 'ease-in-out', 'spring(0.4)', 'overshoot(0.2)', 'steps(3)', 'cubic-bezier(0.3, -0.4, 0.6, 1.4)'];
  const COLORS = ['#0b7a75', '#e59a00', '#b23a26', '#6d3a7c80', '#123456'];
  const values: Readonly<Record<string, () => number | string>> = {
    x: () => from(0, 200),
    y: () => from(0, 200),
    width: () => from(20, 90),
    rotation: () => from(-90, 90),
    scale: () => from(0.4, 1.6),
    opacity: () => from(0, 1),
    fill: () => among(COLORS),
    corner: () => from(0, 20),
  };
  const keysOf = (name: string) => {
    const times = [...new Set(Array.from({ length: 2 + whole(4) }, () => whole(LENGTH)))].sort((a, b) => a - b);
    return times.map((time) => [time, values[name]!(), among(EASINGS)] as const);
  };
  const names = ['Low water', 'Low water 2', 'Gull'];
  const piece = compose({
    fps: FPS,
    frames: {
      Tide: {
        size: [320, 240],
        timeline: {
          length: LENGTH,
          tracks: names.flatMap((name) => Object.keys(values).map((property) => [name, property as 'x', keysOf(property)] as const)),
          spans: [['Gull', 12, 40]],
        },
        layers: {
          Harbour: { type: 'group', at: [10, 20, 300, 200] },
          ...Object.fromEntries(
            names.map((name) => [name, { in: 'Harbour', at: [whole(100), whole(100), 40, 30] as const, style: { fill: '#ffffff' } }])
          ),
          Book: { at: [0, 200, 80, 40], text: 'Book', style: { fill: '#0b7a75' }, looks: { hover: { style: { fill: '#e59a00' }, ms: 0 } } },
        },
      },
    },
  });
  await writeFile(join(folder, 'tide.zip'), writePackage(piece, new Map()));
  const css = new TextDecoder().decode(await exported(join(folder, 'tide.zip'), 'css', 'tide.css'));
  const [frame] = framesOf(piece);
  const element = (name: string, inside = '') => `<div class="${name}">${inside}</div>`;
  const inner = ['low-water', 'low-water-2', 'gull'].map((name) => element(name)).join('');
  await page.setContent(`<style>${css}</style>${element('tide', element('harbour', inner) + element('book'))}`);
  const program = compile(piece);
  const measured = (ms: number) =>
    page.evaluate((time) => {
      for (const one of document.getAnimations()) {
        one.pause();
        one.currentTime = time;
      }
      return Array.from(document.querySelectorAll('.harbour > div'), (one) => {
        const style = getComputedStyle(one);
        const number = (text: string) => (text === 'none' ? null : parseFloat(text));
        const numbers = [style.left, style.top, style.width, style.rotate, style.scale, style.opacity, style.borderTopLeftRadius].map(number);
        return { numbers, color: (style.backgroundColor.match(/-?[\d.]+(e-?\d+)?/g) ?? []).map(Number), there: style.visibility };
      });
    }, ms);
  for (let i = 0; i <= 20; i++) {
    const moment = (i * LENGTH) / 20.5;
    const shown = stillScreen(program, frame!.id, { frame: moment })!.surfaces[0]!.all;
    // What comes and goes does so from one timeline frame to the next.
    const there = stillScreen(program, frame!.id, { frame: Math.floor(moment) })!.surfaces[0]!.all;
    const got = await measured((moment * 1000) / FPS);
    for (const [n, name] of names.entries()) {
      const one = shown.find(({ node }) => node.layer.name === name);
      const where = `${name} at ${moment}`;
      expect(got[n]!.there, where).toBe(there.some(({ node }) => node.layer.name === name) ? 'visible' : 'hidden');
      if (!one) continue;
      const wanted = [one.x, one.y, one.width, one.rotation, one.scale, one.opacity, one.style.corner ?? 0];
      wanted.forEach((value, k) => expect(Math.abs(value - (got[n]!.numbers[k] ?? 0)), `${where}: ${k}`).toBeLessThan(0.6));
      const { L, a, b, alpha } = labOf(one.style.fill!);
      [L, a, b, alpha].forEach((value, k) => expect(Math.abs(value - (got[n]!.color[k] ?? 1)), `${where}: colour ${k}`).toBeLessThan(0.02));
    }
  }
  const book = page.locator('.book');
  const fill = () => book.evaluate((one) => getComputedStyle(one).backgroundColor);
  const before = await fill();
  await book.hover();
  expect(await fill()).not.toBe(before);
  // What cannot be used looks as it does at rest, and words stand where the player sets them.
  await book.evaluate((one) => one.setAttribute('aria-disabled', 'true'));
  expect(await fill()).toBe(before);
  const set = await book.evaluate((one) => {
    one.textContent = 'Book';
    const range = document.createRange();
    range.selectNodeContents(one);
    const [words, box] = [range.getBoundingClientRect(), one.getBoundingClientRect()];
    const { fontWeight, fontSize, lineHeight } = getComputedStyle(one);
    return {
      fontWeight,
      fontSize,
      lineHeight,
      off: [words.x + words.width / 2 - box.x - box.width / 2, words.y + words.height / 2 - box.y - box.height / 2],
    };
  });
  expect(set).toMatchObject({ fontWeight: '400', fontSize: '16px', lineHeight: '20.8px' });
  for (const off of set.off) expect(Math.abs(off)).toBeLessThan(1.5);
});

test('flowcharts are read by their own reader', async ({ page }) => {
  await page.goto('about:blank');
  await page.addScriptTag({ path: join(root, 'node_modules/mermaid/dist/mermaid.min.js') });
  const odd = compose({
    name: 'Odd',
    frames: { 'A "b" <i>#1;': { layers: { 'x | y': { at: [0, 0, 90, 40], lines: ['click → open https://kittiwake.example/?a=1&b=%22'] } } } },
  });
  await writeFile(join(folder, 'odd.zip'), writePackage(odd, new Map()));
  for (const piece of [join(folder, 'odd.zip'), ...demos.map((name, i) => join(root, `demo/pieces/${i + 1}-${name}.zip`))]) {
    const text = new TextDecoder().decode(await exported(piece, 'mermaid', 'flow.mmd'));
    const parsed = await page.evaluate(
      (source) => (window as unknown as { mermaid: { parse: (text: string) => Promise<{ diagramType: string }> } }).mermaid.parse(source),
      text
    );
    expect(parsed.diagramType).toMatch(/^flowchart/);
  }
});

test(
  'a banner opens the address it is given, its own without one, and none that is no web address',
  { tag: '@several' },
  async ({ page, context }) => {
    const piece = compose({
      size: [300, 250],
      frames: {
        Banner: {
          size: [300, 250],
          layers: { Book: { at: [0, 0, 300, 250], text: 'Book', lines: ['click → open https://kittiwake.example/own in new tab'] } },
        },
      },
    });
    await writeFile(join(folder, 'banner.zip'), writePackage(piece, new Map()));
    const html = await exported(join(folder, 'banner.zip'), 'banner', 'banner.html');
    const { address, stop } = await serve(() => html);
    await context.route(/^https:/, (route) => route.fulfill({ contentType: 'text/html', body: '<title>Opened</title>' }));
    for (const [query, wanted] of [
      ['?clickTag=https%3A%2F%2Fharbour.example%2Fexit%3Fid%3D7', 'https://harbour.example/exit?id=7'],
      ['', 'https://kittiwake.example/own'],
      ['?clickTag=javascript%3Aalert(1)', 'https://kittiwake.example/own'],
    ] as const) {
      await page.goto(`${address}/${query}`);
      const opening = context.waitForEvent('page');
      await page.locator('[data-layer]').first().click();
      const opened = await opening;
      await opened.waitForURL(wanted);
      await opened.close();
    }
    await expect(page.locator('meta[name="ad.size"]')).toHaveAttribute('content', 'width=300,height=250');
    stop();
    await expect(zany('export', join(folder, 'banner.zip'), '--to', 'banner', '--out', join(folder, 'b.html'), '--most', '20')).rejects.toMatchObject(
      {
        code: 1,
      }
    );
    expect((await zany('export', join(folder, 'banner.zip'), '--to', 'banner', '--out', join(folder, 'b.html'), '--most', '900')).stdout).toMatch(
      /of 900 kB\n$/
    );
  }
);

/** What each kind of application writes to use the package, and what has to be of its own types. */
const APPLICATIONS = {
  plain: {
    'main.ts': `import { makePiece, type PieceFrame } from 'ticket-app';
const piece = makePiece();
const named = (frame: PieceFrame | string) => (document.title = frame);
piece.style.cssText = 'display: block; width: 390px; height: 844px';
piece.addEventListener('zany-frame', (event) => named((event as CustomEvent<PieceFrame>).detail));
document.querySelector('main')!.append(piece);
`,
  },
  react: {
    'main.ts': `import { createElement, useEffect, useRef } from 'react';
import { createRoot } from 'react-dom/client';
import { Piece } from 'ticket-app/react';
import type { ZanyPiece } from 'ticket-app';
function App() {
  const piece = useRef<ZanyPiece>(null);
  useEffect(() => piece.current!.addEventListener('zany-frame', (event) => (document.title = (event as CustomEvent<string>).detail)), []);
  return createElement(Piece, { ref: piece, style: { display: 'block', width: 390, height: 844 } });
}
createRoot(document.querySelector('main')!).render(createElement(App));
`,
  },
  svelte: {
    'main.ts': `import { mount } from 'svelte';
import App from './App.svelte';
mount(App, { target: document.querySelector('main')! });
`,
    'App.svelte': `<script lang="ts">
  import { src, type ZanyPiece } from 'ticket-app';
  let frame = $state('');
  const said = (event: Event) => (frame = (event as CustomEvent<string>).detail);
  const named = (element: HTMLElement) => (element as ZanyPiece).addEventListener('zany-frame', said);
</script>

<svelte:head><title>{frame}</title></svelte:head>
<zany-piece {src} use:named style="display: block; width: 390px; height: 844px"></zany-piece>
`,
  },
} as const;

for (const [kind, sources] of Object.entries(APPLICATIONS))
  test(`the package for npm is bundled with a ${kind} application, by its types, and runs in it`, async ({ page }) => {
    const problems = problemsOf(page);
    const files = unzipSync(await exported(join(root, 'demo/pieces/1-ticket-app.zip'), 'npm', `npm-${kind}.zip`));
    const at = join(folder, kind);
    await mkdir(join(at, 'node_modules/ticket-app'), { recursive: true });
    for (const [name, bytes] of Object.entries(files)) await writeFile(join(at, 'node_modules/ticket-app', name), bytes);
    for (const [name, text] of Object.entries(sources)) await writeFile(join(at, name), text);
    await writeFile(
      join(at, 'index.html'),
      '<!doctype html><title>App</title><link rel="icon" href="data:,"><main></main><script type="module" src="main.ts"></script>'
    );
    const compilerOptions = { strict: true, noEmit: true, target: 'es2022', module: 'esnext', moduleResolution: 'bundler', lib: ['es2022', 'dom'] };
    await writeFile(join(at, 'tsconfig.json'), JSON.stringify({ compilerOptions: { ...compilerOptions, types: [] }, files: Object.keys(sources) }));
    const checker = kind === 'svelte' ? ['svelte-check', '--workspace', at, '--tsconfig', join(at, 'tsconfig.json')] : ['tsgo', '-p', at];
    await run(join(root, 'node_modules/.bin', checker[0]!), checker.slice(1)).catch(({ stdout }: { stdout: string }) => expect(stdout).toBe(''));
    await build({ root: at, logLevel: 'error', configFile: false, plugins: kind === 'svelte' ? svelte({ configFile: false }) : [] });
    const { address, stop } = await serve((name) => readFile(join(at, 'dist', name)).catch(() => undefined));
    await page.goto(address);
    await expect(page).toHaveTitle('Harbour');
    await page.getByRole('button', { name: 'Plan a trip' }).click();
    await expect(page).toHaveTitle('Sailings');
    expect(problems).toEqual([]);
    stop();
  });

test('what has the focus keeps it where layers come to stand in another order', async ({ page }) => {
  const problems = problemsOf(page);
  const piece = compose({
    frames: {
      home: {
        layers: {
          Down: { at: [0, 0, 200, 60], text: 'Down', lines: ['click → move this by 0, 300 · 200 ms linear'] },
          One: { at: [0, 80, 200, 60], text: 'One', lines: ['click → go to back'] },
          Two: {
            at: [0, 160, 200, 60],
            text: 'Two',
            lines: ['focus → move One by 0, 200 · 100 ms linear', 'blur → move One by 0, -200 · 100 ms linear'],
          },
        },
      },
    },
  });
  await writeFile(join(folder, 'focus.zip'), writePackage(piece, new Map()));
  const html = await exported(join(folder, 'focus.zip'), 'html', 'focus.html');
  const { address, stop } = await serve(() => html);
  await page.goto(address);
  await page.getByRole('button', { name: 'Down' }).focus();
  await page.keyboard.press('Enter');
  await page.waitForTimeout(600);
  const order = () => page.locator('[data-layer]').evaluateAll((all) => all.map((one) => one.textContent));
  expect(await order()).toEqual(['One', 'Two', 'Down']);
  await expect(page.getByRole('button', { name: 'Down' })).toBeFocused();
  await page.keyboard.press('Shift+Tab');
  await page.waitForTimeout(400);
  expect(problems).toEqual([]);
  stop();
});
