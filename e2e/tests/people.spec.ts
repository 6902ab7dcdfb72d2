import { createHmac } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { createServer, type IncomingHttpHeaders } from 'node:http';
import { join } from 'node:path';
import type { Page } from '@playwright/test';
import { test, expect, type Studio } from './studio.ts';

/** Others are let in and out, and accounts are kept, as people do it in browsers of their own. */

const PASSWORD = 'otter lamp gravel nine';

const hand = (page: Page) => page.getByRole('tabpanel', { name: 'People' });

async function openPeople(studio: Studio): Promise<void> {
  await studio.desk('Hand over');
  await studio.page.getByRole('tab', { name: 'People' }).click();
  await expect(hand(studio.page).getByRole('heading', { name: 'Members' })).toBeVisible();
}

async function register(page: Page, name: string, email: string): Promise<void> {
  await page.getByRole('link', { name: 'I am new here' }).click();
  await page.getByLabel('Your name').fill(name);
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel(/^Password/).fill(PASSWORD);
  await page.getByRole('button', { name: 'Make an account' }).click();
  await expect(page.getByRole('status')).toContainText('the account is made');
  await page.getByLabel(/^Password/).fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
}

/** The newest letter to an address, without the folding of quoted-printable. */
async function letterTo(email: string): Promise<string> {
  const folder = process.env['ZANY_MAIL_FOLDER']!;
  let found = '';
  await expect(async () => {
    const files = (await readdir(folder)).sort();
    const all = await Promise.all(files.map((file) => readFile(join(folder, file), 'utf8')));
    found = all.filter((text) => text.includes(email)).at(-1) ?? '';
    expect(found).not.toBe('');
  }).toPass();
  return found.replace(/=\r?\n/g, '').replace(/=3D/g, '=');
}

test('somebody is invited by a letter, edits, becomes a reviewer, and is taken out', async ({ studio, page, browser }) => {
  await studio.newPiece('Shared harbour');
  const email = `odd.${Date.now()}@kittiwake.example`;
  await openPeople(studio);
  await page.getByLabel('Invite as').selectOption('editor');
  await page.getByLabel(/^E-mail to send/).fill(email);
  await page.getByRole('button', { name: 'Send the invitation' }).click();
  await expect(hand(page).getByText(`${email}, as editor, by Ina Rask`)).toBeVisible();
  const address = /http:\/\/\S+\/join\/\S+/.exec(await letterTo(email))![0];

  const other = await browser.newContext();
  const guest = await other.newPage();
  await guest.goto(address);
  await expect(guest.getByText('Ina Rask invites you to this piece as editor')).toBeVisible();
  await guest.getByRole('link', { name: /Sign in or make an account/ }).click();
  await register(guest, 'Odd Vik', email);
  await guest.getByRole('button', { name: 'Come in as Odd Vik' }).click();
  await expect(guest.getByRole('region', { name: 'Cue sheet' })).toBeVisible();
  await guest.getByRole('link', { name: 'Hand over', exact: true }).click();
  await guest.getByRole('tab', { name: 'People' }).click();
  await expect(hand(guest).getByText('Odd Vik (you)')).toBeVisible();
  await expect(hand(guest).getByRole('heading', { name: 'Invite' })).toHaveCount(0);

  // The link is used up.
  await guest.goto(address);
  await expect(guest.getByRole('alert')).toContainText('taken already');
  await guest.goto('/');
  await expect(guest.getByRole('article', { name: 'Shared harbour' })).toContainText('you are its editor');

  await guest.getByRole('link', { name: 'Open Shared harbour' }).click();
  await expect(guest.getByRole('button', { name: 'New frame' }).first()).toBeVisible();
  await page.reload();
  await hand(page).getByLabel('Role of Odd Vik').selectOption('reviewer');
  await expect(guest.getByText('Somebody made you a reviewer: you can look, walk and comment.')).toBeVisible();
  await expect(guest.getByRole('button', { name: 'New frame' })).toHaveCount(0);
  await guest.goto('/');
  await hand(page).getByText('Who was let in and out').click();
  await expect(hand(page).getByText('made Odd Vik a reviewer, who was an editor before')).toBeVisible();
  await guest.reload();
  const card = guest.getByRole('article', { name: 'Shared harbour' });
  await expect(card).toContainText('you are its reviewer');
  await card.hover();
  await expect(card.getByRole('button', { name: 'rename' })).toHaveCount(0);

  await hand(page).getByRole('button', { name: 'Take Odd Vik out' }).click();
  await hand(page).getByRole('button', { name: 'Yes' }).click();
  await expect(hand(page).getByText('Odd Vik', { exact: true })).toHaveCount(0);
  await guest.reload();
  await expect(card).toHaveCount(0);
  await other.close();
});

