import { menuSvg, pageFile, pageSvg } from './pages.ts';
import { expect, test, Studio } from './studio.ts';

const gold = '#f0b13c';

test('states: what an edit reaches is said and chosen, and two are compared', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { Card: { at: [40, 100, 300, 80], text: 'Open', style: { fill: gold } } } } } });
  const strip = page.getByRole('region', { name: 'Strip' });
  const x = page.getByRole('toolbar', { name: 'Properties' }).getByLabel('x', { exact: true });
  const open = (name: string) =>
    strip
      .getByRole('button', { name: `Open the state ${name}` })
      .focus()
      .then(() => page.keyboard.press('Enter'));
  await strip.getByRole('button', { name: 'add a state' }).click();
  await page.keyboard.type('Aside');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Edits reach: this state alone' })).toBeVisible();
  await studio.select('Card');
  await x.fill('90');
  await x.press('Enter');
  await strip.getByRole('tab', { name: 'States' }).click();
  await open('State 1');
  await studio.select('Card');
  await expect(x).toHaveValue('40');
  await page
    .getByRole('button', { name: /^Edits reach/ })
    .first()
    .click();
  await page.getByRole('dialog', { name: 'What edits reach' }).getByRole('button', { name: 'every state' }).click();
  await page.keyboard.press('Escape');
  await x.fill('55');
  await x.press('Enter');
  await strip.getByRole('tab', { name: 'States' }).click();
  await open('Aside');
  await studio.select('Card');
  await expect(x).toHaveValue('55');
  await page.keyboard.press('Delete');
  await expect(studio.row('Card')).toHaveAttribute('aria-selected', 'true');
  await strip.getByRole('tab', { name: 'States' }).click();
  await strip.getByRole('button', { name: 'More about Aside' }).click();
  await page.getByRole('button', { name: 'Compare with State 1' }).click();
  await expect(page.getByRole('dialog', { name: 'What differs' })).toContainText('hidden');
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await open('Aside');
  await studio.select('Card');
  await expect(x).toHaveValue('90');
});

test('parts: made, gone into and out of, filled in, replaced, taken apart', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: {
        layers: {
          Face: { at: [40, 100, 200, 60], text: '10:40', style: { fill: gold }, lines: ['click → go to Pay'] },
          Mark: { at: [260, 110, 40, 40], type: 'oval', style: { fill: '#1f4e5f' } },
        },
      },
      Pay: {},
    },
  });
  const shelf = page.getByRole('navigation', { name: 'Frames' });
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Shift+P');
  await expect(studio.row('Part 1')).toContainText('part · Part 1');
  await studio.row('Part 1').getByLabel('Face of Part 1').fill('12:15');
  await page.keyboard.press('Enter');
  await expect(studio.sheet.getByText('12:15')).toBeVisible();
  await page.keyboard.press('Control+d');
  await expect(studio.row('Part 2')).toBeVisible();
  await page.keyboard.press('Shift+Enter');
  await expect(page.getByRole('heading', { name: 'Part 1', exact: true })).toBeVisible();
  await studio.select('Mark');
  await page.keyboard.press('Delete');
  await page.getByRole('button', { name: '‹ Home' }).click();
  await expect(page.getByRole('heading', { name: 'Home', exact: true })).toBeVisible();
  await page.keyboard.press('y');
  await page.keyboard.type('but');
  await page.keyboard.press('Enter');
  await studio.select('Part 2');
  await studio.row('Part 2').getByRole('button', { name: 'Part: Part 1' }).click();
  await page.getByRole('option', { name: 'Button' }).click();
  await expect(studio.row('Part 2')).toContainText('part · Button');
  await expect(studio.row('Part 2').getByLabel('Face of Part 2')).toHaveValue('12:15');
  await studio.select('Part 1');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('take the part apart');
  await page.keyboard.press('Enter');
  await expect(studio.row('Face')).toBeVisible();
  await page.keyboard.press('t');
  await studio.stage.getByText('12:15').first().click();
  await page.keyboard.press('Escape');
  await shelf.getByRole('button', { name: 'Open the part Part 1' }).click({ button: 'right' });
  await page.getByRole('button', { name: 'Delete', exact: true }).click();
  await expect(shelf.getByRole('button', { name: 'Open the part Part 1' })).toHaveCount(0);
});

