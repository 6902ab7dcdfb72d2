import { createHash, randomBytes } from 'node:crypto';
import { readFileSync } from 'node:fs';
import { writePackage, type Asset } from '@zany/core';
import { compose, type ComposeSpec } from '@zany/core/testing';
import sharp from 'sharp';
import { expect, test } from './studio.ts';

/** Four things that each wait their own time, in any order and number: it takes seconds to walk them all. */
const LONG: ComposeSpec = {
  name: 'Slow harbour',
  frames: {
    home: {
      layers: Object.fromEntries(
        Array.from({ length: 4 }, (_, i) => [
          `buoy${i}`,
          { at: [20 + i * 60, 40, 44, 44] as const, text: String(i), lines: [`click → wait ${300 + i * 100} ms; hide this`] },
        ])
      ),
      lines: ['after 2 s → send off'],
    },
  },
};

test('what takes long is made by the server: it goes on over a reload, is stopped by keys, and made again', async ({ studio, page }) => {
  await studio.given(LONG);
  await studio.desk('Hand over');
  const table = page.getByRole('region', { name: 'Threads as a table (CSV)' });
  const save = table.getByRole('button', { name: 'Save the table' });
  const stop = table.getByRole('button', { name: 'Stop slow-harbour.threads.csv' });
  await save.dblclick();
  await expect(table.getByRole('status')).toHaveText(/^(being made|[\d,]+ states walked)…$/);
  await expect(save).toBeDisabled();
  await page.reload();
  await expect(stop).toBeVisible();
  await expect(table.getByRole('status')).toHaveText(/states walked…$/);
  await stop.focus();
  await page.keyboard.press('Enter');
  await expect(save).toBeEnabled();
  const lately = page.getByRole('region', { name: 'Made lately' });
  await expect(lately).toContainText('It was stopped.');
  await lately.getByRole('button', { name: 'Forget slow-harbour.threads.csv' }).click();
  await expect(lately).toBeHidden();

  const coming = page.waitForEvent('download', { timeout: 90_000 });
  await save.focus();
  await page.keyboard.press('Enter');
  const download = await coming;
  expect(download.suggestedFilename()).toBe('slow-harbour.threads.csv');
  expect(readFileSync((await download.path())!, 'utf8')).toMatch(/hide buoy0,,yes,yes,/);
  await expect(lately).toContainText('slow-harbour.threads.csv');
  const again = page.waitForEvent('download');
  await lately.getByRole('button', { name: 'Take slow-harbour.threads.csv again' }).click();
  expect((await again).suggestedFilename()).toBe('slow-harbour.threads.csv');
});

/** A package that takes a while to be read: pictures without anything alike in them. */
async function heavyPackage(name: string): Promise<Buffer> {
  const [width, height] = [1000, 800];
  const files = new Map<string, Uint8Array>();
  const assets: Asset[] = [];
  for (let i = 0; i < 6; i++) {
    const bytes = await sharp(randomBytes(width * height * 3), { raw: { width, height, channels: 3 } })
      .png()
      .toBuffer();
    const id = createHash('sha256').update(bytes).digest('hex');
    files.set(id, new Uint8Array(bytes));
    assets.push({ id, name: `deck ${i}.png`, mediaType: 'image/png', width, height, size: bytes.length });
  }
  const layers = Object.fromEntries(assets.map(({ id, name: of }) => [of, { type: 'picture' as const, asset: id, at: [0, 0, 390, 280] as const }]));
  return Buffer.from(writePackage(compose({ name, assets, frames: { home: { layers } } }), files));
}

test('a large package comes in over a reload, and can be stopped', async ({ studio, page }) => {
  await studio.workroom();
  const chooser = page.locator('input[type=file]');
  const coming = page.getByRole('list', { name: 'Coming in' });
  const send = async (name: string) => chooser.setInputFiles({ name: `${name}.zip`, mimeType: 'application/zip', buffer: await heavyPackage(name) });

  await send('Orlop plans');
  await expect(coming).toContainText('Orlop plans.zip');
  await page.reload();
  await expect(page.getByRole('heading', { name: 'Orlop plans' })).toBeVisible({ timeout: 60_000 });
  await expect(coming).toBeHidden();

  await send('Cabin plans');
  await coming.getByRole('button', { name: 'Stop bringing in Cabin plans.zip' }).click();
  await expect(coming).toBeHidden();
  const asked = async () =>
    ((await (await page.request.get('/api/errands')).json()) as { errands: { state: string }[] }).errands.map(({ state }) => state);
  await expect.poll(async () => (await asked()).filter((state) => state !== 'stopped')).toEqual([]);
  await page.reload();
  await expect.poll(asked).toEqual([]);
  await expect(page.getByRole('heading', { name: 'Cabin plans' })).toHaveCount(0);
});
