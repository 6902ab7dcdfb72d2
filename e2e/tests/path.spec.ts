import { readFile, writeFile } from 'node:fs/promises';
import { expect, test } from './studio.ts';
import { menuSvg, pageFile, pageSvg } from './pages.ts';

test(
  'the whole path: from pictures of pages to a walked piece that runs from a file',
  { tag: '@several' },
  async ({ studio, page, context }, info) => {
    await context.clearCookies();
    await page.goto('/');
    await page.getByRole('button', { name: /Look around as Ina/ }).click();
    await expect(page.getByRole('heading', { name: 'Workroom' })).toBeVisible();
    await page.getByRole('button', { name: 'New piece' }).click();
    await page.getByLabel('Name', { exact: true }).fill('Pier guide');
    await page.getByRole('button', { name: /Phone/ }).click();
    await page.getByRole('button', { name: 'Make it' }).click();
    await expect(page.getByRole('heading', { name: 'Pier guide' })).toBeVisible();

    // Bring in many at once: natural order, each kind, and three files that must be refused while the rest come in.
    const good = await Promise.all([
      pageFile('page 10.png', pageSvg('Boats')),
      pageFile('page 2.jpg', pageSvg('Fares')),
      pageFile('page 1.png', menuSvg('Pier', ['Fares', 'Boats', 'Tides'])),
      pageFile('page 3.webp', pageSvg('Tides')),
      pageFile('page 4.svg', pageSvg('Gulls', '<script>alert(1)</script><circle cx="100" cy="300" r="40" fill="#b23a26" onclick="alert(2)"/>')),
    ]);
    const png = good[0]!.buffer;
    await studio.bringIn(
      [
        ...good,
        { name: 'broken.png', mimeType: 'image/png', buffer: png.subarray(0, 300) },
        { name: 'disguised.jpg', mimeType: 'image/jpeg', buffer: png },
        {
          name: 'bomb.svg',
          mimeType: 'image/svg+xml',
          buffer: Buffer.from(
            `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9">${Array.from({ length: 12 }, (_, i) => `<g id="a${i + 1}">${`<use href="#a${i}"/>`.repeat(8)}</g>`).join('')}<rect id="a0" width="1" height="1"/></svg>`
          ),
        },
      ],
      'fitted'
    );
    await expect.poll(() => studio.frames()).toEqual(['page 1', 'page 2', 'page 3', 'page 4', 'page 10']);
    for (const words of [/broken\.png is broken/, /disguised\.jpg is named as JPEG but holds PNG/, /bomb\.svg refers to itself/])
      await expect(page.getByText(words)).toBeVisible();

    // Three ways to make a thread, which stay in step: a typed line, a thumbnail, and chips.
    await studio.draw('h', 40, 130, 310, 60);
    await studio.write('page 2');
    await expect(studio.row('Hit area 1').getByRole('button', { name: 'Leads to: page 2' })).toBeVisible();
    await studio.draw('h', 40, 214, 310, 60);
    await page.getByRole('complementary', { name: 'Landings' }).getByRole('button', { name: 'Lead to page 10', exact: true }).click();
    await expect(studio.row('Hit area 2').getByRole('button', { name: 'Leads to: page 10' })).toBeVisible();
    await studio
      .row('Hit area 2')
      .getByRole('button', { name: /^Transition: cut/ })
      .click();
    await page.getByRole('dialog', { name: 'Transition' }).getByRole('button', { name: 'push', exact: true }).click();
    await page.keyboard.press('Escape');
    await studio
      .row('Hit area 2')
      .getByRole('group', { name: /click → go to page 10 · push left 300 ms ease-out/ })
      .hover();
    await studio.row('Hit area 2').getByRole('button', { name: 'More about the thread' }).click();
    await page.getByRole('button', { name: 'Write it as a line' }).click();
    const line = studio.row('Hit area 2').getByRole('combobox', { name: 'Thread line' }).first();
    await expect(line).toHaveValue('click → go to page 10 · push left 300 ms ease-out');
    await line.fill('click → go to page 3 · dissolve 200 ms ease');
    await line.press('Enter');
    await expect(studio.row('Hit area 2').getByRole('button', { name: 'Leads to: page 3' })).toBeVisible();
    await expect(page.getByRole('complementary', { name: 'Landings' }).getByText(/page 3 · dissolve 200 ms/)).toBeVisible();
    await studio.draw('h', 40, 298, 310, 20);
    await studio.write('page 1O');
    await expect(studio.row('Hit area 3').getByRole('button', { name: /make draft frame “page 1O”/ })).toBeVisible();
    await studio.row('Hit area 3').getByRole('combobox').fill('hover > page 10');
    await page.keyboard.press('Enter');
    await studio.select('Hit area 3');
    await studio.write('click > page 4');

    // Try in place.
    await page.keyboard.press('Escape');
    await page.keyboard.press('t');
    await expect(page.getByRole('group', { name: 'Tools' }).getByRole('button', { name: /^Done/ })).toBeVisible();
    const stage = (await page.locator('[data-running] .zany-player').boundingBox())!;
    const scale = stage.width / 390;
    await page.mouse.click(stage.x + 60 * scale, stage.y + 20 * scale);
    await expect(page.getByText('Why nothing happened')).toBeVisible();
    await page.mouse.click(stage.x + 60 * scale, stage.y + 160 * scale);
    await studio.running('page 2');
    await page.keyboard.press('Escape');

    // The map: stitches, and wiring by drawing one.
    await studio.desk('Map');
    await expect(page.getByText(/5 frames · 4 stitches/)).toBeVisible();
    const map = page.locator('[data-map]');
    await map.getByRole('button', { name: /^page 2, frame/ }).dblclick();
    await expect(page.getByRole('heading', { name: 'page 2' })).toBeVisible();
    await studio.draw('h', 40, 700, 310, 80);
    await studio.desk('Map');
    await map.getByRole('button', { name: /^page 2, frame/ }).hover();
    const source = (await page.locator('[data-source]').first().boundingBox())!;
    const target = (await map.getByRole('button', { name: /^page 1, frame/ }).boundingBox())!;
    await page.mouse.move(source.x + source.width / 2, source.y + source.height / 2);
    await page.mouse.down();
    await page.mouse.move(target.x + target.width / 2, target.y + target.height / 2, { steps: 6 });
    await page.mouse.up();
    await expect(page.getByText(/5 frames · 5 stitches/)).toBeVisible();

    // The walk: loose ends with route, show me, and a fix; the pill is true within a second.
    await studio.desk('Walk');
    await expect(page.getByText(/Explored completely/)).toBeVisible();
    const dead = page.getByRole('article', { name: 'page 3 is a dead end' });
    await dead.getByRole('button', { name: 'Show me' }).click();
    await studio.running('page 3');
    const before = Number(await studio.looseEnds().getAttribute('data-loose-ends'));
    await dead.getByRole('button', { name: 'Mark as an ending' }).click();
    await expect(studio.looseEnds()).toHaveAttribute('data-loose-ends', String(before - 1), { timeout: 1000 });
    await expect(page.getByRole('article', { name: /Hit area 3 is hard to hit/ })).toContainText('310 × 20 on page 1; at least 24 is needed');
    await page
      .getByRole('article', { name: /Hit area 3 is hard to hit/ })
      .getByRole('button', { name: 'Grow to 44' })
      .click();
    await expect(page.getByRole('article', { name: /is hard to hit/ })).toHaveCount(0);
    // What the machine has shown was walked by nobody; what a person does is, also after a reload.
    await expect(page.locator('[data-walked]')).toHaveText(/^0 of \d threads/);
    await page.getByRole('button', { name: 'start over' }).click();
    await studio.running('page 1');
    await studio.button('Hit area 1').click();
    await expect(page.locator('[data-walked]')).toHaveText(/^1 of \d threads/);
    await page.waitForTimeout(1500);
    await page.reload();
    await expect(page.locator('[data-walked]')).toHaveText(/^1 of \d threads/);
    await page.getByRole('button', { name: 'start over' }).click();
    await studio.running('page 1');

    // Hand over: the page runs from the disk with no network; the package comes in again unchanged.
    await studio.desk('Hand over');
    const [download] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the page' }).click()]);
    const file = info.outputPath('pier.html');
    await download.saveAs(file);
    const text = await readFile(file, 'utf8');
    expect(text).not.toMatch(/alert\(|onclick/);
    const other = await page.context().newPage();
    const asked: string[] = [];
    other.on('request', (request) => asked.push(request.url()));
    const broken: string[] = [];
    other.on('console', (message) => message.type() === 'error' && broken.push(message.text()));
    await other.goto(`file://${file}`);
    await other.getByRole('button', { name: 'Hit area 1' }).click();
    await expect(other.locator('.zany-scene:not([inert])')).toHaveCount(1);
    await expect(other.getByRole('button', { name: 'Hit area 1' })).toHaveCount(1);
    await other.getByRole('button', { name: 'Hit area 1' }).focus();
    await other.keyboard.press('Enter');
    await expect(other.getByRole('button', { name: 'Hit area 2' })).toBeVisible();
    expect(asked.filter((url) => !url.startsWith('file:') && !url.startsWith('data:'))).toEqual([]);
    expect(broken).toEqual([]);
    await other.close();

    const [zip] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the package' }).click()]);
    const zipFile = info.outputPath('pier.zip');
    await zip.saveAs(zipFile);
    await page.goto('/');
    await page.locator('input[type=file]').setInputFiles(zipFile);
    await expect(page.getByRole('article', { name: 'Pier guide' })).toHaveCount(2);
    await page.getByRole('link', { name: 'Open Pier guide' }).first().click();
    await studio.desk('Hand over');
    const [again] = await Promise.all([page.waitForEvent('download'), page.getByRole('button', { name: 'Save the package' }).click()]);
    const againFile = info.outputPath('again.zip');
    await again.saveAs(againFile);
    const { readPackage, pieceToJson, unwrap } = await import('@zany/core');
    const digest = async (bytes: Uint8Array) => (await import('node:crypto')).createHash('sha256').update(bytes).digest('hex');
    const [first, second] = await Promise.all([zipFile, againFile].map(async (path) => unwrap(await readPackage(await readFile(path), digest))));
    expect({ ...pieceToJson(second!.piece), id: '' }).toEqual({ ...pieceToJson(first!.piece), id: '' });
    expect([...second!.assets.keys()].sort()).toEqual([...first!.assets.keys()].sort());
    await writeFile(info.outputPath('done'), '');
  }
);

test('a wrong package is refused with the reason', async ({ page, studio }) => {
  await studio.workroom();
  await page.locator('input[type=file]').setInputFiles([
    { name: 'notes.zip', mimeType: 'application/zip', buffer: Buffer.from('PK\u0003\u0004 nothing') },
    { name: 'piece.json', mimeType: 'application/json', buffer: Buffer.from(JSON.stringify({ format: 'zany-thread/9' })) },
  ]);
  await expect(page.getByText(/notes\.zip: The package cannot be unpacked/)).toBeVisible();
  await expect(page.getByText(/piece\.json: The format is "zany-thread\/9"/)).toBeVisible();
});

test('the workroom renames, duplicates, deletes and takes back', async ({ page, studio }) => {
  await studio.newPiece('Lamp room');
  await page.goto('/');
  const card = page.getByRole('article', { name: 'Lamp room', exact: true });
  await card.hover();
  await card.getByRole('button', { name: 'rename' }).click();
  await page.getByLabel('Name of the piece').fill('Lamp house');
  await page.keyboard.press('Enter');
  const renamed = page.getByRole('article', { name: 'Lamp house', exact: true });
  await renamed.hover();
  await renamed.getByRole('button', { name: 'duplicate' }).click();
  await expect(page.getByRole('article', { name: 'Lamp house copy' })).toBeVisible();
  await renamed.hover();
  await renamed.getByRole('button', { name: 'delete' }).click();
  await expect(renamed).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(renamed).toBeVisible();
});
