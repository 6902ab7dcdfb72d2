import { different } from './apart.ts';
import { Seam } from './seam.ts';
import { expect, test } from './studio.ts';

/** A page that counts what changes in its elements. */
interface Counted {
  changes: number;
}

test('lines are drawn, words typed out, numbers counted up; what moves looks where it goes', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Opening: {
        size: [640, 400],
        timeline: { length: 48 },
        layers: {
          Wave: { type: 'line', at: [20, 200, 300, 40], style: { line: { color: '#0b7a75', width: 4 } } },
          Title: { type: 'text', text: 'Kittiwake Line', at: [20, 40, 300, 40] },
          Fare: { type: 'text', text: '1,250 boats', at: [20, 90, 300, 40] },
          Boat: { at: [20, 300, 60, 30], style: { fill: '#f0b13c' } },
        },
      },
    },
  });
  const seam = new Seam(studio);
  await page.keyboard.press('m');
  for (const [layer, motion] of [
    ['Wave', 'draw the line'],
    ['Title', 'type out'],
    ['Fare', 'count up'],
  ] as const) {
    await studio.select(layer);
    await seam.add(motion);
  }
  // A box has no line to be drawn, a line no letters to be typed.
  await studio.select('Boat');
  await page.getByRole('button', { name: /^Add in time/ }).click();
  await expect(page.getByRole('option', { name: 'draw the line' })).toHaveCount(0);
  await expect(page.getByRole('option', { name: 'type out' })).toHaveCount(0);
  await page.keyboard.press('Escape');
  await page.locator('[data-ruler]').focus();
  await page.keyboard.press('k');
  await seam.stand('25');
  await page.getByRole('toolbar', { name: 'Properties' }).getByLabel('y', { exact: true }).fill('100');
  await page.getByRole('toolbar', { name: 'Properties' }).getByLabel('y', { exact: true }).press('Enter');
  await seam.add('turned along');
  const stage = studio.sheet.locator('.zany-screen').first();
  const unwritten = stage.locator('.zany-unwritten');
  const dash = () => stage.locator('.zany-line path').getAttribute('stroke-dasharray');

  await seam.stand('1');
  await expect(unwritten).toHaveText('Kittiwake Line');
  await expect(stage).toContainText('0 boats');
  expect(Number((await dash())!.split(' ')[0])).toBe(0);
  await seam.stand('13');
  await expect(unwritten).not.toHaveText('Kittiwake Line');
  expect(Number((await dash())!.split(' ')[0])).toBeCloseTo(Math.hypot(300, 40) / 2, 0);
  const turned = () =>
    stage.locator('.zany-box').evaluate((node) => {
      const { a, b } = new DOMMatrix(getComputedStyle(node).transform);
      return Math.round((Math.atan2(b, a) * 180) / Math.PI);
    });
  expect(await turned()).toBe(-90);
  await seam.stand('48');
  await expect(unwritten).toHaveCount(0);
  await expect(stage).toContainText('1,250 boats');
  expect(await dash()).toBeNull();

  // In the piece that runs the words are there for those who listen, from the first moment on.
  await page.keyboard.press('Escape');
  await page.keyboard.press('t');
  await expect(studio.stage.getByText('Kittiwake Line')).toBeVisible();
  await expect(studio.stage.locator('.zany-unwritten')).toHaveCount(0, { timeout: 5000 });
});

