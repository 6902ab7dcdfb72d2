import type { Page } from '@playwright/test';
import { Acts, finish, printActs, published } from './acts.ts';
import { expect, test, type Studio } from './studio.ts';

printActs();

const sections = (page: Page) =>
  page
    .getByRole('list', { name: 'Sections' })
    .getByRole('button', { name: /^Section / })
    .evaluateAll((tags) => tags.map((tag) => tag.getAttribute('aria-label')!.replace('Section ', '')));

test('job 7: pages on a timeline', async ({ studio, page }, info) => {
  await studio.newPiece('Harbour board', 640, 400);
  const acts = new Acts(studio);
  await acts.press('m');
  await acts.type('Front, Ebb, Flood');
  await acts.press('Enter');
  expect(await sections(page)).toEqual(['Front, 48 frames, holds', 'Ebb, 48 frames, holds', 'Flood, 48 frames, holds']);
  await acts.press('x');
  await acts.press('Enter');
  await acts.type('{Frame 1.section}');
  await acts.press('Escape');
  await acts.press('y');
  await acts.type('Button');
  await acts.press('Enter');
  await acts.press('Enter');
  await acts.type('next s');
  await expect(page.getByRole('option').first()).toHaveText('play next section');
  await acts.press('Enter');
  await expect(studio.row('Button').getByRole('group', { name: 'Thread: click → play next section' })).toBeVisible();
  const other = await published(acts, studio, info);
  for (const name of ['Front', 'Ebb', 'Flood', 'Front']) {
    await expect(other.getByText(name, { exact: true })).toBeVisible();
    await other.waitForTimeout(300);
    await expect(other.getByText(name, { exact: true })).toBeVisible();
    await other.getByRole('button', { name: 'Button' }).first().click();
  }
  finish('7  pages on a timeline', acts, 20);
});

test('job 17: sections that bring their own buttons', async ({ studio, page }, info) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Quay: {
        size: [640, 400],
        timeline: { length: 96, labels: { Ebb: [0, 'hold'], Flood: [48, 'hold'] } },
        layers: Object.fromEntries(
          ['Ebb', 'Flood', 'Help', 'Tides', 'Mail', 'Back'].map((name, i) => [
            name,
            { at: [20 + (i % 3) * 200, 40 + Math.floor(i / 3) * 100, 160, 56] as const, text: name, style: { fill: '#f7e6c3' } },
          ])
        ),
      },
    },
  });
  const acts = new Acts(studio);
  await acts.press('m');
  await acts.do('to the second section', () => page.getByRole('button', { name: 'Section Flood' }).click());
  await acts.do('select three', () => studio.select('Tides'));
  await acts.do('and the others', () => studio.select('Back', ['Shift']));
  await acts.do('what they do in time', () => page.getByRole('button', { name: /^Add in time/ }).click());
  await acts.type('here');
  await acts.press('Enter');
  await acts.press('Control+a');
  await acts.press('p');
  await expect(page.getByRole('button', { name: 'Label for Flood: Flood' })).toBeVisible();
  await acts.press('Enter');
  await expect(studio.row('Flood').getByRole('group', { name: 'Thread: click → play from Flood' })).toBeVisible();
  await acts.press('Control+k');
  await acts.type('hover');
  await acts.press('Enter');
  for (const [name, address] of [
    ['Tides', 'https://tides.example'],
    ['Mail', 'mailto:quay@kittiwake.example'],
  ] as const) {
    await acts.do(`select ${name}`, () => studio.select(name));
    await acts.press('Enter');
    await acts.type(address);
    await acts.press('Enter');
    await expect(studio.row(name).getByRole('group', { name: new RegExp(`^Thread: click → open ${address}`) })).toBeVisible();
  }
  await acts.try();
  await expect(studio.button('Flood')).toBeVisible();
  await expect(studio.stage.getByRole('link', { name: 'Tides' })).toHaveCount(0);
  const rest = await studio.button('Flood').evaluate((node) => getComputedStyle(node.querySelector('.zany-shape') ?? node).backgroundColor);
  await studio.button('Flood').hover();
  await expect
    .poll(() => studio.button('Flood').evaluate((node) => getComputedStyle(node.querySelector('.zany-shape') ?? node).backgroundColor))
    .not.toBe(rest);
  await studio.button('Flood').click();
  await expect(studio.stage.getByRole('link', { name: 'Tides' })).toBeVisible();
  await page.waitForTimeout(2300);
  await expect(studio.stage.getByRole('link', { name: 'Tides' })).toBeVisible();
  await studio.button('Ebb').click();
  await expect(studio.stage.getByRole('link', { name: 'Tides' })).toHaveCount(0);
  finish('17 sections that bring their own buttons', acts, 22);
  await page.keyboard.press('Escape');
  const other = await published(acts, studio, info);
  await expect(other.getByRole('link', { name: 'Mail' })).toHaveCount(0);
  await other.getByRole('button', { name: 'Flood' }).click();
  await expect(other.getByRole('link', { name: 'Mail' })).toBeVisible();
});

