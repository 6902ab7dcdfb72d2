import type { BrowserContext, Page } from '@playwright/test';
import { axeOn } from './axe.ts';
import { expect, test, type Studio } from './studio.ts';

/** One link is sent; others walk by it on their phones, give up, are found out about, and are shut out. */

const button = (y: number, text: string, line: string) => ({ at: [20, y, 200, 60] as const, text, lines: [line] });
const spec = {
  name: 'Two ways',
  frames: {
    Plan: {
      size: [390, 700] as const,
      layers: {
        Book: button(40, 'Book', 'click → go to Pay'),
        Help: button(140, 'Help', 'click → go to Aid'),
        Sky: { at: [20, 400, 300, 100] as const },
      },
    },
    Pay: { size: [390, 700] as const, layers: { Pay: button(40, 'Pay now', 'click → go to Paid') } },
    Paid: { size: [390, 700] as const, ending: true },
    Aid: { size: [390, 700] as const, layers: { Home: button(40, 'Home', 'click → go to Plan') } },
  },
};

const panel = (page: Page) => page.getByRole('tabpanel', { name: 'Review' });

async function openReview({ page }: Studio): Promise<void> {
  await page.getByRole('link', { name: 'Hand over', exact: true }).click();
  await page.getByRole('tab', { name: 'Review' }).click();
  await expect(panel(page)).toBeVisible();
}

/** Makes a link with a task; gives its address. */
async function makeLink(studio: Studio, more: { password?: string; task?: boolean } = {}): Promise<string> {
  const { page } = studio;
  await openReview(studio);
  await page.getByRole('button', { name: 'New review link' }).click();
  const form = page.getByRole('form', { name: 'New review link' });
  await form.getByLabel('Whom it is for').fill('Friday round');
  if (more.password) await form.getByLabel(/^Password/).fill(more.password);
  if (more.task) {
    await form.getByRole('button', { name: 'add a task' }).click();
    await form.getByLabel('Task', { exact: true }).fill('Book a seat and pay for it.');
    await form.getByLabel('Frame to reach').selectOption('Paid');
  }
  await form.getByRole('button', { name: 'Make the link' }).click();
  return page.getByLabel('Address of Friday round').inputValue();
}

async function comeIn(page: Page, address: string, name: string): Promise<void> {
  await page.goto(address);
  await page.getByLabel('Your name').fill(name);
  await page.getByRole('button', { name: 'Come in' }).click();
}

/** What axe finds on a page, in both themes. */
async function faults(page: Page): Promise<string[]> {
  const found: string[] = [];
  for (const theme of ['lamplight', 'linen']) {
    await page.evaluate((name) => (document.documentElement.dataset['theme'] = name), theme);
    const { violations } = await axeOn(page)
      .exclude('.zany-screen')
      .options({ resultTypes: ['violations'] })
      .analyze();
    found.push(...violations.map(({ id, nodes }) => `${theme}: ${id} at ${nodes.map(({ target }) => target.join(' ')).join(' | ')}`));
  }
  return found;
}

const running = (page: Page) => page.locator('[data-running]');