test('a condition is one thing as chips and as text; variables are made by writing, and set by hand while trying', async ({ studio, page }) => {
  await studio.given({
    frames: { Home: { layers: { Buy: { at: [40, 100, 300, 60], text: 'Buy', style: { fill: gold } } } }, 'Sold out': {} },
  });
  await studio.select('Buy');
  await studio.write('set Seats to Seats + 1');
  await expect(page.getByRole('tab', { name: 'Variables 1' })).toBeVisible();
  await studio.write('if Seats > 2 → go to Sold out');
  const second = studio.row('Buy').getByRole('group', { name: /^Thread: click → if/ });
  await second.getByRole('button', { name: 'Condition: Seats > 2' }).click();
  const dialog = page.getByRole('dialog', { name: 'Condition' });
  await dialog.getByRole('button', { name: 'How: >' }).click();
  await page.getByRole('option', { name: '≥' }).click();
  await expect(dialog.getByLabel('Condition as text')).toHaveValue('Seats >= 2');
  await dialog.getByLabel('Condition as text').fill('Seats >= 2 and Buy.enabled');
  await dialog.getByLabel('Condition as text').press('Enter');
  await expect(dialog.getByRole('button', { name: 'Asks about: Buy.enabled' })).toBeVisible();
  await dialog.getByLabel('Condition as text').fill('Seats >= "two"');
  await expect(dialog.getByRole('alert')).toContainText('Column');
  await dialog.getByLabel('Condition as text').fill('Seats >= 2');
  await dialog.getByLabel('Condition as text').press('Enter');
  await page.keyboard.press('Escape');
  await page.getByRole('tab', { name: 'Variables 1' }).click();
  await page.getByLabel('Seats at most').fill('5');
  await page.getByLabel('Seats at most').press('Enter');
  await page.getByRole('button', { name: 'where it is used' }).click();
  await expect(page.getByRole('group', { name: 'Variable Seats' })).toContainText('set');
  await page.keyboard.press('t');
  const ledger = page.getByRole('complementary', { name: 'Ledger' });
  await studio.button('Buy').click();
  await studio.running('Home');
  await expect(ledger).toContainText('Seats >= 2');
  await ledger.getByLabel('Set Seats').fill('9');
  await ledger.getByLabel('Set Seats').press('Enter');
  await expect(ledger.getByLabel('Set Seats')).toHaveValue('5');
  await page.getByRole('button', { name: 'slowly' }).click();
  await studio.button('Buy').click();
  await studio.running('Sold out');
});

test('threads: branches, with and then, notes, order by keys, lines pasted on many layers', async ({ studio, page, context }) => {
  await context.grantPermissions(['clipboard-read', 'clipboard-write']);
  await studio.given({
    variables: { Seats: { type: 'number', initial: 0 } },
    frames: {
      Home: {
        layers: {
          One: { at: [40, 100, 300, 60], style: { fill: gold }, lines: ['click → if Seats > 0 → go to Pay; otherwise → send full; send bell'] },
          Two: { at: [40, 200, 300, 60], style: { fill: gold } },
          Three: { at: [40, 300, 300, 60], style: { fill: gold } },
        },
      },
      Pay: {},
    },
  });
  await studio.select('One');
  const thread = () => studio.row('One').getByRole('group', { name: /^Thread: / });
  await thread().first().getByRole('button', { name: 'Then: change' }).click();
  await expect(thread().first()).toHaveAccessibleName(/send full; with send bell/);
  const more = async (at: number, what: string) => {
    await thread().nth(at).hover();
    await thread().nth(at).getByRole('button', { name: 'More about the thread' }).click();
    await page.getByRole('dialog', { name: 'More about the thread' }).getByRole('button', { name: what }).click();
  };
  await more(0, 'Note');
  await page.keyboard.type('ask the harbour');
  await page.keyboard.press('Tab');
  await expect(thread().first()).toContainText('ask the harbour');
  await studio.select('One');
  await studio.write('hover → send hello');
  await expect(thread()).toHaveCount(2);
  await thread().nth(1).getByRole('button', { name: /^Cue/ }).focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(thread().first()).toHaveAccessibleName(/hover/);
  await more(1, 'Copy');
  await studio.select('Two');
  await studio.select('Three', ['Control']);
  await page.keyboard.press('Control+v');
  await expect(studio.row('Three')).toContainText('Pay');
  await expect(page.getByText(/All 2 now lead to Pay/)).toBeVisible();
  const same = (layer: string) => studio.row(layer).getByRole('button', { name: 'Leads to: Pay, the same as another thread here' });
  await expect(same('Two')).toBeVisible();
  await expect(same('One')).toBeHidden();
  await same('Three').click();
  await page.getByRole('option', { name: 'Home' }).click();
  await expect(studio.row('Three').getByRole('button', { name: 'Leads to: Home', exact: true })).toBeVisible();
  await expect(studio.row('Three').getByRole('button', { name: 'same is right' })).toBeHidden();
  await studio.row('Two').getByRole('button', { name: 'same is right' }).click();
  await expect(same('Two')).toBeHidden();
  await thread().nth(1).hover();
  await thread().nth(1).getByRole('button', { name: 'Remove this branch' }).click();
  await expect(thread().nth(1)).not.toContainText('otherwise');
});

