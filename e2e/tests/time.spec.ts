import { Seam } from './seam.ts';
import { expect, test, type Studio } from './studio.ts';

const gold = '#f0b13c';

const place = (studio: Studio) => studio.page.getByRole('toolbar', { name: 'Properties' }).getByLabel('x', { exact: true });

test('sections, keys and endings made by hand play as they were made', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Clock: {
        size: [640, 400],
        layers: { Boat: { at: [20, 100, 60, 40], style: { fill: gold } }, Sun: { at: [300, 40, 40, 40], type: 'oval', style: { fill: gold } } },
      },
    },
  });
  const seam = new Seam(studio);
  await seam.open();
  await seam.begin('Ebb, Flood, Slack', 1);
  expect(await seam.sections()).toEqual(['Ebb, 24 frames, holds', 'Flood, 24 frames, holds', 'Slack, 24 frames, holds']);
  await expect(seam.words()).toHaveText('Ebb, frame 1 of 24 (0 s)');

  // A moment, and what is moved there: a key here, and one where the section begins.
  await seam.stand('Ebb + 23');
  await studio.select('Boat');
  await place(studio).fill('220');
  await place(studio).press('Enter');
  expect(await seam.knots('Boat')).toEqual([0, 23]);
  await seam.stand('12');
  await expect(place(studio)).toHaveValue('115.65');
  await expect(page.getByText('2 layers, 1 moving')).toBeVisible();

  // An edit reaches what is said, and undo names the moment.
  await page.getByRole('button', { name: /^Edits reach in time/ }).click();
  await page.getByRole('option', { name: 'all of time' }).click();
  await place(studio).fill('125.65');
  await place(studio).press('Enter');
  await seam.stand('1');
  await expect(place(studio)).toHaveValue('30');
  await page.keyboard.press('Control+z');
  await expect(place(studio)).toHaveValue('20');

  await expect(studio.sheet.locator('[data-ways="1"]')).toHaveCount(1);

  // Endings, and a section that is moved with all in it.
  await page.getByRole('button', { name: /^Ending of Ebb/ }).click();
  await page.getByRole('option', { name: /^goes on/ }).click();
  expect((await seam.sections())[0]).toBe('Ebb, 24 frames, goes on');
  const tag = page.getByRole('button', { name: /^Section Ebb/ });
  await tag.focus();
  await page.keyboard.press('Alt+ArrowRight');
  expect((await seam.sections()).map((one) => one.split(',')[0])).toEqual(['Flood', 'Ebb', 'Slack']);
  expect((await seam.knots('Boat')).filter((time) => time === 24 || time === 47)).toEqual([24, 47]);
  await page.keyboard.press('Control+z');

  // Longer by its edge: what follows moves along.
  const edge = (await page.locator('[data-edge]').first().boundingBox())!;
  await page.mouse.move(edge.x + 3, edge.y + 8);
  await page.mouse.down();
  await page.mouse.move(edge.x + 63, edge.y + 8, { steps: 5 });
  await page.mouse.up();
  const [ebb, flood] = await seam.sections();
  expect(Number(/(\d+) frames/.exec(ebb!)![1])).toBeGreaterThan(24);
  expect(flood).toBe('Flood, 24 frames, holds');
  await page.keyboard.press('Control+z');
  expect((await seam.sections())[0]).toBe('Ebb, 24 frames, goes on');

  // It runs: through Ebb into Flood, where it holds.
  await page.keyboard.press('t');
  const boat = page
    .locator('[data-running] [data-layer]')
    .filter({ has: page.locator(':scope') })
    .first();
  await expect(boat).toBeVisible();
  await expect
    .poll(() =>
      page
        .locator('[data-running] .zany-layer')
        .evaluateAll((nodes) => Math.max(...nodes.map((node) => new DOMMatrix(getComputedStyle(node).transform).e)))
    )
    .toBeGreaterThanOrEqual(300);
  await expect
    .poll(() => page.locator('[data-running] .zany-box').evaluate((node) => Math.round(new DOMMatrix(getComputedStyle(node).transform).e)), {
      timeout: 6000,
    })
    .toBe(220);
  await page.keyboard.press('Escape');
});

