import type { Piece } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import { REST, walkScripts, type PointOn, type ScriptStep, type Seen, type WalkScript } from '../walk-script.ts';
import { programOf } from '../audited.ts';
import { defineExport } from './define.ts';
import { fileName } from './names.ts';

/** Kept walks and the route plan as tests for Playwright, against the exported page. */
export const playwright = defineExport({
  kind: 'playwright',
  group: 'test',
  label: 'Tests for Playwright',
  act: 'Save the tests',
  ending: '.spec.ts',
  mediaType: 'text/typescript; charset=utf-8',
  meaning: 'kept walks, and routes over every branch, as tests that press, type and look in the exported page',
  walks: true,
  write: (piece) => playwrightTests(piece),
});

/** One test a walk: what is done, and which frames and texts are to be seen after each step. */
export function playwrightTests(piece: Piece): string {
  const program = programOf(piece);
  const { scripts, leftOut } = walkScripts(program);
  const missing = leftOut.length ? `\n *\n * Left out:\n${leftOut.map((line) => ` * - ${line.replaceAll('*/', '* /')}`).join('\n')}` : '';
  return `import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test, type Page } from '@playwright/test';

/**
 * Walks of ${oneLine(piece.head.name).replaceAll('*/', '* /')}. They run against its exported page: ${fileName(piece.head.name)}.html beside this file, or the address in PIECE_URL.${missing}
 */
const address = process.env['PIECE_URL'] ?? pathToFileURL(join(import.meta.dirname, ${text(`${fileName(piece.head.name)}.html`)})).href;

${HELPERS}
${scripts.map((script) => testOf(program, script)).join('\n')}`;
}

const text = (value: unknown): string => JSON.stringify(value).replaceAll('\u2028', '\\u2028').replaceAll('\u2029', '\\u2029');
const oneLine = (value: string): string => value.replace(/\s+/g, ' ');
const rounded = (value: number): number => Math.round(value * 1000) / 1000;

function testOf(program: Program, { name, from, begins, steps }: WalkScript): string {
  const frame = program.piece.scenes.get(from)!.name;
  const isStart = program.piece.head.start[0] === from;
  const lines = [
    `await begin(page${isStart ? '' : `, ${text(frame)}`});`,
    ...seenLines(begins),
    ...steps.flatMap((step) => stepLines(program, step)),
  ];
  return `test(${text(`${oneLine(name)}: ${oneLine(frame)}${steps.length ? `, ${oneLine(steps.map(({ words }) => words).join(', '))}`.slice(0, 160) : ''}`)}, async ({ page }) => {
${lines.map((line) => `  ${line}`).join('\n')}
});
`;
}

const seenLines = ({ scenes, frame, laid, texts }: Seen): string[] => [
  `await shows(page, ${text(scenes)}); // ${oneLine([frame, ...laid].join(', under '))}`,
  ...texts.map(([key, words]) => `await expect(layer(page, ${text(key)})).toHaveText(${text(words)});`),
];

const on = ({ layer, scene, x, y }: PointOn): string =>
  `${layer !== null ? `layer(page, ${text(layer)})` : scene !== null ? `frame(page, ${text(scene)})` : 'view(page)'}${x === 0.5 && y === 0.5 ? '' : `, ${rounded(x)}, ${rounded(y)}`}`;

function stepLines(program: Program, step: ScriptStep): string[] {
  const { wheel, words, seen } = step;
  const turned = wheel ? [`await turnWheel(page, ${rounded(wheel.dx)}, ${rounded(wheel.dy)}, ${on(wheel.over)});`] : [];
  return [
    `// ${oneLine(words)}`,
    ...turned,
    ...doneLines(program, step),
    ...(step.rests ? [`await rest(page, ${step.rests});`] : []),
    ...(seen ? seenLines(seen) : []),
  ];
}

