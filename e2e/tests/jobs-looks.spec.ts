import { readFile } from 'node:fs/promises';
import { Acts, finish, printActs } from './acts.ts';
import { expect, test } from './studio.ts';

printActs();

const gold = '#f0b13c';

test('job 5: agree before going on', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Terms: {
        layers: {
          Agree: { at: [20, 100, 44, 44], type: 'field', field: { kind: 'checkbox' }, label: 'Agree' },
          'Go on': { at: [20, 200, 350, 56], text: 'Go on', style: { fill: gold }, lines: ['click → go to Pay'] },
        },
      },
      Pay: {},
    },
  });
  const acts = new Acts(studio);
  await acts.do('select the button', () => studio.select('Go on'));
  await acts.do('take what is likely', () => page.getByRole('button', { name: 'enabled when Agree.selected' }).click());
  await acts.try();
  const button = studio.button('Go on');
  await expect(button).toHaveAttribute('aria-disabled', 'true');
  await expect(button).toHaveCSS('opacity', '0.4');
  await acts.do('tick the box', () => studio.stage.getByRole('checkbox', { name: 'Agree' }).check());
  await expect(button).not.toHaveAttribute('aria-disabled', 'true');
  await studio.stage.getByRole('checkbox', { name: 'Agree' }).uncheck();
  await expect(button).toHaveAttribute('aria-disabled', 'true');
  finish('5  agree before going on', acts, 4);
});

test('job 8: menu that lights up', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Menu: {
        layers: Object.fromEntries(
          ['Boats', 'Fares', 'Tides'].map((name, i) => [
            name,
            { at: [20, 100 + i * 70, 350, 56] as const, text: name, style: { fill: '#f7e6c3' }, looks: { hover: { style: { fill: gold } } } },
          ])
        ),
      },
    },
  });
  const acts = new Acts(studio);
  await acts.press('Control+a');
  await acts.press('c');
  await acts.try();
  const lit = 'rgb(240, 177, 60)';
  const face = (name: string) => studio.button(name).locator('.zany-shape, :scope').first();
  await studio.button('Fares').hover();
  await acts.do('press one', () => studio.button('Fares').click());
  await expect(studio.button('Fares')).toHaveAttribute('aria-pressed', 'true');
  await acts.do('press another', () => studio.button('Tides').click());
  await expect(studio.button('Fares')).toHaveAttribute('aria-pressed', 'false');
  await expect(studio.button('Tides')).toHaveAttribute('aria-pressed', 'true');
  await page.mouse.move(5, 500);
  await expect.poll(() => face('Tides').evaluate((node) => getComputedStyle(node).backgroundColor)).toBe(lit);
  await expect(page.getByRole('complementary', { name: 'Ledger' })).toContainText('Choice');
  await expect(page.getByRole('complementary', { name: 'Ledger' }).getByText('Tides', { exact: true }).first()).toBeVisible();
  finish('8  menu that lights up', acts, 6);
});

test('job 12: pinned bars', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Long: {
        contentHeight: 2400,
        layers: {
          Words: { at: [20, 100, 350, 2200], type: 'text', text: 'All the crossings of the season, day by day.' },
          'Top bar': { at: [0, 0, 390, 64], text: 'Kittiwake Line', style: { fill: gold } },
          'Bottom bar': { at: [0, 780, 390, 64], text: 'Menu', style: { fill: gold } },
          Round: { at: [320, 700, 56, 56], type: 'oval', text: '+', style: { fill: '#1f4e5f' } },
        },
      },
    },
  });
  const acts = new Acts(studio);
  await acts.do('select the button', () => studio.select('Round'));
  await acts.do('and the bars', () => studio.select('Top bar', ['Shift']));
  await acts.press('Shift+K');
  await acts.try();
  const top = async (text: string) => (await studio.stage.getByText(text, { exact: true }).first().boundingBox())?.y ?? -1000;
  const [bar, menu] = [await top('Kittiwake Line'), await top('Menu')];
  await studio.stage.hover();
  await acts.do('scroll down', () => page.mouse.wheel(0, 400));
  await expect.poll(() => top('Kittiwake Line')).toBeLessThan(bar - 20);
  expect(Math.abs((await top('Menu')) - menu)).toBeLessThan(1);
  await acts.do('and up again', () => page.mouse.wheel(0, -200));
  await expect.poll(async () => Math.abs((await top('Kittiwake Line')) - bar)).toBeLessThan(1);
  finish('12 pinned bars', acts, 6);
});