const clip = (color: string): Parameters<Studio['given']>[0]['frames'][string] => ({
  size: [120, 80],
  timeline: {
    length: 24,
    tracks: [
      [
        'Face',
        'x',
        [
          [0, 0],
          [23, 60],
        ],
      ],
    ],
  },
  layers: { Face: { at: [0, 0, 60, 80], style: { fill: color } } },
});

/** A day of four sections, each with a clip of its own, before a background of two more. */
async function givenClips(studio: Studio): Promise<void> {
  const names = ['Ebb', 'Slack', 'Flood', 'Storm'];
  await studio.given({
    size: [640, 400],
    parts: Object.fromEntries(
      [...names, 'Sky', 'Sea'].map((name, i) => [`${name} clip`, clip(['#f0b13c', '#1f4e5f', '#8fa8a0', '#b4472e', '#cfe1ea', '#2e7f86'][i]!)])
    ),
    frames: {
      Day: {
        size: [640, 400],
        timeline: {
          length: 192,
          labels: Object.fromEntries(names.map((name, i) => [name, [i * 48, 'hold'] as const])),
          spans: names.map((name, i) => [`${name} mark`, i * 48, i * 48 + 47] as const),
        },
        layers: {
          Sky: { type: 'placement', part: 'Sky clip', at: [20, 20, 120, 80] },
          Sea: { type: 'placement', part: 'Sea clip', at: [480, 20, 120, 80] },
          ...Object.fromEntries(names.map((name) => [`${name} mark`, { type: 'placement', part: `${name} clip`, at: [240, 20, 120, 80] }])),
          ...Object.fromEntries(
            names.map((name, i) => [
              name,
              { at: [20 + i * 150, 300, 140, 56], text: name, style: { fill: '#f7e6c3' }, lines: [`click → play from ${name}`] },
            ])
          ),
        },
      },
    },
  });
}

