import { compose, LARGE, largePiece, type PlacedSpec } from '@zany/core/testing';
import { expect, test } from '../tests/studio.ts';
import { answers, timeAnswers } from './answer.ts';

const ms = (n: number) => `${n.toFixed(n < 10 ? 1 : 0)} ms`;

/** Tells of times against what nineteen of twenty may take, in milliseconds. */
function tell(what: string, times: readonly number[], limit: number): void {
  const sorted = [...times].sort((a, b) => a - b);
  const at = (share: number) => sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))]!;
  expect(sorted.length).toBeGreaterThan(10);
  const share = at(0.95) / limit;
  const held = share <= 1 ? 'met' : `missed, ${share.toFixed(1)} ×`;
  console.log(`\r  ${what.padEnd(62)} ${`${ms(at(0.5))} median, ${ms(at(0.95))} 95th`.padEnd(34)} budget ${limit} ms 95th: ${held}`);
}

test('key presses in the cue sheet of the large piece', async ({ studio, page }) => {
  await studio.givenPiece(largePiece(LARGE));
  for (let i = 0; i < 30; i++) await page.keyboard.press('PageDown');
  await page.keyboard.press('.');
  await expect(studio.looseEnds()).toHaveText(/loose end/, { timeout: 60_000 });
  await timeAnswers(page, 'keydown');
  const press = async (what: string, keys: readonly string[], between = 160) => {
    await answers(page);
    for (const key of keys) {
      await page.keyboard.press(key);
      await page.waitForTimeout(between);
    }
    tell(`press to paint: ${what}`, (await answers(page)).toPaint, 50);
  };
  const many = (key: string, times = 30) => Array.from({ length: times }, () => key);
  await press('a key that does nothing, beside the others', many('F9'));
  await press('nudge a layer', many('ArrowRight'));
  await press('nudge at the speed of a held key', many('ArrowDown', 40), 33);
  await press('select the next layer', many('.'));
  await press('open the next frame', many('PageDown', 24), 500);
  await page.keyboard.press('.');
  await page.keyboard.press('Enter');
  await press('write a thread line', [...'click -> go to Frame 120']);
});

test('drags over 300 layers', async ({ studio, page }) => {
  const layers = Object.fromEntries<PlacedSpec>(
    Array.from({ length: 300 }, (_, i) => [`L${i}`, { at: [(i % 20) * 18, Math.floor(i / 20) * 40, 16, 30], style: { fill: '#f0b13c' } }])
  );
  await studio.givenPiece(compose({ frames: { home: { layers } } }));
  const box = (await studio.sheet.boundingBox())!;
  await timeAnswers(page, 'pointermove');
  await page.mouse.move(box.x + 5, box.y + 5);
  await page.mouse.down();
  for (let i = 1; i < 80; i++) await page.mouse.move(box.x + 5 + i * 2, box.y + 5 + i * 3);
  tell('dragging one of 300 layers: work of a frame', (await answers(page)).work, 16.7);
  await page.mouse.up();
});

test('the map of 400 frames', async ({ studio, page }) => {
  await studio.givenPiece(largePiece(LARGE));
  await studio.desk('Map');
  const map = page.locator('[data-map]');
  await expect(map.locator('[data-frame]').first()).toBeVisible({ timeout: 60_000 });
  await page.waitForTimeout(3000);
  const box = (await map.boundingBox())!;
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await timeAnswers(page, 'wheel');
  for (let i = 0; i < 60; i++) await page.mouse.wheel(i % 2 ? 40 : -30, 60);
  tell('map: panning over 400 frames, work of a frame', (await answers(page)).work, 16.7);
  await page.keyboard.down('Control');
  for (let i = 0; i < 60; i++) await page.mouse.wheel(0, i < 30 ? -60 : 60);
  await page.keyboard.up('Control');
  tell('map: zooming over 400 frames, work of a frame', (await answers(page)).work, 16.7);
});

for (const [keyed, keys] of [
  [300, 600],
  [100, 200],
] as const)
  test(`the seam with 300 layers, ${keyed} of which have keys`, async ({ studio, page }) => {
    const names = Array.from({ length: 300 }, (_, i) => `L${i}`);
    const layers = Object.fromEntries<PlacedSpec>(
      names.map((name, i) => [name, { at: [(i % 20) * 18, Math.floor(i / 20) * 40, 16, 30], style: { fill: '#f0b13c' } }])
    );
    const tracks = names
      .slice(0, keyed)
      .map((name, i) => [name, 'x', [0, 60, 120, 180, 239].map((time, k) => [time, (i % 20) * 18 + k * 5] as const)] as const);
    await studio.givenPiece(
      compose({ frames: { home: { layers, timeline: { length: 240, labels: { Ebb: [0, 'hold'], Flood: [120, 'hold'] }, tracks } } } })
    );
    await page.getByRole('region', { name: 'Strip' }).getByRole('tab', { name: 'Time' }).click();
    const ruler = (await page.locator('[data-ruler]').boundingBox())!;
    await timeAnswers(page, 'pointermove');
    await page.mouse.move(ruler.x + 2, ruler.y + 8);
    await page.mouse.down();
    for (let i = 1; i < 120; i++) await page.mouse.move(ruler.x + 2 + ((i * 7) % ruler.width), ruler.y + 8);
    tell(`seam: scrubbing 300 layers with ${keyed * 5} keys, work of a frame`, (await answers(page)).work, 16.7);
    await page.mouse.up();
    const edge = (await page.locator('[data-edge]').first().boundingBox())!;
    await page.mouse.move(edge.x + 3, edge.y + 8);
    await answers(page);
    await page.mouse.down();
    // Three seconds of it, each move to another length.
    for (let i = 1; i < 180; i++) await page.mouse.move(edge.x + 3 + ((i * 3) % 121), edge.y + 8);
    tell(`seam: pulling a section of ${keys} keys, work of a frame`, (await answers(page)).work, 16.7);
    await page.mouse.up();
  });

test('scenes of 5,000 keys', async ({ studio, page }) => {
  const layers = Object.fromEntries<PlacedSpec>(
    Array.from({ length: 250 }, (_, i) => [`L${i}`, { at: [(i % 20) * 18, Math.floor(i / 20) * 40, 16, 30], style: { fill: '#f0b13c' } }])
  );
  const keys = Array.from({ length: 20 }, (_, k) => [k * 12, k * 9] as const);
  const scene = { layers, timeline: { length: 240, tracks: Object.keys(layers).map((name) => [name, 'x', keys] as const) } };
  await studio.givenPiece(compose({ frames: { home: scene, away: scene } }));
  await page.getByRole('region', { name: 'Strip' }).getByRole('tab', { name: 'Time' }).click();
  await expect(studio.looseEnds()).toBeVisible({ timeout: 60_000 });
  await page.waitForTimeout(1500);
  await timeAnswers(page, 'keydown');
  await page.locator('[data-sheet]').click({ position: { x: 2, y: 2 } });
  for (let i = 0; i < 24; i++) {
    await page.keyboard.press(i % 2 ? 'PageUp' : 'PageDown');
    await page.waitForTimeout(700);
  }
  tell('press to paint: open a scene of 5,000 keys', (await answers(page)).toPaint, 100);
  await page.locator('[data-ruler]').focus();
  await answers(page);
  for (let i = 0; i < 30; i++) {
    await page.keyboard.press('ArrowRight');
    await page.waitForTimeout(160);
  }
  tell('press to paint: the next timeline frame', (await answers(page)).toPaint, 50);
});