test('keys are moved, staggered and eased, layers come and go, by the keyboard alone', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Clock: {
        size: [640, 400],
        layers: Object.fromEntries(
          ['One', 'Two', 'Three'].map((name, i) => [name, { at: [20 + i * 80, 100, 60, 40] as const, style: { fill: gold } }])
        ),
      },
    },
  });
  const seam = new Seam(studio);
  await seam.open();
  await seam.begin('All', 4);
  await studio.select('One');
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: /^Add in time/ }).click();
  await page.keyboard.type('fade in');
  await page.keyboard.press('Enter');
  for (const name of ['One', 'Two', 'Three']) expect(await seam.knots(name)).toEqual([0, 12]);
  const row = seam.row('Two');
  await row.focus();
  await page.keyboard.press('ArrowRight');
  await expect(seam.words()).toHaveAttribute('data-moment', '12');
  await page.keyboard.press('Alt+ArrowRight');
  await page.keyboard.press('Alt+Shift+ArrowRight');
  expect(await seam.knots('Two')).toEqual([0, 23]);
  await page.keyboard.press('Delete');
  expect(await seam.knots('Two')).toEqual([0]);
  await page.keyboard.press('Control+z');
  await seam.stand('2 s');
  await studio.select('Three');
  await page.getByRole('button', { name: /^Add in time/ }).click();
  await page.keyboard.type('there from here');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-span]')).toHaveCount(1);
  await seam.stand('1 s');
  await expect(studio.sheet.locator('.zany-scene').first().locator('.zany-layer')).toHaveCount(2);
  await seam.stand('3 s');
  await expect(studio.sheet.locator('.zany-scene').first().locator('.zany-layer')).toHaveCount(3);
  // The ruler by keys: next thing, section, end; a label here.
  await page.getByRole('slider', { name: 'Playhead' }).focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('>');
  await expect(seam.words()).toHaveAttribute('data-moment', '12');
  await page.keyboard.press('End');
  await expect(seam.words()).toHaveAttribute('data-moment', '95');
  await seam.stand('60');
  await page.getByRole('slider', { name: 'Playhead' }).focus();
  await page.keyboard.press('l');
  await page.keyboard.type('Late');
  await page.keyboard.press('Enter');
  expect(await seam.sections()).toEqual(['All, 59 frames, holds', 'Late, 37 frames, holds']);
  await studio.saved();
  await page.reload();
  await seam.open();
  expect(await seam.sections()).toEqual(['All, 59 frames, holds', 'Late, 37 frames, holds']);
});

test('what has keys is never moved in vain, whether time is looked at or not', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Clock: {
        size: [640, 400],
        layers: { Boat: { at: [20, 100, 60, 40], style: { fill: gold } } },
        timeline: {
          length: 24,
          tracks: [
            [
              'Boat',
              'x',
              [
                [0, 20],
                [23, 250],
              ],
            ],
          ],
        },
      },
    },
  });
  await studio.select('Boat');
  await expect(place(studio)).toHaveValue('20');
  await page.keyboard.press('Shift+ArrowRight');
  await expect(place(studio)).toHaveValue('30');
  const seam = new Seam(studio);
  await seam.open();
  await seam.stand('24');
  await expect(place(studio)).toHaveValue('250');
  await studio.drag([280, 120], [330, 120]);
  await expect(place(studio)).toHaveValue('300');
  await seam.stand('1');
  await expect(place(studio)).toHaveValue('30');
});

test('buttons lead to sections: by landings with their pictures, by a line that makes what is missing, all in one go', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Kiosk: {
        size: [640, 400],
        layers: {
          Ebb: { at: [20, 340, 120, 48], text: 'Ebb', style: { fill: gold } },
          Flood: { at: [160, 340, 120, 48], text: 'Flood', style: { fill: gold } },
          Storm: { at: [300, 340, 120, 48], text: 'Storm', style: { fill: gold } },
          Boat: { at: [20, 100, 60, 40], type: 'oval', style: { fill: '#1f4e5f' } },
        },
      },
    },
  });
  const seam = new Seam(studio);
  await seam.open();
  await seam.begin('Flood, Ebb', 1);
  await studio.select('Boat');
  await seam.stand('Ebb');
  await page.getByRole('button', { name: /^Add in time/ }).click();
  await page.keyboard.type('there from here');
  await page.keyboard.press('Enter');
  await seam.stand('1');
  await expect(studio.row('Boat')).toContainText('only in Ebb');
  await studio.select('Ebb');
  await studio.select('Flood', ['Control']);
  await page.keyboard.press('p');
  const dialog = page.getByRole('dialog', { name: 'Pair up' });
  await dialog.getByRole('button', { name: 'play from labels' }).click();
  await expect(dialog.getByRole('button', { name: 'Label for Ebb: Ebb' })).toBeVisible();
  await dialog.getByRole('button', { name: 'Apply' }).click();
  await expect(studio.row('Flood').getByRole('group', { name: 'Thread: click → play from Flood' })).toBeVisible();
  // A section that is not there cannot be named in vain.
  await studio.select('Storm');
  await page.keyboard.press('Enter');
  await page.keyboard.type('click → play from Storm');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'make the section “Storm”' }).click();
  await expect(studio.row('Storm').getByRole('group', { name: 'Thread: click → play from Storm' })).toBeVisible();
  expect((await seam.sections()).map((one) => one.split(',')[0])).toEqual(['Flood', 'Ebb', 'Storm']);
  await studio.select('Storm');
  await page.getByRole('group', { name: 'Play from a label' }).getByRole('button', { name: 'Play from Ebb' }).click();
  await expect(studio.row('Storm').getByRole('group', { name: 'Thread: click → play from Ebb' })).toBeVisible();
  await page.keyboard.press('Control+z');
  await page.keyboard.press('t');
  await studio.button('Ebb').click();
  await expect(page.locator('[data-running] .zany-oval')).toBeVisible();
  await studio.button('Flood').click();
  await expect(page.locator('[data-running] .zany-oval')).toHaveCount(0);
});

