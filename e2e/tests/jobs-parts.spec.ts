import { Acts, finish, printActs } from './acts.ts';
import { expect, test } from './studio.ts';

printActs();

const navy = '#1f4e5f';
const gold = '#f0b13c';

test('job 1: picture carousel that clicks through', async ({ studio, page }) => {
  const slide = (fill: string) => ({ at: [45, 120, 300, 200] as const, style: { fill } });
  await studio.given({
    frames: {
      Home: {
        layers: {
          Boat: slide('#cfe1ea'),
          Pier: slide('#f7e6c3'),
          Lamp: slide('#d8e6d2'),
          'Arrow back': { at: [0, 196, 44, 48], text: '‹', label: 'Arrow back', style: { fill: navy, ink: '#ffffff' } },
          'Arrow on': { at: [346, 196, 44, 48], text: '›', label: 'Arrow on', style: { fill: navy, ink: '#ffffff' } },
          'Dot 1': { at: [120, 340, 44, 44], type: 'oval', style: { fill: navy } },
          'Dot 2': { at: [173, 340, 44, 44], type: 'oval', style: { fill: navy } },
          'Dot 3': { at: [226, 340, 44, 44], type: 'oval', style: { fill: navy } },
        },
      },
    },
  });
  const acts = new Acts(studio);
  await acts.press('Control+a');
  await acts.press('s');
  const dialog = page.getByRole('dialog', { name: 'Make slides' });
  await expect(dialog).toContainText('Arrow back, Arrow on');
  await acts.do('type the time', () => dialog.getByLabel('Milliseconds').fill('650'), 2);
  await acts.do('make them', () => dialog.getByRole('button', { name: 'Make slides' }).click());
  await expect(studio.row('Slides')).toBeVisible();
  await acts.try();
  await expect(studio.button('Arrow back')).toHaveAttribute('aria-disabled', 'true');
  await acts.do('press the arrow', () => studio.button('Arrow on').click());
  await expect(studio.button('Dot 2')).toHaveAttribute('aria-pressed', 'true');
  await expect(studio.button('Arrow back')).not.toHaveAttribute('aria-disabled', 'true');
  await studio.button('Dot 3').click();
  await expect(studio.button('Arrow on')).toHaveAttribute('aria-disabled', 'true');
  await page.keyboard.press('Escape');
  await page.getByRole('navigation', { name: 'Frames' }).getByRole('button', { name: 'Open the part Slides' }).click();
  await expect(page.getByRole('group', { name: /^State Slide/ })).toHaveCount(3);
  finish('1  picture carousel that clicks through', acts, 12);
});

test('job 2: menu bar with one open submenu', async ({ studio, page }) => {
  const names = ['Boats', 'Fares', 'Tides', 'Help'];
  await studio.given({
    frames: {
      Home: {
        layers: Object.fromEntries(
          names.flatMap((name, i) => [
            [name, { at: [i * 97, 0, 96, 48] as const, text: name, style: { fill: gold } }],
            [`${name} menu`, { type: 'group' as const, at: [i * 97, 50, 1, 1] as const }],
            [`${name} entry`, { in: `${name} menu`, at: [0, 0, 96, 60] as const, text: `${name} entry`, style: { fill: '#f7e6c3' } }],
          ])
        ),
      },
    },
  });
  const acts = new Acts(studio);
  await acts.press('Control+a');
  await acts.press('p');
  const dialog = page.getByRole('dialog', { name: 'Pair up' });
  await expect(dialog.getByRole('group', { name: 'Boats', exact: true })).toContainText('Boats menu');
  await acts.press('Enter');
  await acts.try();
  await expect(studio.stage.getByText('Fares entry')).toHaveCount(0);
  await acts.do('open a menu', () => studio.button('Fares').click());
  await expect(studio.stage.getByText('Fares entry')).toBeVisible();
  await expect(studio.button('Fares')).toHaveAttribute('aria-pressed', 'true');
  await acts.do('open another', () => studio.button('Tides').click());
  await expect(studio.stage.getByText('Fares entry')).toHaveCount(0);
  await expect(studio.stage.getByText('Tides entry')).toBeVisible();
  await acts.do('close it', () => studio.button('Tides').click());
  await expect(studio.stage.getByText('Tides entry')).toHaveCount(0);
  finish('2  menu bar with one open submenu', acts, 16);
});

