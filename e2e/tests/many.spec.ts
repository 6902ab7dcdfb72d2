import type { ComposeSpec } from '@zany/core/testing';
import { axeOn } from './axe.ts';
import { expect, test } from './studio.ts';

/** What is done to many layers at once. */

const gold = '#f0b13c';
const button = (y: number) => ({ at: [20, y, 200, 56] as const, style: { fill: gold } });

test('looks of many layers are added, changed, timed and removed at once', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { Boats: button(100), Fares: button(180), Tides: button(260) } } } });
  const strip = page.getByRole('region', { name: 'Strip' });
  await studio.select('Boats');
  await strip.getByRole('button', { name: 'add a hover look' }).click();
  await page.keyboard.press('Control+a');
  await expect(strip.getByRole('group', { name: 'Hover look' })).toContainText('1 of 3');
  await strip.getByRole('button', { name: 'add a hover look' }).click();
  await expect(strip.getByRole('group', { name: 'Hover look' })).toContainText('3 of 3');

  // The look is open for all: one edit, seen on the stage, and none of it at rest.
  const bar = page.getByRole('toolbar', { name: 'Properties of the hover look' });
  await bar.getByRole('button', { name: /^Fill: / }).click();
  const colour = page.getByLabel('Colour as it is written');
  await colour.fill('#0b7a75');
  await colour.press('Enter');
  await page.keyboard.press('Escape');
  const fills = () =>
    studio.sheet
      .locator('[data-layer]')
      .evaluateAll((nodes) => nodes.map((node) => getComputedStyle(node).backgroundColor).filter((one) => one !== 'rgba(0, 0, 0, 0)'));
  await expect.poll(fills).toEqual(Array(3).fill('rgb(11, 122, 117)'));
  await strip.getByRole('button', { name: 'Rest look', exact: true }).click();
  await expect.poll(fills).toEqual(Array(3).fill('rgb(240, 177, 60)'));
  await page.keyboard.press('t');
  for (const text of [0, 1, 2]) {
    const layer = studio.stage.locator('[data-layer]').nth(text);
    await layer.hover();
    await expect.poll(() => layer.evaluate((node) => getComputedStyle(node).backgroundColor)).toBe('rgb(11, 122, 117)');
  }
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+a');
  await strip.getByRole('button', { name: 'Remove the Hover look' }).click();
  await expect(strip.getByRole('group', { name: 'Hover look' })).toBeHidden();
  await page.keyboard.press('Control+z');
  await expect(strip.getByRole('group', { name: 'Hover look' })).toContainText('3 of 3');
});

test('threads pasted on many lead where each is called after, or as they were copied', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: { layers: { Boats: { ...button(100), lines: ['click → go to Boats · push left 300 ms'] }, Fares: button(180), Other: button(260) } },
      Boats: {},
      Fares: {},
    },
  });
  const paste = (text: string) => studio.pasteText(text);
  await studio.select('Fares');
  await studio.select('Other', ['Control']);
  await paste('click → go to Boats · push left 300 ms');
  await expect(studio.row('Fares').getByRole('button', { name: /^Leads to: Fares/ })).toBeVisible();
  await expect(studio.row('Other').getByRole('button', { name: /^Leads to: Boats/ })).toBeVisible();
  await expect(page.getByText('Those called after a frame lead there: Fares. The others lead to Boats.')).toBeVisible();
  await page.getByRole('button', { name: 'As they were copied' }).click();
  await expect(studio.row('Fares').getByRole('button', { name: /^Leads to: Boats/ })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(studio.row('Fares').getByRole('button', { name: /^Leads to/ })).toHaveCount(0);
});

const timetable: ComposeSpec = {
  parts: {
    Boat: {
      size: [300, 60],
      layers: {
        Time: { at: [0, 0, 80, 60], type: 'text', text: '00:00' },
        To: { at: [90, 0, 200, 60], type: 'text', text: 'Somewhere' },
      },
    },
  },
  frames: { Boats: { layers: { first: { part: 'Boat', at: [20, 100, 300, 60] } } } },
};