test('whoever else is in the piece is seen, where they are and what they have selected', { tag: '@several' }, async ({ studio, page, context }) => {
  const id = await studio.given({ frames: { Home: { layers: { Card: { at: [40, 100, 300, 80], style: { fill: gold } } } }, Pay: {} } });
  const second = new Studio(await context.newPage());
  await second.open(id);
  const avatar = page.getByRole('button', { name: /is here$/ });
  await expect(avatar).toHaveCount(1);
  await expect(second.page.getByRole('button', { name: /is here$/ })).toHaveCount(1);
  await second.select('Card');
  await expect(studio.sheet.locator('svg text', { hasText: 'Ina' })).toBeVisible();
  await second.openFrame('Pay');
  await expect(avatar).toHaveAttribute('title', /Build, Pay/);
  await avatar.click();
  await expect(page.getByRole('heading', { name: 'Pay', exact: true })).toBeVisible();
  await second.page.close();
  await expect(avatar).toHaveCount(0);
});

test('looks are tried by pointing at them, and come in their own time', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: {
        layers: {
          Buy: {
            at: [20, 100, 350, 56],
            text: 'Buy',
            style: { fill: '#112233' },
            looks: { hover: { style: { fill: '#ddeeff' }, ms: 400, easing: 'linear' } },
          },
        },
      },
    },
  });
  await studio.select('Buy');
  const strip = page.getByRole('region', { name: 'Strip' });
  const paint = () =>
    studio.sheet
      .locator('.zany-layer')
      .first()
      .evaluate((node) => getComputedStyle(node).backgroundColor);
  const [rest, hover] = ['rgb(17, 34, 51)', 'rgb(221, 238, 255)'];
  expect(await paint()).toBe(rest);
  await page.evaluate(() => {
    const layer = document.querySelector('[data-sheet] .zany-layer')!;
    const seen = ((window as unknown as { seen: Set<string> }).seen = new Set<string>());
    new MutationObserver(() => seen.add(getComputedStyle(layer).backgroundColor)).observe(layer, { attributes: true });
  });
  await strip.getByRole('button', { name: 'Hover look', exact: true }).hover();
  await expect.poll(paint).toBe(hover);
  expect(await page.evaluate(() => (window as unknown as { seen: Set<string> }).seen.size)).toBeGreaterThan(3);
  await strip.getByRole('tab', { name: 'Looks' }).hover();
  await expect.poll(paint).toBe(rest);
  await expect(strip.getByRole('button', { name: 'Rest look', exact: true })).toHaveAttribute('aria-pressed', 'true');
});