test('job 3: screens, common navigation, a way back', async ({ studio, page }) => {
  const frames = ['Harbour', 'Boats', 'Fares', 'Tides', 'Cabin', 'Checkout', 'Aboard', 'Declined'];
  const bar = Object.fromEntries(
    ['Boats', 'Fares', 'Tides', 'Cabin'].map((name, i) => [name, { in: 'Bar', at: [i * 97, 0, 96, 56] as const, text: name, style: { fill: gold } }])
  );
  await studio.given({
    frames: Object.fromEntries(
      frames.map((name, i) => [name, { layers: i === 0 ? { Bar: { type: 'group' as const, at: [0, 788, 1, 1] as const }, ...bar } : {} }])
    ),
  });
  const acts = new Acts(studio);
  await acts.do('select the bar', () => studio.select('Bar'));
  await acts.press('p');
  const dialog = page.getByRole('dialog', { name: 'Pair up' });
  await acts.do('seen hovered and pressed', () => dialog.getByLabel('with hover and press looks').check());
  await acts.do('apply', () => dialog.getByRole('button', { name: 'Apply' }).click());
  await acts.press('Shift+C');
  await acts.press('y');
  await acts.do('a way back everywhere', () => page.getByRole('button', { name: 'Place Back' }).click({ modifiers: ['Shift'] }));
  for (const [frame, kind] of [
    ['Aboard', 'success'],
    ['Declined', 'error'],
  ] as const) {
    const own = page.getByRole('navigation', { name: 'Frames' }).getByRole('button', { name: `Open ${frame}` });
    await acts.do(`what can be done with ${frame}`, () => own.click({ button: 'right' }));
    await acts.do(`choose ${kind}`, () => page.getByRole('group', { name: 'Kind' }).getByRole('button', { name: kind }).click());
  }
  await acts.try();
  const face = studio.stage.locator('[data-layer]').filter({ hasText: /^Fares$/ });
  const fill = () => face.last().evaluate((node) => getComputedStyle(node).backgroundColor);
  const rest = await fill();
  await studio.button('Fares').hover();
  await expect.poll(fill).not.toBe(rest);
  await acts.do('press a button of the bar', () => studio.button('Boats').click());
  await studio.running('Boats');
  await studio.button('‹ Back').click();
  await studio.running('Declined');
  await page.keyboard.press('Escape');
  for (const frame of frames.slice(0, 3)) {
    await studio.openFrame(frame);
    await expect(page.getByRole('group', { name: 'Sheet Bar', exact: true })).toContainText('over all frames');
  }
  for (const kind of ['success', 'error']) await expect(page.locator(`[title="${kind}"]`)).toHaveCount(1);
  finish('3  screens, common navigation, a way back', acts, 13);
});

test('job 9: message slider', async ({ studio, page }) => {
  await studio.given({
    frames: {
      Home: {
        layers: {
          Message: { at: [45, 100, 300, 120], text: 'Boats run on time', style: { fill: '#f7e6c3' } },
          Dot: { at: [110, 240, 48, 48], type: 'oval', style: { fill: navy } },
        },
      },
    },
  });
  const acts = new Acts(studio);
  await acts.press('Control+a');
  await acts.press('s');
  await acts.type('Wind,Tide,Fog');
  await acts.press('Enter');
  await acts.try();
  await expect(studio.button('Dot')).toHaveCount(3);
  await expect(studio.stage.getByText('Wind', { exact: true })).toBeInViewport();
  await acts.do('press the second', () => studio.button('Dot 2').click());
  await expect(studio.stage.getByText('Tide', { exact: true })).toBeInViewport();
  await expect(studio.button('Dot 2')).toHaveAttribute('aria-pressed', 'true');
  await expect(studio.stage.locator('[aria-pressed="true"]')).toHaveCount(1);
  await expect(page.getByRole('complementary', { name: 'Ledger' })).toContainText('300 ms');
  await page.keyboard.press('Escape');
  await page.getByRole('navigation', { name: 'Frames' }).getByRole('button', { name: 'Open the part Slides' }).click();
  for (const name of ['Dot', 'Dot 2', 'Dot 3']) {
    await studio.select(name);
    for (const look of ['Hover', 'Selected']) await expect(page.getByRole('group', { name: `${look} look` })).toBeVisible();
  }
  finish('9  message slider', acts, 10);
});