test('easings are kept under names and change everywhere; springs have a handle', async ({ studio, page }) => {
  const keys = [
    [0, 0],
    [20, 200],
    [40, 0],
  ] as const;
  await studio.given({
    size: [640, 400],
    frames: {
      Opening: {
        size: [640, 400],
        timeline: { length: 48, tracks: [['Boat', 'x', keys] as const, ['Gull', 'x', keys] as const] },
        layers: { Boat: { at: [0, 40, 60, 40] }, Gull: { at: [0, 140, 60, 40] } },
      },
    },
  });
  const seam = new Seam(studio);
  await page.keyboard.press('m');
  const chip = page.getByRole('button', { name: /^Easing: / });
  const knot = (layer: string, time: number) => seam.row(layer).locator(`[data-knot="${time}"]`).first();
  await knot('Boat', 0).click();
  await chip.click();
  await page.getByRole('button', { name: 'overshoot(0.1)' }).click();
  await expect(chip).toHaveText('overshoot(0.1)');
  await page.getByLabel('Name for this easing').fill('Lively');
  await page.getByLabel('Name for this easing').press('Enter');
  await expect(chip).toHaveText('Lively');
  await page.keyboard.press('Escape');
  await knot('Gull', 20).click();
  await chip.click();
  await page
    .getByRole('group', { name: 'Easings of the piece' })
    .getByRole('button', { name: /Lively/ })
    .first()
    .click();
  await expect(page.getByRole('group', { name: 'Easings of the piece' })).toContainText('2 places');
  // What is none is said, and nothing is changed.
  await page.getByLabel('Easing, as CSS writes it').fill('bouncy');
  await page.getByLabel('Easing, as CSS writes it').press('Enter');
  await expect(page.getByRole('alert')).toContainText('“bouncy” is no easing');
  await page.keyboard.press('Escape');

  // The handle of the one is pulled; then the name takes the other along.
  await seam.row('Gull').focus();
  await page.keyboard.press('Enter');
  const handle = page.locator('[data-swing]');
  await expect(handle).toHaveCount(1);
  const box = (await handle.boundingBox())!;
  await page.mouse.move(box.x + 4, box.y + 4);
  await page.mouse.down();
  await page.mouse.move(box.x + 4, box.y + 40, { steps: 4 });
  await page.mouse.up();
  await expect(chip).toHaveText(/^overshoot\(0\.[3-6]\d?\)$/);
  const pulled = await chip.textContent();
  await chip.click();
  await page.getByRole('button', { name: '“Lively” becomes this, in 1 place' }).click();
  await expect(chip).toHaveText('Lively');
  await page.keyboard.press('Escape');
  await knot('Boat', 0).click();
  await chip.click();
  await expect(page.getByLabel('Easing, as CSS writes it')).toHaveValue(pulled!);
  await page.keyboard.press('Escape');
  await page.keyboard.press('Control+z');
  await chip.click();
  await expect(page.getByLabel('Easing, as CSS writes it')).toHaveValue('overshoot(0.1)');
});

test('buttons are paired with sections and seen as selected in theirs; the seam runs along in what is tried', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    frames: {
      Board: {
        size: [640, 400],
        timeline: { length: 96, labels: { Ebb: [0, 'hold'], Flood: [48, 'hold'] } },
        layers: {
          Ebb: { at: [20, 40, 160, 56], text: 'Ebb', style: { fill: '#f7e6c3' } },
          Flood: { at: [200, 40, 160, 56], text: 'Flood', style: { fill: '#f7e6c3' } },
        },
      },
    },
  });
  await studio.select('Ebb');
  await studio.select('Flood', ['Control']);
  await page.keyboard.press('p');
  const dialog = page.getByRole('dialog', { name: 'Pair up' });
  await dialog.getByRole('button', { name: 'play from labels' }).click();
  await dialog.getByRole('checkbox', { name: /selected while its section/ }).check();
  await dialog.getByRole('button', { name: 'Apply' }).click();
  await page.keyboard.press('t');
  const running = page.locator('[data-run-seam]');
  await expect(running).toHaveAttribute('data-run-seam', 'Ebb');
  await expect(studio.button('Ebb')).toHaveAttribute('aria-pressed', 'true');
  await studio.button('Flood').click();
  await expect(running).toHaveAttribute('data-run-seam', 'Flood');
  await expect(studio.button('Ebb')).toHaveAttribute('aria-pressed', 'false');
  await expect(studio.button('Flood')).toHaveAttribute('aria-pressed', 'true');
  await expect(running).toHaveAttribute('aria-label', 'Standing in Flood', { timeout: 6000 });
});

