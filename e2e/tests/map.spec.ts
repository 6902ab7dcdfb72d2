import { readFile } from 'node:fs/promises';
import type { Page, TestInfo } from '@playwright/test';
import type { ComposeSpec } from '@zany/core/testing';
import sharp from 'sharp';
import { pieceOf } from './pieces.ts';
import { expect, test } from './studio.ts';

/** What the map says of frames besides how they lead to each other. */

const button = (y: number, ...lines: string[]) => ({ at: [40, y, 310, 60] as const, style: { fill: '#1f4e5f' }, lines });

const harbour: ComposeSpec = {
  name: 'Harbour map',
  frames: {
    Harbour: { layers: { Boats: button(120, 'click → go to Boats'), Fares: button(200, 'click → go to Fares') } },
    Boats: { layers: { Pay: button(120, 'click → go to Pay') } },
    Fares: { layers: { Home: button(740, 'click → go to Harbour') } },
    Pay: { layers: { Home: button(740, 'click → go to Harbour') } },
    Lost: { layers: { Home: button(740, 'click → go to Harbour') } },
  },
};

test('the map says what was walked, and how each frame is come to', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  await page.locator('[data-running] [data-layer]').first().click();
  await studio.running('Boats');
  await page.waitForTimeout(900);
  await studio.desk('Map');
  const map = page.locator('[data-map]');
  const frame = (name: string) => map.getByRole('button', { name: new RegExp(`^${name}, frame`) });
  await expect(frame('Harbour')).toHaveAccessibleName('Harbour, frame 1');
  await page.getByRole('radio', { name: 'what I have walked' }).click();
  await expect(frame('Harbour')).toHaveAccessibleName('Harbour, frame 1, 1 of 2');
  await expect(frame('Boats')).toHaveAccessibleName('Boats, frame 2, 0 of 1');
  const drawn = map.locator('canvas');
  await expect(drawn).toHaveAttribute('data-walked', '1');

  await page.getByRole('radio', { name: 'steps from the start' }).click();
  await expect(frame('Harbour')).toHaveAccessibleName('Harbour, frame 1, begins here');
  await expect(frame('Pay')).toHaveAccessibleName('Pay, frame 4, 2 steps');
  await expect(frame('Lost')).toHaveAccessibleName('Lost, frame 5, cannot be reached');
  await frame('Pay').focus();
  await expect(page.locator('[data-way]')).toHaveText('To Pay from Harbour: click Boats, click Pay');
  await expect(drawn).toHaveAttribute('data-lit', '2');

  // An edit leads there sooner.
  await studio.desk('Build');
  await studio.openFrame('Harbour');
  await studio.leadElsewhere('Fares', 'Fares', 'Pay');
  await studio.desk('Map');
  await page.getByRole('radio', { name: 'steps from the start' }).click();
  await expect(frame('Pay')).toHaveAccessibleName('Pay, frame 4, 1 step');
  await expect(frame('Fares')).toHaveAccessibleName('Fares, frame 3, cannot be reached');
});

/** What a canvas shows around a point of the window: how many colours there are. */
const coloursAt = async (page: Page, x: number, y: number, info: TestInfo) => {
  const shot = await page.screenshot({ clip: { x: x - 20, y: y - 20, width: 40, height: 40 }, path: info.outputPath('there.png') });
  return page.evaluate(async (data) => {
    const image = new Image();
    image.src = `data:image/png;base64,${data}`;
    await image.decode();
    const canvas = new OffscreenCanvas(image.width, image.height);
    const context = canvas.getContext('2d')!;
    context.drawImage(image, 0, 0);
    const { data: pixels } = context.getImageData(0, 0, image.width, image.height);
    return new Set(Array.from({ length: pixels.length / 4 }, (_, i) => pixels.slice(i * 4, i * 4 + 3).join())).size;
  }, shot.toString('base64'));
};