test('a placement becomes as many as a table has rows, seen before it is made; others are filled in order', async ({ studio, page }) => {
  await studio.given(timetable);
  await studio.select('first');
  await page.getByRole('button', { name: 'from rows' }).click();
  const panel = page.getByRole('dialog', { name: 'Fill from rows' });
  await panel.getByRole('textbox', { name: 'Rows' }).fill('To;Time;Price\nSkarra;10:40;12\n"Torn; the old pier";12:15;9\nElle;15:30;7');
  await expect(panel).toContainText('3 placements, 2 of them made for it.');
  await expect(panel).toContainText('Not used: Price.');
  const seen = studio.sheet.locator('.zany-scene').first();
  await expect(seen).toContainText('Torn; the old pier');
  await page.keyboard.press('Escape');
  await expect(panel).toBeHidden();
  await expect(seen).not.toContainText('Skarra');
  await expect(studio.row('first')).toHaveAttribute('aria-selected', 'true');

  await page.getByRole('button', { name: 'from rows' }).click();
  await panel.getByRole('textbox', { name: 'Rows' }).fill('Time\tTo\n10:40\tSkarra\n12:15\tTorn');
  await panel.getByRole('button', { name: 'Fill 2' }).click();
  await expect(page.getByRole('treeitem')).toHaveCount(2);
  await page.keyboard.press('Control+a');
  await page.getByRole('toolbar').getByRole('button', { name: 'from rows' }).click();
  await panel.getByLabel('A file with rows').setInputFiles({
    name: 'boats.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('Time,To\r\n08:00,"Elle, by the lighthouse"\r\n09:00,Vik\r\n10:00,Sund\r\n'),
  });
  await expect(panel).toContainText('2 placements; 1 row left over');
  await panel.getByRole('button', { name: 'Fill 2' }).click();
  await expect(seen).toContainText('Elle, by the lighthouse');
  await expect(seen).toContainText('Vik');
  await page.keyboard.press('Control+z');
  await expect(seen).toContainText('Skarra');
});

test('what is the same in many frames is made so from one of them, but for those left out', async ({ studio, page }) => {
  const bar = (x: number, fill: string, text = 'Deck') => ({
    Bar: { at: [x, 700, 300, 56] as const, text, style: { fill }, lines: ['click → go to Home'] },
  });
  await studio.given({
    frames: {
      Home: { variables: { Deck: { type: 'number', initial: 1 } }, layers: bar(20, '#0b7a75', 'Deck {Deck}') },
      Times: { layers: bar(30, gold) },
      Fares: { layers: bar(40, gold) },
      Boats: { layers: {} },
    },
  });
  await studio.select('Bar');
  await page.keyboard.press('Shift+E');
  const panel = page.getByRole('dialog', { name: 'The same in other frames' });
  await expect(panel).toContainText('2 layers called the same in 2 other frames');
  await expect(panel.getByRole('listitem')).toHaveText([/Times.*place and size and paint and lines/, /Fares.*place and size and paint and lines/]);
  // What a text reads of its own frame has no meaning in others, and is not passed over in silence.
  await expect(panel).toContainText('Stays, as it speaks of what only this frame has: words of Bar.');
  await panel.getByRole('button', { name: 'place and size' }).click();
  await panel.getByRole('button', { name: 'paint and lines' }).click();
  await expect(panel.getByRole('listitem').first()).toHaveText(/Times.*as here but for place and size, paint and lines and words/);
  await expect(panel.getByRole('button', { name: 'Nothing to change' })).toBeDisabled();
  await panel.getByRole('button', { name: 'paint and lines' }).click();
  await panel.getByRole('checkbox', { name: /^Fares/ }).uncheck();
  await panel.getByRole('button', { name: 'Change 1 layer' }).click();
  await expect(panel).toBeHidden();

  const fillIn = async (frame: string) => {
    await studio.openFrame(frame);
    return studio.sheet
      .locator('[data-layer]')
      .first()
      .evaluate((node) => getComputedStyle(node).backgroundColor);
  };
  expect(await fillIn('Times')).toBe('rgb(11, 122, 117)');
  expect(await fillIn('Fares')).toBe('rgb(240, 177, 60)');
  await page.keyboard.press('Control+z');
  expect(await fillIn('Times')).toBe('rgb(240, 177, 60)');
});