test('cues that play and pause a clip are needles: put in, pulled along, taken out', async ({ studio, page }) => {
  await studio.given({
    size: [640, 400],
    parts: {
      Gull: {
        size: [60, 30],
        timeline: { length: 96, tracks: [['Wing', 'x', [[0, 0] as const, [95, 95] as const]]] },
        layers: { Wing: { at: [0, 0, 20, 20], style: { fill: '#1f4e5f' } } },
      },
    },
    frames: { Quay: { size: [640, 400], timeline: { length: 96 }, layers: { Gull: { type: 'placement', part: 'Gull', at: [20, 40, 60, 30] } } } },
  });
  const seam = new Seam(studio);
  await page.keyboard.press('m');
  await studio.select('Gull');
  await seam.stand('13');
  await seam.add('pause here');
  const needle = page.locator('[data-needle=pause]');
  await expect(needle).toHaveAttribute('aria-label', 'Gull pauses, frame 13');
  /** How far the wing has come, in frames of its clip. */
  const wing = () =>
    studio.sheet
      .locator('.zany-box')
      .first()
      .evaluate((node) => Math.round(new DOMMatrix(getComputedStyle(node).transform).e));
  await seam.stand('37');
  expect(await wing()).toBe(12);
  await seam.add('play on here');
  await seam.stand('49');
  expect(await wing()).toBe(24);

  const perFrame = await page.locator('[data-ruler]').evaluate((ruler) => ruler.getBoundingClientRect().width / 96);
  const box = (await needle.boundingBox())!;
  await page.mouse.move(box.x + 5, box.y + 5);
  await page.mouse.down();
  await page.mouse.move(box.x + 5 + perFrame * 12, box.y + 5, { steps: 4 });
  await page.mouse.up();
  await expect(needle).toHaveAttribute('aria-label', 'Gull pauses, frame 25');
  await seam.stand('37');
  expect(await wing()).toBe(24);
  await needle.focus();
  await page.keyboard.press('Alt+ArrowLeft');
  await expect(needle).toHaveAttribute('aria-label', 'Gull pauses, frame 24');
  await page.keyboard.press('Delete');
  await expect(needle).toHaveCount(0);
  expect(await wing()).toBe(36);
});

