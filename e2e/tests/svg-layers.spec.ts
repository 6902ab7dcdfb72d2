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
  // Pictures among the layers may come a moment later.
  const shot = () => group.screenshot({ animations: 'disabled' });
  await expect.poll(async () => (await apart(await shot(), page.locator('#drawing'))).mean).toBeLessThan(5);

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

test('what moves in a drawing by itself moves by keyframes, what is linked is a hit area, and what is used again is there again', async ({
  studio,
  page,
}) => {
  const drawing = `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 200 100" width="200" height="100">
    <style>.sea { fill: #0b7a75 }</style>
    <defs><g id="gull"><rect width="20" height="10" fill="#26232c"/></g></defs>
    <rect id="Sea" class="sea" y="60" width="200" height="40"/>
    <rect id="Boat" x="10" y="50" width="40" height="20" fill="#b23a26"><animate attributeName="x" from="10" to="150" dur="1s" repeatCount="indefinite"/><animate attributeName="x" begin="click" from="0" to="9" dur="1s"/></rect>
    <use href="#gull" x="100" y="10"/><use xlink:href="#gull" x="150" y="20" transform="translate(5 0)"/>
    <a href="https://kittiwake.example/"><circle id="Buoy" cx="180" cy="80" r="10" fill="#f0b13c"/></a>
  </svg>`;
  const id = await studio.newPiece('Moves');
  await page.locator('[data-chooser]').setInputFiles({ name: 'sea.svg', mimeType: 'image/svg+xml', buffer: Buffer.from(drawing) });
  await page.getByRole('button', { name: /^As layers in/ }).click();
  await expect(page.getByText('sea.svg came in as layers without its Boat’s motion (x).')).toBeVisible();
  await studio.saved();
  const { piece } = (await (await page.request.get(`/api/pieces/${id}`)).json()) as {
    piece: {
      scenes: Record<
        string,
        {
          timeline?: {
            length: number;
            loop?: boolean;
            tracks: Record<string, { layer: string; property: string; keys: Record<string, { time: number; value: number }> }>;
          };
        }
      >;
      layers: Record<string, { name: string; type: string; pose: { x: number; y: number; width: number; height: number }; style: { fill?: string } }>;
      threads: Record<string, { owner: string; branches: { steps: { do: string; address?: string }[] }[] }>;
    };
  };
  const layers = Object.values(piece.layers).map(({ name, type, pose, style }) => [name, type, pose.x, pose.y, style.fill]);
  expect(layers).toEqual(
    expect.arrayContaining([
      ['Sea', 'box', 0, 60, '#0b7a75'],
      ['Boat', 'box', 10, 50, '#b23a26'],
      ['Box', 'box', 100, 10, '#26232c'],
      ['Box', 'box', 155, 20, '#26232c'],
      ['Buoy', 'oval', 170, 70, '#f0b13c'],
    ])
  );
  const [timeline] = Object.values(piece.scenes).flatMap((scene) => scene.timeline ?? []);
  expect([timeline!.length, timeline!.loop]).toEqual([25, true]);
  const tracks = Object.values(timeline!.tracks).map(({ layer, property, keys }) => [
    piece.layers[layer]!.name,
    property,
    Object.values(keys)
      .sort((a, b) => a.time - b.time)
      .map(({ time, value }) => [time, value]),
  ]);
  expect(tracks).toEqual([
    [
      'Boat',
      'x',
      [
        [0, 10],
        [24, 150],
      ],
    ],
  ]);
  const [link] = Object.values(piece.threads);
  expect([piece.layers[link!.owner]!.type, link!.branches[0]!.steps[0]!.address]).toEqual(['hit', 'https://kittiwake.example/']);
  await page.keyboard.press('Control+z');
  await expect(studio.row('sea')).toBeHidden();
});
