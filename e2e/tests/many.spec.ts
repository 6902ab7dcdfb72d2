import { expect, test } from './studio.ts';

/** What is done to many layers at once. */

const gold = '#f0b13c';
const button = (y: number) => ({ at: [20, y, 200, 56] as const, style: { fill: gold } });

test('looks of many layers are added, changed, timed and removed at once', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { Boats: button(100), Fares: button(180), Tides: button(260) } } } });
  const strip = page.getByRole('region', { name: 'Strip' });
  await studio.select('Boats');
  await strip.getByRole('button', { name: 'add a hover look' }).click();
  await page.keyboard.press('Control+a');
  await expect(strip.getByRole('group', { name: 'Hover look' })).toContainText('1 of 3');
  await strip.getByRole('button', { name: 'add a hover look' }).click();
  await expect(strip.getByRole('group', { name: 'Hover look' })).toContainText('3 of 3');

  // The look is open for all: one edit, seen on the stage, and none of it at rest.
  const bar = page.getByRole('toolbar', { name: 'Properties of the hover look' });
  await bar.getByRole('button', { name: /^Fill: / }).click();
  const colour = page.getByLabel('Colour as it is written');
  await colour.fill('#0b7a75');
  await colour.press('Enter');
  await page.keyboard.press('Escape');
  const fills = () =>
    studio.sheet
      .locator('[data-layer]')
      .evaluateAll((nodes) => nodes.map((node) => getComputedStyle(node).backgroundColor).filter((one) => one !== 'rgba(0, 0, 0, 0)'));
  await expect.poll(fills).toEqual(Array(3).fill('rgb(11, 122, 117)'));
  await strip.getByRole('button', { name: 'Rest look', exact: true }).click();
  await expect.poll(fills).toEqual(Array(3).fill('rgb(240, 177, 60)'));
  await page.keyboard.press('t');
  for (const text of [0, 1, 2]) {
    const layer = studio.stage.locator('[data-layer]').nth(text);
    await layer.hover();
    await expect.poll(() => layer.evaluate((node) => getComputedStyle(node).backgroundColor)).toBe('rgb(11, 122, 117)');
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a');
  await strip.getByRole('button', { name: 'Remove the Hover look' }).click();
  await expect(strip.getByRole('group', { name: 'Hover look' })).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(strip.getByRole('group', { name: 'Hover look' })).toContainText('3 of 3');
});

test('threads pasted on many lead where each is called after, or as they were copied', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: { layers: { Boats: { ...button(100), lines: ['click → go to Boats · push left 300 ms'] }, Fares: button(180), Other: button(260) } },
      Boats: {},
      Fares: {},
    },
  });
  const paste = (text: string) =>
    page.evaluate((text) => {
      const data = new DataTransfer();
      data.setData('text/plain', text);
      window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    }, text);
  await studio.select('Fares');
  await studio.select('Other', ['Control']);
  await paste('click → go to Boats · push left 300 ms');
  await expect(studio.row('Fares').getByRole('button', { name: /^Leads to: Fares/ })).toBeVisible();
  await expect(studio.row('Other').getByRole('button', { name: /^Leads to: Boats/ })).toBeVisible();
  await expect(page.getByText('Those called after a frame lead there: Fares. The others lead to Boats.')).toBeVisible();
  await page.getByRole('button', { name: 'As they were copied' }).click();
  await expect(studio.row('Fares').getByRole('button', { name: /^Leads to: Boats/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(studio.row('Fares').getByRole('button', { name: /^Leads to/ })).toHaveCount(0);
});