test('unlike outlines are faded into each other until they are matched; then one becomes the other', async ({ studio, page }) => {
  const [square, wave] = ['M0 0L100 0L100 100L0 100Z', 'M0 50C25 0 75 0 100 50C75 100 25 100 0 50Z'];
  await studio.given({
    size: [640, 400],
    frames: {
      Sea: {
        size: [640, 400],
        timeline: { length: 41, tracks: [['Sail', 'path', [[0, square] as const, [40, wave] as const]]] },
        layers: { Sail: { type: 'path', at: [100, 100, 200, 200], path: square, style: { fill: '#b4472e' } } },
      },
    },
  });
  const seam = new Seam(studio);
  await page.keyboard.press('m');
  const outline = () => studio.sheet.locator('.zany-path path').first().getAttribute('d');
  await seam.stand('11');
  expect(await outline()).toBe(square);
  const seen = () =>
    studio.sheet.locator('.zany-path path').evaluateAll((all) => all.map((one) => [one.getAttribute('d'), one.getAttribute('opacity')]));
  expect(await seen()).toEqual([
    [square, '0.75'],
    [wave, '0.25'],
  ]);
  // A key of what is seen there is one of the two.
  await studio.select('Sail');
  await seam.add('outline');
  expect(await seen()).toEqual([[square, null]]);
  await page.keyboard.press('Control+z');
  await seam.stand('21');
  const middle = await studio.sheet.screenshot();
  const { default: sharp } = await import('sharp');
  const { data, info } = await sharp(middle).raw().toBuffer({ resolveWithObject: true });
  const at = (Math.round(info.height / 2) * info.width + Math.round((200 / 640) * info.width)) * info.channels;
  // Where both are, nothing of what is behind shows through.
  expect([...data.subarray(at, at + 3)].every((value, i) => Math.abs(value - [0xb4, 0x47, 0x2e][i]!) <= 3)).toBe(true);
  await studio.select('Sail');
  await page.locator('[data-ruler]').focus();
  await page.keyboard.press('Control+a');
  await page.getByRole('button', { name: 'More for the keys' }).click();
  await page.getByRole('option', { name: /match the outlines/ }).click();
  await expect.poll(async () => (await seen()).length).toBe(1);
  /** The area of the outline at the playhead, in its box of 100 by 100. */
  const area = async () => {
    const points = (await outline())!.match(/-?[\d.]+ -?[\d.]+/g)!.map((pair) => pair.split(' ').map(Number) as [number, number]);
    return Math.abs(
      points.reduce((sum, [x, y], i) => sum + x * points[(i + 1) % points.length]![1] - points[(i + 1) % points.length]![0] * y, 0) / 2
    );
  };
  await seam.stand('1');
  expect(Math.abs((await area()) - 10_000)).toBeLessThan(200);
  await seam.stand('41');
  const end = await area();
  expect(Math.abs(end - 5250)).toBeLessThan(60);
  await seam.stand('21');
  expect(await area()).toBeGreaterThan(end);
  expect(await area()).toBeLessThan(10_000);
});

test('where much moves, a canvas shows it while the playhead is dragged, and looks as the layers do', async ({ studio, page }, info) => {
  const names = Array.from({ length: 140 }, (_, i) => `L${i}`);
  const at = (i: number) => [(i % 20) * 30 + 4, Math.floor(i / 20) * 50 + 6, 24, 40] as const;
  await studio.given({
    size: [640, 400],
    frames: {
      Quay: {
        size: [640, 400],
        layers: Object.fromEntries(
          names.map((name, i) => {
            const style = { fill: ['#0b7a75', '#e59a00', '#b23a26'][i % 3]!, ...(i % 7 === 0 && { line: { color: '#26232c', width: 3 } }) };
            if (i % 20 === 4) return [name, { at: at(i), type: 'text' as const, text: `No ${i}` }];
            return [name, { at: at(i), type: i % 5 === 0 ? ('oval' as const) : ('box' as const), style }];
          })
        ),
        timeline: {
          length: 40,
          tracks: [
            ...names.map((name, i) => [name, 'x', [[0, at(i)[0]] as const, [39, 620 - at(i)[0]] as const]] as const),
            ['L3', 'rotation', [[0, 0] as const, [39, 180] as const]] as const,
            ['L6', 'opacity', [[0, 1] as const, [39, 0.2] as const]] as const,
          ],
        },
      },
    },
  });
  await page.keyboard.press('m');
  const ruler = (await page.locator('[data-ruler]').boundingBox())!;
  const canvas = page.locator('[data-scene-canvas]');
  await page.mouse.move(ruler.x + ruler.width - 40, ruler.y + 8);
  await page.mouse.down();
  await expect(canvas).toHaveCount(0);
  for (const far of [200, 160]) await page.mouse.move(ruler.x + far, ruler.y + 8);
  await expect(canvas).toBeVisible();
  const held = await studio.sheet.screenshot({ path: info.outputPath('held.png') });
  await page.mouse.up();
  await expect(canvas).toHaveCount(0);
  const rest = await studio.sheet.screenshot({ path: info.outputPath('rest.png') });
  const { width, height } = (await studio.sheet.boundingBox())!;
  // Edges stand between pixels, where the two do not quite agree; nothing else may differ.
  const [some, much] = await different(page, held, rest, 64, 160);
  expect(some).toBeLessThan(0.01 * width * height);
  expect(much).toBeLessThan(0.001 * width * height);
});

