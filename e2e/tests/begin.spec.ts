import type { Locator, Page } from '@playwright/test';
import { axeOn } from './axe.ts';
import { expect, test } from './studio.ts';

/** The first ten minutes: an empty Workroom, pieces to take apart, and the tour that is done, not read. */

const PASSWORD = 'otter lamp gravel nine';

/** Somebody who has no piece yet. */
async function comeNew(page: Page): Promise<void> {
  await page.goto('/sign-in');
  await page.getByRole('link', { name: 'I am new here' }).click();
  await page.getByLabel('Your name').fill('Siv Lund');
  await page.getByLabel('E-mail').fill(`siv-${Date.now()}-${Math.floor(Math.random() * 1e6)}@kittiwake.example`);
  await page.getByLabel(/^Password/).fill(PASSWORD);
  await page.getByRole('button', { name: 'Make an account' }).click();
  await expect(page.getByRole('status')).toContainText('the account is made');
  await page.getByLabel(/^Password/).fill(PASSWORD);
  await page.getByRole('button', { name: 'Sign in', exact: true }).click();
}

const tourIn = (page: Page): Locator => page.getByRole('region', { name: 'Tour' });
const onTo = (page: Page, step: number) => expect(tourIn(page)).toContainText(`Step ${step} of 6`);

test('an empty Workroom shows three ways to begin: each leads to the Build desk', async ({ page: own }) => {
  await comeNew(own);
  const ways = own.getByRole('region', { name: 'Ways to begin' });
  await expect(ways.getByRole('heading')).toHaveText(['With the pages you have', 'With a piece to take apart', 'With an empty one']);
  const apart = ways.getByRole('button', { name: /Ticket app|Pier kiosk|Summer banner|Crossing chart/ });
  await expect(apart).toHaveCount(4);
  expect((await axeOn(own).analyze()).violations.map(({ id }) => id)).toEqual([]);

  // One to take apart is a copy of one's own, with its pictures, whole.
  await apart.filter({ hasText: 'Summer banner' }).dblclick();
  await expect(own.getByRole('heading', { name: 'Picture 1' })).toBeVisible();
  const failed: string[] = [];
  own.on('response', (response) => response.status() >= 400 && failed.push(response.url()));
  await own.reload();
  await expect(own.getByRole('heading', { name: 'Picture 1' })).toBeVisible();
  await own.goto('/');
  await expect(own.getByRole('article')).toHaveCount(1);
  await expect(own.getByRole('article').getByText(/loose end|not all walked/)).toBeVisible({ timeout: 40_000 });
  expect(failed).toEqual([]);

  // They stand beside an empty piece as long as one likes.
  await own.getByRole('button', { name: 'New piece' }).click();
  await expect(own.getByRole('region', { name: 'Pieces to take apart' }).getByRole('button')).toHaveCount(4);
  await own
    .getByRole('button', { name: /Banner/ })
    .last()
    .click();
});

test('the tour goes on by what is done, over the desks, until nothing is loose', async ({ studio, page }) => {
  await studio.workroom();
  await page.getByRole('button', { name: /New here\?/ }).click();
  await onTo(page, 1);
  const stage = page.locator('[data-sheet] .zany-scene').first();
  const box = (await stage.boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + (box.height * 346) / 844);
  await expect(tourIn(page)).toContainText('done');
  await onTo(page, 2);

  await page.keyboard.press('Enter');
  await page.keyboard.type('click -> go to Times');
  await page.keyboard.press('Enter');
  await onTo(page, 3);

  // What is tried by mistake is no harm: it goes on when the button has led to Times.
  await page.keyboard.press('Escape');
  await page.keyboard.press('t');
  await page.getByRole('button', { name: 'See the times' }).last().click();
  await onTo(page, 4);
  await tourIn(page).getByRole('button', { name: 'Take me there' }).click();
  await page.getByRole('button', { name: 'add a hover look' }).click();
  await onTo(page, 5);

  await studio.looseEnds().click();
  await onTo(page, 6);
  await expect(page.getByRole('region', { name: 'Loose ends' })).toContainText('Ticket is a dead end');
  await page.getByRole('button', { name: 'Mark as an ending' }).click();
  await expect(tourIn(page)).toContainText('That is all of it');
  await expect(studio.looseEnds()).toContainText('no loose end');
  await tourIn(page).getByRole('link', { name: 'To the Workroom' }).click();
  await expect(page.getByRole('article', { name: 'First crossing' }).first()).toBeVisible();
});