test('what is hidden at rest and shown in the hover look comes up under the pointer, and is pressed there', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Boats: {
        layers: {
          Card: { type: 'group', at: [20, 100, 350, 200] },
          Ground: { at: [0, 0, 350, 200], in: 'Card', style: { fill: gold } },
          Book: { at: [20, 120, 140, 56], in: 'Card', text: 'Book', style: { fill: '#20304a', ink: '#ffffff' }, lines: ['click → go to Pay'] },
        },
      },
      Pay: { ending: true },
    },
  });
  await studio.row('Book').hover();
  await studio.row('Book').getByRole('button', { name: 'Hide' }).click();
  await studio.select('Card');
  const strip = page.getByRole('region', { name: 'Strip' });
  await strip.getByRole('button', { name: 'add a hover look' }).click();
  await studio.row('Book').getByRole('button', { name: 'Show' }).click();
  await expect(studio.sheet.getByText('Book', { exact: true })).toBeVisible();
  await strip.getByRole('button', { name: 'Rest look', exact: true }).click();
  await expect(studio.sheet.getByText('Book', { exact: true })).toBeHidden();
  await page.getByRole('button', { name: /^Try/ }).click();
  await expect(studio.button('Book')).toBeHidden();
  const box = (await studio.stage.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + 2);
  await studio.stage
    .locator('.zany-layer')
    .first()
    .hover({ position: { x: 5, y: 5 } });
  await studio.button('Book').click();
  await studio.running('Pay');
});

test('a field is offered the variables that take what it holds, and says where its own is gone', async ({ studio, page }) => {
  await studio.given({
    variables: { Seats: { type: 'number', initial: 1 }, Who: { type: 'text', initial: '' } },
    frames: { Book: { layers: { Name: { type: 'field', at: [20, 100, 200, 52], field: { kind: 'text' } } }, ending: true } },
  });
  await studio.select('Name');
  await page.getByRole('toolbar', { name: 'Properties' }).getByRole('button', { name: 'behaves' }).click();
  const kept = page.getByRole('button', { name: /^Variable of the field/ });
  await kept.click();
  await expect(page.getByRole('option')).toHaveText(['nothing', 'Who']);
  await page.getByRole('option', { name: 'Who' }).click();
  await expect(kept).toHaveAccessibleName('Variable of the field: Who');
  await page.getByRole('button', { name: /^Kind of field/ }).click();
  await page.getByRole('option', { name: 'slider' }).click();
  await expect(kept).toHaveAccessibleName(/^Variable of the field: Who, Who takes nothing of what a field of slider holds/);
});

test('a picture is cropped, and one to compare with is kept with its scene', async ({ studio, page }) => {
  await studio.newPiece('Pictures');
  const { default: sharp } = await import('sharp');
  const buffer = await sharp({ create: { width: 300, height: 100, channels: 3, background: '#336699' } })
    .png()
    .toBuffer();
  await page.locator('[data-chooser]').setInputFiles({ name: 'pier.png', mimeType: 'image/png', buffer });
  await page.getByRole('button', { name: /^As layers in/ }).click();
  await studio.select('pier');
  const bar = page.getByRole('toolbar', { name: 'Properties' });
  await bar.getByRole('button', { name: 'More properties' }).click();
  await page.getByRole('button', { name: 'cropped' }).click();
  await page.getByLabel('What is kept, across').fill('100');
  const img = studio.sheet.locator('img').first();
  await expect(img).toHaveCSS('object-position', '100% 50%');
  await page.keyboard.press('Escape');
  await studio.saved();

  await page.locator('[data-comparer]').setInputFiles({ name: 'drawn.png', mimeType: 'image/png', buffer });
  const reference = page.getByAltText('Reference to compare with');
  await page.getByLabel('Opacity of the reference').fill('80');
  await expect(reference).toHaveCSS('opacity', '0.8');
  await page.waitForTimeout(500);
  await page.reload();
  await expect(reference).toHaveCSS('opacity', '0.8');
  await expect(img).toHaveCSS('object-position', '100% 50%');
  await page.getByLabel('Opacity of the reference').fill('60');
  await page.getByRole('button', { name: 'New frame' }).click();
  await expect(reference).toHaveCount(0);
  await page.keyboard.press('PageUp');
  await expect(reference, 'what was changed right before is kept too').toHaveCSS('opacity', '0.6');
  await page.getByRole('button', { name: 'Take the reference away' }).click();
  await expect(reference, 'gone when it is kept no more').toHaveCount(0);
  await page.reload();
  await expect(img).toBeVisible();
  await expect(reference).toHaveCount(0);
});

