import type { Page } from '@playwright/test';
import { expect, test } from './studio.ts';

const boxOf = async (page: Page, name: 'Shelf' | 'Cue sheet' | 'Strip') => {
  const box = await (name === 'Shelf' ? page.getByRole('navigation', { name: 'Frames' }) : page.getByRole('region', { name })).boundingBox();
  return box!;
};

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
  await page.keyboard.press('d');
  await page.keyboard.press('l');
  const roomy = await stageOf(page);
  expect(roomy.width * roomy.height).toBeGreaterThan(0.55 * 1280 * 800);
  await page.keyboard.press('w');
  await page.keyboard.press('q');
  const all = await stageOf(page);
  expect(all.width * all.height).toBeGreaterThan(0.8 * 1280 * 800);
  await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeHidden();

  // It is so the next time, and what was folded is opened by a press or by what is in it.
  await page.reload();
  await page.getByRole('button', { name: 'Unfold the shelf' }).click();
  await expect(page.getByRole('navigation', { name: 'Frames' })).toBeVisible();
  await page.keyboard.press('/');
  await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeVisible();
  await expect(page.getByRole('textbox', { name: 'Find a layer' })).toBeFocused();
  await page.keyboard.press('Escape');
  await page.keyboard.press('l');
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
  await page.keyboard.press('l');
  for (const [key, name] of [
    ['p', 'Pair up'],
    ['y', 'Starter parts'],
    ['s', 'Make slides'],
    ['Control+f', 'Find and replace'],
  ] as const) {
    await page.keyboard.press('Control+a');
    await page.keyboard.press(key);
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
