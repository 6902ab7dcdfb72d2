import { apart } from './apart.ts';
import { expect, test, type Studio } from './studio.ts';

/** The stage by itself: nothing selected, no hit area hatched. */
const stageShot = (studio: Studio) => studio.sheet.locator('.zany-screen').first().screenshot({ animations: 'disabled' });

/** How many of the stage's pictures and films have not come. */
const stageLacks = (studio: Studio) =>
  studio.sheet
    .locator('.zany-screen')
    .first()
    .evaluate((screen) => {
      const pictures = [...screen.querySelectorAll('img')].filter((image) => image.naturalWidth === 0);
      const films = [...screen.querySelectorAll('video')].filter((film) => film.readyState < HTMLMediaElement.HAVE_CURRENT_DATA);
      return pictures.length + films.length;
    });

/** Opens a demo piece, and looks at its first three frames. */
async function framesLookAlike(studio: Studio, name: string): Promise<void> {
  const { page } = studio;
  await studio.workroom();
  await page
    .getByRole('link', { name: new RegExp(name, 'i') })
    .first()
    .click();
  await expect(studio.sheet).toBeVisible();
  await page.keyboard.press('a');
  for (let i = 0; i < 3; i++) {
    await page.keyboard.press('Escape');
    const thumb = page.locator('nav[aria-label=Frames] [aria-current=true] img');
    await expect(thumb).toHaveAttribute('src', /^data:image/);
    await expect.poll(() => stageLacks(studio)).toBe(0);
    // Both anew each time: small pictures take a moment too.
    await expect.poll(async () => (await apart(await stageShot(studio), thumb)).mean).toBeLessThan(8);
    await page.keyboard.press('PageDown');
  }
}

for (const name of ['Ticket app', 'Pier kiosk'])
  test(`small pictures show what the stage shows: ${name}`, ({ studio }) => framesLookAlike(studio, name));

test('a film and a picture that do not come at first are fetched again, on the stage and for small pictures', async ({ studio, page }) => {
  const asked = new Map<string, number>();
  await page.route(/\/api\/pieces\/[^/]+\/assets\//, (route) => {
    const url = route.request().url();
    const isHead = route.request().method() === 'HEAD';
    const times = asked.get(url) ?? 0;
    if (!isHead) asked.set(url, times + 1);
    return isHead || times < 2 ? route.abort() : route.continue();
  });
  await framesLookAlike(studio, 'Pier kiosk');
  expect(Math.max(...asked.values())).toBeGreaterThan(2);
});

const words = 'Three islands, one line, and a boat on every tide';

test('every kind of layer is in the small picture as on the stage', async ({ studio, page }) => {
  await studio.given({
    parts: {
      Sign: {
        size: [100, 40],
        background: '#ffffff00',
        layers: { Plate: { at: [0, 0, 100, 40], style: { fill: '#0b7a75', corner: 20, ink: '#ffffff' }, text: 'Sign' } },
      },
    },
    frames: {
      Pier: {
        background: '#f1eadc',
        layers: {
          Card: {
            at: [20, 20, 160, 90],
            style: { fill: '#ffffff', corner: 12, line: { color: '#b23a26', width: 4 }, shadow: { x: 0, y: 8, blur: 16, color: '#00000066' } },
          },
          Sun: { type: 'oval', at: [220, 20, 120, 90], style: { fill: '#e59a00', opacity: 0.6 } },
          Turned: { at: [60, 150, 80, 60], pose: { rotation: 30, scale: 1.2 }, style: { fill: '#6d3a7c' } },
          Wave: { type: 'path', at: [200, 150, 160, 70], path: 'M0 50C25 0 50 100 100 50', style: { line: { color: '#0b7a75', width: 6 } } },
          Left: { type: 'text', text: words, at: [20, 250, 160, 120], letters: { size: 18 } },
          Right: { type: 'text', text: words, at: [200, 250, 160, 120], letters: { size: 18, align: 'right', place: 'bottom', weight: 800 } },
          Big: { type: 'placement', part: 'Sign', at: [20, 400, 200, 80] },
          Window: { type: 'group', at: [250, 400, 80, 80], clip: true },
          Behind: { in: 'Window', at: [40, 40, 100, 100], style: { fill: '#123456' } },
          Gone: { at: [0, 0, 390, 844], hidden: true, style: { fill: '#000000' } },
        },
      },
    },
  });
  await page.keyboard.press('a');
  await page.keyboard.press('Escape');
  const shot = await stageShot(studio);
  await studio.desk('Hand over');
  const thumb = page.getByRole('main').locator('img[src^="data:image"]').first();
  await expect.poll(async () => (await apart(shot, thumb)).mean).toBeLessThan(4);
  const { worst } = await apart(shot, thumb);
  expect(worst).toBeLessThan(28);
});
