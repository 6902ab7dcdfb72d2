import { expect, test } from './studio.ts';

const gold = '#f0b13c';
const box = (x: number, y: number, lines: string[] = []) => ({ at: [x, y, 100, 60] as const, style: { fill: gold }, lines });

test('Enter writes for all that is selected, however it was, and what is typed at once belongs to the line', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { One: box(20, 20), Two: box(20, 120), Three: box(20, 220) } }, Pay: {} } });
  await studio.clickStage(70, 50);
  await page.keyboard.down('Shift');
  await studio.clickStage(70, 150);
  await page.keyboard.up('Shift');
  await page.keyboard.press('Enter');
  await page.keyboard.type('hover → Pay');
  await page.keyboard.press('Enter');
  for (const name of ['One', 'Two']) await expect(studio.row(name).getByRole('group', { name: 'Thread: hover → go to Pay' })).toBeVisible();
  await expect(studio.row('Three').getByRole('group', { name: /^Thread/ })).toHaveCount(0);
  // A panel's button that was clicked keeps the focus, and Enter still writes.
  await studio.select('Three');
  await page.keyboard.press('r');
  await page.getByRole('dialog', { name: 'Repeat' }).getByRole('button', { name: 'Not now' }).click();
  await studio.write('click → hide this then go to Pay');
  await expect(page.getByRole('dialog', { name: 'Repeat' })).toHaveCount(0);
  await expect(studio.row('Three').getByRole('group', { name: /^Thread: click → hide .*; go to Pay/ })).toBeVisible();
});

test('what a line lacks is said at Enter, and nothing that was meant as a cue becomes a frame', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { One: box(20, 20) } }, Pay: {} } });
  await studio.select('One');
  const line = studio.row('One').getByLabel('Thread line');
  await studio.write('clik → Pay');
  await expect(studio.row('One').getByRole('alert')).toContainText('a cue, such as click or hover');
  await expect(page.getByRole('button', { name: /make draft frame/ })).toHaveCount(0);
  await line.fill('click → if 1 > 0');
  await line.press('Enter');
  await expect(studio.row('One').getByRole('alert')).toContainText('an arrow');
  await expect(line).toHaveValue('click → if 1 > 0');
});

test('selecting, moving and small layers', async ({ studio, page }) => {
  await studio.given({
    frames: { Home: { layers: { One: box(20, 20), Two: box(20, 420), Dot: { at: [300, 300, 12, 12], style: { fill: gold } } } } },
  });
  const x = page.getByRole('toolbar', { name: 'Properties' }).getByLabel('x', { exact: true });
  await studio.select('One');
  await page.keyboard.press('ArrowRight');
  await expect(x).toHaveValue('21');
  await page.keyboard.press('Control+a');
  await studio.clickStage(70, 450);
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(1);
  await page.keyboard.down('Shift');
  await studio.clickStage(70, 50);
  await page.keyboard.up('Shift');
  await studio.drag([70, 50], [170, 52], 'Shift');
  await expect(page.getByRole('treeitem', { selected: true })).toHaveCount(2);
  await studio.select('Two');
  await expect(x).toHaveValue('120');
  await page.keyboard.press('Escape');
  await studio.clickStage(306, 306);
  await studio.drag([306, 306], [166, 306]);
  await expect.poll(async () => Math.abs(Number(await x.inputValue()) - 160)).toBeLessThan(3);
  await expect(page.getByRole('toolbar', { name: 'Properties' }).getByLabel('width', { exact: true })).toHaveValue('12');
  await studio.doubleClickStage(385, 600);
  await expect(page.getByLabel('Text of Text')).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(x).toHaveValue('190');
});

test('menus of layers, frames and threads; the finder says what is needed', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: { layers: { Page: { at: [0, 0, 390, 844], locked: true }, One: box(20, 20, ['click → go to Pay']), Two: box(60, 40) } },
      Pay: {},
    },
  });
  await studio.row('Two').click({ button: 'right' });
  await page
    .getByRole('menu', { name: 'Layer' })
    .getByRole('menuitem', { name: /^To the back/ })
    .click();
  await expect
    .poll(() => page.getByRole('treeitem').evaluateAll((rows) => rows.map((row) => row.getAttribute('aria-label'))))
    .toEqual(['One', 'Two', 'Page']);
  await studio
    .row('One')
    .getByRole('group', { name: /^Thread/ })
    .click({ button: 'right' });
  await page.getByRole('dialog', { name: 'More about the thread' }).getByRole('button', { name: 'Switch off' }).click();
  await expect(studio.row('One').locator('.stitch-off')).toBeVisible();
  await page.getByRole('button', { name: 'Open Pay' }).click({ button: 'right' });
  await expect(page.getByRole('dialog').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('pair up');
  const entry = page.getByRole('option', { name: /Pair up the selection/ });
  await expect(entry).toContainText('select two layers or more first');
  await page.keyboard.press('Enter');
  await expect(entry).toBeVisible();
});

test('the stage is moved with the space bar, and zooms where the pointer is', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { One: box(20, 20) } } } });
  const at = async () => (await page.locator('[data-sheet]').boundingBox())!;
  const first = await at();
  const point = { x: first.x + first.width * 0.25, y: first.y + first.height * 0.75 };
  await page.mouse.move(point.x, point.y);
  await page.keyboard.down('Control');
  for (let i = 0; i < 4; i++) await page.mouse.wheel(0, -200);
  await page.keyboard.up('Control');
  await expect.poll(async () => (await at()).width).toBeGreaterThan(first.width * 2);
  const zoomed = await at();
  expect(Math.abs((point.x - zoomed.x) / zoomed.width - 0.25)).toBeLessThan(0.02);
  expect(Math.abs((point.y - zoomed.y) / zoomed.height - 0.75)).toBeLessThan(0.02);
  await page.keyboard.down('Space');
  await page.mouse.down();
  await page.mouse.move(point.x - 60, point.y - 40, { steps: 4 });
  await page.mouse.up();
  await page.keyboard.up('Space');
  const moved = await at();
  expect(Math.round(zoomed.x - moved.x)).toBe(60);
  expect(Math.round(zoomed.y - moved.y)).toBe(40);
});

test('while a piece is tried its keys are its own', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: { layers: { One: box(20, 20) }, lines: ['key + → go to Plus', 'key 0 → go to Zero'] },
      Plus: { lines: ['key - → go to Home', 'key t → go to Zero'] },
      Zero: { lines: ['key 1 → go to Home'] },
    },
  });
  await page.keyboard.press('t');
  for (const [key, frame] of [
    ['+', 'Plus'],
    ['-', 'Home'],
    ['0', 'Zero'],
    ['1', 'Home'],
    ['+', 'Plus'],
    ['t', 'Zero'],
  ] as const) {
    await page.keyboard.press(key);
    await studio.running(frame);
  }
  await page.getByRole('button', { name: 'slowly' }).click();
  await page.keyboard.press('1');
  await studio.running('Home');
});

test('another name of this machine is sent on to the one that forms belong to', async ({ page, baseURL }) => {
  const { port } = new URL(baseURL!);
  await page.goto(`http://127.0.0.1:${port}/sign-in?back=%2F`);
  await expect(page).toHaveURL(`http://localhost:${port}/sign-in?back=%2F`);
  await page.getByRole('button', { name: /Look around as Ina/ }).click();
  await expect(page.getByRole('heading', { name: 'Workroom' })).toBeVisible();
});