test('job 18: clips that play on every visit', async ({ studio, page }, info) => {
  await givenClips(studio);
  const acts = new Acts(studio);
  await acts.do('select one of the background', () => studio.select('Sky'));
  await acts.do('and the other', () => studio.select('Sea', ['Control']));
  await acts.press('m');
  await acts.do('what they do in time', () => page.getByRole('button', { name: /^Add in time/ }).click());
  await acts.type('once');
  await acts.press('Enter');
  await acts.do('into a clip', () => studio.select('Flood mark'));
  await acts.press('Shift+Enter');
  const knot = (await page.locator('[data-knot="23"]').first().boundingBox())!;
  await acts.do('pull its last key', async () => {
    await page.mouse.move(knot.x + 5, knot.y + 5);
    await page.mouse.down();
    await page.mouse.move(knot.x + 140, knot.y + 5, { steps: 4 });
    await page.mouse.up();
  });
  const frames = Number(await page.getByLabel('Length in frames').inputValue());
  expect(frames).toBeGreaterThan(28);
  await expect(page.getByRole('gridcell', { name: /^Face: 2 keys/ }).locator(`[data-knot="${frames - 1}"]`)).toBeVisible();
  await acts.press('Shift+Escape');
  await acts.try();
  /** How far the piece has carried what moves in a clip. */
  const placed = (nodes: Element[], wanted: string) =>
    nodes
      .filter((node) => [node, ...node.querySelectorAll('*')].some((one) => getComputedStyle(one).backgroundColor === wanted))
      .map((node) => new DOMMatrix(getComputedStyle(node).transform).e)[0] ?? -1;
  const carried = (color: string) => page.locator('[data-running] .zany-box').evaluateAll(placed, color);
  const [flood, sky] = ['rgb(143, 168, 160)', 'rgb(207, 225, 234)'];
  for (let visit = 0; visit < 2; visit++) {
    // What is in between lasts a second, and a busy machine may look away for as long: the browser keeps count, at every frame.
    const least = page.evaluate(
      ({ source, wanted }) =>
        new Promise<number>((done) => {
          const place = new Function(`return ${source}`)() as (nodes: Element[], wanted: string) => number;
          const look = (soFar: number) => {
            const x = place([...document.querySelectorAll('[data-running] .zany-box')], wanted);
            if (x === 60 && soFar < 60) return done(soFar);
            requestAnimationFrame(() => look(x < 0 ? soFar : Math.min(soFar, x)));
          };
          look(Infinity);
        }),
      { source: String(placed), wanted: flood }
    );
    await acts.do('to Flood', () => studio.button('Flood').click(), visit ? 0 : 1);
    expect(await least).toBeLessThan(60);
    expect(await carried(sky)).toBe(60);
    await studio.button('Ebb').click();
    await expect.poll(() => carried(flood)).toBe(-1);
  }
  finish('18 clips that play on every visit', acts, 15);
  await page.keyboard.press('Escape');

  // A target that is not there is not made silently.
  await studio.select('Storm');
  await page.keyboard.press('Enter');
  await page.keyboard.type('click → play from Strom');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'make the section “Strom”' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(studio.row('Storm').getByRole('group', { name: /^Thread/ })).toHaveCount(1);

  const other = await published(acts, studio, info);
  await other.getByRole('button', { name: 'Storm' }).click();
  await expect(other.locator('.zany-box').filter({ hasNotText: /./ })).not.toHaveCount(0);
});

test('job 18 by the keyboard alone', async ({ studio, page }) => {
  await givenClips(studio);
  const press = async (...keys: string[]) => {
    for (const key of keys) await page.keyboard.press(key);
  };
  const choose = async (name: string) => {
    const isChosen = async () => (await studio.row(name).getAttribute('aria-selected')) === 'true';
    for (const way of ['.', ',']) for (let i = 0; i < 12 && !(await isChosen()); i++) await press(way);
    await expect(studio.row(name)).toHaveAttribute('aria-selected', 'true');
  };
  for (const name of ['Sky', 'Sea']) {
    await choose(name);
    await press('m', 'a');
    await page.keyboard.type('only once');
    await press('Enter');
  }
  await choose('Flood mark');
  await press('Shift+Enter', 'm', 'ArrowDown');
  await expect(page.getByRole('gridcell', { name: /^Face: 2 keys/ })).toBeFocused();
  // From the first key to the last one, and that a second later: the ending goes with it.
  await press('ArrowRight', 'Alt+Shift+ArrowRight', 'Alt+Shift+ArrowRight', 'Alt+ArrowRight', 'Alt+ArrowRight', 'Alt+ArrowRight', 'Alt+ArrowRight');
  expect(await page.locator('[data-knot]').evaluateAll((all) => all.map((one) => one.getAttribute('data-knot')))).toEqual(['0', '47']);
  await expect(page.getByLabel('Length in frames')).toHaveValue('48');
  await press('Escape', 'Shift+Escape', 't');
  await page.keyboard.press('Tab');
  await expect(studio.stage).toBeVisible();
  await studio.button('Flood').focus();
  await press('Enter');
  const face = page.locator('[data-running] .zany-box').filter({ hasNotText: /./ });
  const places = () => face.evaluateAll((all) => all.map((one) => Math.round(new DOMMatrix(getComputedStyle(one).transform).e)));
  // Both of the background stay at their end; the clip takes its two seconds.
  await expect.poll(async () => (await places()).filter((x) => x === 60).length, { timeout: 4000 }).toBeGreaterThanOrEqual(2);
  await press('Escape');
  await page.keyboard.press('Enter');
  await choose('Storm');
  await press('Enter');
  await page.keyboard.type('click → play from Strom');
  await press('Enter');
  await expect(page.getByRole('button', { name: 'make the section “Strom”' })).toBeVisible();
});

