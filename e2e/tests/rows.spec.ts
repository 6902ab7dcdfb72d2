import { expect, test } from './studio.ts';

/** The rows of the cue sheet, and what is not to be seen just now. */

const box = (x: number, y: number) => ({ at: [x, y, 80, 60] as const, style: { fill: '#f0b13c' } });

test('a row is one line high, and a group folds to one with how many are in it', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: {
        layers: {
          Menu: { at: [0, 0, 200, 400], type: 'group' },
          Boats: { in: 'Menu', ...box(10, 10) },
          Deep: { in: 'Menu', at: [0, 100, 200, 100], type: 'group' },
          Fares: { in: 'Deep', ...box(10, 10) },
          Tides: box(250, 10),
        },
      },
    },
  });
  await expect(page.getByRole('treeitem')).toHaveCount(5);
  expect((await studio.row('Tides').boundingBox())!.height).toBeLessThanOrEqual(26);
  await page.getByRole('button', { name: 'Fold Menu' }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await expect(studio.row('Menu')).toContainText('3 inside');
  await expect(studio.row('Menu')).toHaveAttribute('aria-expanded', 'false');

  // What is looked for or selected in it is listed all the same.
  await page.getByRole('textbox', { name: 'Find a layer' }).fill('fares');
  await expect(studio.row('Fares')).toBeVisible();
  await page.getByRole('textbox', { name: 'Find a layer' }).fill('');
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await studio.row('Menu').locator('[data-pick]').focus();
  await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('treeitem')).toHaveCount(5);
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('treeitem')).toHaveCount(2);
});

test('what is selected and hidden is seen faintly where it stands, and edited there', async ({ studio, page }) => {
  await studio.given({
    variables: { Seats: { type: 'number', initial: 0 } },
    frames: {
      Home: { layers: { Eye: { ...box(20, 20), hidden: true }, Bound: { ...box(20, 120), when: { shown: 'Seats > 0' } }, Seen: box(20, 220) } },
    },
  });
  const veiled = page.locator('[data-veiled]');
  const onStage = studio.sheet.locator('.zany-scene').first().locator('[data-layer]');
  await expect(onStage).toHaveCount(1);
  await studio.select('Seen');
  await expect(veiled).toHaveCount(0);
  await studio.select('Eye');
  await expect(veiled).toHaveCount(1);
  const begun = (await veiled.boundingBox())!;
  await page.keyboard.press('Shift+ArrowRight');
  await expect.poll(async () => (await veiled.boundingBox())!.x).toBeGreaterThan(begun.x + 3);
  await studio.select('Bound', ['Control']);
  await expect(veiled).toHaveCount(2);
  await expect(onStage).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(veiled).toHaveCount(0);
});