test('a shelf of very many frames holds those near the view, and follows the open one; their map is at once there', async ({ studio, page }) => {
  const names = Array.from({ length: 120 }, (_, i) => `Page ${i + 1}`);
  const link = (i: number, by: number) => `click → go to ${names[(i + by) % names.length]}`;
  await studio.given({
    frames: Object.fromEntries(
      names.map((name, i) => [
        name,
        { layers: { On: { at: [20, 100, 80, 48], lines: [link(i, 1)] }, Over: { at: [20, 200, 80, 48], lines: [link(i, 7)] } } },
      ])
    ),
  });
  const shelf = page.getByRole('navigation', { name: 'Frames' });
  const open = (name: string) => shelf.getByRole('button', { name: `Open ${name}`, exact: true });
  await expect(open('Page 3')).toBeVisible();
  await expect(open('Page 110')).toHaveCount(0);
  for (let i = 0; i < 40; i++) await page.keyboard.press('PageDown');
  await expect(open('Page 41')).toBeInViewport();
  await expect(open('Page 41')).toHaveAttribute('aria-current', 'true');
  await expect(open('Page 1')).toHaveCount(0);
  await shelf.hover();
  await page.mouse.wheel(0, 50_000);
  await expect(open('Page 120')).toBeVisible();
  await open('Page 120').click();
  await expect(page.getByRole('region', { name: 'Cue sheet' }).getByRole('heading', { name: 'Page 120' })).toBeVisible();
  await studio.desk('Map');
  await expect(page.getByText('120 frames · 240 stitches')).toBeVisible();
});