test('job 19: buttons to the web and to a moment', { tag: '@several' }, async ({ studio, page }, info) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Board: {
        size: [640, 400],
        timeline: { length: 96, labels: { Front: [0, 'hold'], Help: [48, 'hold'] }, spans: [['Note', 48, 95]] },
        layers: {
          Note: { at: [20, 200, 300, 60], text: 'Ask at the quay', style: { fill: '#cfe1ea' } },
          Button: {
            at: [20, 40, 160, 56],
            style: { fill: '#f7e6c3' },
            looks: { hover: { style: { fill: '#f0b13c' } }, press: { style: { fill: '#b4472e' } } },
            lines: ['click → open https://tides.example in new tab'],
          },
          Words: { at: [40, 54, 120, 28], type: 'text', text: 'Tides' },
        },
      },
    },
  });
  const acts = new Acts(studio);
  await acts.do('select the button', () => studio.select('Button'));
  await acts.press('r');
  await acts.type('3');
  await acts.press('Enter');
  await acts.do('select the third', () => studio.select('Button 3'));
  await acts.do('leads to Help', () => page.getByRole('button', { name: 'Play from Help' }).click());
  await expect(studio.row('Button 3').getByRole('group', { name: 'Thread: click → play from Help' })).toBeVisible();
  await expect(studio.row('Button 3').getByRole('group', { name: /^Thread/ })).toHaveCount(1);
  // The copy that kept its old address is pointed out, until it has its own.
  await expect(studio.row('Button 2')).toContainText('same as another');
  await acts.do('its address', () => studio.row('Button 2').getByRole('textbox').first().click());
  await acts.press('Control+a');
  await acts.type('https://fares.example');
  await acts.press('Enter');
  await expect(studio.row('Button 2')).not.toContainText('same as another');
  await acts.press('m');
  await acts.do('wait to be played', () => page.getByRole('button', { name: 'Plays by itself' }).click());
  await acts.try();
  await expect(studio.stage.getByText('Ask at the quay')).toHaveCount(0);
  // A text in front lets the press through.
  await studio.stage.getByText('Tides', { exact: true }).hover({ force: true });
  const opened = page.waitForEvent('popup');
  const words = (await studio.stage.getByText('Tides', { exact: true }).boundingBox())!;
  await page.mouse.click(words.x + words.width / 2, words.y + words.height / 2);
  await (await opened).close();
  await studio.button('Button 3').click();
  await expect(studio.stage.getByText('Ask at the quay')).toBeVisible();
  finish('19 buttons to the web and to a moment', acts, 14);
  await page.keyboard.press('Escape');
  const other = await published(acts, studio, info);
  await expect(other.getByRole('link', { name: 'Button 2' })).toHaveCount(1);
  await other.getByRole('button', { name: 'Button 3' }).click();
  await expect(other.getByText('Ask at the quay')).toBeVisible();
});