test('job 11: gallery with detail pages', async ({ studio, page }) => {
  const islands = ['Skarra', 'Orrin', 'Vell', 'Marrow', 'Tanner', 'Holm'];
  await studio.given({
    frames: {
      Gallery: {
        layers: {
          Row: { type: 'group', at: [0, 100, 390, 130], clip: true, scroll: 'x' },
          ...Object.fromEntries(
            islands.map((name, i) => [
              name,
              { in: 'Row', at: [16 + i * 140, 0, 124, 124] as const, text: name, style: { fill: ['#cfe1ea', '#f7e6c3'][i % 2]! } },
            ])
          ),
        },
      },
      Skarra: { layers: { Title: { at: [20, 20, 350, 40], type: 'text', text: 'Skarra', letters: { size: 28 } } } },
    },
  });
  const acts = new Acts(studio);
  await acts.do('open the detail page', () => studio.openFrame('Skarra'));
  await acts.press('y');
  await acts.type('Back');
  await acts.press('Enter');
  await acts.do('open the gallery', () => studio.openFrame('Gallery'));
  await acts.do('select the row', () => studio.select('Row'));
  await acts.press('p');
  await acts.do('a page for each', () => page.getByRole('button', { name: 'a page for each' }).click());
  await acts.do('apply', () => page.getByRole('dialog', { name: 'Pair up' }).getByRole('button', { name: 'Apply' }).click());
  await expect.poll(() => studio.frames()).toHaveLength(7);
  await acts.try();
  await acts.do('press a picture', () => studio.button('Orrin').click());
  await studio.running('Orrin');
  await expect(studio.stage.getByText('Orrin', { exact: true })).toBeVisible();
  await acts.do('and go back', () => studio.button('‹ Back').click());
  await studio.running('Gallery');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('navigation', { name: 'Frames' }).getByRole('heading', { name: 'Gallery pages' })).toBeVisible();
  finish('11 gallery with detail pages', acts, 16);
});

test('job 20: tabs on every page', async ({ studio, page }) => {
  const pages = ['Boats', 'Fares', 'Tides', 'Islands', 'Bicycles', 'Geese'];
  await studio.given({ frames: Object.fromEntries(pages.map((name) => [name, {}])) });
  const acts = new Acts(studio);
  await acts.press('b');
  await acts.do('draw one tab', () => studio.drag([9, 60], [80, 108]));
  await acts.press('r');
  await acts.do('one for each frame', () => page.getByRole('button', { name: 'one for each of 6 frames' }).click());
  await acts.do('make them', () => page.getByRole('button', { name: 'Make 6' }).click());
  await acts.press('Shift+C');
  await acts.try();
  await expect(studio.button('Boats')).toHaveAttribute('aria-pressed', 'true');
  await acts.do('press a tab', () => studio.button('Tides').click());
  await studio.running('Tides');
  await expect(studio.button('Tides')).toHaveAttribute('aria-pressed', 'true');
  await expect(studio.button('Boats')).toHaveAttribute('aria-pressed', 'false');
  const boxes = await Promise.all(pages.map(async (name) => (await studio.button(name).boundingBox())!));
  const gaps = boxes.slice(1).map((box, i) => Math.round((box.x - boxes[i]!.x - boxes[i]!.width) * 10) / 10);
  expect(new Set(gaps).size).toBe(1);
  expect(new Set(boxes.map((box) => Math.round(box.width))).size).toBe(1);
  finish('20 tabs on every page', acts, 12);
});
