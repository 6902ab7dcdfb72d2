import type { Locator, Page } from '@playwright/test';
import { pieceOf } from './pieces.ts';
import { expect, test } from './studio.ts';

const shelfOf = (page: Page) => page.getByRole('navigation', { name: 'Frames' });
const bundle = (page: Page, name: string) =>
  shelfOf(page)
    .locator('[data-shelf-bundle]')
    .getByRole('button', { name: new RegExp(`^${name}`) });
const frame = (page: Page, name: string) => shelfOf(page).getByRole('button', { name: `Open ${name}`, exact: true });

/** Drags by the pointer, as browsers do it. */
async function pull(from: Locator, to: Locator, half: 'upper' | 'lower'): Promise<void> {
  const { width, height } = (await to.boundingBox())!;
  await from.dragTo(to, { targetPosition: { x: width / 2, y: height * (half === 'upper' ? 0.25 : 0.8) } });
}

test('bundles fold on the shelf and stay so; the open frame is there all the same', async ({ studio, page }) => {
  await studio.givenPiece(pieceOf(60));
  const count = () => shelfOf(page).locator('[data-shelf-frame]').count();
  await expect(frame(page, 'Tickets 2')).toBeVisible();
  await bundle(page, 'Tickets').click();
  await expect(frame(page, 'Tickets 2')).toHaveCount(0);
  await expect(frame(page, 'Tickets start')).toBeVisible();
  await bundle(page, 'Tickets').click({ modifiers: ['Shift'] });
  await expect(frame(page, 'Tickets 2')).toBeVisible();
  await bundle(page, 'Tickets').click({ modifiers: ['Shift'] });
  await expect.poll(count).toBe(1);
  await page.reload();
  await expect(bundle(page, 'Geese')).toHaveAttribute('aria-expanded', 'false');
  await expect.poll(count).toBe(1);
  // What is opened from elsewhere stands under its bundle.
  for (let i = 0; i < 12; i++) await page.keyboard.press('PageDown');
  await expect(frame(page, 'Tides 3')).toHaveAttribute('aria-current', 'true');
  await expect.poll(count).toBe(1);
});

test('frames of 400 are found by name in rows that can be read', async ({ studio, page }) => {
  await studio.givenPiece(pieceOf(400));
  const wide = async () => (await shelfOf(page).boundingBox())!.width;
  const before = await wide();
  await page.getByRole('button', { name: 'names', exact: true }).click();
  expect(await wide()).toBeGreaterThan(before + 40);
  const row = frame(page, 'Tickets 2');
  await expect(row).toBeVisible();
  expect((await row.boundingBox())!.height).toBeLessThanOrEqual(28);
  await row.click();
  await expect(page.getByRole('region', { name: 'Cue sheet' }).getByRole('heading', { name: 'Tickets 2' })).toBeVisible();
  await page.reload();
  await expect(row).toBeVisible();
  await page.getByRole('button', { name: 'pictures', exact: true }).click();
  await expect.poll(wide).toBe(before);
});

test('frames are dragged to their order and between bundles; a bundle goes as a whole', async ({ studio, page }) => {
  await studio.given({ frames: { Harbour: {}, Fares: {}, Pay: {}, Skarra: {}, Tolm: {} } });
  await page.getByRole('button', { name: 'names', exact: true }).click();
  const bundled = async (name: string, as: string) => {
    await frame(page, name).click();
    await frame(page, name).click({ button: 'right' });
    await page.getByRole('combobox', { name: 'Bundle' }).fill(as);
    await page.keyboard.press('Enter');
  };
  for (const name of ['Fares', 'Pay']) await bundled(name, 'Till');
  for (const name of ['Skarra', 'Tolm']) await bundled(name, 'Islands');
  const told = () =>
    shelfOf(page)
      .locator('[data-shelf-bundle], [data-shelf-frame]')
      .evaluateAll((all) => all.map((one) => one.getAttribute('aria-label') ?? `- ${one.textContent!.replace(/[▸▾]/, '').trim()}`));
  await expect.poll(told).toEqual(['Harbour', '- Till', 'Fares', 'Pay', '- Islands', 'Skarra', 'Tolm']);

  await pull(frame(page, 'Tolm'), frame(page, 'Fares'), 'upper');
  await expect.poll(told).toEqual(['Harbour', '- Till', 'Tolm', 'Fares', 'Pay', '- Islands', 'Skarra']);
  await pull(frame(page, 'Harbour'), frame(page, 'Skarra'), 'lower');
  await expect.poll(told).toEqual(['- Till', 'Tolm', 'Fares', 'Pay', '- Islands', 'Skarra', 'Harbour']);
  await pull(frame(page, 'Pay'), bundle(page, 'Islands'), 'upper');
  await expect.poll(told).toEqual(['- Till', 'Tolm', 'Fares', '- Islands', 'Pay', 'Skarra', 'Harbour']);
  await pull(bundle(page, 'Islands'), frame(page, 'Tolm'), 'upper');
  await expect.poll(told).toEqual(['- Islands', 'Pay', 'Skarra', 'Harbour', '- Till', 'Tolm', 'Fares']);
  await page.keyboard.press('Control+z');
  await expect.poll(told).toEqual(['- Till', 'Tolm', 'Fares', '- Islands', 'Pay', 'Skarra', 'Harbour']);

  // The same by keys: one place on, and into the bundle that comes next.
  await frame(page, 'Fares').click();
  await page.keyboard.press('Alt+ArrowDown');
  await expect.poll(told).toEqual(['- Till', 'Tolm', '- Islands', 'Fares', 'Pay', 'Skarra', 'Harbour']);
  await frame(page, 'Fares').press('Alt+ArrowDown');
  await expect.poll(told).toEqual(['- Till', 'Tolm', '- Islands', 'Pay', 'Fares', 'Skarra', 'Harbour']);

  await bundle(page, 'Islands').click({ button: 'right' });
  await page.getByRole('button', { name: 'Rename', exact: true }).click();
  await page.getByRole('textbox', { name: 'Name of the bundle' }).fill('Out there');
  await page.keyboard.press('Enter');
  await bundle(page, 'Till').click({ button: 'right' });
  await page.getByRole('button', { name: 'Take apart (frames stay)' }).click();
  await expect.poll(told).toEqual(['Tolm', '- Out there', 'Pay', 'Fares', 'Skarra', 'Harbour']);
  await studio.saved();
  await page.reload();
  await expect.poll(told).toEqual(['Tolm', '- Out there', 'Pay', 'Fares', 'Skarra', 'Harbour']);
});