test('threads are made the same in other frames where that is asked for, by keys alone', async ({ studio, page }) => {
  const next = (...lines: string[]) => ({ Next: { at: [20, 700, 300, 56] as const, text: 'Next', lines } });
  await studio.given({
    frames: {
      Home: { layers: next('click → go to Fares', 'key Enter → go to Fares') },
      Times: { layers: next('click → go to Home') },
      Fares: { layers: next('click → go to Fares', 'key Enter → go to Fares') },
    },
  });
  await studio.select('Next');
  await page.keyboard.press('Shift+E');
  const panel = page.getByRole('dialog', { name: 'The same in other frames' });
  await expect(panel.getByRole('listitem')).toHaveText([/Times.*as here but for threads/, /Fares.*as here already/]);
  const threads = panel.getByRole('button', { name: 'threads' });
  await threads.focus();
  await page.keyboard.press('Enter');
  await expect(threads).toHaveAttribute('aria-pressed', 'true');
  await panel.getByRole('button', { name: 'Change 1 layer' }).press('Enter');
  await studio.openFrame('Times');
  await expect(studio.row('Next')).toContainText(/go to\s*Fares/);
  await expect(studio.row('Next')).not.toContainText('Home');
});

test('a section of frames is made by its names, each as the open one and leading on to the next, in one undo', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: {
        layers: { Title: { type: 'text', text: 'Home', at: [20, 20, 200, 30] }, On: { at: [20, 700, 300, 56], lines: ['click → go to Fares'] } },
      },
      Fares: {},
    },
  });
  await page.keyboard.press('Shift+F');
  const panel = page.getByRole('dialog', { name: 'New frames by their names' });
  await expect(panel).toContainText('They come after Home');
  await page.keyboard.type('Pay, Card\nPaid');
  await panel.getByRole('button', { name: 'each as Home' }).press('Enter');
  await expect(panel.getByRole('checkbox', { name: 'what leads on from Home leads from each to the next' })).toBeChecked();
  await panel.getByLabel('bundle').fill('Paying');
  await expect(panel.getByRole('button', { name: 'Make 3 frames' })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(panel).toBeHidden();
  await expect(page.getByRole('heading', { name: 'Pay', exact: true })).toBeVisible();
  await expect(studio.sheet).toContainText('Pay');
  await expect(studio.row('On')).toContainText(/go to\s*Card/);
  await page.keyboard.press('PageDown');
  await page.keyboard.press('PageDown');
  await expect(studio.sheet).toContainText('Paid');
  await expect(studio.row('On')).toContainText(/go to\s*Fares/);
  await page.keyboard.press('Control+z');
  await expect(page.getByRole('heading', { name: 'Pay', exact: true })).toBeHidden();
  await expect(page.getByText(/Card$/)).toHaveCount(0);
});