/** What is done for an event; what nothing in a page can bring about was left out before. */
function doneLines(program: Program, { event, at }: ScriptStep): string[] {
  const point = at && on(at);
  switch (event.type) {
    case 'click':
      return [`await press(page, ${point});`];
    case 'beside':
      return [`await press(page, ${point});`];
    case 'double-click':
      return [`await pressTwice(page, ${point});`];
    case 'hold':
      return [`await pressDown(page, ${point});`];
    case 'let-go':
      return [point ? `await letGo(page, ${point});` : 'await page.mouse.up();'];
    case 'long-press':
      return [`await hold(page, ${point});`];
    case 'hover':
      return [`await comeOver(page, ${point});`];
    case 'drag':
      return [`await drag(page, ${rounded(event.dx)}, ${rounded(event.dy)}, ${point});`];
    case 'swipe':
      return [`await swipe(page, ${text(event.direction)}, ${point});`];
    case 'scroll':
      return [];
    case 'leave':
      return ['await leave(page);'];
    case 'key':
      return [`await pressKey(page, ${text(event.key)});`];
    case 'focus':
      return [
        event.layer === null
          ? 'await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());'
          : `await layer(page, ${text(event.layer)}).focus();`,
      ];
    case 'value':
      return [`await put(page, ${text(event.layer)}, ${text(event.value)});`];
    case 'media':
      return [`await playOut(page, ${text(event.layer)});`];
    case 'wait':
      return [`await rest(page, ${rounded(event.ms)});`];
    case 'pad':
      return [`await page.getByRole('button', { name: ${text(`Pad button ${event.button}`)}, exact: true }).click();`];
    case 'signal':
      return [`await send(page, { zany: 'signal', name: ${text(event.signal)} });`];
    case 'set':
      return [
        `await send(page, { zany: 'set', name: ${text(program.piece.variables.get(event.variable)?.name ?? '')}, value: ${text(event.value)} });`,
      ];
    default:
      return [];
  }
}

