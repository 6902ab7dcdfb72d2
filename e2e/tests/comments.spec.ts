import type { Page } from '@playwright/test';
import { axeOn } from './axe.ts';
import { Fingers } from './fingers.ts';
import { expect, test, type Studio } from './studio.ts';

/** What is said of a piece stands where it belongs, and comes to all at once. */

const spec = {
  name: 'Spoken of',
  frames: {
    Plan: { size: [390, 700] as const, layers: { Book: { at: [20, 40, 200, 60] as const, text: 'Book', lines: ['click → go to Pay'] } } },
    Pay: { size: [390, 700] as const, ending: true, layers: { Sum: { at: [20, 40, 200, 60] as const, text: '420' } } },
  },
};

/** One pixel. */
const PNG = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

const panel = (page: Page) => page.getByRole('dialog', { name: 'Comments' });
const pins = (page: Page) => page.locator('[data-comment-pin]');

async function linkFor({ page }: Studio): Promise<string> {
  await page.getByRole('link', { name: 'Hand over', exact: true }).click();
  await page.getByRole('tab', { name: 'Review' }).click();
  await page.getByRole('button', { name: 'New review link' }).click();
  const form = page.getByRole('form', { name: 'New review link' });
  await form.getByLabel('Whom it is for').fill('Round');
  await form.getByRole('button', { name: 'Make the link' }).click();
  return page.getByLabel('Address of Round').inputValue();
}

test('a comment by a phone comes to the stage, moves with its layer, is answered and resolved by keys alone', async ({ studio, page, browser }) => {
  test.setTimeout(240_000);
  await studio.given(spec);
  const address = await linkFor(studio);
  await page.getByRole('link', { name: 'Build', exact: true }).click();
  await expect(pins(page)).toHaveCount(0);

  const phones = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  const phone = await phones.newPage();
  await phone.goto(address);
  await phone.getByLabel('Your name').fill('Liv Moe');
  await phone.getByRole('button', { name: 'Come in' }).tap();
  await expect(phone.locator('[data-running]').getByRole('button', { name: 'Book' })).toBeVisible();
  await phone.getByRole('button', { name: 'About this link' }).tap();
  await phone.getByRole('button', { name: 'Comment', exact: true }).tap();
  const button = (await phone.locator('[data-running]').getByRole('button', { name: 'Book' }).boundingBox())!;
  await phone.touchscreen.tap(button.x + button.width / 2, button.y + button.height / 2);
  await expect(phone.getByRole('dialog', { name: 'New comment' })).toContainText('Book on Plan');
  await phone.getByLabel('What you want to say').fill('Say **what** I book. <img src=x onerror=alert(1)> [see](javascript:alert(1))');
  expect((await axeOn(phone).exclude('.zany-screen').analyze()).violations.map(({ id }) => id)).toEqual([]);
  await phone.getByRole('button', { name: 'Comment', exact: true }).tap();

  // A pull over a part is about that; it is left again.
  const fingers = await Fingers.on(phone);
  await fingers.glide([[60, 420]], [[200, 520]]);
  await expect(phone.getByRole('dialog', { name: 'New comment' })).toContainText('a part of Plan');
  await phone.getByRole('button', { name: 'Close' }).tap();

  // It is there without a reload, at its layer, and moves with it.
  const pin = pins(page);
  await expect(pin).toHaveCount(1);
  const before = (await pin.boundingBox())!;
  await studio.select('Book');
  await page.keyboard.press('Shift+ArrowDown');
  await expect.poll(async () => (await pin.boundingBox())!.y).toBeGreaterThan(before.y + 2);

  // By keys: the panel, the comment, an answer, resolved.
  await page.keyboard.press('Escape');
  await page.keyboard.press('u');
  await expect(panel(page)).toBeVisible();
  await expect(panel(page).getByRole('img', { name: 'not seen yet' })).toBeVisible();
  await panel(page)
    .getByRole('button', { name: /Book on Plan/ })
    .focus();
  await page.keyboard.press('Enter');
  await expect(panel(page).locator('strong')).toHaveText('what');
  await expect(panel(page).locator('img[src]')).toHaveCount(0);
  await expect(panel(page).getByRole('link', { name: 'see' })).toHaveCount(0);
  await expect(panel(page).getByRole('img', { name: 'not seen yet' })).toHaveCount(0);
  await panel(page).getByLabel('Answer').focus();
  await page.keyboard.type('Two seats it is.');
  await page.keyboard.press('Control+Enter');
  await expect(panel(page).getByText('Two seats it is.')).toBeVisible();
  expect((await axeOn(page).include('[aria-label="Comments"]').analyze()).violations.map(({ id }) => id)).toEqual([]);

  await phone.getByRole('button', { name: /^Comment by Liv Moe/ }).tap();
  await expect(phone.getByRole('dialog', { name: 'Comment', exact: true })).toContainText('Two seats it is.');
  await panel(page).getByRole('button', { name: 'resolve', exact: true }).click();
  await expect(pins(page)).toHaveCount(0);
  await expect(phone.getByRole('button', { name: /^Comment by Liv Moe/ })).toHaveCount(0);
  await phones.close();
});

