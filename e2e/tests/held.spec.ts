import pg from 'pg';
import { expect, Studio, test } from './studio.ts';

/** Edits that cannot be saved just now, or never: held, set aside alone, told once, each with a way back. */

const state = (studio: Studio) => studio.page.locator('[data-save-state]');

async function ask<T extends object>(sql: string, values: unknown[]): Promise<T[]> {
  const client = new pg.Client({ connectionString: process.env['ZANY_DATABASE_URL'] });
  await client.connect();
  try {
    return (await client.query<T>(sql, values)).rows;
  } finally {
    await client.end();
  }
}

async function becomeSomebodyElse(studio: Studio, piece: string, role: 'editor' | 'reviewer'): Promise<void> {
  const { page } = studio;
  const email = `liv-${Date.now()}@kittiwake.example`;
  await page.goto('/');
  await page.getByRole('button', { name: 'Sign out' }).click();
  await page.getByRole('link', { name: 'I am new here' }).click();
  await page.getByLabel('Your name').fill('Liv Moe');
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel(/^Password/).fill('otter lamp gravel nine');
  await page.getByRole('button', { name: 'Make an account' }).click();
  await expect(page.getByText('If this address was free')).toBeVisible();
  await page.getByLabel('Password').fill('otter lamp gravel nine');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('heading', { name: 'Workroom' })).toBeVisible();
  await ask('INSERT INTO members (piece_id, person_id, role) SELECT $1, id, $3 FROM people WHERE email = $2', [piece, email, role]);
}

test('edits that no longer fit are set aside with the reason, told once, and all else is saved', async ({ studio, page, context }) => {
  const id = await studio.newPiece('Set aside');
  await studio.draw('b', 40, 100, 200, 60);
  await studio.draw('o', 40, 300, 80, 80);
  await studio.saved();
  const second = new Studio(await context.newPage());
  await second.open(id);
  await expect(second.row('Oval 1')).toBeVisible();
  // Only the requests of this window fail: the other one goes on.
  await page.route('**/batches', (route) => route.abort());
  const set = async (field: string, value: string) => {
    const input = page.getByRole('toolbar', { name: 'Properties' }).getByLabel(field, { exact: true });
    await input.fill(value);
    await input.press('Enter');
  };
  await studio.select('Box 1');
  for (let i = 1; i <= 6; i++) await set('x', String(40 + i));
  await studio.select('Oval 1');
  await set('y', '301');
  await expect(state(studio)).toContainText('kept here');
  await second.select('Box 1');
  await second.page.keyboard.press('Delete');
  await second.saved();
  await page.unroute('**/batches');
  await studio.saved();
  const notices = page.getByText(/could not be saved: There is no such layer any more/);
  await expect(notices).toHaveCount(1);
  await page.getByRole('button', { name: /set aside/ }).click();
  const list = page.getByRole('dialog', { name: 'Changes set aside' });
  await expect(list.getByText('There is no such layer any more.').first()).toBeVisible();
  const download = page.waitForEvent('download');
  await list.getByRole('button', { name: 'Save them as a file' }).click();
  expect((await download).suggestedFilename()).toBe('Set aside - changes not saved.json');
  await page.reload();
  await expect(page.getByRole('button', { name: /set aside/ })).toBeVisible();
  await expect(studio.row('Box 1')).toBeHidden();
  await studio.select('Oval 1');
  await expect(page.getByRole('toolbar', { name: 'Properties' }).getByLabel('y', { exact: true })).toHaveValue('301');
  await page.getByRole('button', { name: /set aside/ }).click();
  await expect(list.getByText('6 times')).toBeVisible();
  await list.getByRole('button', { name: 'Forget' }).click();
  await expect(page.getByRole('button', { name: /set aside/ })).toBeHidden();
});

test('what one person has kept in a browser is neither sent nor lost by the next', async ({ studio, page, context }) => {
  test.skip(!process.env['ZANY_DATABASE_URL'], 'needs the database of the test command');
  const id = await studio.newPiece('Two people');
  await context.setOffline(true);
  await studio.draw('b', 40, 100, 200, 60);
  await expect(state(studio)).toContainText('1 change kept here');
  await page.goto('about:blank');
  await context.setOffline(false);
  await page.goto('/');
  await becomeSomebodyElse(studio, id, 'editor');
  await studio.open(id);
  await expect(state(studio)).toHaveText('Saved');
  await expect(studio.row('Box 1')).toBeHidden();
  await studio.draw('o', 40, 300, 80, 80);
  await studio.saved();
  await page.goto('/');
  await page.getByRole('button', { name: 'Sign out' }).click();
  await studio.signIn();
  await studio.open(id);
  await expect(studio.row('Box 1')).toBeVisible();
  await expect(studio.row('Oval 1')).toBeVisible();
  await studio.saved();
  const authors = await ask<{ name: string }>(
    'SELECT people.name FROM batches JOIN people ON people.id = person_id WHERE piece_id = $1 ORDER BY revision',
    [id]
  );
  expect(authors.map(({ name }) => name)).toEqual(['Liv Moe', 'Ina Rask']);
});

