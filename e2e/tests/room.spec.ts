import type { Locator, Page } from '@playwright/test';
import { expect, test } from './studio.ts';

const boxOf = async (page: Page, name: 'Shelf' | 'Cue sheet' | 'Strip') => {
  const box = await (name === 'Shelf' ? page.getByRole('navigation', { name: 'Frames' }) : page.getByRole('region', { name })).boundingBox();
  return box!;
};

test.use({ openSides: 'as they begin' });

const stageOf = async (page: Page) => (await page.locator('[data-stage]').boundingBox())!;

const harbour = {
  frames: {
    Harbour: {
      layers: {
        boats: { at: [20, 20, 120, 60] as const, text: 'Boats' },
        fares: { at: [20, 100, 120, 60] as const, text: 'Fares' },
      },
    },
    Boats: {},
    Fares: {},
  },
};

test('every side is folded by a key, keeps its width, and gives the stage its room', async ({ studio, page }) => {
  await studio.given(harbour);
  const begun = await stageOf(page);
  const share = ({ width, height }: { width: number; height: number }) => (width * height) / (1280 * 800);
  expect(share(begun)).toBeGreaterThan(0.55);
  await page.keyboard.press('d');
  expect(share(await stageOf(page))).toBeGreaterThan(0.65);
  await page.keyboard.press('w');
  await page.keyboard.press('q');
  const all = await stageOf(page);
  expect(share(all)).toBeGreaterThan(0.85);
  await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeHidden();

  // It is so the next time, and what was folded is opened by a press or by what is in it.
  await page.reload();
  await page.getByRole('button', { name: 'Unfold the shelf' }).click();
  await expect(page.getByRole('navigation', { name: 'Frames' })).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Find a layer' })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('d');
  await expect.poll(async () => (await stageOf(page)).width).toBe(begun.width);

  // Nothing but the stage, and all of it again.
  await page.keyboard.press('Shift+W');
  await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeHidden();
  await page.keyboard.press('Shift+W');
  await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeVisible();
});

test('a side is pulled wider, and given its usual width again', async ({ studio, page }) => {
  await studio.given(harbour);
  const begun = await boxOf(page, 'Cue sheet');
  const edge = (await page.locator('[data-side-edge="cues"]').boundingBox())!;
  await page.mouse.move(edge.x + 2, edge.y + 300);
  await page.mouse.down();
  await page.mouse.move(edge.x + 102, edge.y + 300, { steps: 4 });
  await page.mouse.up();
  expect((await boxOf(page, 'Cue sheet')).width).toBe(begun.width + 100);
  await page.reload();
  await expect.poll(async () => (await boxOf(page, 'Cue sheet')).width).toBe(begun.width + 100);
  await page.locator('[data-side-edge="cues"]').dblclick();
  await expect.poll(async () => (await boxOf(page, 'Cue sheet')).width).toBe(begun.width);
});

test('panels stand beside the stage and cover nothing of it, also where that side is folded', async ({ studio, page }) => {
  await studio.given(harbour);
  for (const [key, name] of [
    ['p', 'Pair up'],
    ['y', 'Starter parts'],
    ['s', 'Make slides'],
    ['Control+f', 'Find and replace'],
    ['behaves', 'How it behaves'],
    ['More properties', 'More properties'],
  ] as const) {
    await page.keyboard.press('Control+a');
    if (key.length > 1 && !key.includes('+')) await page.getByRole('button', { name: key }).click();
    else await page.keyboard.press(key);
    const panel = page.getByRole('dialog', { name });
    await expect(panel).toBeVisible();
    const [box, stage] = [(await panel.boundingBox())!, await stageOf(page)];
    expect(box.x).toBeGreaterThanOrEqual(stage.x + stage.width);
    expect(box.x + box.width).toBeLessThanOrEqual(1280);
    await page.keyboard.press('Escape');
    await expect(panel).toBeHidden();
  }
  await expect(page.getByRole('button', { name: 'Unfold the side column' })).toBeVisible();
});

