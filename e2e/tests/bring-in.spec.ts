import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { PDFDocument, PDFName, PDFString, rgb, StandardFonts } from 'pdf-lib';
import sharp from 'sharp';
import { axeOn } from './axe.ts';
import { onPaper } from './on-paper.ts';
import { generator } from './random.ts';
import { test, expect } from './studio.ts';

/** What is no picture is brought in by what it is. */

const tokens = (value: unknown, name = 'harbour.tokens.json') => ({
  name,
  mimeType: 'application/json',
  buffer: Buffer.from(typeof value === 'string' ? value : JSON.stringify(value)),
});

test('design tokens become swatches and type styles in one edit, change them when they come again, and are refused with a sentence', async ({
  studio,
  page,
}) => {
  await studio.given({ frames: { Home: { layers: { Go: { at: [0, 0, 100, 60], text: 'Go' } } } } });
  const chooser = page.locator('[data-chooser]');
  const sea = (color: string) => ({
    colour: { $type: 'color', Sea: { $value: color } },
    gap: { $type: 'dimension', $value: { value: 4, unit: 'px' } },
  });
  await chooser.setInputFiles([tokens(sea('#0b7a75'))]);
  await expect(page.getByText('Brought in: 1 swatch. Left: 1.')).toBeVisible();
  await expect(page.getByText('gap: a dimension has no place in a piece')).toBeVisible();
  await studio.saved();
  await chooser.setInputFiles([tokens(sea('#b23a26'))]);
  await expect(page.getByText('Brought in: 1 swatch changed. Left: 1.')).toBeVisible();

  await studio.select('Go');
  await page.keyboard.press('ControlOrMeta+z');
  await page.keyboard.press('ControlOrMeta+Shift+z');
  await chooser.setInputFiles([tokens('{"a": [1, 2')]);
  await expect(page.getByText('harbour.tokens.json: This is no JSON, so it holds no design tokens.')).toBeVisible();
  await chooser.setInputFiles([tokens(`${'{"a":'.repeat(4000)}1${'}'.repeat(4000)}`)]);
  await expect(page.getByText('harbour.tokens.json: This is nested more than 30 deep.')).toBeVisible();
  await chooser.setInputFiles([{ name: 'notes.txt', mimeType: 'text/plain', buffer: Buffer.from('hm') }]);
  await expect(page.getByText(/notes\.txt is no PNG.* and no design tokens, presentations, state charts or Lottie animations\./)).toBeVisible();

  await studio.desk('Hand over');
  const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the tokens' }).click()]);
  const { colour } = JSON.parse((await import('node:fs')).readFileSync(await download.path(), 'utf8')) as {
    colour: Record<string, { $value: { hex: string } }>;
  };
  expect(colour['Sea']!.$value.hex).toBe('#b23a26');
});

const bring = async (page: Page, file: { name: string; mimeType: string; buffer: Buffer }, how: RegExp) => {
  await page.locator('[data-chooser]').setInputFiles([file]);
  await page.getByRole('dialog', { name: 'Bring in pages' }).getByRole('button', { name: how }).click();
};

/** A guide of three pages: the first leads to the third, by name, and to the web. */
async function guide(): Promise<Buffer> {
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.HelveticaBold);
  const pages = ['Home', 'Fares', 'Pay'].map((name, i) => {
    const page = pdf.addPage([300, 225]);
    page.drawRectangle({ x: 0, y: 0, width: 300, height: 225, color: [rgb(0.97, 0.9, 0.76), rgb(1, 1, 1), rgb(0.04, 0.48, 0.46)][i]! });
    page.drawText(name, { x: 30, y: 150, size: 36, font });
    return page;
  });
  const link = (rest: object) => pdf.context.register(pdf.context.obj({ Type: 'Annot', Subtype: 'Link', Border: [0, 0, 0], ...rest } as never));
  const home = pages[0]!;
  home.node.addAnnot(link({ Rect: [30, 30, 130, 90], Dest: [pages[2]!.ref, 'Fit'], Contents: PDFString.of('Pay now') }));
  home.node.addAnnot(link({ Rect: [150, 30, 250, 90], A: { S: 'URI', URI: PDFString.of('https://kittiwake.example/') } }));
  home.node.addAnnot(link({ Rect: [0, 0, 10, 10], A: { S: 'Launch', F: PDFString.of('other.exe') } }));
  const root = pdf.context.nextRef();
  const entry = pdf.context.register(pdf.context.obj({ Title: PDFString.of('Pay here'), Parent: root, Dest: [pages[2]!.ref, 'Fit'] } as never));
  pdf.context.assign(root, pdf.context.obj({ Type: 'Outlines', First: entry, Last: entry, Count: 1 } as never));
  pdf.catalog.set(PDFName.of('Outlines'), root);
  return Buffer.from(await pdf.save());
}