test('sixty frames: found by name, sifted, focused on, come to by arrows, and drawn', async ({ studio, page }, info) => {
  await studio.givenPiece(pieceOf(60));
  await studio.desk('Map');
  const map = page.locator('[data-map]');
  const drawn = map.locator('canvas');
  const frame = (name: string) => map.getByRole('button', { name: new RegExp(`^${name}, frame`) });
  await expect(map.locator('[data-frame]')).toHaveCount(60);
  await expect(page.getByText('60 frames · 205 stitches')).toBeVisible();

  // What many lead to is a mark, unless every stitch is asked for.
  const few = Number(await drawn.getAttribute('data-strands'));
  await page.getByRole('button', { name: 'every stitch' }).click();
  await expect.poll(async () => Number(await drawn.getAttribute('data-strands'))).toBeGreaterThan(few + 60);
  await page.getByRole('button', { name: 'every stitch' }).click();

  const find = page.getByRole('textbox', { name: 'Find a frame on the map' });
  await find.fill('tides');
  await expect(drawn).toHaveAttribute('data-faint', '50');
  await expect(map.getByText('10 frames', { exact: true })).toBeVisible();
  await find.press('Enter');
  await expect.poll(async () => (await frame('Tides start').boundingBox())!.width).toBeGreaterThan(50);
  const box = (await frame('Tides start').boundingBox())!;
  await expect.poll(() => coloursAt(page, box.x + box.width / 2, box.y + 20, info)).toBeGreaterThan(3);
  await find.press('Escape');
  await expect(drawn).toHaveAttribute('data-faint', '0');
  await page.getByRole('button', { name: 'not walked' }).click();
  await expect(map.getByText('60 frames', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'loose ends', exact: true }).click();
  await page.getByRole('button', { name: 'not walked' }).click();
  await expect(map.getByText(/^[0-9]+ frames$/)).toBeVisible();
  await page.getByRole('button', { name: 'loose ends', exact: true }).click();

  await frame('Tides start').click();
  await page.getByRole('radio', { name: '1 step around the open frame' }).click();
  await expect.poll(async () => Number(await drawn.getAttribute('data-faint'))).toBeGreaterThan(40);
  await page.getByRole('radio', { name: 'All frames' }).click();
  await frame('Tides start').focus();
  await page.keyboard.press('ArrowRight');
  await expect(frame('Tides 2')).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('region', { name: 'Cue sheet' }).getByRole('heading', { name: 'Tides 2' })).toBeVisible();
});

test('frames are put where they shall stand, stay there, and are arranged by flow again', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Map');
  const map = page.locator('[data-map]');
  const frame = (name: string) => map.getByRole('button', { name: new RegExp(`^${name}, frame`) });
  await frame('Lost').hover();
  const begun = (await frame('Lost').boundingBox())!;
  const handle = (await page.locator('[data-carry]').boundingBox())!;
  await page.mouse.move(handle.x + 20, handle.y + handle.height / 2);
  await page.mouse.down();
  await page.mouse.move(handle.x + 60, handle.y - 80, { steps: 5 });
  await page.mouse.up();
  const sideOf = async () => {
    const [lost, start] = [(await frame('Lost').boundingBox())!, (await frame('Harbour').boundingBox())!];
    return Math.round(((lost.x - start.x) / lost.width) * 20);
  };
  const put = await sideOf();
  // By keyboard as well: nothing else moves, and each is one edit.
  const [was, harbourWas] = [(await frame('Lost').boundingBox())!, (await frame('Harbour').boundingBox())!];
  await frame('Lost').focus();
  await page.keyboard.press('Alt+ArrowRight');
  const step = (await frame('Lost').boundingBox())!.x - was.x;
  expect(step).toBeGreaterThan(1);
  await page.keyboard.press('Alt+Shift+ArrowDown');
  expect((await frame('Lost').boundingBox())!.y - was.y).toBeCloseTo(5 * step, 0);
  expect((await frame('Harbour').boundingBox())!.x).toBeCloseTo(harbourWas.x, 1);
  for (let i = 0; i < 2; i++) await page.keyboard.press('Control+z');
  await expect.poll(sideOf).toBe(put);
  await studio.saved();
  await page.reload();
  await expect(frame('Lost')).toBeVisible();
  await expect.poll(sideOf).toBe(put);
  expect((await frame('Lost').boundingBox())!.x).not.toBeCloseTo(begun.x, 0);
  await page.getByRole('button', { name: 'arrange by flow' }).click();
  await expect.poll(sideOf).not.toBe(put);
  await page.keyboard.press('Control+z');
  await expect.poll(sideOf).toBe(put);
});