test('what is used most of a selection stands beside the stage, whole, wherever the selection is', async ({ studio, page }) => {
  await studio.given(harbour);
  for (const name of ['boats', 'fares']) {
    await studio.select(name);
    const [card, stage] = [(await page.getByRole('toolbar', { name: 'Properties' }).boundingBox())!, await stageOf(page)];
    expect(card.x + card.width).toBeLessThanOrEqual(stage.x);
    expect(card.y + card.height).toBeLessThanOrEqual(800);
    const cut = await page
      .getByRole('toolbar', { name: 'Properties' })
      .locator('input, button')
      .evaluateAll((nodes) =>
        nodes.filter((node) => node.getBoundingClientRect().right > node.closest('[role=toolbar]')!.getBoundingClientRect().right)
      );
    expect(cut).toEqual([]);
  }
});

test('numbers are written as sums, pulled, and set for many at once, each from its own', async ({ studio, page }) => {
  await studio.given(harbour);
  const tall = page.getByLabel('Height', { exact: true }).first();
  await tall.fill('high');
  await tall.press('Enter');
  await expect(page.getByText('“high” is no number and no sum')).toBeVisible();
  await expect(tall).toHaveValue('844');
  await studio.select('boats');
  const bar = page.getByRole('toolbar', { name: 'Properties' });
  const [x, y, width] = ['x', 'y', 'width'].map((name) => bar.getByLabel(name, { exact: true })) as [Locator, Locator, Locator];
  await width.fill('390 / 3 - 10');
  await width.press('Enter');
  await expect(width).toHaveValue('120');
  await width.fill('/2');
  await width.press('Enter');
  await expect(width).toHaveValue('60');

  await studio.select('fares', ['Control']);
  await expect(y).toHaveAttribute('placeholder', 'mixed');
  await expect(x).toHaveValue('20');
  await y.fill('+8');
  await y.press('Enter');
  await x.press('ArrowUp');
  await x.press('Shift+ArrowUp');
  await expect(x).toHaveValue('31');
  await width.fill('wide');
  await width.press('Enter');
  await expect(page.getByText('“wide” is no number and no sum')).toBeVisible();
  for (const [name, place] of [
    ['boats', ['31', '28', '60']],
    ['fares', ['31', '108', '120']],
  ] as const) {
    await studio.select(name);
    for (const [i, field] of [x, y, width].entries()) await expect(field).toHaveValue(place[i]!);
  }

  // Pulled by its sign it is one step to undo.
  const sign = (await bar.locator('[data-pull-number="x"]').boundingBox())!;
  await page.mouse.move(sign.x + 3, sign.y + 8);
  await page.mouse.down();
  await page.mouse.move(sign.x + 43, sign.y + 8, { steps: 5 });
  await expect(x).toHaveValue('51');
  await page.mouse.up();
  await expect(x).toHaveValue('51');
  await page.keyboard.press('Control+z');
  await expect(x).toHaveValue('31');
});

test('words begin where one points with the text tool, and where that is too far right, as far as there is room', async ({ studio, page }) => {
  await studio.newPiece('Words pointed at');
  const bar = page.getByRole('toolbar', { name: 'Properties' });
  for (const [at, x, name] of [
    [60, 60, 'Text 1'],
    [380, 190, 'Text 2'],
  ] as const) {
    await page.keyboard.press('x');
    await studio.clickStage(at, 300 + at);
    await page.keyboard.type('Tides');
    await page.keyboard.press('Escape');
    await studio.select(name);
    expect(Number(await bar.getByLabel('x', { exact: true }).inputValue())).toBeCloseTo(x, -1);
  }
});