test('by phone and by mouse: a task is done, given up, and what was done is told', async ({ studio, page, browser }) => {
  test.setTimeout(240_000);
  await studio.given(spec);
  const address = await makeLink(studio, { task: true });

  const phones: BrowserContext = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true });
  const phone = await phones.newPage();
  await phone.goto(address);
  await expect(phone.getByText('Kept are this name, what you press in the piece and what you write')).toBeVisible();
  expect(await faults(phone)).toEqual([]);
  await comeIn(phone, address, 'Odd Vik');
  await expect(phone.getByText('Book a seat and pay for it.')).toBeVisible();
  await phone.getByRole('button', { name: 'Begin' }).tap();
  // The piece fills the screen, and a press that meets nothing shows what can be pressed.
  const box = (await running(phone).boundingBox())!;
  expect([box.width, box.height]).toEqual([390, 844]);
  // For less than a second, which a busy machine may not look at in time. Beside the frame it is no step in the piece.
  for (const y of [790, 740]) {
    await expect(phone.locator('main')).not.toHaveClass(/hinting/);
    // Whoever watches has to be there before the tap is.
    const watch = await phone.evaluateHandle(() => {
      const main = document.querySelector('main')!;
      const lit = new Promise<boolean>((resolve) => {
        new MutationObserver(() => main.classList.contains('hinting') && resolve(true)).observe(main, { attributes: true });
        setTimeout(() => resolve(false), 12_000);
      });
      return { lit };
    });
    await phone.touchscreen.tap(300, y);
    expect(await watch.evaluate(({ lit }) => lit), `at ${y}`).toBe(true);
  }
  await running(phone).getByRole('button', { name: 'Book' }).tap();
  await running(phone).getByRole('button', { name: 'Pay now' }).tap();
  await expect(phone.getByRole('dialog', { name: 'Done' })).toContainText('It took 3 steps');
  await phone.getByRole('button', { name: 'Look around freely' }).tap();
  await expect(running(phone).getByRole('button', { name: 'Book' })).toBeVisible();

  const others = await browser.newContext();
  const mouse = await others.newPage();
  await comeIn(mouse, address, 'Liv Moe');
  await mouse.getByRole('button', { name: 'Begin' }).click();
  await running(mouse).getByRole('button', { name: 'Help' }).click();
  await running(mouse).getByRole('button', { name: 'Home' }).click();
  await mouse.getByRole('button', { name: 'About this link' }).click();
  await mouse.getByRole('button', { name: 'I give up on this' }).click();
  await expect(mouse.getByRole('dialog', { name: 'Given up' })).toBeVisible();

  await page.reload();
  await page.getByRole('link', { name: '2 people: what they did' }).click();
  const out = page.getByRole('region', { name: 'What stands out' });
  await expect(out).toContainText('1 of 2 did not get to the end of “Book a seat and pay for it”.');
  await expect(out).toContainText('went from Plan to Aid');
  const task = page.getByRole('region', { name: 'Book a seat and pay for it.' });
  await expect(task.getByRole('img', { name: '1 reached it, 1 gave up, 0 left' })).toBeVisible();
  await expect(task).toContainText('The shortest way that was found takes 2 steps.');
  await expect(page.getByRole('region', { name: 'Presses' })).toContainText('1 met nothing');
  expect(await faults(page)).toEqual([]);
  const download = page.waitForEvent('download');
  await page.getByRole('button', { name: 'As a sheet (CSV)' }).click();
  const text = await (await (await download).createReadStream()).toArray();
  expect(Buffer.concat(text as Buffer[]).toString()).toMatch(/Liv Moe,Book a seat and pay for it.,.*,given up,.*Plan > Aid > Plan/);

  // The same on the map: stitches as thick as they were gone, and what was pressed.
  await page.getByRole('link', { name: 'On the map' }).click();
  await expect(page.getByRole('status').getByText('Friday round: 2 people')).toBeVisible();
  await expect(page.locator('[data-walked]')).toHaveAttribute('data-walked', '4');
  await expect(page.getByRole('button', { name: 'Plan, frame 1, 1 of 3 met nothing' })).toBeVisible();
  await page.goBack();

  // One person's walks are deleted in one press and a word.
  await page.getByRole('region', { name: 'People' }).getByText('Odd Vik', { exact: true }).click();
  await page.getByRole('button', { name: 'delete what Odd Vik did' }).click();
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(page.getByRole('region', { name: 'People' }).getByText('Odd Vik', { exact: true })).toHaveCount(0);
  await phone.reload();
  await expect(phone.getByLabel('Your name')).toHaveValue('Odd Vik');
  await phones.close();
  await others.close();
});

test('a task is done in one state of a frame, or when something holds; what cannot hold is said while the link is made', async ({
  studio,
  page,
  browser,
}) => {
  await studio.given({
    name: 'Seats',
    variables: { Seats: { type: 'number', initial: 0, min: 0, max: 4 } },
    frames: {
      Plan: {
        size: [390, 700],
        states: { open: {}, sent: {} },
        layers: {
          More: button(40, 'One more', 'click → set Seats to Seats + 1'),
          Send: button(140, 'Send', 'click → put Plan in sent'),
        },
      },
    },
  });
  await openReview(studio);
  await page.getByRole('button', { name: 'New review link' }).click();
  const form = page.getByRole('form', { name: 'New review link' });
  await form.getByLabel('Whom it is for').fill('Seats');
  for (const sentence of ['Take two seats.', 'Send it.']) {
    await form.getByRole('button', { name: 'add a task' }).click();
    await form.getByLabel('Task', { exact: true }).last().fill(sentence);
  }
  const [first, second] = [1, 2].map((i) => form.getByRole('group', { name: `Task ${i}` }));
  await first!.getByLabel('Done when').selectOption('something holds');
  await first!.getByLabel('What has to hold').fill('Seets = 2');
  await second!.getByLabel('State to reach').selectOption('sent');
  await form.getByRole('button', { name: 'Make the link' }).click();
  await expect(form.getByRole('alert')).toContainText(/^Task 1: .*Seets/);
  await first!.getByLabel('What has to hold').fill('Seats = 2');
  await form.getByRole('button', { name: 'Make the link' }).click();
  const address = await page.getByLabel('Address of Seats').inputValue();

  const others = await browser.newContext();
  const guest = await others.newPage();
  await comeIn(guest, address, 'Liv Moe');
  await expect(guest.getByText('Take two seats.')).toBeVisible();
  await guest.getByRole('button', { name: 'Begin' }).click();
  await running(guest).getByRole('button', { name: 'Send' }).click();
  await running(guest).getByRole('button', { name: 'One more' }).click();
  await expect(guest.getByRole('dialog', { name: 'Done' })).toHaveCount(0);
  await running(guest).getByRole('button', { name: 'One more' }).click();
  await expect(guest.getByRole('dialog', { name: 'Done' })).toContainText('It took 3 steps');
  await guest.getByRole('button', { name: 'Next task' }).click();
  await expect(guest.getByText('Send it.')).toBeVisible();
  await guest.getByRole('button', { name: 'Begin' }).click();
  await running(guest).getByRole('button', { name: 'One more' }).click();
  await running(guest).getByRole('button', { name: 'Send' }).click();
  await expect(guest.getByRole('dialog', { name: 'Done' })).toContainText('It took 2 steps');
  await others.close();

  // What the server finds by running the walks again, and by looking for the shortest way itself.
  await page.reload();
  await page.getByRole('link', { name: '1 person: what they did' }).click();
  for (const [name, steps] of [
    ['Take two seats.', '2 steps'],
    ['Send it.', '1 step'],
  ] as const) {
    const task = page.getByRole('region', { name });
    await expect(task.getByRole('img', { name: '1 reached it, 0 gave up, 0 left' })).toBeVisible();
    await expect(task).toContainText(`The shortest way that was found takes ${steps}.`);
  }
});

