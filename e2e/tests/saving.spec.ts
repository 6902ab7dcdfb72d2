import type { ChildProcess } from 'node:child_process';
import { ask, databaseBeside } from './database.ts';
import { expect, Studio, test } from './studio.ts';

const places = (studio: Studio) => studio.page.getByRole('toolbar', { name: 'Properties' }).getByLabel('x', { exact: true });

test('a reload in the middle loses nothing, and undo outlives it', async ({ studio, page }) => {
  await studio.newPiece('Reload');
  await studio.draw('b', 40, 100, 200, 60);
  await studio.draw('o', 40, 300, 80, 80);
  await page.reload();
  await expect(studio.row('Oval 1')).toBeVisible();
  await expect(studio.row('Box 1')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(studio.row('Oval 1')).toBeHidden();
  await page.keyboard.press('Control+Shift+z');
  await expect(studio.row('Oval 1')).toBeVisible();
  await studio.saved();
});

test('an edit that neither the server nor the browser has said it keeps outlives a reload, with its undo', async ({ studio, page }) => {
  await studio.newPiece('Last moment');
  await studio.draw('b', 40, 100, 200, 60);
  await studio.saved();
  await page.route('**/batches', (route) => route.abort());
  // A database that takes its time.
  await page.evaluate(() => {
    const slow = () => new Promise(() => undefined) as never;
    IDBObjectStore.prototype.add = slow;
    IDBObjectStore.prototype.put = slow;
  });
  await studio.draw('o', 40, 300, 80, 80);
  await expect(studio.row('Oval 1')).toBeVisible();
  await page.reload();
  await expect(studio.row('Oval 1')).toBeVisible();
  await page.unroute('**/batches');
  await studio.saved(40_000);
  expect(await page.evaluate(() => Object.keys(localStorage).filter((key) => key.startsWith('zany-left')))).toEqual([]);
  await page.keyboard.press('Control+z');
  await expect(studio.row('Oval 1')).toBeHidden();
  await studio.saved();
  await page.reload();
  await expect(studio.row('Box 1')).toBeVisible();
  await expect(studio.row('Oval 1')).toBeHidden();
});

test('a request that is never answered is given up, and the edit sent again', async ({ studio, page }) => {
  await studio.newPiece('Lost on the way');
  let held = 0;
  await page.route('**/batches', (route) => (held++ === 0 ? undefined : route.continue()));
  await studio.draw('b', 40, 100, 200, 60);
  await expect.poll(() => held).toBe(1);
  await studio.saved(40_000);
  expect(held).toBe(2);
  await page.reload();
  await expect(studio.row('Box 1')).toBeVisible();
});

test('two windows on one piece follow each other, and what both change ends the same', async ({ studio, page, context }) => {
  const id = await studio.newPiece('Two windows');
  await studio.draw('b', 40, 100, 200, 60);
  await studio.saved();
  const second = new Studio(await context.newPage());
  await second.open(id);
  await expect(second.row('Box 1')).toBeVisible();
  await second.draw('o', 40, 300, 80, 80);
  await expect(studio.row('Oval 1')).toBeVisible();
  await Promise.all([studio.select('Box 1'), second.select('Box 1')]);
  await Promise.all([places(studio).fill('77'), places(second).fill('99')]);
  await Promise.all([places(studio).press('Enter'), places(second).press('Enter')]);
  await Promise.all([studio.saved(), second.saved()]);
  await expect.poll(async () => (await places(studio).inputValue()) === (await places(second).inputValue())).toBe(true);
  await page.reload();
  await studio.select('Box 1');
  await expect(places(studio)).toHaveValue(await places(second).inputValue());
  await second.page.close();
});

test('offline edits are kept, also over a closed window, and are sent when the server is back', async ({ studio, page, context }) => {
  const id = await studio.newPiece('Offline');
  await context.setOffline(true);
  await studio.draw('b', 40, 100, 200, 60);
  await studio.draw('o', 40, 300, 80, 80);
  await expect(page.locator('[data-save-state=offline]')).toHaveText('Offline, 2 changes kept here');
  await page.close();
  await context.setOffline(false);
  const later = new Studio(await context.newPage());
  await later.open(id);
  await expect(later.row('Oval 1')).toBeVisible();
  await expect(later.row('Box 1')).toBeVisible();
  await context.setOffline(true);
  await later.draw('b', 40, 500, 100, 60);
  await expect(later.page.locator('[data-save-state=offline]')).toHaveText('Offline, 1 change kept here');
  await context.setOffline(false);
  await later.saved();
});

interface Server {
  readonly child: ChildProcess;
}

test('the server killed hard between an acknowledged edit and the next, and in the middle of what it makes: nothing is lost', async ({ browser }) => {
  const { startStudio } = (await import('../../scripts/lib/studio.mjs')) as unknown as { startStudio: (options: object) => Promise<ChildProcess> };
  const { freePort } = (await import('../../scripts/lib/ports.mjs')) as unknown as { freePort: () => Promise<number> };
  const port = await freePort();
  const cluster = process.env['ZANY_DATABASE_URL'];
  test.skip(!cluster, 'needs the database of the test command');
  // A database of its own: from one that is shared it would take jobs that others wait for, and die with them.
  const database = await databaseBeside(cluster!);
  const options = { port, databaseUrl: database.url, demo: true, logLevel: 'silent' };
  let server: Server = { child: await startStudio(options) };
  const context = await browser.newContext({ baseURL: `http://localhost:${port}`, viewport: { width: 1280, height: 800 } });
  try {
    const studio = new Studio(await context.newPage());
    await studio.signIn();
    const id = await studio.newPiece('Killed');
    await studio.draw('b', 40, 100, 200, 60);
    await studio.saved();
    const { request } = context;
    const headers = { origin: await studio.origin() };
    const asked = await request.post(`/api/pieces/${id}/errands`, { headers, data: { kind: 'export', to: 'playwright' } });
    const { errand } = (await asked.json()) as { errand: { id: string } };
    server.child.kill('SIGKILL');
    // It may have been done in the moment before.
    await ask(database.url, `UPDATE errands SET state = 'at work', bytes = NULL WHERE id = '${errand.id}'`);
    await studio.draw('o', 40, 300, 80, 80);
    await expect(studio.page.locator('[data-save-state=offline]')).toBeVisible();
    server = { child: await startStudio(options) };
    await studio.saved();
    await studio.page.reload();
    await expect(studio.row('Box 1')).toBeVisible();
    await expect(studio.row('Oval 1')).toBeVisible();
    const stands = async () => ((await (await request.get(`/api/pieces/${id}/errands/${errand.id}`)).json()) as { errand: { state: string } }).errand;
    await expect.poll(async () => (await stands()).state, { timeout: 60_000 }).toBe('done');
  } finally {
    server.child.kill('SIGKILL');
    await context.close();
    await database.drop();
  }
});

test('somebody without a part in a piece gets nothing of it, and requests from elsewhere are refused', async ({ studio, page, browser }) => {
  const id = await studio.newPiece('Private');
  const stranger = await browser.newContext({ baseURL: await studio.origin() });
  const strange = await stranger.newPage();
  await strange.goto('/sign-in');
  await strange.getByRole('link', { name: 'I am new here' }).click();
  await strange.getByLabel('Your name').fill('Odd Vik');
  await strange.getByLabel('E-mail').fill(`odd-${Date.now()}@kittiwake.example`);
  await strange.getByLabel('Password, 12 signs or more').fill('password1234');
  await strange.getByRole('button', { name: 'Make an account' }).click();
  await expect(strange.getByRole('alert')).toContainText('too easy to guess');
  await strange.getByLabel('Password, 12 signs or more').fill('otter lamp gravel nine');
  await strange.getByRole('button', { name: 'Make an account' }).click();
  await expect(strange.getByText('If this address was free')).toBeVisible();
  await strange.getByLabel('Password').fill('otter lamp gravel nine');
  await strange.getByRole('button', { name: 'Sign in' }).click();
  await expect(strange.getByRole('region', { name: 'Ways to begin' })).toBeVisible();
  const origin = await studio.origin();
  expect((await strange.request.get(`/api/pieces/${id}`)).status()).toBe(404);
  expect(
    (
      await strange.request.post(`/api/pieces/${id}/batches`, { headers: { origin }, data: { batches: [{ id: 'x', name: 'x', operations: [{}] }] } })
    ).status()
  ).toBe(404);
  expect((await page.request.post('/api/pieces', { headers: { origin: 'https://elsewhere.example' }, data: {} })).status()).toBe(403);
  expect((await page.request.post('/api/pieces', { headers: { origin }, data: { name: '', width: 1, height: 1 } })).status()).toBe(400);
  await strange.goto(`/p/${id}/build`);
  await expect(strange.getByText('There is no such piece')).toBeVisible();
  await stranger.close();
});