test('the tour can be skipped through and left, and begun from the command finder', async ({ studio, page }) => {
  await studio.newPiece('Of my own');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('take the tour');
  await page.keyboard.press('Enter');
  await onTo(page, 1);
  await expect(page.getByRole('heading', { name: 'Home' })).toBeVisible();
  for (let step = 2; step <= 6; step++) {
    await tourIn(page).getByRole('button', { name: 'Skip' }).click();
    await onTo(page, step);
  }
  await tourIn(page).getByRole('button', { name: 'Take me there' }).click();
  await expect(page.getByRole('region', { name: 'Loose ends' })).toBeVisible();
  await tourIn(page).getByRole('button', { name: 'Leave' }).click();
  await expect(tourIn(page)).toHaveCount(0);
});

test('? looks things up in the guide and the keys, and gives the desk back', async ({ studio, page }) => {
  await studio.newPiece('To ask about');
  await page.keyboard.press('?');
  const help = page.getByRole('dialog', { name: 'Guide and keys' });
  await expect(help).toContainText('Write a thread for the selection');
  await page.keyboard.type('keyframe');
  await expect(help.getByRole('region', { name: 'What was found' })).toContainText('a knot for each key');
  await expect(help).not.toContainText('Write a thread for the selection');
  await page.keyboard.press('Control+a');
  await page.keyboard.type('zeppelin');
  await expect(help).toContainText('Nothing is said of that.');
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Backspace');
  await help.getByRole('button', { name: 'Looks and states' }).click();
  await expect(help).toContainText('Point at a look to try it');
  expect((await axeOn(page).include('[role=dialog]').analyze()).violations.map(({ id }) => id)).toEqual([]);
  await page.keyboard.press('Escape');
  await expect(help).toHaveCount(0);
  await page.keyboard.press('b');
  await expect(page.getByRole('button', { name: 'Box', exact: true })).toHaveAttribute('aria-pressed', 'true');
});

test('cues, transitions and steps say what they mean where they are chosen, to pointer and keys', async ({ studio, page }) => {
  await studio.given({
    frames: {
      quay: { layers: { On: { at: [20, 20, 200, 60], text: 'On board', lines: ['click → go to deck · push left 300 ms'] } } },
      deck: { layers: { Home: { at: [20, 20, 200, 60], text: 'Home', lines: ['click → go to quay'] } } },
    },
  });
  await page.getByRole('button', { name: 'Cue: clicked' }).first().click();
  const cue = page.getByRole('dialog', { name: 'Cue' });
  await expect(cue).toContainText('pressed and released on the same layer');
  // A picture shows it, and moves: the lamp is dark, and comes on.
  const moving = (within: Locator, label: string) => within.getByRole('img', { name: `How it looks: ${label}` });
  const lamp = (within: Locator, label: string) =>
    moving(within, label).evaluate((canvas: HTMLCanvasElement) => {
      const { width, height } = canvas;
      const [red, green, blue] = canvas.getContext('2d')!.getImageData(width * 0.76, height * 0.5, 1, 1).data;
      return `#${[red, green, blue].map((one) => one!.toString(16).padStart(2, '0')).join('')}`;
    });
  await expect.poll(() => lamp(cue, 'clicked'), { intervals: [50] }).toBe('#d9c9a6');
  await expect.poll(() => lamp(cue, 'clicked'), { intervals: [50] }).toBe('#f0b13c');
  await cue.getByRole('button', { name: 'swiped' }).hover();
  await expect(cue).toContainText('moved 40 px or more in one direction');
  await cue.getByRole('button', { name: 'hovered', exact: true }).focus();
  await expect(cue).not.toContainText('moved 40 px or more');
  await expect(moving(cue, 'hovered')).toBeVisible();
  expect((await axeOn(page).include('[role=dialog]').analyze()).violations.map(({ id }) => id)).toEqual([]);
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: /^Transition: push left/ }).click();
  const transition = page.getByRole('dialog', { name: 'Transition' });
  await transition.getByRole('button', { name: 'cover', exact: true }).hover();
  await expect(transition).toContainText('the new one comes in from a side, over the old one');
  await expect(moving(transition, 'cover')).toBeVisible();
  await page.keyboard.press('Escape');

  await page
    .getByRole('button', { name: /^Add to the thread/ })
    .first()
    .click();
  await page.keyboard.type('lift');
  await expect(page.getByRole('dialog', { name: 'Add to the thread' })).toContainText('takes away the topmost frame that was laid over');
  await expect(moving(page.getByRole('dialog', { name: 'Add to the thread' }), 'lift')).toBeVisible();
  await page.keyboard.press('Escape');
  // Who wants nothing to move sees how it ends.
  await page.emulateMedia({ reducedMotion: 'reduce' });
  await page.getByRole('button', { name: 'Cue: clicked' }).first().click();
  const shown = new Set<string>();
  for (let i = 0; i < 12; i++) {
    shown.add(await lamp(cue, 'clicked'));
    await page.waitForTimeout(250);
  }
  expect([...shown]).toEqual(['#f0b13c']);
});
