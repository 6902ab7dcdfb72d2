import { readFileSync } from 'node:fs';
import { createHash } from 'node:crypto';
import { readdirSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { htmlPage, readPackage, unwrap, writePackage, type PageParts, type Piece } from '@zany/core';
import { compose, layerId as id, type ComposeSpec } from '@zany/core/testing';
import { expect, type Page } from '@playwright/test';
import { axeOn } from './axe.ts';
import { test as base } from './kept-context.ts';

/** Exported pages in the browser, by real pointer, touch and keyboard input. */

const parts = JSON.parse(readFileSync(fileURLToPath(new URL('../../player/dist/page-parts.json', import.meta.url)), 'utf8')) as {
  runtime: string;
  element: string;
  css: string;
  fonts: Record<string, string>;
};
const pageParts: PageParts = {
  ...parts,
  fonts: new Map(Object.entries(parts.fonts).map(([family, text]) => [family, Buffer.from(text, 'base64')])),
  hash: (text) => createHash('sha256').update(text).digest('base64'),
  base64: (bytes) => Buffer.from(bytes).toString('base64'),
};
const pieces = new URL('../../demo/pieces/', import.meta.url);
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex');
const demo = async (file: string) => unwrap(await readPackage(readFileSync(new URL(file, pieces)), sha256));

/** Pages by name, served to the browser as if from a server; signals are kept by the page around. */
class Stage {
  constructor(
    readonly page: Page,
    private readonly problems: string[]
  ) {}

  async show(piece: Piece, assets: ReadonlyMap<string, Uint8Array> = new Map()): Promise<void> {
    const html = htmlPage(piece, assets, pageParts);
    await this.page.route('**/piece.html', (route) => route.fulfill({ contentType: 'text/html', body: html }));
    await this.page.route('**/around.html', (route) =>
      route.fulfill({
        contentType: 'text/html',
        body: `<!doctype html><html lang="en"><title>Around</title><body style="margin:0"><iframe title="piece" src="/piece.html" style="border:0;width:100vw;height:100vh" allow="autoplay"></iframe><script>window.heard = []; addEventListener('message', (event) => heard.push(event.data.name));</script>`,
      })
    );
    await this.page.goto('http://piece.test/around.html');
    await expect(this.frame.locator('.zany-scene').first()).toBeVisible();
    // Keys go to the frame that was pressed last.
    await this.page.mouse.click(2, 2);
  }

  play(spec: ComposeSpec): Promise<void> {
    return this.show(compose(spec));
  }

  get frame() {
    return this.page.frameLocator('iframe');
  }

  layer(name: string, scene = 'home') {
    return this.frame.locator(`.zany-scene:not([inert]) [data-layer="${id(scene, name)}"]`);
  }

  heard(): Promise<string[]> {
    return this.page.evaluate(() => (window as unknown as { heard: string[] }).heard);
  }

  async hears(...names: string[]): Promise<void> {
    await expect.poll(() => this.heard()).toEqual(names);
  }

  tell(message: object): Promise<void> {
    return this.page.evaluate((data) => document.querySelector('iframe')!.contentWindow!.postMessage(data, '*'), message);
  }

  async center(name: string, scene = 'home') {
    const box = (await this.layer(name, scene).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  }

  clean() {
    expect(this.problems).toEqual([]);
  }
}

const test = base.extend<{ stage: Stage }>({
  stage: async ({ page }, use) => {
    const problems: string[] = [];
    page.on('pageerror', (error) => problems.push(error.message));
    page.on('console', (message) => message.type() === 'error' && !/favicon/.test(message.text()) && problems.push(message.text()));
    const stage = new Stage(page, problems);
    await use(stage);
    stage.clean();
  },
});

const one = (lines: string[], more = {}): ComposeSpec => ({
  frames: { home: { layers: { box: { at: [100, 100, 120, 120], lines, ...more }, other: { at: [100, 400, 120, 60] } } } },
});

test('pointer cues by a real mouse: click, double click, press, release, hover, leave, long press, swipe', async ({ stage, page }) => {
  await stage.play(
    one([
      'click → send click',
      'double click → send double',
      'press → send press',
      'release → send release',
      'hover → send hover',
      'leave → send leave',
      'long press 400 ms → send long',
      'swipe right → send swipe',
    ])
  );
  const { x, y } = await stage.center('box');
  await page.mouse.move(x, y);
  await stage.hears('hover');
  await page.mouse.dblclick(x, y);
  await stage.hears('hover', 'press', 'release', 'click', 'press', 'release', 'click', 'double');
  await page.mouse.move(x, y + 300);
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.waitForTimeout(600);
  await page.mouse.up();
  await expect.poll(() => stage.heard().then((list) => list.slice(8))).toEqual(['leave', 'hover', 'press', 'long', 'release']);
  await page.mouse.move(x - 40, y);
  await page.mouse.down();
  await page.mouse.move(x + 30, y, { steps: 4 });
  await page.mouse.up();
  await expect.poll(() => stage.heard().then((list) => list.slice(13))).toEqual(['press', 'release', 'swipe']);
});

test('dragging with axis, bounds and a target, and letting go beyond the edge', async ({ stage, page }) => {
  await stage.play({
    frames: {
      home: {
        layers: {
          target: { at: [250, 90, 120, 140] },
          box: {
            at: [40, 100, 100, 100],
            drag: { axis: 'x', bounds: { left: 0, right: 220, top: 0, bottom: 0 } },
            lines: ['drag start → send start', 'drag → send drag', 'drop on target → send on target'],
          },
        },
      },
    },
  });
  const { x, y } = await stage.center('box');
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 100, y + 80);
  await page.mouse.move(1270, y + 80);
  const scale = (await stage.layer('box').boundingBox())!.width / 100;
  expect((await stage.center('box')).x).toBeCloseTo(x + 220 * scale, 0);
  expect((await stage.center('box')).y).toBeCloseTo(y, 0);
  await page.mouse.move(x + 200 * scale, y);
  await page.mouse.up();
  await stage.hears('start', 'drag', 'drag', 'drag', 'on target');
});

test('scrolling by wheel, keys and finger; pinned layers stay; in view', async ({ stage, page }) => {
  await stage.play({
    size: [390, 600],
    frames: {
      home: {
        contentHeight: 1600,
        layers: {
          bar: { at: [0, 0, 390, 60], pin: ['top'], lines: ['scroll down 40 → send down', 'scroll up 40 → send up'] },
          far: { at: [20, 1500, 100, 60], lines: ['in view → send seen', 'click → scroll to top · 200 ms ease'] },
        },
      },
    },
  });
  const bar = await stage.center('bar');
  await page.mouse.move(bar.x, bar.y + 200);
  await page.mouse.wheel(0, 300);
  await stage.hears('down');
  expect(await stage.center('bar')).toEqual(bar);
  await page.mouse.wheel(0, -200);
  await stage.hears('down', 'up');
  await stage.page.keyboard.press('End');
  await stage.hears('down', 'up', 'down', 'seen');
  await stage.layer('far').click();
  await expect.poll(async () => (await stage.layer('far').boundingBox())!.y).toBeGreaterThan(900);
});

test('keys, focus and blur; Enter presses what has the focus; disabled layers are no stop', async ({ stage, page }) => {
  await stage.play({
    variables: { Ready: { type: 'yes/no', initial: false } },
    frames: {
      home: {
        layers: {
          second: { at: [20, 200, 100, 60], text: 'Second', lines: ['click → send second', 'focus → send focus', 'blur → send blur'] },
          first: { at: [20, 20, 100, 60], text: 'First', lines: ['click → set Ready to true'] },
          late: { at: [20, 400, 100, 60], text: 'Late', when: { enabled: 'Ready' }, lines: ['click → send late'] },
        },
        lines: ['key Ctrl+ArrowUp → send chord', 'key x → send x'],
      },
    },
  });
  await stage.page.keyboard.press('x');
  await stage.page.keyboard.press('Control+ArrowUp');
  await stage.hears('x', 'chord');
  const late = stage.frame.getByRole('button', { name: 'Late' });
  await expect(late).toHaveAttribute('aria-disabled', 'true');
  await page.keyboard.press('Tab');
  await expect(stage.frame.getByRole('button', { name: 'First' })).toBeFocused();
  await page.keyboard.press('Tab');
  await expect(stage.frame.getByRole('button', { name: 'Second' })).toBeFocused();
  await page.keyboard.press('Space');
  await page.keyboard.press('Shift+Tab');
  await page.keyboard.press('Enter');
  await stage.hears('x', 'chord', 'focus', 'second', 'blur');
  await expect(late).not.toHaveAttribute('aria-disabled');
  await late.press('Enter');
  await stage.hears('x', 'chord', 'focus', 'second', 'blur', 'late');
});

test('what waits for the focus is a stop of its own, and is not pressed there; what is only to be read is none', async ({ stage, page }) => {
  await stage.play({
    frames: {
      home: {
        layers: {
          tip: { at: [20, 20, 100, 60], text: 'Tip', lines: ['focus → send tip', 'blur → send gone', 'release → send let go'] },
          read: { at: [20, 120, 100, 60], text: 'Read', role: 'text', lines: ['click → send read'] },
          go: { at: [20, 220, 100, 60], text: 'Go', lines: ['click → send go'] },
        },
        lines: ['key Enter → send enter'],
      },
    },
  });
  await stage.hears();
  await page.keyboard.press('Tab');
  await expect(stage.frame.getByRole('group', { name: 'Tip' })).toBeFocused();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await expect(stage.frame.getByRole('button', { name: 'Go' })).toBeFocused();
  await page.keyboard.press('Space');
  await stage.hears('tip', 'enter', 'gone', 'go');
  await stage.layer('read').click();
  await stage.hears('tip', 'enter', 'gone', 'go', 'read');
});

test('fields are real form controls, both ways with their variables', async ({ stage }) => {
  await stage.play({
    variables: {
      Name: { type: 'text', initial: '' },
      Seats: { type: 'number', initial: 2, min: 0, max: 9 },
      Agreed: { type: 'yes/no', initial: false },
      Day: { type: 'choice', initial: 'Fri', options: ['Fri', 'Sat'] },
    },
    frames: {
      home: {
        layers: {
          name: { at: [20, 20, 200, 40], type: 'field', field: { kind: 'text', variable: 'Name' }, label: 'Name', lines: ['change → send name'] },
          seats: { at: [20, 80, 200, 40], type: 'field', field: { kind: 'number', min: 0, max: 9, variable: 'Seats' }, label: 'Seats' },
          slide: { at: [20, 140, 200, 40], type: 'field', field: { kind: 'slider', min: 0, max: 9, step: 1, variable: 'Seats' }, label: 'Slide' },
          agree: {
            at: [20, 200, 40, 40],
            type: 'field',
            field: { kind: 'checkbox', variable: 'Agreed' },
            label: 'Agree',
            lines: ['selected → send on', 'unselected → send off'],
          },
          switch: { at: [80, 200, 60, 40], type: 'field', field: { kind: 'switch' }, label: 'Light' },
          day: { at: [20, 260, 200, 40], type: 'field', field: { kind: 'choice', options: ['Fri', 'Sat'], variable: 'Day' }, label: 'Day' },
          out: { at: [20, 320, 300, 40], type: 'text', text: '{Name}, {Seats}, {string(Agreed)}, {Day}' },
          more: { at: [20, 400, 100, 44], text: 'More', lines: ['click → set Seats to Seats + 1; set Name to upper case(Name)'] },
        },
      },
    },
  });
  const { frame } = stage;
  await frame.getByRole('textbox', { name: 'Name' }).fill('Ina');
  await frame.getByRole('slider', { name: 'Slide' }).fill('5');
  await expect(frame.getByRole('spinbutton', { name: 'Seats' })).toHaveValue('5');
  await frame.getByRole('checkbox', { name: 'Agree' }).check();
  await frame.getByRole('switch', { name: 'Light' }).check();
  await frame.getByRole('combobox', { name: 'Day' }).selectOption('Sat');
  await expect(frame.getByText('Ina, 5, true, Sat')).toBeVisible();
  await frame.getByRole('button', { name: 'More' }).click();
  await expect(frame.getByRole('textbox', { name: 'Name' })).toHaveValue('INA');
  await frame.getByRole('spinbutton', { name: 'Seats' }).fill('99');
  await expect(frame.getByText('INA, 9, true, Sat')).toBeVisible();
  await frame.getByRole('checkbox', { name: 'Agree' }).uncheck();
  await expect.poll(() => stage.heard()).toContain('off');
});

test('steps: states, select, enable, show, move, tween, set, wait, lay over and lift', async ({ stage }) => {
  await stage.play({
    frames: {
      home: {
        states: { A: {}, B: { dot: { pose: { x: 300 } } } },
        layers: {
          dot: { at: [10, 10, 20, 20], style: { fill: '#112233' } },
          state: { at: [10, 60, 100, 44], text: 'state', lines: ['click → put this in B · tween 200 ms linear; send there'] },
          hide: { at: [10, 120, 100, 44], text: 'hide', lines: ['click → hide dot · dissolve 150 ms linear'] },
          move: {
            at: [10, 180, 100, 44],
            text: 'move',
            lines: ['click → move move by 50, 0 · 150 ms linear; with tween opacity of move to 0.5 · 300 ms linear; send moved'],
          },
          lay: { at: [10, 240, 100, 44], text: 'lay', lines: ['click → lay closing over sheet at bottom scrim 50 % · cover up 200 ms ease'] },
          pick: { at: [10, 300, 100, 44], text: 'pick', selected: false, lines: ['click → select or unselect pick'] },
        },
      },
      sheet: { size: [390, 200], layers: { ok: { at: [20, 20, 100, 44], text: 'ok', lines: ['click → lift · dissolve 100 ms linear'] } } },
    },
  });
  const { frame } = stage;
  const begin = (await stage.center('dot')).x;
  await frame.getByRole('button', { name: 'state' }).click();
  await stage.hears('there');
  const shownScale = (await frame.locator('.zany-player').boundingBox())!.width / 390;
  await expect.poll(async () => (await stage.center('dot')).x, 'the last picture of the tween is drawn too').toBeCloseTo(begin + 290 * shownScale, 0);
  await frame.getByRole('button', { name: 'hide' }).click();
  await expect(stage.layer('dot')).toHaveCount(0);
  await frame.getByRole('button', { name: 'move' }).click();
  await stage.hears('there', 'moved');
  await expect(stage.layer('move')).toHaveCSS('opacity', '0.5');
  const pick = frame.getByRole('button', { name: 'pick' });
  await expect(pick).toHaveAttribute('aria-pressed', 'false');
  await pick.click();
  await expect(pick).toHaveAttribute('aria-pressed', 'true');
  await frame.getByRole('button', { name: 'lay' }).click();
  await frame.getByRole('button', { name: 'ok' }).click();
  await expect(frame.getByRole('button', { name: 'ok' })).toHaveCount(0);
  await frame.getByRole('button', { name: 'lay' }).click();
  await expect(frame.getByRole('button', { name: 'ok' })).toBeVisible();
  const box = (await frame.locator('.zany-player').boundingBox())!;
  await stage.page.mouse.click(box.x + 300, box.y + 60);
  await expect(frame.getByRole('button', { name: 'ok' })).toHaveCount(0);
});

test('every transition ends on the new frame, and none moves anything when movement is turned off', async ({ stage, page }) => {
  const ways = [
    'cut',
    'dissolve 150 ms linear',
    'push left 150 ms linear',
    'cover up 150 ms linear',
    'uncover right 150 ms linear',
    'wipe down 150 ms linear',
    'tween 150 ms linear',
  ];
  const frames = Object.fromEntries(
    ways.map((way, i) => [
      `f${i}`,
      {
        layers: {
          box: {
            at: [10 + i * 20, 10, 60, 60] as const,
            text: `to ${(i + 1) % ways.length}`,
            lines: [`click → go to f${(i + 1) % ways.length} · ${way}`],
          },
        },
      },
    ])
  );
  await stage.play({ frames });
  for (let i = 0; i < ways.length; i++) {
    await stage.frame.locator(`.zany-scene[data-frame=f${i}]:not([inert])`).getByRole('button').click();
    await expect(stage.frame.locator('.zany-scene')).toHaveCount(1);
    await expect(stage.frame.locator('.zany-scene')).toHaveAttribute('data-frame', `f${(i + 1) % ways.length}`);
    await expect(stage.frame.locator('.zany-scene')).toHaveCSS('transform', 'none');
  }
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await stage.tell({ zany: 'go', name: 'f2' });
  await stage.frame.locator('.zany-scene[data-frame=f2]').getByRole('button').click();
  for (let i = 0; i < 5; i++) {
    const moved = await stage.frame.locator('.zany-scene').evaluateAll((nodes) => nodes.some((node) => (node as HTMLElement).style.transform !== ''));
    expect(moved).toBe(false);
  }
});

test('timelines play at their speed, and a step shows a moment of them', async ({ stage }) => {
  await stage.play({
    fps: 20,
    frames: {
      home: {
        timeline: {
          length: 40,
          labels: { Begin: [0, 'hold'], Go: [10, 'hold'] },
          tracks: [
            [
              'ball',
              'x',
              [
                [0, 0],
                [9, 90],
                [10, 100],
                [39, 300],
              ],
            ],
          ],
        },
        layers: {
          ball: { at: [0, 100, 20, 20], style: { fill: '#112233' } },
          go: { at: [0, 200, 100, 44], text: 'go', lines: ['click → play from Go; send done'] },
          show: { at: [0, 260, 100, 44], text: 'show', lines: ['click → show label Go'] },
        },
        lines: ['label Go → send go'],
      },
    },
  });
  const at = async () => await stage.layer('ball').evaluate((node) => new DOMMatrix(getComputedStyle(node).transform).e);
  await expect.poll(at).toBe(90);
  await stage.frame.getByRole('button', { name: 'show' }).click();
  await expect.poll(at).toBe(100);
  const began = Date.now();
  await stage.frame.getByRole('button', { name: 'go' }).click();
  await stage.hears('go', 'go', 'done');
  expect(Date.now() - began).toBeGreaterThan(1300);
  expect(await at()).toBe(300);
});

test('touch: taps, swipes, and a finger that scrolls', { tag: '@several' }, async ({ browser }) => {
  const context = await browser.newContext({ hasTouch: true, viewport: { width: 400, height: 700 } });
  const page = await context.newPage();
  const stage = new Stage(page, []);
  await stage.play({
    size: [390, 600],
    frames: {
      home: {
        contentHeight: 1400,
        layers: { tap: { at: [20, 20, 100, 60], lines: ['click → send tap'] } },
        lines: ['swipe left → send swipe', 'scroll down 30 → send down'],
      },
    },
  });
  const { x, y } = await stage.center('tap');
  await page.touchscreen.tap(x, y);
  await stage.hears('tap');
  const client = await context.newCDPSession(page);
  const touch = async (points: [number, number][]) => {
    for (const [i, [px, py]] of points.entries())
      await client.send('Input.dispatchTouchEvent', { type: i === 0 ? 'touchStart' : 'touchMove', touchPoints: [{ x: px, y: py }] });
    await client.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  };
  await touch([
    [300, 300],
    [280, 302],
    [220, 303],
    [120, 303],
  ]);
  await stage.hears('tap', 'swipe');
  await touch([
    [200, 500],
    [200, 470],
    [200, 400],
    [200, 300],
  ]);
  await stage.hears('tap', 'swipe', 'down');
  await context.close();
});

test('the kiosk: pad buttons on the screen and by digit keys, films that end in the menu', async ({ stage }) => {
  const { piece, assets } = await demo('5-pier-kiosk.zip');
  await stage.show(piece, assets);
  const { frame } = stage;
  await frame.getByRole('button', { name: 'Pad button 3' }).click();
  await expect(frame.getByText('The bell has rung 1 times today.')).toBeVisible();
  await stage.page.keyboard.press('1');
  await expect(frame.getByText('The crossing to Tolm')).toBeVisible();
  await expect(frame.getByText('Press a button on the pier')).toBeHidden();
  await expect(frame.getByText('Press a button on the pier')).toBeVisible({ timeout: 10_000 });
  await stage.page.keyboard.press('0');
  await expect(frame.getByText('The crossing to Skarra')).toBeVisible();
  await stage.page.keyboard.press('3');
  await expect(frame.getByText('Press a button on the pier')).toBeVisible();
});

test('messages: variables, signals and frames from the page around it; nonsense is passed over', async ({ stage }) => {
  await stage.play({
    variables: { Seats: { type: 'number', initial: 1, max: 5 } },
    frames: {
      home: { layers: { out: { at: [0, 0, 100, 40], type: 'text', text: '{Seats} seats' } }, lines: ['signal open → go to end'] },
      end: { layers: { back: { at: [0, 0, 100, 44], text: 'end', lines: ['click → send closed'] } } },
    },
  });
  await stage.tell({ zany: 'set', name: 'Seats', value: 4 });
  await expect(stage.frame.getByText('4 seats')).toBeVisible();
  for (const nonsense of [
    { zany: 'set', name: 'Seats', value: 'many' },
    { zany: 'set', name: 'Gulls', value: 1 },
    { zany: 'go' },
    { zany: 'fly', name: 'x' },
    {},
    { zany: 'set', name: 'Seats', value: { a: 1 } },
  ])
    await stage.tell(nonsense);
  await expect(stage.frame.getByText('4 seats')).toBeVisible();
  await stage.tell({ zany: 'signal', name: 'open' });
  await stage.frame.getByRole('button', { name: 'end' }).click();
  await stage.hears('closed');
});

test('a link that is opened tells the page around it by which id it is measured', async ({ stage }) => {
  const lines = ['click → open https://www.kittiwake.example/fares in new tab as banner-7'];
  await stage.play({ frames: { home: { layers: { fares: { at: [0, 0, 200, 44], text: 'Fares', lines } } } } });
  await stage.frame.getByRole('link', { name: 'Fares' }).click();
  await stage.hears('banner-7');
});

test('<zany-piece>: a package in any page, with its variables, signals and frames', async ({ page }) => {
  const piece = compose({
    variables: { Seats: { type: 'number', initial: 1 } },
    frames: {
      home: { layers: { more: { at: [0, 0, 200, 60], text: 'More than {Seats}', lines: ['click → set Seats to Seats + 1; send more'] } } },
      end: {},
    },
  });
  await page.route('**/piece.zip', (route) => route.fulfill({ body: Buffer.from(writePackage(piece, new Map())) }));
  await page.route('**/broken.zip', (route) => route.fulfill({ body: 'nothing' }));
  await page.route('**/zany-piece.js', (route) =>
    route.fulfill({ contentType: 'text/javascript', path: fileURLToPath(new URL('../../player/dist/zany-piece.js', import.meta.url)) })
  );
  await page.route('**/host.html', (route) =>
    route.fulfill({
      contentType: 'text/html',
      body: `<!doctype html><html lang="en"><title>Host</title><zany-piece src="piece.zip" style="width:390px;height:700px"></zany-piece><script>window.heard = []; for (const type of ['zany-ready', 'zany-signal', 'zany-frame', 'zany-error']) addEventListener(type, (event) => heard.push([type, event.detail]));</script><script src="/zany-piece.js"></script>`,
    })
  );
  await page.goto('http://piece.test/host.html');
  await page.getByRole('button', { name: 'More than 1' }).click();
  await expect(page.getByRole('button', { name: 'More than 2' })).toBeVisible();
  const result = await page.evaluate(() => {
    const element = document.querySelector('zany-piece') as HTMLElement & {
      variables: Record<string, unknown>;
      setVariable(name: string, value: unknown): boolean;
      goTo(name: string): boolean;
    };
    return [
      element.variables,
      element.setVariable('Seats', 7),
      element.setVariable('Gulls', 1),
      element.variables,
      element.goTo('end'),
      element.goTo('nowhere'),
    ];
  });
  expect(result).toEqual([{ Seats: 2 }, true, false, { Seats: 7 }, true, false]);
  await page.evaluate(() => document.querySelector('zany-piece')!.setAttribute('src', 'broken.zip'));
  await expect
    .poll(() => page.evaluate(() => (window as unknown as { heard: [string, unknown][] }).heard.map(([type]) => type)))
    .toEqual(['zany-frame', 'zany-ready', 'zany-signal', 'zany-frame', 'zany-error']);
});

for (const file of readdirSync(pieces).filter((name) => name.endsWith('.zip')))
  test(`axe finds nothing in ${file}`, async ({ page }) => {
    const { piece, assets } = await demo(file);
    await page.route('**/piece.html', (route) =>
      route.fulfill({
        contentType: 'text/html',
        body: htmlPage(piece, assets, pageParts).replace(/<meta http-equiv="Content-Security-Policy"[^>]*>/, ''),
      })
    );
    await page.goto('http://piece.test/piece.html');
    await expect(page.locator('.zany-scene').first()).toBeVisible();
    const { violations } = await axeOn(page).disableRules(['color-contrast', 'landmark-one-main', 'page-has-heading-one', 'region']).analyze();
    expect(violations.map(({ id: rule, nodes }) => `${rule}: ${nodes.map((node) => node.html.slice(0, 160)).join(' | ')}`)).toEqual([]);
  });

test('timers, wait, toggle, enable, pause and start over', async ({ stage }) => {
  await stage.play({
    fps: 20,
    frames: {
      home: {
        states: { A: {}, B: { dot: { pose: { x: 300 } } } },
        timeline: {
          length: 100,
          tracks: [
            [
              'ball',
              'x',
              [
                [0, 0],
                [99, 300],
              ],
            ],
          ],
        },
        layers: {
          dot: { at: [10, 10, 20, 20], style: { fill: '#112233' } },
          ball: { at: [0, 40, 20, 20], style: { fill: '#223344' } },
          turn: { at: [10, 80, 100, 44], text: 'turn', lines: ['click → toggle this with B'] },
          unlock: { at: [10, 140, 100, 44], text: 'unlock', lines: ['click → enable or disable locked'] },
          locked: { at: [10, 200, 100, 44], text: 'locked', disabled: true, lines: ['click → wait 150 ms; send opened'] },
          stop: { at: [10, 260, 100, 44], text: 'stop', lines: ['click → pause'] },
          over: { at: [10, 320, 100, 44], text: 'over', lines: ['click → start over; with pause'] },
        },
        lines: ['after 300 ms → send late'],
      },
    },
  });
  const { frame } = stage;
  const press = (name: string) => frame.getByRole('button', { name }).click();
  const xOf = async (name: string) => await stage.layer(name).evaluate((node) => new DOMMatrix(getComputedStyle(node).transform).e);
  await stage.hears('late');
  await press('turn');
  await expect.poll(() => xOf('dot')).toBe(300);
  await press('turn');
  await expect.poll(() => xOf('dot')).toBe(10);
  await expect(frame.getByRole('button', { name: 'locked' })).toBeDisabled();
  await press('unlock');
  await press('locked');
  await stage.hears('late', 'opened');
  await press('stop');
  const stopped = await xOf('ball');
  expect(stopped).toBeGreaterThan(0);
  await stage.page.waitForTimeout(300);
  expect(await xOf('ball')).toBe(stopped);
  await press('over');
  await expect.poll(() => xOf('ball')).toBe(0);
});