test('a part with a time of its own is seen in its row, and says what it does when it comes again', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    parts: {
      Gull: {
        size: [60, 40],
        timeline: {
          length: 24,
          labels: { Rise: [0, 'go on'], Fall: [12, 'hold'] },
          tracks: [
            [
              'wing',
              'y',
              [
                [0, 0],
                [23, 20],
              ],
            ],
          ],
        },
        layers: { wing: { at: [0, 0, 60, 20], style: { fill: gold } } },
      },
    },
    frames: {
      Sky: {
        size: [640, 400],
        timeline: { length: 72, labels: { Ebb: [0, 'hold'], Flood: [36, 'hold'] }, spans: [['gull', 36, 71]] },
        layers: { gull: { type: 'placement', part: 'Gull', at: [100, 100, 60, 40] } },
      },
    },
  });
  const seam = new Seam(studio);
  await seam.open();
  await seam.stand('Flood');
  await expect(page.locator('[data-inner]')).toHaveCount(2);
  await studio.select('gull');
  await page.getByRole('button', { name: 'On return: start over' }).click();
  await page.getByRole('option', { name: /^play only once/ }).click();
  await expect(page.getByRole('button', { name: 'On return: play only once' })).toBeVisible();
  await studio.saved();
  await page.reload();
  await studio.select('gull');
  await expect(page.getByRole('button', { name: 'On return: play only once' })).toBeVisible();
});