test('job 15: button with all its looks', async ({ studio, page }) => {
  await studio.given({ frames: { Home: { layers: { Buy: { at: [20, 100, 350, 56], text: 'Buy', style: { fill: gold, corner: 12 } } } } } });
  const acts = new Acts(studio);
  const strip = page.getByRole('region', { name: 'Strip' });
  await acts.do('select it', () => studio.select('Buy'));
  await acts.do('all its looks', () => strip.getByRole('button', { name: 'all of a button' }).click());
  await acts.type('Bought');
  await acts.do('a larger hit area', () => strip.getByRole('button', { name: 'a larger area to press' }).click());
  await acts.press('Shift+P');
  await acts.try();
  const face = studio.stage.locator('[data-layer]').filter({ hasText: 'Buy' }).last();
  const rest = await face.evaluate((node) => getComputedStyle(node).backgroundColor);
  await face.hover();
  await expect.poll(() => face.evaluate((node) => getComputedStyle(node).backgroundColor)).not.toBe(rest);
  await page.keyboard.press('Escape');
  await page.getByRole('navigation', { name: 'Frames' }).getByRole('button', { name: 'Open the part Buy' }).click();
  await studio.select('Buy');
  for (const look of ['Rest', 'Hover', 'Press', 'Selected', 'Selected, hovered'])
    await expect(strip.getByRole('group', { name: `${look} look`, exact: true })).toBeVisible();
  await expect(strip.getByRole('button', { name: 'a larger area to press' })).toHaveCount(0);
  await strip.getByRole('button', { name: 'Selected, hovered look', exact: true }).click();
  await expect(strip.getByLabel('Text of the look')).toHaveValue('Bought');
  await strip.getByRole('button', { name: 'Hover look', exact: true }).click();
  await expect(strip.getByLabel('Text of the look')).toHaveValue('Buy');
  finish('15 button with all its looks', acts, 6);
});

test('job 21: slide-over menu', async ({ studio, page }) => {
  const entries = ['Boats', 'Fares', 'Tides'];
  await studio.given({
    parts: {
      Icon: {
        size: [48, 48],
        background: '#ffffff00',
        states: { Bars: {}, Cross: { One: { pose: { y: 22, rotation: 45 } }, Two: { pose: { y: 22, rotation: -45 } } } },
        layers: { One: { at: [8, 14, 32, 4], style: { fill: '#26232c' } }, Two: { at: [8, 30, 32, 4], style: { fill: '#26232c' } } },
      },
    },
    frames: {
      Home: {
        layers: {
          ...Object.fromEntries(entries.map((name, i) => [name, { at: [-220, 120 + i * 64, 200, 56] as const, text: name, style: { fill: gold } }])),
          Screen: { at: [0, 80, 390, 764], text: 'Home', style: { fill: '#cfe1ea' } },
          Icon: { type: 'placement', part: 'Icon', at: [12, 16, 48, 48], label: 'Menu' },
        },
      },
    },
  });
  const acts = new Acts(studio);
  await acts.do('a state', () => page.getByRole('button', { name: 'add a state' }).click());
  await acts.do('move the screen', () => studio.drag([195, 500], [435, 500]));
  await acts.do('more about it', () => page.getByRole('button', { name: 'More properties' }).click());
  await acts.do('make it smaller', () => page.getByLabel('Scale', { exact: true }).fill('85'));
  await acts.do('select the entries', () => studio.select('Tides'));
  await acts.do('all of them', () => studio.select('Boats', ['Shift']));
  await acts.do('bring them in', () => page.getByRole('toolbar').getByRole('button', { name: 'Move into view' }).click());
  await acts.do('select the icon', () => studio.select('Icon'));
  await acts.do('the cross here', () => page.getByRole('button', { name: 'In Cross' }).click());
  await acts.do('a press leads here and back', () => page.getByRole('button', { name: 'Bring into State 2' }).click());
  await acts.do('how it moves', () =>
    studio
      .row('Icon')
      .getByRole('button', { name: /^Transition/ })
      .click()
  );
  const timing = page.getByRole('dialog', { name: 'Transition' });
  await acts.do('in 500 ms', () => timing.getByRole('spinbutton').first().fill('500'));
  await acts.do('one after the other', () => timing.getByLabel('Stagger').fill('60'));
  await acts.do('in and out', () => timing.getByRole('button', { name: 'ease-in-out' }).click());
  await acts.try();
  // It begins in the state that is open: a press shuts the menu, another opens it.
  const x = async (name: string) => (await studio.stage.getByText(name, { exact: true }).boundingBox())?.x ?? -1000;
  const left = (await studio.stage.locator('.zany-player').boundingBox())!.x;
  await expect.poll(() => x('Boats')).toBeGreaterThan(left);
  await acts.do('shut it', () => studio.button('Menu').click());
  await expect.poll(() => x('Boats')).toBeLessThan(left);
  await studio.button('Menu').click();
  await expect.poll(() => x('Boats')).toBeGreaterThan(left);
  await page.keyboard.press('Escape');
  await expect(studio.row('Icon')).toContainText('togglethis');
  await acts.do('how it moves', () =>
    studio
      .row('Icon')
      .getByRole('button', { name: /^Transition/ })
      .click()
  );
  await acts.do('an overshoot of one’s own', async () => {
    await timing.getByLabel('Easing, as CSS writes it').fill('overshoot(0.22)');
    await timing.getByLabel('Easing, as CSS writes it').press('Enter');
  });
  await expect(studio.row('Icon')).toContainText('500 ms overshoot(0.22) stagger 60 ms by order');
  finish('21 slide-over menu', acts, 18);
});

