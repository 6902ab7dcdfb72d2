import { expect, Studio, test } from './studio.ts';

const barOf = (studio: Studio) => studio.page.getByRole('toolbar', { name: 'Properties' });

/** What a layer on the stage is seen in. */
const colorOn = (studio: Studio, name: string) =>
  studio.sheet
    .locator(`[data-layer]`)
    .nth(name === 'Box 1' ? 0 : 1)
    .evaluate((node) => getComputedStyle(node).backgroundColor);

async function painted(studio: Studio, color: string): Promise<void> {
  for (const name of ['Box 1', 'Oval 1']) {
    await studio.select(name);
    await barOf(studio).getByLabel('Fill', { exact: true }).fill(color);
  }
}

test('a colour is named once and changed once; undo and a reload keep what was painted with it', async ({ studio, page }) => {
  await studio.newPiece('Swatches');
  await studio.draw('b', 40, 100, 200, 60);
  await studio.draw('o', 40, 300, 80, 80);
  await painted(studio, '#0b7a75');
  await barOf(studio).getByRole('button', { name: 'Fill: swatches' }).click();
  const list = page.getByRole('dialog', { name: 'Swatches for: Fill' });
  await list.getByLabel('Name this colour').fill('Harbour');
  await list.getByLabel('Name this colour').press('Enter');
  await expect(list.getByText('2 places')).toBeVisible();
  await list.getByLabel('Colour of Harbour').fill('#b23a26');
  for (const name of ['Box 1', 'Oval 1']) await expect.poll(() => colorOn(studio, name)).toBe('rgb(178, 58, 38)');
  await page.keyboard.press('Escape');
  await expect(list).toBeHidden();
  await expect(barOf(studio).getByRole('button', { name: 'Fill: Harbour' })).toBeFocused();

  await studio.select('Box 1');
  await barOf(studio).getByLabel('Fill', { exact: true }).fill('#123456');
  await barOf(studio).getByRole('button', { name: 'Fill: swatches' }).click();
  await expect(page.getByText('1 place', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: 'Paint with Harbour' }).click();
  await expect.poll(() => colorOn(studio, 'Box 1')).toBe('rgb(178, 58, 38)');
  await page.getByRole('button', { name: 'Remove Harbour' }).click();
  await page.keyboard.press('Escape');
  await expect.poll(() => colorOn(studio, 'Oval 1')).toBe('rgb(178, 58, 38)');
  await page.keyboard.press('Control+z');
  await expect(barOf(studio).getByRole('button', { name: 'Fill: Harbour' })).toBeVisible();
  await studio.saved();
  await page.reload();
  await studio.select('Oval 1');
  await expect(barOf(studio).getByRole('button', { name: 'Fill: Harbour' })).toBeVisible();
  await expect.poll(() => colorOn(studio, 'Oval 1')).toBe('rgb(178, 58, 38)');
});

test('a type style: words follow it, differ from it, and change it for all', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Pier: {
        layers: {
          Title: { type: 'text', text: 'Kittiwake', at: [20, 20, 300, 60], letters: { size: 28 } },
          Also: { type: 'text', text: 'Line', at: [20, 120, 300, 60], letters: { size: 28 } },
          Words: { type: 'text', text: 'small', at: [20, 220, 300, 60], letters: { size: 13 } },
        },
      },
    },
  });
  const size = (text: string) => studio.sheet.getByText(text, { exact: true }).evaluate((node) => getComputedStyle(node).fontSize);
  const style = () => barOf(studio).getByRole('button', { name: /^Type style/ });
  const list = page.getByRole('dialog', { name: 'Type styles' });
  await studio.select('Title');
  await style().click();
  await list.getByLabel('Name this type').fill('Heading');
  await list.getByLabel('Name this type').press('Enter');
  await expect(list.getByText('28 px · 2 texts')).toBeVisible();
  await page.keyboard.press('Escape');

  await barOf(studio).getByLabel('Size of the text').fill('40');
  await barOf(studio).getByLabel('Size of the text').press('Enter');
  await expect(style()).toHaveAccessibleName('Type style: Heading, changed');
  await expect.poll(() => size('Line')).toBe('28px');
  await style().click();
  await list.getByRole('button', { name: 'change Heading' }).click();
  await expect.poll(() => size('Line')).toBe('40px');
  await expect(style()).toHaveAccessibleName('Type style: Heading');
  await page.keyboard.press('Escape');

  await studio.select('Words');
  await style().click();
  await list.getByRole('button', { name: 'Set in Heading' }).click();
  await expect.poll(() => size('small')).toBe('40px');
  await list.getByRole('button', { name: 'a type of its own' }).click();
  await expect(style()).toHaveAccessibleName('Type style: none');
  await expect.poll(() => size('small')).toBe('40px');
});

test('names are changed in place: F2 and Enter keep, Escape does not', async ({ studio, page }) => {
  await studio.newPiece('Names');
  await studio.draw('b', 40, 100, 200, 60);
  await page.keyboard.press('F2');
  const field = page.getByLabel('Name of the layer');
  await expect(field).toBeFocused();
  await field.fill('Buy');
  await field.press('Enter');
  await expect(studio.row('Buy')).toBeVisible();
  await page.keyboard.press('F2');
  await field.fill('Sell');
  await field.press('Escape');
  await expect(studio.row('Buy')).toBeVisible();
  await expect(studio.row('Sell')).toBeHidden();
});