test('one of one’s own is about what is selected, is changed and deleted; what it was about is gone and it says so', async ({ studio, page }) => {
  await studio.given(spec);
  await studio.select('Book');
  await page.keyboard.press('u');
  await panel(page).getByLabel('Comment on Book on Plan').fill('Too small');
  await panel(page).getByRole('button', { name: 'Comment', exact: true }).click();
  await expect(pins(page)).toHaveCount(1);
  await expect(page.getByRole('button', { name: 'Comments: 1 open, 0 not seen yet' })).toBeVisible();
  await panel(page).getByRole('button', { name: 'change' }).click();
  await panel(page).getByLabel('Comment', { exact: true }).fill('Far too small');
  await panel(page).getByRole('button', { name: 'Keep' }).click();
  await expect(panel(page).getByText('Far too small')).toBeVisible();
  await studio.select('Book');
  await page.keyboard.press('Delete');
  await expect(panel(page).getByText('Book, which is gone, on Plan')).toBeVisible();
  await page.reload();
  await page.getByRole('button', { name: /^Comments: 1 open/ }).click();
  await panel(page)
    .getByRole('button', { name: /Book, which is gone/ })
    .click();
  await panel(page).getByRole('button', { name: 'delete' }).click();
  await expect(panel(page).getByText('None here.')).toBeVisible();
  await expect(page.getByRole('button', { name: /^Comments:/ })).toHaveCount(0);
});

test('about a thread and a part of a frame, spoken to by @, made a loose end, and mended on the Walk desk', async ({ studio, page }) => {
  await studio.given(spec);
  await studio.select('Book');

  // Of a thread, from its menu; it stands at the thread.
  const thread = page.locator('[data-thread]').first();
  await thread.click({ button: 'right', position: { x: 60, y: 10 } });
  await page.getByRole('button', { name: 'Comment', exact: true }).click();
  const about = panel(page).getByRole('textbox', { name: 'Comment on “click → go to Pay” of Book on Plan' });
  await about.click();
  await page.keyboard.type('Not before the seats are chosen, @In');
  const names = panel(page).getByRole('listbox', { name: 'Who is spoken to' });
  await expect(names.getByRole('option', { name: '@Ina Rask' })).toHaveAttribute('aria-selected', 'true');
  await page.keyboard.press('Enter');
  await expect(about).toHaveValue('Not before the seats are chosen, @Ina Rask ');
  const picture = { name: 'quay.png', mimeType: 'image/png', buffer: Buffer.from(PNG, 'base64') };
  await panel(page)
    .getByLabel('Add a picture')
    .first()
    .setInputFiles({ ...picture, buffer: Buffer.from('no picture') });
  await expect(panel(page).getByRole('alert')).toHaveText('The picture is broken, or no picture at all.');
  await panel(page).getByLabel('Add a picture').first().setInputFiles(picture);
  await expect(about).toHaveValue(/@Ina Rask\s+!\[picture\]\(picture:\w+\)\s*$/);
  await page.keyboard.press('Control+Enter');
  const drawn = panel(page).getByRole('img', { name: 'picture' });
  await expect.poll(() => drawn.evaluate((image: HTMLImageElement) => image.naturalWidth)).toBe(1);
  await expect(thread.getByRole('button', { name: '1 comment on the thread' })).toBeVisible();
  await panel(page)
    .getByRole('button', { name: /^at me 1/ })
    .click();
  await expect(panel(page).getByText('Not before the seats are chosen')).toBeVisible();

  // What is written and not sent is there when one comes back; Escape closes the names first.
  await panel(page).getByRole('textbox', { name: 'Comment on Book on Plan' }).click();
  await page.keyboard.type('By the way, @');
  await page.keyboard.press('Escape');
  await expect(names).toHaveCount(0);
  await expect(panel(page)).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(panel(page)).toHaveCount(0);
  await page.keyboard.press('u');
  const again = panel(page).getByRole('textbox', { name: 'Comment on Book on Plan' });
  await expect(again).toHaveValue('By the way, @');
  await again.fill('');

  // Of a part of the frame, pulled over it.
  await panel(page).getByRole('button', { name: 'about a part of the frame' }).click();
  const ground = (await page.locator('[data-marking]').boundingBox())!;
  await page.mouse.move(ground.x + 30, ground.y + 200);
  await page.mouse.down();
  await page.mouse.move(ground.x + 90, ground.y + 240, { steps: 4 });
  await page.mouse.up();
  await panel(page).getByRole('textbox', { name: 'Comment on a part of Plan' }).fill('So much room for nothing');
  await page.keyboard.press('Control+Enter');
  const region = page.locator('[data-comment-region]');
  await expect(region).toHaveCount(1);
  const box = (await region.boundingBox())!;
  expect([box.width, box.height].map(Math.round)).toEqual([60, 40].map((size) => expect.closeTo(size, -1)));

  // A loose end until it is mended; then the comment is answered, too.
  await panel(page).getByRole('button', { name: 'make it a loose end' }).click();
  await expect(panel(page).getByRole('button', { name: 'no loose end any more' })).toBeVisible();
  expect((await axeOn(page).include('[aria-label="Comments"]').analyze()).violations.map(({ id }) => id)).toEqual([]);
  await studio.desk('Map');
  await page.getByRole('button', { name: 'legend' }).click();
  await expect(page.getByText('two comments that are open')).toBeVisible();
  await studio.desk('Walk');
  const end = page.getByRole('article', { name: 'Something is asked for on Plan' });
  await expect(end).toContainText('Ina Rask says: So much room for nothing');
  await end.getByRole('button', { name: 'It is mended' }).click();
  await expect(end).toHaveCount(0);
  await studio.desk('Build');
  await expect(page.getByRole('button', { name: 'Comments: 1 open, 0 not seen yet' })).toBeVisible();
  await expect(page.locator('[data-comment-region]')).toHaveCount(0);
});

