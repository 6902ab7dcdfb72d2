import type { Locator, Page } from '@playwright/test';
import { Fingers, type At } from './fingers.ts';
import { expect, test } from './studio.ts';

/** Work by fingers, as on a tablet: select, move, stretch, move the stage, zoom, wire by drawing, and a long press for the menu. */

test.use({ hasTouch: true, viewport: { width: 1180, height: 820 } });

const piece = {
  name: 'By finger',
  size: [400, 600] as [number, number],
  frames: {
    Quay: { layers: { Go: { at: [100, 100, 120, 60] as const, type: 'box' as const, style: { fill: '#f0b13c' } } } },
    Deck: { layers: { Rest: { at: [100, 300, 120, 60] as const, type: 'box' as const } } },
  },
};

/** Where a point of the open scene is on the screen. */
async function onScreen(page: Page, x: number, y: number): Promise<At> {
  const box = (await page.locator('[data-sheet]').boundingBox())!;
  return [box.x + (x / 400) * box.width, box.y + (y / 600) * box.height];
}

const numberOf = (page: Page, name: string) => page.getByRole('toolbar').getByRole('spinbutton', { name, exact: true }).inputValue().then(Number);
const scaleOf = (page: Page) => page.locator('[data-sheet]').evaluate((node) => node.getBoundingClientRect().width / 400);

test('on the stage: a tap selects, a finger moves and stretches, two zoom and do nothing else, a long press asks', async ({ studio, page }) => {
  await studio.given(piece);
  const fingers = await Fingers.on(page);
  const row = page.locator('[data-row]').filter({ hasText: 'Go' });
  await fingers.tap(await onScreen(page, 160, 130));
  await expect(row).toHaveAttribute('aria-selected', 'true');
  expect([await numberOf(page, 'x'), await numberOf(page, 'width')]).toEqual([100, 120]);

  await fingers.glide([await onScreen(page, 160, 130)], [await onScreen(page, 190, 190)]);
  await expect.poll(() => numberOf(page, 'x')).toBeGreaterThan(120);
  const [x, y, w] = [await numberOf(page, 'x'), await numberOf(page, 'y'), await numberOf(page, 'width')];
  expect(w).toBe(120);

  // A fingertip beside the small handle is on it.
  const handle = (await page.locator('[data-handle=se]').boundingBox())!;
  const corner: At = [handle.x + handle.width / 2 + 8, handle.y + handle.height / 2 + 8];
  await fingers.glide([corner], [[corner[0] + 60, corner[1] + 40]]);
  await expect.poll(() => numberOf(page, 'width')).toBeGreaterThan(140);
  expect(await numberOf(page, 'x')).toBe(x);

  // Two fingers, of which one begins on the layer: it is zoomed, and nothing is moved.
  const before = await scaleOf(page);
  const [a, b] = [await onScreen(page, 180, 210), await onScreen(page, 260, 400)];
  await fingers.glide(
    [a, b],
    [
      [a[0] - 40, a[1] - 60],
      [b[0] + 40, b[1] + 60],
    ]
  );
  await expect.poll(() => scaleOf(page)).toBeGreaterThan(before * 1.2);
  expect([await numberOf(page, 'x'), await numberOf(page, 'y')]).toEqual([x, y]);

  // One finger on nothing moves the stage; a tap there selects nothing.
  const ground = page.locator('[data-stage]');
  const scrolled = () => ground.evaluate((node) => [node.scrollLeft, node.scrollTop]);
  const [left, top] = (await scrolled()) as [number, number];
  const empty = await onScreen(page, 40, 480);
  await fingers.glide([empty], [[empty[0] + 50, empty[1] - 70]]);
  expect(await scrolled()).toEqual([left - 50, top + 70]);
  await expect(row).toHaveAttribute('aria-selected', 'true');
  await fingers.tap(await onScreen(page, 40, 500));
  await expect(row).toHaveAttribute('aria-selected', 'false');

  // A long press opens the menu, which stays when the finger is lifted.
  const held = await onScreen(page, x + 20, y + 20);
  await fingers.down(held);
  await expect(page.getByRole('menu', { name: 'Layer' })).toBeVisible();
  await fingers.up();
  const duplicate = page.getByRole('menuitem', { name: /^Duplicate/ }).first();
  await expect(duplicate).toBeVisible();
  const item = (await duplicate.boundingBox())!;
  await fingers.tap([item.x + 30, item.y + item.height / 2]);
  await expect(page.locator('[data-row]').filter({ hasText: /Go/ })).toHaveCount(2);
});