/** What the tests are written with. */
const HELPERS = `type Where = ReturnType<Page['locator']>;

const layer = (page: Page, key: string): Where => page.locator(\`[data-layer="\${key}"]\`).first();
/** All that is seen of the piece. */
const view = (page: Page): Where => page.locator('.zany-player');
const frame = (page: Page, id: string): Where => page.locator(\`[data-frame="\${id}"]\`).first();

/** Opens the page, in which time passes only when it is told to, and goes to a frame if it does not begin there. */
async function begin(page: Page, name?: string): Promise<void> {
  await page.clock.install({ time: 0 });
  // Far enough that no machine is too slow to get there.
  await page.clock.pauseAt(3_600_000);
  await page.goto(address);
  await expect(page.locator('[data-frame]').first()).toBeAttached();
  if (name !== undefined) await send(page, { zany: 'go', name });
  await rest(page, ${REST});
}

/** Lets time pass, ms. */
const rest = (page: Page, ms: number): Promise<void> => page.clock.runFor(ms);

/** The frame, the sheets it carries and what is laid over it, once all has come to rest; in any order. */
async function shows(page: Page, scenes: readonly string[]): Promise<void> {
  const seen = () => page.locator('[data-frame]').evaluateAll((all) => all.map((one) => (one as HTMLElement).dataset['frame']).sort());
  await expect.poll(seen, { timeout: 10_000 }).toEqual([...scenes].sort());
}

const send = (page: Page, message: object): Promise<void> => page.evaluate((sent) => window.postMessage(sent, '*'), message);

/** A point on what is seen of something, as shares of its box. */
async function pointOn(where: Where, x = 0.5, y = 0.5): Promise<[number, number]> {
  const box = (await where.boundingBox())!;
  return [box.x + box.width * x, box.y + box.height * y];
}

/** How large one pixel of a frame is shown. */
const scaleOf = (where: Where): Promise<number> =>
  where.evaluate((one) => {
    const scene = one.closest<HTMLElement>('[data-frame]') ?? (one as HTMLElement);
    return scene.getBoundingClientRect().width / scene.offsetWidth;
  });

async function press(page: Page, where: Where, x?: number, y?: number): Promise<void> {
  await page.mouse.click(...(await pointOn(where, x, y)));
}

async function pressTwice(page: Page, where: Where, x?: number, y?: number): Promise<void> {
  await page.mouse.dblclick(...(await pointOn(where, x, y)));
}

async function pressDown(page: Page, where: Where, x?: number, y?: number): Promise<void> {
  await page.mouse.move(...(await pointOn(where, x, y)));
  await page.mouse.down();
}

/** Lets go of what is held, elsewhere. */
async function letGo(page: Page, where: Where, x?: number, y?: number): Promise<void> {
  await page.mouse.move(...(await pointOn(where, x, y)), { steps: 3 });
  await page.mouse.up();
}

async function hold(page: Page, where: Where, x?: number, y?: number): Promise<void> {
  await page.mouse.move(...(await pointOn(where, x, y)));
  await page.mouse.down();
  await rest(page, 900);
  await page.mouse.up();
}

async function comeOver(page: Page, where: Where, x?: number, y?: number): Promise<void> {
  await page.mouse.move(...(await pointOn(where, x, y)));
}

/** A key of a keyboard; one that no keyboard of ours has is told to the page. */
async function pressKey(page: Page, key: string): Promise<void> {
  if (/^([ -~]|[A-Z][A-Za-z0-9]+)$/.test(key)) await page.keyboard.press(key);
  else await page.evaluate((name) => document.dispatchEvent(new KeyboardEvent('keydown', { key: name, bubbles: true })), key);
}

async function leave(page: Page): Promise<void> {
  await page.locator('.zany-player').dispatchEvent('pointerleave');
}

async function drag(page: Page, dx: number, dy: number, where: Where, x?: number, y?: number): Promise<void> {
  const [fromX, fromY] = await pointOn(where, x, y);
  const scale = await scaleOf(where);
  await page.mouse.move(fromX, fromY);
  await page.mouse.down();
  await page.mouse.move(fromX + dx * scale, fromY + dy * scale, { steps: 8 });
  await page.mouse.up();
}

async function swipe(page: Page, direction: 'left' | 'right' | 'up' | 'down', where: Where, x?: number, y?: number): Promise<void> {
  const [fromX, fromY] = await pointOn(where, x, y);
  const [dx, dy] = { left: [-90, 0], right: [90, 0], up: [0, -90], down: [0, 90] }[direction] as [number, number];
  await page.mouse.move(fromX, fromY);
  await page.mouse.down();
  await page.mouse.move(fromX + dx, fromY + dy, { steps: 3 });
  await page.mouse.up();
}

async function turnWheel(page: Page, dx: number, dy: number, where: Where, x?: number, y?: number): Promise<void> {
  const scale = await scaleOf(where);
  await page.mouse.move(...(await pointOn(where, x, y)));
  await page.mouse.wheel(dx * scale, dy * scale);
}

/** A video or sound as if it had been played to its end. */
const playOut = (page: Page, key: string): Promise<void> => layer(page, key).evaluate((one) => void (one.matches('video, audio') ? one : one.querySelector('video, audio')!).dispatchEvent(new Event('ended')));

async function put(page: Page, key: string, value: string | number | boolean): Promise<void> {
  const field = layer(page, key);
  const control = (await field.evaluate((one) => one.matches('input, select, textarea'))) ? field : field.locator('input, select, textarea').first();
  await control.evaluate((one, wanted) => {
    const input = one as HTMLInputElement;
    if (typeof wanted === 'boolean') return void (input.checked !== wanted && input.click());
    input.value = String(wanted);
    for (const type of ['input', 'change']) input.dispatchEvent(new Event(type, { bubbles: true }));
  }, value);
}
`;