test('where a piece is walked, what was said of it is read, answered and resolved, and said anew of where one is', async ({ studio, page }) => {
  await studio.given(spec);
  await studio.select('Book');
  await page.keyboard.press('u');
  await panel(page).getByLabel('Comment on Book on Plan').fill('Too small');
  await panel(page).getByRole('button', { name: 'Comment', exact: true }).click();
  await expect(pins(page)).toHaveCount(1);
  await studio.desk('Walk');
  const said = page.getByRole('region', { name: 'Comments' });
  await said.getByRole('button', { name: /^comments/ }).focus();
  await page.keyboard.press('Enter');
  await expect(said.getByRole('button', { name: /Book on Plan/ })).toBeVisible();
  await studio.button('Book').click();
  await studio.running('Pay');
  await said.getByLabel('Comment on Pay').fill('Where is the way home?');
  await page.keyboard.press('Control+Enter');
  await expect(said.getByText('Where is the way home?')).toBeVisible();
  await expect(said.getByRole('button', { name: /^comments/ })).toContainText('2');
  expect((await axeOn(page).include('[aria-label="Comments"]').analyze()).violations.map(({ id }) => id)).toEqual([]);
  // One of another frame brings the piece there.
  await said.getByRole('button', { name: /Book on Plan/ }).click();
  await studio.running('Plan');
  await said.getByLabel('Answer').fill('It grows.');
  await page.keyboard.press('Control+Enter');
  await expect(said.getByText('It grows.')).toBeVisible();
  await said.getByRole('button', { name: 'resolve', exact: true }).click();
  await expect(said.getByRole('button', { name: /^comments/ })).toContainText('1');
  await studio.desk('Build');
  await studio.openFrame('Pay');
  await expect(pins(page)).toHaveCount(1);
});

test('a part of a frame is marked, and spoken of, by keys alone', async ({ studio, page }) => {
  await studio.given(spec);
  await page.keyboard.press('u');
  await panel(page).getByRole('button', { name: 'about a part of the frame' }).focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-marking]')).toBeFocused();
  for (const key of ['ArrowLeft', 'ArrowUp', 'Shift+ArrowRight', 'Enter']) await page.keyboard.press(key);
  await expect(panel(page).getByLabel('Comment on a part of Plan')).toBeFocused();
  await page.keyboard.type('Too empty');
  await page.keyboard.press('Control+Enter');
  await expect(panel(page).getByText('Too empty')).toBeVisible();
  // A third of 390 by 700, in the middle: moved to the left and up, and made wider.
  const frame = (await studio.sheet.boundingBox())!;
  const scale = frame.width / 390;
  const region = (await page.locator('[data-comment-region]').boundingBox())!;
  const box = [region.x - frame.x, region.y - frame.y, region.width, region.height].map((side) => Math.round(side / scale));
  for (const [i, side] of [122, 225, 138, 233].entries()) expect(Math.abs(box[i]! - side)).toBeLessThanOrEqual(2);
});
