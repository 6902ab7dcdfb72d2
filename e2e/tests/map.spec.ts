import type { ComposeSpec } from '@zany/core/testing';
import { expect, test } from './studio.ts';

/** What the map says of frames besides how they lead to each other. */

const button = (y: number, ...lines: string[]) => ({ at: [40, y, 310, 60] as const, style: { fill: '#1f4e5f' }, lines });

const harbour: ComposeSpec = {
  name: 'Harbour map',
  frames: {
    Harbour: { layers: { Boats: button(120, 'click → go to Boats'), Fares: button(200, 'click → go to Fares') } },
    Boats: { layers: { Pay: button(120, 'click → go to Pay') } },
    Fares: { layers: { Home: button(740, 'click → go to Harbour') } },
    Pay: { layers: { Home: button(740, 'click → go to Harbour') } },
    Lost: { layers: { Home: button(740, 'click → go to Harbour') } },
  },
};

test('the map says what was walked, and how each frame is come to', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  await page.locator('[data-running] [data-layer]').first().click();
  await studio.running('Boats');
  await page.waitForTimeout(900);
  await studio.desk('Map');
  const map = page.locator('[data-map]');
  const frame = (name: string) => map.getByRole('button', { name: new RegExp(`^${name}, frame`) });
  await expect(frame('Harbour')).toHaveAccessibleName('Harbour, frame 1');
  await page.getByRole('radio', { name: 'what I have walked' }).click();
  await expect(frame('Harbour')).toHaveAccessibleName('Harbour, frame 1, 1 of 2');
  await expect(frame('Boats')).toHaveAccessibleName('Boats, frame 2, 0 of 1');
  await expect(map.locator('path[stroke="var(--teal)"]')).toHaveCount(1);

  await page.getByRole('radio', { name: 'steps from the start' }).click();
  await expect(frame('Harbour')).toHaveAccessibleName('Harbour, frame 1, begins here');
  await expect(frame('Pay')).toHaveAccessibleName('Pay, frame 4, 2 steps');
  await expect(frame('Lost')).toHaveAccessibleName('Lost, frame 5, cannot be reached');
  await frame('Pay').focus();
  await expect(page.locator('[data-way]')).toHaveText('To Pay from Harbour: click Boats, click Pay');
  await expect(map.locator('path[stroke-width="3"]')).toHaveCount(2);

  // An edit leads there sooner.
  await studio.desk('Build');
  await studio.openFrame('Harbour');
  await studio.leadElsewhere('Fares', 'Fares', 'Pay');
  await studio.desk('Map');
  await page.getByRole('radio', { name: 'steps from the start' }).click();
  await expect(frame('Pay')).toHaveAccessibleName('Pay, frame 4, 1 step');
  await expect(frame('Fares')).toHaveAccessibleName('Fares, frame 3, cannot be reached');
});