test.describe('with room for all words of the strip', () => {
  test.use({ openSides: 'as they begin' });

  test('what is pulled along the seam is drawn as elements show it, which stand still meanwhile; a tag on the ruler says where it is', async ({
    studio,
    page,
  }, info) => {
    const names = ['Boat', 'Sail', 'Wave', 'Gull'];
    await studio.given({
      frames: {
        Quay: {
          layers: Object.fromEntries(names.map((name, i) => [name, { at: [i * 40, i * 40, 30, 30] as const, style: { fill: '#f0b13c' } }])),
          timeline: {
            length: 240,
            labels: { Ebb: [20, 'hold'], Flood: [100, 'loop'], 'A name that does not fit there': [150, 'go on'] },
            tracks: names.map((name, i) => [name, 'x', [0, 60, 120, 180, 239].map((time, k) => [time, i * 18 + k * 5] as const)] as const),
            spans: [
              ['Gull', 60, 100],
              ['Gull', 140, 200],
            ],
          },
        },
      },
    });
    await page.keyboard.press('m');
    const seam = new Seam(studio);
    const ruler = (await page.locator('[data-ruler]').boundingBox())!;
    // A scale of its own, which stays as it is however long all of it is.
    await page.mouse.move(ruler.x + 1, ruler.y + 8);
    await page.keyboard.down('Control');
    await page.mouse.wheel(0, -60);
    await page.keyboard.up('Control');
    const shownIn = page.locator('.scroll', { has: page.locator('[data-ruler]') }).last();
    const below = async (name: string) => {
      const { x, y, width, height } = (await shownIn.boundingBox())!;
      return page.screenshot({ path: info.outputPath(name), clip: { x, y: y + 19, width, height: height - 20 } });
    };
    const [canvas, tag] = [page.locator('[data-seam-canvas]'), page.locator('[data-seam-told]')];
    const edge = (await page.locator('[data-edge]').nth(1).boundingBox())!;
    const [x, y] = [edge.x + 3, edge.y + 8];
    await page.mouse.move(x, y);
    await page.mouse.down();
    await page.mouse.move(x + 20, y);
    await expect(canvas).toBeVisible();
    await page.evaluate(() => {
      (window as unknown as Counted).changes = 0;
      const count = (list: MutationRecord[]) => ((window as unknown as Counted).changes += list.length);
      new MutationObserver(count).observe(document.querySelector('[role=group][aria-label=Seam]')!, {
        subtree: true,
        attributes: true,
        childList: true,
        characterData: true,
      });
    });
    for (let by = 21; by < 40; by += 3) await page.mouse.move(x + by, y);
    expect(await page.evaluate(() => (window as unknown as Counted).changes)).toBe(0);
    const held = await below('held.png');
    expect(await seam.sections()).toContain('Ebb, 80 frames, holds');
    await page.mouse.up();
    await expect(canvas).toHaveCount(0);
    expect(await seam.sections()).not.toContain('Ebb, 80 frames, holds');
    await page.mouse.move(ruler.x + 300, 300);
    const rest = await below('rest.png');
    const { width, height } = (await shownIn.boundingBox())!;
    // Letters and round edges are smoothed a little differently.
    const [some, much] = await different(page, held, rest, 64, 160);
    expect(some).toBeLessThan(0.02 * width * height);
    expect(much).toBeLessThan(0.004 * width * height);

    // Scrubbing says the moment on the ruler, and the words of the strip are those of where it ends.
    await page.mouse.move(ruler.x + 40, ruler.y + 8);
    await page.mouse.down();
    await page.mouse.move(ruler.x + 200, ruler.y + 8);
    await expect(tag).toBeVisible();
    const before = await seam.words().textContent();
    await page.mouse.up();
    await expect(tag).toHaveCount(0);
    await expect(seam.words()).not.toHaveText(before!);
  });
});
