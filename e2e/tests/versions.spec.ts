import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { readPackage, unwrap, writePackage, type Operation } from '@zany/core';
import { axeOn } from './axe.ts';
import { test, expect, type Studio } from './studio.ts';
import { TEN } from './ten-changes.ts';

/** Versions are kept, named, compared and restored, as people do it. */

const demo = join(import.meta.dirname, '../../demo/pieces/1-ticket-app.zip');

/** The ticket app under another name, so that nobody takes it for that of the Workroom. */
async function ticketApp(studio: Studio): Promise<string> {
  const { piece, assets } = unwrap(await readPackage(await readFile(demo), null));
  const data = Buffer.from(writePackage({ ...piece, head: { ...piece.head, name: 'Tickets through time' } }, assets));
  const origin = await studio.origin();
  const headers = { origin, 'content-type': 'application/octet-stream' };
  const answer = await studio.page.request.post('/api/packages', { data, headers });
  const { id } = (await answer.json()) as { id: string };
  return id;
}

/** Edits that are the given of a test, made by the person who is signed in. */
async function make(
  studio: Studio,
  piece: string,
  edits: readonly { readonly what: string; readonly operations: readonly Operation[] }[]
): Promise<void> {
  const origin = await studio.origin();
  const batches = edits.map(({ what, operations }, i) => ({ id: `edit-${i}-${Date.now()}`, name: what, operations }));
  const answer = await studio.page.request.post(`/api/pieces/${piece}/batches`, { data: { batches }, headers: { origin } });
  const { results } = (await answer.json()) as { results: { readonly fault?: unknown }[] };
  expect(results.map(({ fault }) => fault)).toEqual(edits.map(() => undefined));
}

async function openVersions(studio: Studio, piece: string): Promise<void> {
  await studio.page.goto(`/p/${piece}/hand-over?page=versions`);
  await expect(studio.page.getByRole('textbox', { name: 'Name for the piece as it is now' })).toBeVisible();
}

test('ten changes are all named, outlined, told by what they do, and taken back one by one and all at once', async ({ studio, page }) => {
  const piece = await ticketApp(studio);
  await openVersions(studio, piece);
  await page.getByRole('textbox', { name: 'Name for the piece as it is now' }).fill('For the harbour master');
  await page.getByRole('button', { name: 'Keep' }).click();
  await expect(page.getByText('For the harbour master')).toBeVisible();
  await make(studio, piece, TEN);
  await page.reload();
  await page.getByRole('button', { name: 'Compare For the harbour master with now' }).click();
  await expect(page.getByRole('heading', { name: 'From “For the harbour master”' })).toBeVisible();

  const frames = page.getByRole('region', { name: 'Frames and parts' });
  const frame = (name: string) => frames.getByRole('listitem', { name, exact: true });
  await expect(frame('Harbour')).toContainText('Plan a trip y 460 instead of');
  await expect(frame('Harbour')).toContainText('Notice is gone');
  await expect(frame('Pay')).toContainText('Price text “41.50 €” instead of');
  await expect(frame('Pay')).toContainText('Pay now fill #0b7a75 instead of #f0b13c');
  await expect(frame('Aboard')).toContainText('Done look hover is gone');
  await expect(frame('Declined')).toContainText('Try again is new');
  await expect(frame('Questions')).toContainText('name Questions instead of Help');
  await expect(frame('Lost property')).toContainText('gone');
  const threads = page.getByRole('list', { name: 'Threads that differ' });
  await expect(threads.getByRole('listitem')).toHaveCount(2);
  await expect(threads).toContainText('click → go to Seats');
  await expect(threads.locator('del')).toContainText('click → go to Pay');
  const does = page.getByRole('region', { name: 'What it does' });
  await expect(does).toContainText('Pay takes 1 step more (3 instead of 2)', { timeout: 60_000 });
  await expect(does).toContainText('They are told apart by this:', { timeout: 60_000 });

  // One frame's outlines: Plan a trip where it was and where it is, and Notice, which is gone.
  await expect(frame('Harbour').locator('figure').first().locator('svg rect[stroke="#b3730a"]')).toHaveCount(2);
  await expect(frame('Harbour').locator('figure').last().locator('svg rect[stroke="#0b7a75"]')).toHaveCount(1);
  await frame('Harbour').getByRole('button', { name: 'one over the other' }).click();
  const slider = frame('Harbour').getByRole('slider');
  await slider.focus();
  await page.keyboard.press('End');
  await expect(slider).toHaveValue('100');
  await frame('Harbour').getByRole('button', { name: 'side by side' }).click();

  await frames.getByRole('button', { name: 'Take over Lost property' }).click();
  await expect(page.getByText('Take over Lost property from “For the harbour master”: done.')).toBeVisible();
  await threads.getByRole('button', { name: /^as it was: click → go to Seats/ }).click();
  await page.getByRole('button', { name: 'compare again' }).click();
  await expect(frame('Declined')).toBeVisible();
  await expect(frame('Lost property')).toBeHidden();
  await expect(threads.getByRole('listitem')).toHaveCount(1);

  await page.getByRole('button', { name: 'Restore it' }).click();
  await expect(page.getByText('They are the same: nothing in them differs.')).toBeVisible();
  await studio.saved();
  await page.getByRole('button', { name: 'close' }).click();
  await page.reload();
  await page.getByRole('button', { name: '13 edits' }).click();
  await page.getByRole('button', { name: 'Compare after a frame is removed with now' }).click();
  await expect(frame('Declined')).toContainText('Try again is gone');
});

test('a version is named later, renamed, compared with another one, and opened as a piece of its own', async ({ studio, page }) => {
  const piece = await ticketApp(studio);
  await make(studio, piece, TEN.slice(0, 3));
  await openVersions(studio, piece);
  await page.getByRole('button', { name: '3 edits' }).click();
  await page.getByRole('button', { name: 'Compare after a text is written anew with now' }).click();
  await expect(page.getByRole('region', { name: 'Frames and parts' }).getByRole('listitem', { name: 'Pay' })).toContainText('Pay now fill');
  await page.getByLabel('The version that it is compared with').selectOption({ label: 'the beginning' });
  await page.getByRole('button', { name: 'the other way round' }).click();
  await expect(page.getByRole('heading', { name: 'From the beginning' })).toBeVisible();
  const harbour = page.getByRole('region', { name: 'Frames and parts' }).getByRole('listitem', { name: 'Harbour' });
  await expect(harbour).toContainText('Plan a trip y 460 instead of');
  await expect(page.getByRole('button', { name: 'Restore it' })).toBeHidden();

  const beginning = page.getByRole('listitem').filter({ hasText: 'as it began' });
  await beginning.getByRole('button', { name: /^Name / }).click();
  await page.keyboard.type('As we found it');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'From “As we found it”' })).toBeVisible();
  await page.getByRole('button', { name: 'with a name' }).click();
  await expect(page.getByRole('button', { name: /^Compare / })).toHaveCount(1);

  for (const theme of ['linen', 'lamplight']) {
    if (theme === 'lamplight') await page.getByRole('button', { name: /lamplight/i }).click();
    const { violations } = await axeOn(page).analyze();
    expect(violations.map(({ id, nodes }) => [id, nodes.map(({ html }) => html.slice(0, 200))])).toEqual([]);
  }
  await page.getByRole('button', { name: 'Open as a piece of its own' }).click();
  await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeVisible();
  await expect(page).not.toHaveURL(new RegExp(piece));
});