test('a PDF comes in as frames that look like its pages, are called by its outline, and lead where it leads', async ({ studio, page }) => {
  await studio.newPiece('From paper');
  const buffer = await guide();
  await bring(page, { name: 'guide.pdf', mimeType: 'application/pdf', buffer }, /pictures' size/);
  await expect.poll(() => studio.frames()).toEqual(['guide 1', 'guide 2', 'Pay here']);
  await expect(page.getByText(/^guide 1, .*other\.exe” is no address that can be opened/)).toBeVisible();
  await expect(studio.row('Pay now')).toContainText('Pay here');
  await expect(studio.row('Link').getByRole('textbox')).toHaveValue('https://kittiwake.example/');
  // 300 by 225 points are 400 by 300 CSS px.
  const shown = await page
    .locator('[data-sheet] .zany-scene')
    .first()
    .evaluate((node: HTMLElement) => [node.offsetWidth, node.offsetHeight]);
  expect(shown).toEqual([400, 300]);
  await page.keyboard.press('a');
  await page.keyboard.press('Escape');
  const picture = async () => {
    const scene = sharp(await studio.sheet.locator('.zany-screen').first().screenshot({ animations: 'disabled' }));
    const { data, info } = await scene.removeAlpha().raw().toBuffer({ resolveWithObject: true });
    return (x: number, y: number) => [...data.subarray((Math.round(y * info.height) * info.width + Math.round(x * info.width)) * 3).subarray(0, 3)];
  };
  // The stage shows a picture as soon as it is read, which may be a moment later.
  const off = (pixel: number[]) => Math.max(...pixel.map((value, i) => Math.abs(value - [247, 230, 194][i]!)));
  await expect.poll(async () => off((await picture())(0.9, 0.1))).toBeLessThan(3);
  const pixel = await picture();
  // The letters of its title are there, dark on that.
  const title = Array.from({ length: 100 }, (_, i) => pixel(0.1 + i / 400, 0.29)[0]!);
  expect(Math.min(...title)).toBeLessThan(60);
  await studio.saved();
  await page.keyboard.press('t');
  await studio.stage.getByRole('button', { name: 'Pay now' }).click();
  await studio.running('Pay here');
});

test('frames drawn on paper are found in a photograph, put right by their corners, and come in as one edit', async ({ studio, page }) => {
  await studio.newPiece('Quay on paper');
  const boxes = [
    [150, 140, 250, 420],
    [470, 140, 250, 420],
    [790, 140, 250, 420],
  ] as const;
  await page.locator('[data-chooser]').setInputFiles([
    { name: 'quay.jpg', mimeType: 'image/jpeg', buffer: await onPaper(boxes) },
    { name: 'torn.jpg', mimeType: 'image/jpeg', buffer: (await onPaper(boxes)).subarray(0, 90) },
  ]);
  await page.getByRole('button', { name: 'Cut out of paper…' }).click();
  const dialog = page.getByRole('dialog', { name: 'Frames from paper' });
  await expect(dialog.getByRole('button', { name: 'Bring in 3 frames, 390 wide' })).toBeEnabled();
  await expect(dialog.getByRole('button', { name: 'Show frame 3' }).locator('img')).toBeVisible();
  for (const theme of ['linen', 'lamplight']) {
    await page.evaluate((name) => (document.documentElement.dataset['theme'] = name), theme);
    expect((await axeOn(page).analyze()).violations).toEqual([]);
  }

  await dialog.getByRole('button', { name: '2', exact: true }).click();
  await expect(dialog.getByText('torn.jpg cannot be read as a picture. Take it again as JPEG or PNG.')).toBeVisible();
  await dialog.getByRole('button', { name: 'Show frame 2' }).click();

  // By keyboard a corner goes where it is put; by hand too; a frame whose sides cross is none.
  const corner = dialog.getByRole('button', { name: 'Frame 2, right bottom corner' });
  const at = async () => (await corner.boundingBox())!;
  const before = await at();
  await corner.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('Shift+ArrowDown');
  expect((await at()).y - before.y).toBeCloseTo(40, 0);
  const [x, y] = [before.x + before.width / 2, before.y + before.height / 2 + 40];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 300, y - 500, { steps: 4 });
  await page.mouse.up();
  await expect(dialog.getByText('Its sides cross: pull its corners apart.')).toBeVisible();
  await expect(dialog.getByRole('button', { name: 'Bring in 2 frames, 390 wide' })).toBeEnabled();
  await dialog.getByRole('button', { name: 'Find them again' }).click();
  await expect(dialog.getByRole('button', { name: 'Bring in 3 frames, 390 wide' })).toBeEnabled();
  await dialog.getByRole('button', { name: 'One more' }).click();
  await expect(dialog.getByRole('button', { name: 'Bring in 4 frames, 390 wide' })).toBeEnabled();
  for (const frame of [4, 3]) await dialog.getByRole('button', { name: `Leave out frame ${frame}` }).click();

  await dialog.getByRole('button', { name: 'Bring in 2 frames, 390 wide' }).click();
  await expect(dialog).toBeHidden();
  await expect(page.getByRole('heading', { name: 'quay 1' })).toBeVisible();
  await expect(page.getByText(/frame 1 · 390 × 6[4-7]\d/)).toBeVisible();
  await studio.openFrame('quay 2');
  await studio.sheet
    .locator('img')
    .first()
    .evaluate((img: HTMLImageElement) => img.decode());
  // Straight and white: what is drawn across the top is all that is dark.
  const picture = await sharp(await studio.sheet.screenshot())
    .greyscale()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const { width, height } = picture.info;
  const dark = (u: number, v: number) => picture.data[Math.round(v * height) * width + Math.round(u * width)]! < 110;
  const rows = Array.from({ length: 90 }, (_, i) => 0.05 + i / 100);
  for (const u of [0.25, 0.5, 0.7]) {
    const lines = rows.filter((v) => [-0.004, 0, 0.004].some((by) => dark(u, v + by)));
    expect(lines.length).toBeGreaterThan(0);
    expect(Math.max(...lines) - Math.min(...lines)).toBeLessThan(0.03);
    expect(Math.abs(lines[0]! - 60 / 420)).toBeLessThan(0.03);
  }
  await studio.saved();
  await page.keyboard.press('ControlOrMeta+z');
  await expect(page.getByRole('heading', { name: 'Frame 1' })).toBeVisible();

  await page.locator('[data-chooser]').setInputFiles([{ name: 'quay.png', mimeType: 'image/png', buffer: await onPaper([], { ending: 'png' }) }]);
  await page.getByRole('button', { name: 'Cut out of paper…' }).click();
  await expect(dialog.getByRole('button', { name: 'Bring in 1 frame, 390 wide' })).toBeEnabled();
  await page.keyboard.press('Escape');
  await expect(dialog).toBeHidden();
});