test('an account is made, and signed in with, before the page hears or where it never does', async ({ browser }) => {
  const context = await browser.newContext({ javaScriptEnabled: false });
  const guest = await context.newPage();
  await guest.goto('/sign-in');
  await register(guest, 'Tor Lund', `tor.${Date.now()}@kittiwake.example`);
  await expect(guest.getByRole('link', { name: 'Tor Lund' })).toBeVisible();
  await context.close();
});

test('a forgotten password is replaced by a link in a letter; an account is changed by its own page', async ({ page, browser }) => {
  const email = `liv.${Date.now()}@kittiwake.example`;
  const context = await browser.newContext();
  const guest = await context.newPage();
  await guest.goto('/sign-in');
  await register(guest, 'Liv Moe', email);
  await expect(guest.getByRole('heading', { name: 'Workroom' })).toBeVisible();

  // Meanwhile, elsewhere, she does not know it any more.
  await page.context().clearCookies();
  await page.goto('/sign-in');
  await page.getByRole('link', { name: 'I forgot my password' }).click();
  await expect(page.getByRole('heading', { name: 'A forgotten password' })).toBeVisible();
  await page.getByLabel('E-mail').fill(email);
  await page.getByRole('button', { name: 'Send the link' }).click();
  await expect(page.getByRole('status')).toContainText('a letter with a link is on its way');
  await page.goto(/http:\/\/\S+\/new-password\/\S+/.exec(await letterTo(email))![0]);
  await page.getByLabel(/^New password/).fill('short');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByRole('alert')).toContainText('12 to 128');
  await page.getByLabel(/^New password/).fill('velvet crane harbour six');
  await page.getByRole('button', { name: 'Take it' }).click();
  await expect(page.getByText('Your password is changed. Sign in with it.')).toBeVisible();
  await page.getByLabel('E-mail').fill(email);
  await page.getByLabel(/^Password/).fill('velvet crane harbour six');
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
  await expect(page.getByRole('heading', { name: 'Workroom' })).toBeVisible();
  await guest.reload();
  await expect(guest.getByRole('button', { name: 'Sign in', exact: true })).toBeVisible();

  await page.getByRole('link', { name: 'Liv Moe' }).click();
  await expect(page.getByRole('heading', { name: 'Your account' })).toBeVisible();
  await page.getByLabel('Your name').fill('Liv Moe-Rask');
  await page.getByRole('button', { name: 'Change', exact: true }).click();
  await expect(page.getByRole('status')).toContainText('Your name is changed');
  await page.goto('/');
  await expect(page.getByRole('link', { name: 'Liv Moe-Rask' })).toBeVisible();
  await context.close();
});

test('a program does what somebody may, by a key of his, until he ends it', async ({ studio, page, playwright, baseURL }) => {
  const id = await studio.newPiece('Harbour for programs');
  await page.goto('/account');
  const section = page.getByRole('region', { name: 'Keys for programs' });
  const newKey = async (name: string, may: string) => {
    await section.getByLabel('For', { exact: true }).fill(name);
    await section.getByLabel('May').selectOption(may);
    await section.getByRole('button', { name: 'Make a key' }).click();
    await expect(section.getByText(name, { exact: true })).toBeVisible();
    return section.getByLabel('The new key').inputValue();
  };
  const asProgram = async (key: string) => playwright.request.newContext({ baseURL: baseURL!, extraHTTPHeaders: { authorization: `Bearer ${key}` } });
  const reader = await asProgram(await newKey('Tells what is there', 'read'));
  const writer = await asProgram(await newKey('Renames', 'read and change'));

  const { pieces } = (await (await reader.get('/api/pieces')).json()) as { pieces: { id: string }[] };
  expect(pieces.map((piece) => piece.id)).toContain(id);
  expect((await reader.get(`/api/pieces/${id}/export?to=package`)).headers()['content-type']).toBe('application/zip');
  const refused = await reader.patch(`/api/pieces/${id}`, { data: { name: 'Other' } });
  expect([refused.status(), await refused.text()]).toEqual([403, expect.stringContaining('This key only reads')]);
  expect((await reader.get('/account')).status()).toBe(403);
  expect((await writer.patch(`/api/pieces/${id}`, { data: { name: 'Renamed by a program' } })).ok()).toBe(true);
  expect((await writer.patch(`/api/pieces/${id}`, { data: { name: '' } })).status()).toBe(400);
  const made = await writer.post('/account?/make-key', { form: { name: 'more', may: 'change', days: '30' } });
  expect(made.status()).toBe(403);

  await section.getByRole('button', { name: 'End the key Renames' }).click();
  await expect(page.getByText('The key opens nothing any more.')).toBeVisible();
  expect((await writer.get('/api/pieces')).status()).toBe(401);
  expect((await reader.get('/api/pieces')).ok()).toBe(true);
  await page.goto('/');
  await expect(page.getByText('Renamed by a program')).toBeVisible();
  await Promise.all([reader.dispose(), writer.dispose()]);
});