test('a frame that is only laid over another stands under it, also when something leads on from it', async ({ studio, page }) => {
  await studio.given({
    ...harbour,
    frames: {
      ...harbour.frames,
      Menu: { size: [390, 300], layers: { Pay: button(20, 'click → go to Pay'), Shut: button(120, 'click → lift') } },
      Fares: { layers: { More: button(120, 'click → lay over Menu at bottom'), Home: button(740, 'click → go to Harbour') } },
    },
  });
  await studio.desk('Map');
  const frame = (name: string) => page.locator('[data-map]').getByRole('button', { name: new RegExp(`^${name}, frame`) });
  const [menu, fares] = [(await frame('Menu').boundingBox())!, (await frame('Fares').boundingBox())!];
  expect(menu.y).toBeGreaterThan(fares.y + fares.height);
  expect(menu.y - fares.y - fares.height).toBeLessThan(fares.height / 2);
  expect(menu.x).toBeGreaterThan(fares.x);
  expect(menu.x).toBeLessThan(fares.x + fares.width);
});

test('frames are named, marked and bundled on the map', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Map');
  const map = page.locator('[data-map]');
  const frame = (name: string) => map.getByRole('button', { name: new RegExp(`^${name}, frame`) });
  await frame('Lost').click({ button: 'right' });
  const menu = page.getByRole('dialog', { name: 'Lost' });
  await menu.getByRole('textbox', { name: 'Name of the frame' }).fill('Found');
  await menu.getByRole('textbox', { name: 'Name of the frame' }).press('Enter');
  await expect(frame('Found')).toBeVisible();
  await frame('Pay').click();
  await frame('Found').click({ modifiers: ['Control'] });
  await frame('Found').click({ button: 'right' });
  await page.getByRole('dialog', { name: 'Found' }).getByRole('combobox', { name: 'Bundle' }).fill('Money');
  await page.getByRole('button', { name: 'bundle 2 frames' }).click();
  await frame('Found').click({ button: 'right' });
  await page.getByRole('dialog', { name: 'Found' }).getByRole('button', { name: 'Delete 2 frames' }).click();
  await expect(map.locator('[data-frame]')).toHaveCount(3);
  await page.keyboard.press('Control+z');
  await expect(map.locator('[data-frame]')).toHaveCount(5);
  // A ribbon that is pointed at says what it does.
  const [from, to] = [(await frame('Boats').boundingBox())!, (await frame('Pay').boundingBox())!];
  await expect
    .poll(async () => {
      for (let y = from.y; y < from.y + from.height; y += 4) {
        await page.mouse.move((from.x + from.width + to.x) / 2, y);
        if (await page.locator('[data-pointed]').isVisible()) return page.locator('[data-pointed]').textContent();
      }
      return null;
    })
    .toContain('go to');
});

test('sixty frames: a bundle folds into its cloth by hand, stays folded, and comes out where something in it is found', async ({ studio, page }) => {
  await studio.givenPiece(pieceOf(60));
  await studio.desk('Map');
  const map = page.locator('[data-map]');
  const drawn = map.locator('canvas');
  const strands = async () => Number(await drawn.getAttribute('data-strands'));
  await expect(map.locator('[data-frame]')).toHaveCount(60);
  const fold = map.getByRole('button', { name: /^Tides, 10 frames/ });
  await expect(fold).toHaveAttribute('aria-expanded', 'true');
  const all = await strands();
  await fold.focus();
  await page.keyboard.press('Enter');
  await expect(fold).toHaveAttribute('aria-expanded', 'false');
  await expect(map.locator('[data-frame]')).toHaveCount(50);
  await expect.poll(strands).toBeLessThan(all);
  // Where it stood nothing is chosen any more.
  await page.reload();
  await expect(map.locator('[data-frame]')).toHaveCount(50);
  await map.getByRole('button', { name: /^Islands, 10 frames/ }).click();
  await expect(map.locator('[data-frame]')).toHaveCount(40);
  const find = page.getByRole('textbox', { name: 'Find a frame on the map' });
  await find.fill('tides 4');
  await find.press('Enter');
  await expect(map.getByRole('button', { name: /^Tides 4, frame/ })).toBeVisible();
  await expect(map.locator('[data-frame]')).toHaveCount(50);
});