test('a PDF that is locked, cut off or none is refused with a sentence, and others beside it come in', async ({ studio, page }) => {
  await studio.newPiece('Refused');
  const good = await guide();
  await page.locator('[data-chooser]').setInputFiles([
    { name: 'none.pdf', mimeType: 'application/pdf', buffer: Buffer.from('no PDF at all') },
    { name: 'good.pdf', mimeType: 'application/pdf', buffer: good },
  ]);
  await expect(page.getByText('none.pdf: It cannot be read as a PDF: it is damaged, or something else.')).toBeVisible();
  await page
    .getByRole('dialog', { name: 'Bring in pages' })
    .getByRole('button', { name: /^Fitted/ })
    .click();
  await expect.poll(() => studio.frames()).toEqual(['good 1', 'good 2', 'Pay here']);
});

/** A PDF of one page, from its objects. */
const pdfOf = (contents: string, { box = '0 0 300 200', named = '', more = '' } = {}): Buffer =>
  Buffer.from(`%PDF-1.7
1 0 obj <</Type/Catalog/Pages 2 0 R>> endobj
2 0 obj <</Type/Pages/Kids[3 0 R]/Count 1>> endobj
3 0 obj <</Type/Page/Parent 2 0 R/MediaBox[${box}]/Contents 4 0 R/Resources<</XObject<<${named}>>>>>> endobj
4 0 obj <</Length ${contents.length}>> stream
${contents}
endstream endobj
${more}
trailer <</Root 1 0 R>>
%%EOF`);

