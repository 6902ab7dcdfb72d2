import { fileURLToPath } from 'node:url';
import { readFile } from 'node:fs/promises';
import { onPaper } from '../tests/on-paper.ts';
import { expect, test, type Studio } from '../tests/studio.ts';
import { TEN } from '../tests/ten-changes.ts';

const folder = fileURLToPath(new URL('../../docs/screenshots/', import.meta.url));

const shoot = async ({ page }: Studio, name: string) => {
  await page.mouse.move(2, 798);
  await page.waitForTimeout(500);
  await page.screenshot({ path: `${folder}${name}.png` });
};

test.beforeEach(({ studio }) => studio.workroom());

test('workroom', async ({ studio }) => {
  await expect(studio.page.locator('article')).not.toHaveCount(0);
  await expect(studio.page.getByText('being looked through…')).toHaveCount(0, { timeout: 40_000 });
  await studio.page.waitForTimeout(1000);
  await shoot(studio, 'workroom');
});

test('the desks, on the ticket app', async ({ studio, page }) => {
  await page.getByRole('link', { name: 'Open Ticket app' }).click();
  await expect(studio.looseEnds()).toHaveAttribute('data-loose-ends', /\d/);
  await studio.openFrame('Sailings');
  await studio.select('Choose 10:40');
  await shoot(studio, 'build');
  await page.getByRole('button', { name: 'Change to lamplight' }).click();
  await shoot(studio, 'build-lamplight');
  await page.getByRole('button', { name: 'Change to linen' }).click();

  await page.keyboard.press('t');
  await page.locator('[data-running]').getByRole('button', { name: /12:15/ }).click();
  await studio.running('Seats');
  await page.waitForTimeout(1200);
  await page.locator('[data-running]').getByText('7', { exact: true }).click();
  await shoot(studio, 'try');
  await page.keyboard.press('Escape');

  await studio.desk('Map');
  await page.waitForTimeout(800);
  await shoot(studio, 'map');

  await studio.desk('Walk');
  const dead = page.getByRole('article', { name: /dead end/ }).first();
  await dead.getByRole('button', { name: 'Show me' }).click();
  await page.waitForTimeout(4000);
  await shoot(studio, 'walk');

  await studio.desk('Hand over');
  await shoot(studio, 'hand-over');
});

test('what others say and do by a link', async ({ studio, page, browser }) => {
  test.setTimeout(200_000);
  await page.getByRole('link', { name: 'Open Ticket app' }).click();
  await studio.desk('Hand over');
  await page.getByRole('tab', { name: 'Review' }).click();
  await page.getByRole('button', { name: 'New review link' }).click();
  const form = page.getByRole('form', { name: 'New review link' });
  await form.getByLabel('Whom it is for').fill('Friday round');
  await form.getByRole('button', { name: 'add a task' }).click();
  await form.getByLabel('Task', { exact: true }).fill('Book two seats on the 10:40 and pay for them.');
  await form.getByLabel('Frame to reach').selectOption('Aboard');
  await form.getByRole('button', { name: 'Make the link' }).click();
  const address = await page.getByLabel('Address of Friday round').inputValue();
  const ways = [
    ['Odd Vik', ['Timetable', 'Harbour', 'My tickets'], true],
    ['Liv Moe', ['Timetable', 'My tickets', 'Timetable'], true],
    ['Per Dal', ['My tickets', 'Harbour'], false],
  ] as const;
  for (const [name, pressed, givesUp] of ways) {
    const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, deviceScaleFactor: 2 });
    const phone = await context.newPage();
    await phone.goto(address);
    await phone.getByLabel('Your name').fill(name);
    await phone.getByRole('button', { name: 'Come in' }).tap();
    await phone.getByRole('button', { name: 'Begin' }).tap();
    for (const words of pressed) {
      const found = phone.locator('[data-running]').getByText(words).first();
      if (await found.isVisible().catch(() => false)) await found.tap();
      await phone.waitForTimeout(600);
    }
    await phone.touchscreen.tap(190, 120);
    if (name === 'Odd Vik') {
      await phone.waitForTimeout(300);
      await phone.screenshot({ path: `${folder}review-phone.png` });
      await phone.waitForTimeout(900);
      await phone.getByRole('button', { name: 'About this link' }).tap();
      await phone.getByRole('button', { name: 'Comment', exact: true }).tap();
      await phone.touchscreen.tap(190, 240);
      await phone.getByLabel('What you want to say').fill('Which of these is the *fast* boat?');
      await phone.getByRole('button', { name: 'Comment', exact: true }).tap();
      await phone.getByRole('button', { name: 'Done' }).tap();
    }
    if (givesUp) {
      await phone.getByRole('button', { name: 'About this link' }).tap();
      await phone.getByRole('button', { name: 'I give up on this' }).tap();
    }
    await phone.waitForTimeout(700);
    await context.close();
  }
  await page.reload();
  await page.getByRole('link', { name: /what they did/ }).click();
  await expect(page.getByRole('region', { name: 'People' })).toBeVisible({ timeout: 40_000 });
  await shoot(studio, 'review-results');
  await page.getByRole('button', { name: /^Comments:/ }).click();
  await page
    .getByRole('dialog', { name: 'Comments' })
    .getByRole('button', { name: /Odd Vik/ })
    .click();
  await shoot(studio, 'comments');
});