test('axe finds nothing in a new link, an address with its picture, people, and an account', async ({ studio, page }) => {
  test.setTimeout(240_000);
  await studio.given(spec);
  await makeLink(studio);
  expect(await faults(page)).toEqual([]);
  await page.getByRole('button', { name: 'New review link' }).click();
  await page.getByRole('button', { name: 'add a task' }).click();
  expect(await faults(page)).toEqual([]);
  await page.getByRole('tab', { name: 'People' }).click();
  await page.getByRole('button', { name: 'Make a link' }).click();
  await expect(page.getByLabel('Link of the invitation')).toBeVisible();
  expect(await faults(page)).toEqual([]);
  await page.goto('/account');
  expect(await faults(page)).toEqual([]);
});

test('a link that is out is changed: its name, what it shows and its password; who comes then meets that', async ({ studio, page, browser }) => {
  await studio.given(spec);
  const address = await makeLink(studio, { password: 'gull', task: true });
  await page.getByRole('button', { name: 'change', exact: true }).click();
  const form = page.getByRole('form', { name: 'Change the link Friday round' });
  await expect(form.getByLabel('Task', { exact: true })).toHaveValue('Book a seat and pay for it.');
  await expect(form.getByLabel('Frame to reach').locator('option:checked')).toHaveText('Paid');
  await form.getByLabel('Begins on', { exact: true }).selectOption('Pay');
  await form.getByLabel('Whom it is for').fill('Monday round');
  await form.getByLabel('Shows').selectOption('now');
  await form.getByLabel('It asks for its password').uncheck();
  await form.getByRole('button', { name: 'Change it' }).click();
  await expect(form).toHaveCount(0);
  await page.reload();
  const item = page.getByRole('listitem').filter({ hasText: 'Monday round' });
  await expect(item).toContainText(/from Pay on · the version .*1 task · until/);
  await expect(item).not.toContainText('with a password');

  const others = await browser.newContext();
  const guest = await others.newPage();
  await comeIn(guest, address, 'Odd Vik');
  await expect(guest.getByText('Book a seat and pay for it.')).toBeVisible();
  await others.close();
});

test('a link is withdrawn while somebody walks by it, and says so; a wrong one says so too', async ({ studio, page, browser }) => {
  await studio.given(spec);
  const address = await makeLink(studio, { password: 'gull' });
  const others = await browser.newContext();
  const guest = await others.newPage();
  await guest.goto(address);
  await guest.getByLabel('Your name').fill('Odd Vik');
  await guest.getByLabel('Password of the link').fill('wrong');
  await guest.getByRole('button', { name: 'Come in' }).click();
  await expect(guest.getByRole('alert')).toContainText('not the password');
  await guest.getByLabel('Password of the link').fill('gull');
  await guest.getByRole('button', { name: 'Come in' }).click();
  await running(guest).getByRole('button', { name: 'Book' }).click();
  await expect(running(guest).getByRole('button', { name: 'Pay now' })).toBeVisible();
  // A reload in the middle asks for nothing again.
  await guest.reload();
  await expect(running(guest).getByRole('button', { name: 'Book' })).toBeVisible();

  await panel(page).getByRole('button', { name: 'Withdraw Friday round' }).click();
  await expect(guest.getByRole('alert')).toContainText('Ina Rask has withdrawn this link');
  await expect(running(guest)).toHaveCount(0);
  await guest.goto(`${address.slice(0, -3)}`);
  await expect(guest.getByRole('alert')).toContainText('There is no such link');
  await others.close();
});