test('a PDF that is made to harm, or damaged in any way, is read or refused, and nothing hangs', async ({ studio, page }) => {
  await studio.newPiece('Harm');
  const again = (n: number, other: number) =>
    `${n} 0 obj <</Type/XObject/Subtype/Form/BBox[0 0 300 200]/Resources<</XObject<</F ${other} 0 R>>>>/Length 100>> stream\n${'/F Do '.repeat(16)}    \nendstream endobj\n`;
  const picture =
    '5 0 obj <</Type/XObject/Subtype/Image/Width 60000/Height 60000/ColorSpace/DeviceRGB/BitsPerComponent 8/Length 5>> stream\nabcde\nendstream endobj';
  const hostile = {
    'in-itself': pdfOf('/F Do', { named: '/F 5 0 R', more: again(5, 6) + again(6, 5) }),
    endless: pdfOf('0 0 9 9 re f', { box: '0 0 90000000 90000000' }),
    thin: pdfOf('0 0 9 9 re f', { box: '0 0 0.0001 9000000' }),
    'all-picture': pdfOf('q 300 0 0 200 0 0 cm /F Do Q', { named: '/F 5 0 R', more: picture }),
    loop: Buffer.from(pdfOf('').toString().replace('/Kids[3 0 R]/Count 1', '/Kids[2 0 R 2 0 R]/Count 1000000')),
  };
  const good = await guide();
  const chance = generator(11);
  const damaged = Array.from({ length: 40 }, (_, i) => {
    const bytes = Buffer.from(good);
    for (let k = chance.whole(12); k >= 0; k--) bytes[chance.whole(bytes.length)] = chance.whole(256);
    return [`damaged-${i}`, i % 5 === 0 ? bytes.subarray(0, chance.whole(bytes.length)) : bytes] as const;
  });
  const all = [...Object.entries(hostile), ...damaged, ['good', good] as const];
  const bar = page.getByRole('dialog', { name: 'Bring in pages' });
  await page.locator('[data-chooser]').setInputFiles(all.map(([name, buffer]) => ({ name: `${name}.pdf`, mimeType: 'application/pdf', buffer })));
  await expect(bar.getByRole('button', { name: /^Fitted/ })).toBeVisible({ timeout: 100_000 });
  await expect(page.getByText(/\d+ more of these\./)).toBeVisible();
  await bar.getByRole('button', { name: 'Not now' }).click();

  await page.locator('[data-chooser]').setInputFiles([{ name: 'good.pdf', mimeType: 'application/pdf', buffer: good }]);
  await bar.getByRole('button', { name: /^Fitted/ }).click();
  await expect.poll(() => studio.frames()).toEqual(['good 1', 'good 2', 'Pay here']);
});

test('SVG pages that lead to each other come in as frames that do', async ({ studio, page }) => {
  await studio.newPiece('Drawn pages');
  const svg = (inner: string) =>
    `<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 200 100" width="200" height="100"><rect width="200" height="100" fill="#f7e6c3"/>${inner}</svg>`;
  const file = (name: string, inner: string) => ({ name, mimeType: 'image/svg+xml', buffer: Buffer.from(svg(inner)) });
  await page
    .locator('[data-chooser]')
    .setInputFiles([
      file(
        'home.svg',
        '<a href="day%20trip.svg"><title>Plan</title><rect x="50" y="25" width="100" height="50"/></a><a xlink:href="gone.svg"><rect width="9" height="9"/></a>'
      ),
      file(
        'Day trip.svg',
        '<g transform="translate(20 10)"><a href="home.svg#top" aria-label="Back"><text y="20" font-size="20">Home</text></a></g>'
      ),
    ]);
  await page
    .getByRole('dialog', { name: 'Bring in pages' })
    .getByRole('button', { name: /pictures' size/ })
    .click();
  await expect.poll(() => studio.frames()).toEqual(['Day trip', 'home']);
  await expect(page.getByText('home, gone.svg: “gone.svg” is not among what came in, and no frame is called so')).toBeVisible();
  await studio.openFrame('home');
  await expect(studio.row('Plan')).toContainText('Day trip');
  await expect(studio.row('Plan')).toContainText('100 × 50');
  await studio.openFrame('Day trip');
  await expect(studio.row('Back')).toContainText('home');
});

for (const ending of ['odp', 'pptx'])
  test(`slides saved by another program as .${ending} come in on the Workroom as a piece that runs`, async ({ studio, page }) => {
    await studio.workroom();
    const buffer = await readFile(fileURLToPath(new URL(`../../cli/src/decks/harbour.${ending}`, import.meta.url)));
    await page.locator('input[type=file]').setInputFiles([{ name: `Harbour ${ending}.${ending}`, mimeType: 'application/octet-stream', buffer }]);
    await expect(studio.sheet).toBeVisible({ timeout: 20_000 });
    await expect.poll(async () => (await studio.frames()).length).toBe(4);
    const [, second] = await studio.frames();
    for (const name of ['Title', 'Buy', 'Next', 'Sun', 'Boat', 'Web']) await expect(studio.row(name)).toBeVisible();
    await expect(studio.sheet.locator('.zany-scene')).toContainText(['Home', 'Kittiwake Line {pier}']);
    await page.keyboard.press('t');
    await studio.button('Buy').click();
    await studio.running(second!.replace(/^Open /, ''));
    await studio.button('Home').click();
    await expect(studio.button('Buy')).toBeVisible();
  });
