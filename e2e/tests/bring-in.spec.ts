import { test, expect } from './studio.ts';

/** What is no picture is brought in by what it is. */

const tokens = (value: unknown, name = 'harbour.tokens.json') => ({
  name,
  mimeType: 'application/json',
  buffer: Buffer.from(typeof value === 'string' ? value : JSON.stringify(value)),
});

test('design tokens become swatches and type styles in one edit, change them when they come again, and are refused with a sentence', async ({
  studio,
  page,
}) => {
  await studio.given({ frames: { Home: { layers: { Go: { at: [0, 0, 100, 60], text: 'Go' } } } } });
  const chooser = page.locator('[data-chooser]');
  const sea = (color: string) => ({
    colour: { $type: 'color', Sea: { $value: color } },
    gap: { $type: 'dimension', $value: { value: 4, unit: 'px' } },
  });
  await chooser.setInputFiles([tokens(sea('#0b7a75'))]);
  await expect(page.getByText('Brought in: 1 swatch. Left: 1.')).toBeVisible();
  await expect(page.getByText('gap: a dimension has no place in a piece')).toBeVisible();
  await studio.saved();
  await chooser.setInputFiles([tokens(sea('#b23a26'))]);
  await expect(page.getByText('Brought in: 1 swatch changed. Left: 1.')).toBeVisible();

  await studio.select('Go');
  await page.keyboard.press('ControlOrMeta+z');
  await page.keyboard.press('ControlOrMeta+Shift+z');
  await chooser.setInputFiles([tokens('{"a": [1, 2')]);
  await expect(page.getByText('harbour.tokens.json: This is no JSON, so it holds no design tokens.')).toBeVisible();
  await chooser.setInputFiles([tokens(`${'{"a":'.repeat(4000)}1${'}'.repeat(4000)}`)]);
  await expect(page.getByText('harbour.tokens.json: This is nested more than 30 deep.')).toBeVisible();
  await chooser.setInputFiles([{ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('hm') }]);
  await expect(page.getByText(/notes\.txt is no PNG.* and no design tokens\./)).toBeVisible();

  await studio.desk('Hand over');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the tokens' }).click()]);
  const { colour } = JSON.parse((await import('node:fs')).readFileSync(await download.path(), 'utf8')) as {
    colour: Record<string, { $value: { hex: string } }>;
  };
  expect(colour['Sea']!.$value.hex).toBe('#b23a26');
});