test('job 10: hot places on a diagram', async ({ studio, page }) => {
  const back = { at: [0, 0, 1, 1] as const, hidden: true };
  await studio.given({
    frames: {
      Title: { layers: { Words: { at: [20, 60, 350, 60], type: 'text', text: 'Islands of the line', letters: { size: 30 } } } },
      Diagram: { layers: { Map: { at: [20, 100, 350, 500], style: { fill: '#cfe1ea' }, locked: true } } },
      Skarra: { layers: { back } },
      Orrin: { layers: { back } },
      Film: { layers: { back } },
    },
  });
  const landings = page.getByRole('complementary', { name: 'Landings' });
  const film = await readFile(new URL('../../demo/films/inne.webm', import.meta.url));
  const acts = new Acts(studio);
  await acts.do('a button that leads to the diagram', () => studio.putDown('Diagram', 195, 628));
  await acts.do('open the diagram', () => studio.openFrame('Diagram'));
  await acts.press('o');
  await acts.do('draw over one island', () => studio.drag([60, 160], [160, 260]));
  await acts.do('an outline', () => page.getByRole('button', { name: 'Outline only' }).click());
  await acts.do('lead to it', () => landings.getByRole('button', { name: 'Lead to Skarra' }).click());
  await acts.do('a second one, for the other island', () => studio.putDown('Orrin', 260, 570));
  await acts.do('a hint that is a link', () => studio.pasteText('kittiwake.example/islands'));
  await acts.press('y');
  await acts.do('a way back everywhere', () => page.getByRole('button', { name: 'Place Back' }).click({ modifiers: ['Shift'] }));
  await acts.do('bring in the film', () =>
    page.locator('[data-chooser]').setInputFiles({ name: 'crossing.webm', mimeType: 'video/webm', buffer: film })
  );
  await expect(studio.row('crossing')).toBeVisible();
  await acts.try();
  // It is short, so that it may be over when it is asked.
  await expect.poll(() => studio.stage.locator('video').evaluate((node) => (node as HTMLVideoElement).played.length)).toBeGreaterThan(0);
  await studio.button('Oval 1').first().click();
  await studio.running('Skarra');
  await studio.button('‹ Back').click();
  await studio.running('Diagram');
  await studio.button('Oval 2').first().click();
  await studio.running('Orrin');
  await studio.button('‹ Back').click();
  await studio.running('Diagram');
  await expect(studio.stage.getByText('kittiwake.example/islands')).toBeVisible();
  finish('10 hot places on a diagram', acts, 12);
});
