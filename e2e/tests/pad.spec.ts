import { request } from '@playwright/test';
import { expect, test } from './studio.ts';

test('a press over HTTP reaches the piece where it runs, from those alone who may see it', async ({ studio, page, baseURL }) => {
  const id = await studio.newPiece('Pier buttons');
  await studio.draw('b', 40, 100, 200, 60);
  await studio.write('pad 3 → hide this');
  await studio.saved();
  const press = (data: unknown, from = page.request) => from.post(`/api/pieces/${id}/pad`, { data, headers: { origin: baseURL! } });

  await studio.desk('Walk');
  const piece = page.locator('[data-running]');
  await expect(piece).toBeVisible();
  const ledger = page.getByRole('complementary', { name: 'Ledger' });
  await expect(page.getByRole('button', { name: 'Pad button 3' })).toBeVisible();
  // The stream may open a moment after the desk; a press that nobody heard is gone, like one on hardware that is off.
  await expect(async () => {
    expect((await press({ button: 3 })).status()).toBe(200);
    await expect(ledger).toContainText('hide Box 1', { timeout: 1000 });
  }).toPass();

  const wrong = await press({ button: 'three' });
  expect(wrong.status()).toBe(400);
  expect(((await wrong.json()) as { error: { path: string[] } }).error.path).toEqual(['button']);
  expect((await press({ button: 100 })).status()).toBe(400);

  const stranger = await request.newContext({ baseURL: baseURL! });
  expect((await press({ button: 3 }, stranger)).status()).toBe(401);
  const form = { name: 'Bo Terne', email: `bo-${Date.now()}@kittiwake.example`, password: 'gravel otter nine lamps' };
  for (const action of ['register', 'enter']) await stranger.post(`/sign-in?/${action}`, { form, headers: { origin: baseURL! } });
  expect((await press({ button: 3 }, stranger)).status()).toBe(404);
  await stranger.dispose();
});