test('on the map: fingers move and zoom it, a stitch is drawn from a layer to a frame, two taps open one', async ({ studio, page }) => {
  await studio.given(piece);
  await studio.desk('Map');
  const fingers = await Fingers.on(page);
  const frame = (name: string) => page.locator('[data-map]').getByRole('button', { name: new RegExp(`^${name}, frame`) });
  const middleOf = async (name: string): Promise<At> => {
    const box = (await frame(name).boundingBox())!;
    return [box.x + box.width / 2, box.y + box.height / 2];
  };
  await expect(frame('Quay')).toBeVisible();

  // Also from on a frame.
  const [x, y] = await middleOf('Quay');
  await fingers.glide([[x, y]], [[x + 60, y + 30]]);
  const moved = await middleOf('Quay');
  expect(moved[0]).toBeCloseTo(x + 60, 0);
  const wide = (await frame('Quay').boundingBox())!.width;
  await fingers.glide(
    [
      [400, 400],
      [500, 400],
    ],
    [
      [370, 400],
      [530, 400],
    ]
  );
  await expect.poll(async () => (await frame('Quay').boundingBox())!.width).toBeGreaterThan(wide * 1.3);
  await fingers.glide(
    [
      [370, 400],
      [530, 400],
    ],
    [
      [410, 400],
      [490, 400],
    ]
  );

  await fingers.tap(await middleOf('Quay'));
  const source = (await page.locator('[data-source]').first().boundingBox())!;
  await fingers.glide([[source.x + source.width / 2, source.y + source.height / 2]], [await middleOf('Deck')]);
  await expect.poll(() => page.locator('[data-map] canvas').first().getAttribute('data-strands')).toBe('1');

  // The stitch may still bring the frames to other places.
  await expect(async () => {
    const deck = await middleOf('Deck');
    await fingers.tap(deck);
    await fingers.tap(deck);
    await expect(page.getByRole('heading', { name: 'Deck' })).toBeVisible({ timeout: 1500 });
  }).toPass();
});

test('on the time strip: a finger moves a key, and the strip; two zoom it where they are and do nothing else', async ({ studio, page }) => {
  const tracks = [
    [
      'Go',
      'x',
      [
        [0, 100],
        [24, 200],
      ],
    ],
  ] as const;
  await studio.given({ ...piece, frames: { Quay: { ...piece.frames.Quay, timeline: { length: 240, tracks } } } });
  const fingers = await Fingers.on(page);
  await studio.select('Go');
  await page.keyboard.press('m');
  const strip = page.getByRole('grid', { name: 'Layers in time' });
  const knot = strip.locator('[data-knot="24"]');
  const middle = async (of: Locator): Promise<At> => {
    const { x, y, width, height } = (await of.boundingBox())!;
    return [x + width / 2, y + height / 2];
  };
  const wide = async () => (await page.locator('[data-ruler]').boundingBox())!.width;

  // Two fingers, one of them on the key, which stays under it: it is zoomed, and nothing is moved.
  const before = await wide();
  const at = await middle(knot);
  await fingers.glide([at, [at[0] + 100, at[1]]], [at, [at[0] + 200, at[1]]]);
  await expect.poll(wide).toBeGreaterThan(before * 1.8);
  await expect.poll(async () => Math.abs((await middle(knot))[0] - at[0])).toBeLessThan(6);

  // One finger on the key moves it; on nothing it moves the strip.
  await fingers.glide([at], [[at[0] + 60, at[1]]]);
  await expect(knot).toHaveCount(0);
  const moved = strip.locator('[data-knot]').last();
  const time = Number(await moved.getAttribute('data-knot'));
  expect(time).toBeGreaterThan(30);
  const [x, y] = await middle(moved);
  await fingers.glide([[x + 200, y]], [[x + 230, y]]);
  await expect.poll(async () => (await middle(moved))[0]).toBeGreaterThan(x + 15);
  await expect(moved).toHaveAttribute('data-knot', String(time));
});
