import { expect, test } from './studio.ts';

test('something is found in the whole piece, seen replaced before it is, and undone in one step', async ({ studio, page }) => {
  await studio.given({
    variables: { Seats: { type: 'number', initial: 1, min: 0, max: 9 } },
    frames: {
      Harbour: {
        layers: {
          buy: { at: [20, 20, 200, 60], text: 'Pay for {Seats}', style: { fill: '#e59a00' }, lines: ['click → go to Pay'] },
          hint: { at: [20, 120, 200, 60], text: 'Paying is safe' },
        },
      },
      Pay: { layers: { home: { at: [20, 20, 200, 60], text: 'Back', style: { fill: '#e59a00' }, lines: ['click → go to Harbour'] } } },
    },
  });
  await page.keyboard.press('Control+f');
  const panel = page.getByRole('dialog', { name: 'Find and replace' });
  const find = panel.getByRole('textbox', { name: 'Find' });
  await expect(find).toBeFocused();
  await find.fill('Pay');
  await expect(panel.getByText('In 4 places')).toBeVisible();
  await panel.getByRole('checkbox', { name: 'whole words' }).check();
  await expect(panel.getByText('In 3 places')).toBeVisible();
  // Nothing is another before somebody has said what to put there.
  await expect(panel.getByRole('button', { name: 'Replace' })).toBeDisabled();

  await panel.getByRole('textbox', { name: 'Put instead' }).fill('Checkout');
  // The frame is renamed, and what leads to it follows by itself.
  await expect(panel.getByRole('button', { name: 'Replace in 2 places' })).toBeEnabled();
  await expect(studio.sheet.getByText('Checkout for 1')).toBeVisible();
  // The same key comes back to what is looked for.
  await page.keyboard.press('Control+f');
  await expect(find).toBeFocused();
  await panel.getByRole('checkbox', { name: 'Replace in text of buy' }).uncheck();
  await expect(studio.sheet.getByText('Pay for 1')).toBeVisible();
  await panel.getByRole('button', { name: 'Replace in 1 place' }).click();
  await expect(panel).toBeHidden();
  await expect(page.getByText('Replaced in 1 place.')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Cue sheet' }).getByRole('button', { name: 'Checkout' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('region', { name: 'Cue sheet' }).getByRole('button', { name: 'Pay' })).toBeVisible();
});

test('what cannot be replaced says why; colours are found by what they are; a place opens its frame', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Harbour: { layers: { buy: { at: [20, 20, 200, 60], text: 'Buy', style: { fill: '#e59a00' }, lines: ['click → go to Pay'] } } },
      Pay: { layers: { home: { at: [20, 20, 200, 60], text: 'Back', style: { fill: '#e59a00' } } } },
    },
  });
  await page.keyboard.press('Control+f');
  const panel = page.getByRole('dialog', { name: 'Find and replace' });
  await panel.getByRole('textbox', { name: 'Find' }).fill('go to Pay');
  await panel.getByRole('textbox', { name: 'Put instead' }).fill('go to Nowhere');
  await expect(panel.getByText(/1 of them cannot be/)).toBeVisible();
  await expect(panel.getByText(/Nowhere.*\.$/)).toBeVisible();
  await expect(panel.getByRole('button', { name: 'Replace' })).toBeDisabled();

  await panel.getByRole('textbox', { name: 'Find' }).fill('#E59A00');
  await panel.getByRole('textbox', { name: 'Put instead' }).fill('0b7a75');
  await expect(panel.getByRole('button', { name: 'Replace in 2 places' })).toBeEnabled();
  await panel.getByRole('button', { name: /fill of home/ }).click();
  await expect(page.getByRole('region', { name: 'Cue sheet' }).getByRole('heading', { name: 'Pay' })).toBeVisible();
  await panel.getByRole('textbox', { name: 'Put instead' }).press('Enter');
  await expect(page.getByText('Replaced in 2 places.')).toBeVisible();
  await page.keyboard.press('Control+f');
  await panel.getByRole('textbox', { name: 'Find' }).fill('#0b7a75');
  await expect(panel.getByText('In 2 places')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
});