test('a frame that is put down on the stage leads there, and with what leads somewhere selected makes one more of that', async ({ studio, page }) => {
  await studio.given({ frames: { Map: {}, Skarra: {}, Orrin: {} } });
  await studio.putDown('Skarra', 195, 200);
  await expect(studio.row('Skarra')).toBeVisible();
  await page.getByRole('toolbar', { name: 'Properties' }).getByRole('button', { name: 'Outline only' }).click();
  await studio.putDown('Orrin', 195, 500);
  await expect(studio.row('Orrin')).toBeVisible();
  const grounds = () => studio.sheet.locator('[data-layer]').evaluateAll((nodes) => nodes.map((node) => getComputedStyle(node).backgroundColor));
  await expect.poll(grounds).toEqual(['rgba(255, 255, 255, 0)', 'rgba(255, 255, 255, 0)']);
  // Its own frame leads nowhere, and the order of the frames stays.
  await studio.putDown('Map', 195, 700);
  await expect(page.getByText('That frame is the open one')).toBeVisible();
  expect(await studio.frames()).toEqual(['Map', 'Skarra', 'Orrin']);
  // Several that are chosen stand below each other, but for the open one.
  await page.keyboard.press('Escape');
  for (const frame of ['Skarra', 'Orrin'])
    await page
      .getByRole('navigation', { name: 'Frames' })
      .getByRole('button', { name: `Open ${frame}`, exact: true })
      .click({ modifiers: ['Control'] });
  await studio.putDown('Orrin', 195, 640);
  await expect(studio.row('Skarra 2')).toBeVisible();
  await expect(studio.row('Orrin 2')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(studio.row('Orrin 2')).toBeHidden();
  await page.keyboard.press('t');
  await studio.stage.getByText('Orrin').click();
  await studio.running('Orrin');
});

test('an address that is pasted is a text that opens it, below what is selected; other words are none', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { Boats: button(100) } } } });
  await studio.select('Boats');
  await studio.pasteText('kittiwake.example/islands');
  await expect(studio.row('Text 1').getByRole('textbox')).toHaveValue('https://kittiwake.example/islands');
  const box = await studio.sheet.getByText('kittiwake.example/islands').boundingBox();
  expect(box!.y).toBeGreaterThan((await studio.sheet.locator('[data-layer]').first().boundingBox())!.y);
  await page.keyboard.press('Control+z');
  await expect(studio.row('Text 1')).toBeHidden();
  await studio.pasteText('the islands');
  await expect(page.getByRole('region', { name: 'Cue sheet' }).getByText('the islands')).toBeHidden();
});

test('a part takes the place of all that is like it, filled in with the words that are there', async ({ studio, page }) => {
  const head = (title: string, more: object = {}) => ({
    bar: { at: [0, 0, 390, 88] as const, style: { fill: '#1f4e5f' } },
    title: { at: [24, 32, 300, 30] as const, type: 'text' as const, text: title, style: { ink: '#ffffff' }, ...more },
  });
  await studio.given({
    frames: {
      Home: { layers: head('Boats today') },
      Tides: { layers: head('Tides') },
      Fares: { layers: { ...head('Fares'), buy: button(200) } },
      Late: { layers: head('Late', { style: { ink: '#f0b13c' } }) },
    },
  });
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+P');
  const panel = page.getByRole('dialog', { name: 'In place of what is like it' });
  await expect(panel.getByRole('listitem')).toHaveText([/Tides\s*title: Tides/, /Fares\s*title: Fares/]);
  expect((await axeOn(page).analyze()).violations).toEqual([]);
  await page.keyboard.press('Enter');
  await expect(panel).toHaveCount(0);
  await studio.openFrame('Fares');
  await studio.select('Part 1');
  await expect(studio.row('Part 1').getByLabel('title of Part 1')).toHaveValue('Fares');
  await expect(studio.row('buy')).toBeVisible();
  await expect(studio.row('title')).toHaveCount(0);

  // All at once, and back at once; asked for again, one of them is left as it is.
  await page.keyboard.press('Control+z');
  await expect(studio.row('title')).toBeVisible();
  await studio.openFrame('Home');
  await studio.select('Part 1');
  await page.keyboard.press('Shift+I');
  await panel.getByRole('checkbox', { name: /Tides/ }).uncheck();
  await panel.getByRole('button', { name: 'Put it in 1 place' }).click();
  await studio.openFrame('Tides');
  await expect(studio.row('title')).toBeVisible();
  await studio.openFrame('Fares');
  await studio.select('Part 1');
  await page.keyboard.press('Shift+I');
  await expect(panel.getByRole('listitem')).toHaveCount(1);
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
});
