import { apart } from './apart.ts';
import { expect, test } from './studio.ts';

/** A harbour as a drawing program would write it: a view that does not begin at 0, groups, curves, a gradient, a mask, dashes. */
const harbour = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="10 20 300 200" width="300" height="200">
  <defs>
    <linearGradient id="sky" x2="0" y2="1"><stop stop-color="#cfe3ee"/><stop offset="1" stop-color="#e59a00"/></linearGradient>
    <clipPath id="round"><circle cx="250" cy="170" r="30"/></clipPath>
  </defs>
  <rect id="Sky" x="10" y="20" width="300" height="120" fill="url(#sky)"/>
  <rect id="Sea" x="10" y="140" width="300" height="80" fill="#1f4e5f"/>
  <g fill="#b23a26" opacity="0.8" transform="translate(60 60)">
    <path id="Sail" d="M0 80 C0 40 20 10 40 0 C44 40 44 60 40 80 Z"/>
    <polygon id="Hull" points="-10,84 70,84 56,100 4,100"/>
  </g>
  <circle id="Sun" cx="240" cy="70" r="24" fill="#f0b13c"/>
  <path id="Wake" d="M20 170 H200" stroke="#fbf7ee" stroke-width="4" stroke-dasharray="12 8" fill="none"/>
  <g clip-path="url(#round)"><rect id="Buoy" x="220" y="140" width="60" height="60" fill="#6d3a7c"/></g>
  <text id="Word" x="180" y="130" font-size="20" fill="#26232c">Skarra</text>
</svg>`;

test('an SVG drawing comes in as layers that look like it: shapes where they can be, pictures where they cannot', async ({ studio, page }) => {
  await studio.newPiece('Drawn');
  await page.locator('[data-chooser]').setInputFiles({ name: 'harbour.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(harbour) });
  await page.getByRole('button', { name: /^As layers in/ }).click();
  await expect(studio.row('harbour')).toBeVisible();
  const kind = (name: string) => studio.row(name).getByText(/^(picture|text|\d+ × \d+)$/);
  for (const name of ['Sky', 'Wake', 'Buoy']) await expect(kind(name)).toHaveText('picture');
  await expect(kind('Sun')).toHaveText('48 × 48');
  await expect(kind('Word')).toHaveText('text');
  const sail = studio.sheet.locator('path').first();
  await expect(sail).toHaveAttribute('d', /C/);

  await page.keyboard.press('a');
  await page.keyboard.press('Escape');
  const group = studio.sheet.locator('.zany-group').first();
  await page.evaluate((svg) => {
    const image = document.createElement('img');
    image.id = 'drawing';
    image.src = `data:image/svg+xml,${encodeURIComponent(svg)}`;
    image.style.cssText = 'position: fixed; left: 0; top: 0';
    document.body.append(image);
  }, harbour);
  const shot = await group.screenshot({ animations: 'disabled' });
  await expect.poll(async () => (await apart(shot, page.locator('#drawing'))).mean).toBeLessThan(5);

  await page.keyboard.press('Control+z');
  await expect(studio.row('harbour')).toBeHidden();
  await page.keyboard.press('Control+Shift+z');
  await studio.saved();
  await page.reload();
  await expect(kind('Buoy')).toHaveText('picture');
});

test('a drawing without shapes, and one that is none, are said', async ({ studio, page }) => {
  await studio.newPiece('Not drawn');
  for (const [name, text] of [
    ['empty.svg', '<svg xmlns="http://www.w3.org/2000/svg"><defs><rect width="9" height="9"/></defs></svg>'],
    ['words.svg', 'no drawing at all'],
  ] as const) {
    await page.locator('[data-chooser]').setInputFiles({ name, mimeType: 'image/svg+xml', buffer: Buffer.from(text) });
    await page.getByRole('button', { name: /^As layers in/ }).click();
    await expect(page.getByText(`${name} holds no shapes that can be layers.`)).toBeVisible();
  }
});