test('keys are pulled, framed, and the way between them bent with the mouse; the ending follows the last key', async ({ studio, page }) => {
  const tracks = ['One', 'Two'].map(
    (name, i) =>
      [
        name,
        'x',
        [
          [0, i * 10],
          [11 + i * 12, 200],
        ],
      ] as const
  );
  await studio.given({
    size: [640, 400],
    frames: {
      Clock: {
        size: [640, 400],
        timeline: {
          length: 48,
          labels: { Ebb: [0, 'hold'], Flood: [24, 'hold'] },
          tracks: tracks.map(([layer, property, keys]) => [layer, property, keys.map(([time, value]) => [time!, value!])]),
        },
        layers: { One: { at: [0, 20, 60, 40], style: { fill: gold } }, Two: { at: [10, 80, 60, 40], style: { fill: gold } } },
      },
    },
  });
  const seam = new Seam(studio);
  await page.keyboard.press('m');
  const knot = (layer: string, time: number) => seam.row(layer).locator(`[data-knot="${time}"]`);
  const pull = async (from: { x: number; y: number }, to: { x: number; y: number }) => {
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move((from.x + to.x) / 2, (from.y + to.y) / 2, { steps: 3 });
    await page.mouse.move(to.x, to.y, { steps: 3 });
    const seen = await drawn();
    await page.mouse.up();
    return seen;
  };
  /** Where the knot of the first row that is chosen is drawn while it is pulled: the middle of what is gold there, in px; null for nothing. */
  const drawn = () =>
    seam.row('One').evaluate((row) => {
      const canvas = row.closest('[role=grid]')?.querySelector('canvas');
      if (!canvas) return null;
      const [gold] = [document.createElement('canvas').getContext('2d')!].map((context) => {
        context.fillStyle = getComputedStyle(canvas).getPropertyValue('--gold').trim();
        context.fillRect(0, 0, 1, 1);
        return context.getImageData(0, 0, 1, 1).data;
      });
      const [box, place] = [row.getBoundingClientRect(), canvas.getBoundingClientRect()];
      const y = Math.round((box.top + box.height / 2 - place.top) * devicePixelRatio);
      const { data } = canvas.getContext('2d')!.getImageData(0, y, canvas.width, 1);
      const found = Array.from({ length: canvas.width }, (_, x) => x).filter((x) => [0, 1, 2].every((i) => data[x * 4 + i] === gold![i]));
      return found.length ? (found[0]! + found.at(-1)! + 1) / 2 / devicePixelRatio : null;
    });
  const middle = async (layer: string, time: number) => {
    const box = (await knot(layer, time).boundingBox())!;
    return { x: box.x + box.width / 2, y: box.y + box.height / 2 };
  };

  // One key, to where nothing catches it: it goes as far as it was pulled, and nothing else moves.
  const [a, b] = [await middle('One', 0), await middle('One', 11)];
  const perFrame = (b.x - a.x) / 11;
  const pulled = await pull(b, { x: b.x + perFrame * 5, y: b.y });
  expect(pulled).toBeCloseTo(perFrame * 16.5, 0);
  expect(await seam.knots('One')).toEqual([0, 16]);
  expect(await seam.sections()).toEqual(['Ebb, 24 frames, holds', 'Flood, 24 frames, holds']);

  // The last key of a section takes its ending along, and what comes after it.
  const last = await middle('Two', 23);
  await pull(last, { x: last.x + perFrame * 8, y: last.y });
  expect(await seam.knots('Two')).toEqual([0, 31]);
  expect(await seam.sections()).toEqual(['Ebb, 32 frames, holds', 'Flood, 24 frames, holds']);
  await page.keyboard.press('Control+z');
  expect(await seam.sections()).toEqual(['Ebb, 24 frames, holds', 'Flood, 24 frames, holds']);
  // So it does by the keyboard.
  await seam.row('Two').focus();
  await page.keyboard.press('Home');
  await page.keyboard.press('ArrowRight');
  await page.keyboard.press('Alt+Shift+ArrowRight');
  await page.keyboard.press('Alt+ArrowLeft');
  expect(await seam.knots('Two')).toEqual([0, 32]);
  expect(await seam.sections()).toEqual(['Ebb, 33 frames, holds', 'Flood, 24 frames, holds']);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');

  // A frame around keys of several rows.
  const corner = await middle('Two', 0);
  const far = await middle('One', 16);
  await pull({ x: corner.x + perFrame * 3, y: corner.y + 9 }, { x: corner.x + perFrame * 25, y: far.y - 9 });
  await expect(page.getByText('2 keys', { exact: true })).toBeVisible();
  await page.keyboard.press('Delete');
  expect([await seam.knots('One'), await seam.knots('Two')]).toEqual([[0], [0]]);
  await page.keyboard.press('Control+z');

  // Where there is little room nothing moves from under the pointer as what can be done with keys comes and goes.
  await page.setViewportSize({ width: 1024, height: 700 });
  const keys = page.getByRole('group', { name: 'Keys', exact: true });
  const stands = async () => (await seam.row('One').boundingBox())!.y;
  await page.keyboard.press('Escape');
  await expect(keys).toBeHidden();
  const before = await stands();
  const key = await middle('One', 16);
  await page.mouse.click(key.x, key.y);
  await expect(keys).toBeVisible();
  expect(await stands()).toBe(before);
  await page.setViewportSize({ width: 1280, height: 800 });

  // The way between two keys is pulled to where it is held, and caught by the named ones.
  await page.getByRole('button', { name: 'Open One' }).click();
  const line = page.getByRole('gridcell', { name: 'One, x: 2 keys' });
  const [low, high] = await line.locator('[data-knot]').evaluateAll((knots) =>
    knots.map((one) => {
      const { x, y, width, height } = one.getBoundingClientRect();
      return { x: x + width / 2, y: y + height / 2 };
    })
  );
  const half = { x: (low!.x + high!.x) / 2, y: (low!.y + high!.y) / 2 };
  await page.mouse.move(half.x, half.y);
  await page.mouse.down();
  await page.mouse.move(half.x, low!.y + (high!.y - low!.y) * 0.31, { steps: 4 });
  await page.mouse.up();
  await page.getByRole('button', { name: 'Undo' }).hover();
  await expect(page.getByRole('button', { name: 'Undo' })).toHaveAttribute('title', /Easing ease-in/);
});