test.describe('by keyboard alone', () => {
  test('job 5: agree before going on', async ({ studio, page }) => {
    await studio.given({
      frames: {
        Terms: {
          layers: {
            'Go on': { at: [20, 200, 350, 56], text: 'Go on', style: { fill: gold }, lines: ['click → go to Pay'] },
            Agree: { at: [20, 100, 44, 44], type: 'field', field: { kind: 'checkbox' }, label: 'Agree' },
          },
        },
        Pay: {},
      },
    });
    for (const key of ['.', '.', 'Enter']) await page.keyboard.press(key);
    await page.keyboard.type('en');
    await page.keyboard.press('Enter');
    await page.keyboard.press('t');
    await expect(studio.button('Go on')).toHaveAttribute('aria-disabled', 'true');
    for (let i = 0; i < 12 && !(await studio.stage.getByRole('checkbox').evaluate((node) => node === document.activeElement)); i++)
      await page.keyboard.press('Tab');
    await page.keyboard.press('Space');
    await expect(studio.button('Go on')).not.toHaveAttribute('aria-disabled', 'true');
  });

  test('job 9: message slider', async ({ studio, page }) => {
    await studio.given({
      frames: {
        Home: {
          layers: {
            Dot: { at: [110, 240, 48, 48], type: 'oval', style: { fill: '#1f4e5f' } },
            Message: { at: [45, 100, 300, 120], text: 'Boats run on time', style: { fill: '#f7e6c3' } },
          },
        },
      },
    });
    await page.keyboard.press('.');
    await page.keyboard.press('r');
    await page.keyboard.type('Wind, Tide, Fog');
    await page.keyboard.press('Enter');
    await expect(studio.row('Fog')).toBeVisible();
    await page.keyboard.press('Escape');
    await page.keyboard.press(',');
    await expect(studio.row('Dot')).toHaveAttribute('aria-selected', 'true');
    await page.keyboard.press('Control+k');
    await page.keyboard.type('add a hover look');
    await page.keyboard.press('Enter');
    await page.keyboard.press('r');
    await page.keyboard.type('3');
    await page.keyboard.press('Enter');
    for (const key of ['Control+a', 's', 'Enter', 't']) await page.keyboard.press(key);
    await expect(studio.button('Dot')).toHaveCount(3);
    for (let i = 0; i < 20 && !(await studio.button('Dot 2').evaluate((node) => node === document.activeElement)); i++)
      await page.keyboard.press('Tab');
    await page.keyboard.press('Enter');
    await expect(studio.button('Dot 2')).toHaveAttribute('aria-pressed', 'true');
  });

  test('job 4: hit areas over finished page pictures, a page still missing, areas on every page', async ({ studio, page }) => {
    const choosing = page.waitForEvent('filechooser');
    await studio.newPiece('Seven pages by keys');
    const names = ['Boats', 'Fares', 'Tides', 'Islands', 'Bicycles', 'Geese'];
    const press = async (...keys: string[]) => {
      for (const key of keys) await page.keyboard.press(key);
    };
    /** Goes on with Tab until something that has the focus bears a name. */
    const tabTo = async (name: RegExp, key = 'Tab') => {
      for (let i = 0; i < 60; i++) {
        await page.keyboard.press(key);
        const label = await page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? document.activeElement?.textContent ?? '');
        if (name.test(label)) return;
      }
      throw new Error(`Tab does not lead to ${name}`);
    };
    /** Writes place and size of the selection. */
    const place = async (...values: number[]) => {
      await press('e');
      for (const value of values) {
        await page.keyboard.type(String(value));
        await press('Tab');
      }
      await press('Escape');
    };
    await press('i');
    await (
      await choosing
    ).setFiles([
      await pageFile('0 Home.png', menuSvg('Home', [...names, 'Lamps'])),
      ...(await Promise.all(names.map((name, i) => pageFile(`${i + 1} ${name}.jpg`, pageSvg(name))))),
      await pageFile('8 Help.png', pageSvg('Help')),
    ]);
    await expect(page.getByRole('dialog', { name: 'Bring in pages' })).toBeVisible();
    await press('Enter');
    await expect.poll(() => studio.frames()).toHaveLength(8);

    // Seven equal areas, the last one paired with a page that is still to be drawn.
    await press('h', 'Enter');
    await expect(studio.row('Hit area 1')).toBeVisible();
    await place(40, 130, 310, 60);
    await press('r');
    await page.keyboard.type('1 x 7');
    await tabTo(/^Gap$/);
    await page.keyboard.type('24');
    await press('Tab');
    await press('Enter');
    await expect(studio.row('Hit area 7')).toBeVisible();
    await press('p');
    await tabTo(/^Frame for Hit area 7/, 'Shift+Tab');
    await press('Enter');
    await page.keyboard.type('draft');
    await press('Enter');
    await tabTo(/^Apply/);
    await press('Enter');
    await expect(studio.row('Hit area 7').getByRole('button', { name: /Leads to: Hit area 7 page/ })).toBeVisible();
    await press('Escape');
    // Logo and help, carried by every page.
    await press('h', 'Enter');
    await place(0, 20, 120, 64);
    await press('g');
    await page.keyboard.type('home');
    await press('Enter');
    await press('Shift+C');
    await press('h', 'Enter');
    await place(330, 30, 30, 30);
    await press('g');
    await page.keyboard.type('help');
    await press('Enter');
    await press('Shift+C');
    await press('PageDown', 'PageDown', 'PageDown');
    const sheet = page.getByRole('region', { name: 'Cue sheet' });
    await expect(sheet.getByRole('heading', { name: '3 Tides' })).toBeVisible();
    await expect(sheet.getByRole('group', { name: /^Thread: click → go to 0 Home/ })).toBeVisible();
    await expect(sheet.getByRole('group', { name: /^Thread: click → go to 8 Help/ })).toBeVisible();

    // What is too small is caught, the page to be drawn can be wired, and it runs.
    await press('3');
    await expect(page.getByRole('article', { name: /Hit area \d is hard to hit/ }).first()).toContainText('30 × 30');
    await press('1');
    await expect(sheet.getByRole('heading', { name: '3 Tides' })).toBeVisible();
    await press('PageUp', 'PageUp', 'PageUp', 't');
    for (let i = 0; i < 20 && !(await studio.button('Hit area 2').evaluate((node) => node === document.activeElement)); i++)
      await page.keyboard.press('Tab');
    await press('Enter');
    await studio.running('2 Fares');
  });
});