test('a program elsewhere is told what happens to a piece, and can check by whom', async ({ studio, page }) => {
  const told: { type: string; headers: IncomingHttpHeaders; body: string }[] = [];
  const server = createServer((request, response) => {
    let body = '';
    request.on('data', (part: Buffer) => (body += part.toString()));
    request.on('end', () => {
      told.push({ type: (JSON.parse(body) as { type: string }).type, headers: request.headers, body });
      response.end();
    });
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = `http://127.0.0.1:${(server.address() as { port: number }).port}/told`;
  const id = await studio.newPiece('Told harbour');
  await openPeople(studio);
  const section = page.getByRole('region', { name: 'Tell other programs' });
  await section.getByLabel('Address').fill(address);
  await section.getByLabel('walked').uncheck();
  await section.getByRole('button', { name: 'Tell it', exact: true }).click();
  const secret = Buffer.from((await section.getByLabel('The secret').inputValue()).replace('whsec_', ''), 'base64');
  await expect(section).toContainText('saved, loose ends, commented · not told anything yet');
  await section.getByRole('button', { name: `Try ${address}` }).click();
  await expect(section).toContainText('It took what it was told to try it.');
  expect(told.map(({ type }) => type)).toEqual(['piece.tried']);

  await studio.desk('Build');
  await studio.draw('b', 40, 40, 120, 60);
  await expect.poll(() => told.map(({ type }) => type), { timeout: 30_000 }).toContain('piece.saved');
  const { headers, body } = told.find(({ type }) => type === 'piece.saved')!;
  const text = `${headers['webhook-id'] as string}.${headers['webhook-timestamp'] as string}.${body}`;
  expect(headers['webhook-signature']).toBe(`v1,${createHmac('sha256', secret).update(text).digest('base64')}`);
  expect((JSON.parse(body) as { data: object }).data).toMatchObject({ piece: id, name: 'Told harbour' });

  await openPeople(studio);
  await expect(section).toContainText('took the last one');
  await section.getByRole('button', { name: `Tell ${address} no more` }).click();
  await expect(section.getByText(address)).toBeHidden();
  server.close();
});

test('a box of buttons presses the pad by a key, and by nothing else', async ({ studio, page, playwright, baseURL }) => {
  const id = await studio.newPiece('Box harbour');
  await openPeople(studio);
  const section = page.getByRole('region', { name: 'A pad of your own' });
  await section.getByLabel('Name of the box').fill('Box at the pier');
  await section.getByRole('button', { name: 'Make a key' }).click();
  const key = /Bearer ([\w-]+)/.exec((await section.getByRole('status').textContent())!)![1]!;
  const box = await playwright.request.newContext({ baseURL: baseURL!, extraHTTPHeaders: { authorization: `Bearer ${key}` } });
  const press = () => box.post(`/api/pieces/${id}/pad`, { data: { button: 2 } }).then((answer) => answer.status());
  expect(await press()).toBe(200);
  expect((await box.get(`/api/pieces/${id}`)).status()).toBe(401);
  await section.getByRole('button', { name: 'End the key Box at the pier' }).click();
  await expect(section.getByText('Box at the pier')).toHaveCount(0);
  expect(await press()).toBe(401);
  await box.dispose();
});