test('a colour is written as hex, as a name and with alpha; of several that differ it says so', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.select('boats');
  const bar = page.getByRole('toolbar', { name: 'Properties' });
  await bar.getByRole('button', { name: /^Fill: / }).click();
  const colour = page.getByLabel('Colour as it is written');
  await colour.fill('teal');
  await colour.press('Enter');
  await expect(colour).toHaveValue('#008080');
  const seen = page.getByLabel('How much of the colour is seen');
  await seen.fill('50');
  await seen.press('Enter');
  await expect(colour).toHaveValue('#00808080');
  await colour.fill('tealish');
  await colour.press('Enter');
  await expect(page.getByRole('alert')).toContainText('“tealish” is no colour');
  await expect(colour).toHaveValue('#00808080');
  await page.keyboard.press('Escape');
  await studio.select('fares', ['Control']);
  await expect(bar.getByRole('button', { name: 'Fill: mixed' })).toBeVisible();
});

test('what only some of several layers are is shown as mixed, and made so for all at once', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.select('boats');
  await page.getByRole('button', { name: 'behaves' }).click();
  await page.getByRole('button', { name: 'disabled' }).click();
  await studio.select('fares', ['Control']);
  const chip = page.getByRole('dialog', { name: 'How it behaves' }).getByRole('button', { name: 'disabled' });
  await expect(chip).toHaveAttribute('aria-pressed', 'mixed');
  await chip.click();
  await expect(chip).toHaveAttribute('aria-pressed', 'true');
  await studio.select('fares');
  await expect(chip).toHaveAttribute('aria-pressed', 'true');
  await page.keyboard.press('Control+z');
  await expect(chip).toHaveAttribute('aria-pressed', 'false');
});

test('while it is tried the ledger stands beside it, and can be folded away', async ({ studio, page }) => {
  await studio.given(harbour);
  const begun = await stageOf(page);
  await page.keyboard.press('t');
  const ledger = page.getByRole('complementary', { name: 'Ledger' });
  await expect(ledger).toBeVisible();
  await page.getByRole('group', { name: 'Tools' }).getByRole('button', { name: /^Done/ }).click();
  await expect(ledger).toBeHidden();
  await expect.poll(async () => (await stageOf(page)).width).toBe(begun.width);
  const [tools, others] = await Promise.all([page.getByRole('group', { name: 'Tools' }).boundingBox(), studio.looseEnds().boundingBox()]);
  expect(tools!.x + tools!.width).toBeLessThanOrEqual(others!.x);
});

test('what is pressed while a piece is being opened is for its desk, once', async ({ studio, page }) => {
  await studio.given(harbour);
  const haveFrames = (count: number) => expect.poll(() => studio.frames()).toHaveLength(count);
  await haveFrames(3);
  await studio.saved();
  const url = page.url();
  let letGo = () => {};
  const wait = async () => {
    const held = new Promise<void>((resolve) => (letGo = resolve));
    await page.route(/\/api\/pieces\/[^/]+$/, async (route) => {
      await held;
      await route.continue();
    });
  };
  const opening = page.getByText('Opening the piece…');

  // From the address, from the first line of the page on.
  await wait();
  await page.goto(url, { waitUntil: 'commit' });
  await page.waitForFunction(() => 'zanyKeys' in window && document.body !== null);
  await page.keyboard.press('n');
  await expect(opening).toBeVisible();
  await page.keyboard.press('b');
  letGo();
  await haveFrames(4);
  await studio.drag([20, 20], [140, 80]);
  await expect(studio.row('Box 1')).toBeVisible();
  await haveFrames(4);
  await studio.saved();

  // From the Workroom.
  await page.unroute(/\/api\/pieces\/[^/]+$/);
  await studio.workroom();
  await wait();
  await page.getByRole('link', { name: 'Piece' }).first().click();
  await expect(opening).toBeVisible();
  await page.keyboard.press('n');
  letGo();
  await haveFrames(5);
  await page.keyboard.press('o');
  await studio.drag([20, 200], [140, 260]);
  await expect(studio.row('Oval 1')).toBeVisible();
  await haveFrames(5);
});
