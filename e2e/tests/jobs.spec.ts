import { Acts, finish, printActs } from './acts.ts';
import { menuSvg, pageFile, pageSvg } from './pages.ts';
import { expect, test } from './studio.ts';

printActs();

test('job 4: hit areas over finished page pictures', async ({ studio, page }) => {
  await studio.newPiece('Seven pages');
  const acts = new Acts(studio);
  const landings = page.getByRole('complementary', { name: 'Landings' });
  const names = ['Boats', 'Fares', 'Tides', 'Islands', 'Bicycles', 'Geese'];
  const buttons = [...names, 'Lamps'];
  const files = await Promise.all([
    pageFile('0 Home.png', menuSvg('Home', buttons)),
    ...names.map((name, i) => pageFile(`${i + 1} ${name}.jpg`, pageSvg(name))),
    pageFile('8 Help.png', pageSvg('Help')),
  ]);

  await acts.do('choose the picture files', () => studio.page.locator('[data-chooser]').setInputFiles(files.map((file) => ({ ...file }))));
  await acts.do('at their size', () => page.getByRole('button', { name: "At the pictures' size" }).click());
  await expect.poll(() => studio.frames()).toHaveLength(8);

  // Seven equal areas: one drawn, the rest below it.
  await acts.press('h');
  await acts.do('draw over the first button', () => studio.drag([40, 130], [350, 190]));
  await acts.press('r');
  await acts.type('1x7');
  await acts.press('Enter');
  await acts.press('p');
  const dialog = page.getByRole('dialog', { name: 'Pair up' });
  await expect(dialog.getByRole('button', { name: /^Frame for/ })).toHaveCount(7);
  await acts.do('open the last pair', () =>
    dialog
      .getByRole('button', { name: /^Frame for/ })
      .last()
      .click()
  );
  await acts.do('choose a new draft', () => page.getByRole('option', { name: 'a new draft frame' }).click());
  await acts.do('apply', () => dialog.getByRole('button', { name: 'Apply' }).click());

  // Logo and help on every page.
  await acts.do('draw one area after the other', () => page.getByRole('button', { name: 'Hit area', exact: true }).dblclick());
  await acts.do('draw over the logo', () => studio.drag([0, 20], [120, 84]));
  await acts.do('pick the first page', () => landings.getByRole('button', { name: 'Lead to 0 Home' }).click());
  await acts.do('draw over help', () => studio.drag([340, 40], [370, 70]));
  await acts.do('pick the help page', () => landings.getByRole('button', { name: 'Lead to 8 Help' }).click());
  await acts.do('add the logo to the selection', () => studio.select('Hit area 8', ['Control']));
  await acts.press('Shift+C');

  // Too small is caught; and it runs.
  await acts.do('open the loose ends', () => studio.looseEnds().click());
  await expect(page.getByRole('article', { name: /Hit area 9 is hard to hit/ }).first()).toContainText('30 × 30');
  await acts.do('try a button', () => page.locator('[data-running]').getByRole('button', { name: 'Hit area 2' }).click());
  await studio.running('2 Fares');

  await studio.desk('Build');
  await expect.poll(() => studio.frames()).toHaveLength(9);
  await studio.openFrame('3 Tides');
  await expect(page.getByRole('group', { name: /^Sheet / })).toContainText('over all frames');
  await studio.openFrame('0 Home');
  await expect(studio.row('Hit area 7').getByRole('button', { name: /Leads to: Hit area 7 page/ })).toBeVisible();
  finish('4  hit areas over finished page pictures', acts, 20);
});

test('job 6: home page with a menu', async ({ studio, page }) => {
  await studio.newPiece('Menu');
  const topics = ['Boats', 'Fares', 'Tides', 'Islands'];
  await studio.bringIn(
    await Promise.all([pageFile('0 Home.png', pageSvg('Home')), ...topics.map((name, i) => pageFile(`${i + 1} ${name}.png`, pageSvg(name)))])
  );
  await expect.poll(() => studio.frames()).toHaveLength(5);
  const acts = new Acts(studio);

  await acts.press('b');
  await acts.do('draw the button', () => studio.drag([40, 200], [350, 256]));
  await acts.do('add a hover look', () => page.getByRole('button', { name: 'add a hover look' }).click());
  await acts.press('r');
  await acts.do('one for each topic', () => page.getByRole('button', { name: 'one for each of the 4 others' }).click());
  await acts.do('make them', () => page.getByRole('button', { name: 'Make 4' }).click());
  await acts.press('Escape');
  await acts.do('add page keys', () => page.getByRole('button', { name: /^add page keys/ }).click());
  await acts.press('t');
  await acts.do('press the third button', () => page.locator('[data-running]').getByRole('button', { name: '3 Tides' }).click());
  await studio.running('3 Tides');
  await acts.press('ArrowRight');
  await studio.running('4 Islands');
  await acts.press('Home');
  await studio.running('0 Home');
  await page.keyboard.press('End');
  await studio.running('4 Islands');
  await page.keyboard.press('ArrowLeft');
  await studio.running('3 Tides');

  await page.keyboard.press('Escape');
  await studio.openFrame('0 Home');
  const tops: number[] = [];
  for (const [i, topic] of topics.entries()) {
    await studio.select(`${i + 1} ${topic}`);
    tops.push(Number(await page.getByRole('toolbar', { name: 'Properties' }).getByLabel('y', { exact: true }).inputValue()));
  }
  expect(new Set(tops.slice(1).map((top, i) => top - tops[i]!)).size).toBe(1);
  finish('6  home page with a menu', acts, 13);
});