test('what was changed since a version stands out, also what is changed while one looks', async ({ studio, page }) => {
  await studio.givenPiece(pieceOf(60));
  await studio.desk('Build');
  await studio.openFrame('Tickets 2');
  await studio.draw('b', 60, 300, 90, 60);
  await studio.saved();
  await studio.desk('Map');
  const drawn = page.locator('[data-map] canvas');
  const since = page.getByRole('button', { name: /^Frames that were changed/ });
  await since.click();
  await page.getByRole('option', { name: /the beginning/ }).click();
  await expect(since).toHaveText('changed since the beginning');
  await expect(drawn).toHaveAttribute('data-faint', '59');
  await page
    .locator('[data-map]')
    .getByRole('button', { name: /^Geese 3, frame/ })
    .click({ button: 'right' });
  const name = page.getByRole('dialog', { name: 'Geese 3' }).getByRole('textbox', { name: 'Name of the frame' });
  await name.fill('Geese three');
  await name.press('Enter');
  await expect(drawn).toHaveAttribute('data-faint', '58');
  await page.keyboard.press('Escape');
  await since.click();
  await page.getByRole('option', { name: 'whenever' }).click();
  await expect(drawn).toHaveAttribute('data-faint', '0');
});

test('frames are pictured with the pictures in them, also where the map is what is opened first', async ({ studio, page }) => {
  const { pieces } = (await (await page.request.get('/api/pieces')).json()) as { pieces: { id: string; name: string }[] };
  await studio.open(pieces.find(({ name }) => name === 'Ticket app')!.id);
  await studio.desk('Map');
  await page.reload();
  const harbourBox = (await page
    .locator('[data-map]')
    .getByRole('button', { name: /^Harbour, frame/ })
    .boundingBox())!;
  const { x, y, width, height } = harbourBox;
  // In the middle of its picture is the sea, where else is paper.
  const clip = { x: x + width * 0.4, y: y + height * 0.27, width: width * 0.2, height: height * 0.04 };
  await expect.poll(async () => (await sharp(await page.screenshot({ clip })).stats()).channels[0]!.mean).toBeLessThan(150);
});

test('the map is kept as SVG with all its frames, goes to the printer, and says what it means', async ({ studio, page }) => {
  await studio.givenPiece(pieceOf(60));
  await studio.desk('Map');
  await expect(page.getByText('60 frames · ')).toBeVisible();
  const onPaper = async (how: string) => {
    await page.getByRole('button', { name: 'The map on paper' }).click();
    await page.getByText(how, { exact: true }).click();
  };
  const coming = page.waitForEvent('download');
  await onPaper('as SVG');
  const file = await coming;
  expect(file.suggestedFilename()).toBe('Ferries 60 - map.svg');
  const svg = await readFile(await file.path(), 'utf8');
  const found = await page.evaluate((text) => {
    const made = new DOMParser().parseFromString(text, 'image/svg+xml');
    const words = Array.from(made.querySelectorAll('text'), (one) => one.textContent);
    const pictures = Array.from(made.querySelectorAll('image'), (one) => one.getAttribute('xlink:href')!.slice(0, 22));
    return { isWell: made.querySelector('parsererror') === null, words, pictures, title: made.querySelector('title')!.textContent };
  }, svg);
  expect(found.isWell).toBe(true);
  expect(found.title).toBe('Ferries 60 - map');
  expect(found.pictures).toEqual(Array.from({ length: 60 }, () => 'data:image/png;base64,'));
  for (const name of ['1 Tickets start', '37 Bicycles 7', '60 Geese 10', 'Harbour office']) expect(found.words).toContain(name);

  // What a person sees while it is asked where to print to.
  await page.addInitScript(() => (window.print = () => undefined));
  await onPaper('print, or as PDF');
  const paper = page.frameLocator('iframe[title="Ferries 60 - map"]');
  await expect(paper.locator('svg image')).toHaveCount(60);

  await page.getByRole('button', { name: 'legend' }).click();
  await expect(page.getByRole('dialog', { name: 'What the map means' }).getByText('all its threads were walked')).toBeVisible();
});