test('time', async ({ studio, page }) => {
  await page.getByRole('link', { name: 'Open Harbour clock' }).click();
  await page.getByRole('region', { name: 'Strip' }).getByRole('tab', { name: 'Time' }).click();
  await expect(page.locator('[data-knot]')).not.toHaveCount(0);
  const strip = (await page.getByRole('region', { name: 'Strip' }).boundingBox())!;
  await page.mouse.move(strip.x + 300, strip.y + 1);
  await page.mouse.down();
  await page.mouse.move(strip.x + 300, strip.y - 110, { steps: 4 });
  await page.mouse.up();
  await studio.select('Boat');
  await page.getByRole('gridcell', { name: /^Boat: / }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'before and after' }).click();
  await page.getByRole('textbox', { name: 'Moment' }).fill('5.2 s');
  await page.getByRole('textbox', { name: 'Moment' }).press('Enter');
  const boat = page.getByRole('gridcell', { name: /^Boat: / });
  await boat.evaluate((row) => row.scrollIntoView({ block: 'center' }));
  await shoot(studio, 'time');
  await page.getByRole('button', { name: 'Change to lamplight' }).click();
  await shoot(studio, 'time-lamplight');
});

test('states of a part', async ({ studio, page }) => {
  await page.getByRole('link', { name: 'Open Day trip' }).click();
  await page.getByRole('button', { name: 'Open the part Stepper' }).click();
  await page.getByRole('region', { name: 'Strip' }).getByRole('button', { name: 'Open the state Full' }).focus();
  await page.keyboard.press('Enter');
  await studio.select('count');
  await page.getByRole('tab', { name: 'States' }).click();
  await page.getByRole('tab', { name: /^Variables/ }).click();
  await shoot(studio, 'states');
});

test('sketches on paper', async ({ studio, page }) => {
  await studio.newPiece('Quay on paper');
  const [harbour, sailings, aboard] = [150, 470, 790];
  const hand = (x: number, y: number, width: number) => `M${x} ${y}q${width / 8} -10 ${width / 4} 0t${width / 4} 0t${width / 4} 0t${width / 4} 0`;
  const button = (x: number, y: number, width: number) => `M${x} ${y}h${width}v44h${-width}z${hand(x + 24, y + 24, width - 48)}`;
  const strokes = [
    hand(harbour + 24, 176, 120),
    `M${harbour + 30} 330l40 40h110l40 -40zM${harbour + 125} 330v-90l60 70h-60M${harbour + 20} 385q25 -14 50 0t50 0t50 0t50 0`,
    button(harbour + 40, 440, 170),
    hand(sailings + 24, 176, 150),
    ...[240, 310, 380].map((y) => button(sailings + 30, y, 190)),
    hand(aboard + 24, 176, 90),
    `M${aboard + 75} 330l35 40l65 -90`,
    hand(aboard + 50, 440, 150),
    `M${harbour + 250} 350h60l-14 -10m14 10l-14 10M${sailings + 250} 350h60l-14 -10m14 10l-14 10`,
  ];
  const boxes = [harbour, sailings, aboard].map((x) => [x, 140, 250, 420] as const);
  const photo = await onPaper(boxes, { strokes: strokes.join('') });
  await page.locator('[data-chooser]').setInputFiles([{ name: 'Quay.jpg', mimeType: 'image/jpeg', buffer: photo }]);
  await page.getByRole('button', { name: 'Cut out of paper…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Frames from paper' });
  await expect(dialog.getByRole('button', { name: 'Show frame 3' }).locator('img')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Bring in 3 frames, 390 wide' })).toBeEnabled();
  await dialog.getByRole('button', { name: 'Show frame 1' }).click();
  await shoot(studio, 'paper');
});

test('versions', async ({ page, studio }) => {
  const headers = { origin: await studio.origin() };
  const data = await readFile(new URL('../../demo/pieces/1-ticket-app.zip', import.meta.url));
  const answer = await page.request.post('/api/packages', { data, headers: { ...headers, 'content-type': 'application/octet-stream' } });
  const { id } = (await answer.json()) as { id: string };
  const batches = TEN.map(({ what, operations }, i) => ({ id: `edit-${i}`, name: `${what[0]!.toUpperCase()}${what.slice(1)}`, operations }));
  await page.request.post(`/api/pieces/${id}/batches`, { data: { batches }, headers });
  await page.request.put(`/api/pieces/${id}/versions/0`, { data: { name: 'For the harbour master' }, headers });
  await page.goto(`/p/${id}/hand-over?page=versions&from=0&to=now`);
  await expect(page.getByText('They are told apart by this')).toBeVisible();
  await page.getByRole('list', { name: 'Threads that differ' }).evaluate((list) => list.scrollIntoView({ block: 'start' }));
  await page.mouse.move(700, 500);
  await page.mouse.wheel(0, -70);
  await shoot(studio, 'versions');
});
