import { readFileSync } from 'node:fs';
import type { ComposeSpec } from '@zany/core/testing';
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