test('signed out, and let look only: each says so and goes on by itself when it has passed', async ({ studio, page, context }) => {
  test.skip(!process.env['ZANY_DATABASE_URL'], 'needs the database of the test command');
  const id = await studio.newPiece('Held');
  const other = await context.newPage();
  await other.goto('/');
  await other.getByRole('button', { name: 'Sign out' }).click();
  await expect(page.getByText(/^Signed out/)).toBeVisible({ timeout: 20_000 });
  await studio.draw('b', 40, 100, 200, 60);
  await expect(state(studio)).toHaveText('Signed out, 1 change kept here');
  await expect(page.getByRole('link', { name: 'Sign in' })).toHaveAttribute('href', `/sign-in?back=${encodeURIComponent(`/p/${id}/build`)}`);
  await new Studio(other).signIn();
  await studio.saved();
  await ask(`UPDATE members SET role = 'reviewer' WHERE piece_id = $1`, [id]);
  await studio.draw('o', 40, 300, 80, 80);
  await expect(state(studio)).toHaveText('May only look, 1 change kept here');
  await expect(page.getByRole('button', { name: 'Save as a file' })).toBeVisible();
  await ask(`UPDATE members SET role = 'owner' WHERE piece_id = $1`, [id]);
  await studio.saved();
  await other.close();
});

test('who may only look says something of a thread, and changes nothing of it', async ({ studio, page }) => {
  test.skip(!process.env['ZANY_DATABASE_URL'], 'needs the database of the test command');
  const id = await studio.given({
    frames: { Plan: { layers: { Book: { at: [20, 40, 200, 60], lines: ['click → go to Pay'] } } }, Pay: { layers: {}, ending: true } },
  });
  await ask(`UPDATE members SET role = 'reviewer' WHERE piece_id = $1`, [id]);
  await studio.open(id);
  const thread = page.getByRole('group', { name: 'Thread: click → go to Pay' });
  await thread.hover();
  await thread.getByRole('button', { name: 'More about the thread' }).click();
  const menu = page.getByRole('dialog', { name: 'More about the thread' });
  await expect(menu.getByRole('button')).toHaveText(['Copy', 'Comment']);
  await menu.getByRole('button', { name: 'Comment' }).click();
  await expect(page.getByRole('dialog', { name: 'Comments' }).getByLabel(/^Comment on “click → go to Pay” of Book on Plan/)).toBeVisible();
});

test('a piece that is deleted while it is open says so, holds what is made, and saves it when it is back', async ({ studio, page, context }) => {
  const id = await studio.newPiece('Comes back');
  const origin = await studio.origin();
  const kept = await context.newPage();
  const beside = new Studio(kept);
  const other = await beside.newPieceBeside(origin, 'Beside');
  await page.request.delete(`/api/pieces/${id}`, { headers: { origin } });
  await expect(page.getByText(/^Piece is gone/)).toBeVisible({ timeout: 20_000 });
  await studio.draw('b', 40, 100, 200, 60);
  await expect(state(studio)).toHaveText('Piece is gone, 1 change kept here');
  // The other tab of this browser still gets its news.
  await page.request.patch(`/api/pieces/${other}`, { data: { name: 'Told' }, headers: { origin } });
  await expect(kept.getByRole('heading', { name: 'Told' })).toBeVisible();
  await page.request.post(`/api/pieces/${id}/restore`, { headers: { origin } });
  await studio.saved();
  await kept.close();
});

test('a browser that keeps nothing says so before anything is lost, and opening does not hang', async ({ studio, page, context }) => {
  const id = await studio.newPiece('Nothing kept');
  const silent = await context.newPage();
  await silent.addInitScript(() => {
    // A database that never answers.
    indexedDB.open = () => ({}) as IDBOpenDBRequest;
  });
  const beside = new Studio(silent);
  await beside.open(id);
  await expect(state(beside)).toHaveText('Saved; nothing kept here', { timeout: 20_000 });
  await beside.draw('b', 40, 100, 200, 60);
  await expect(studio.row('Box 1')).toBeVisible();
  await silent.route('**/batches', (route) => route.abort());
  await beside.draw('o', 40, 300, 80, 80);
  await expect(state(beside)).toHaveText('Offline, 1 change only in this window', { timeout: 20_000 });
  await expect(silent.getByRole('button', { name: 'Save as a file' })).toBeVisible();
  await silent.unroute('**/batches');
  await expect(studio.row('Oval 1')).toBeVisible({ timeout: 20_000 });
  await silent.close();
  await page.bringToFront();
});
