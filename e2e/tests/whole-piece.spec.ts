import { expect, test } from './studio.ts';

test('from an empty piece: five screens with a menu, tabs, a form that enables its button, a counter with limits, a sold-out branch', async ({
  studio,
  page,
}) => {
  test.setTimeout(120_000);
  await studio.newPiece('My tickets');
  for (let i = 0; i < 4; i++) {
    await page.keyboard.press('n');
    await expect.poll(() => studio.frames()).toHaveLength(i + 2);
  }
  for (const [i, name] of ['Harbour', 'Sailings', 'Seats', 'Pay', 'Sold out'].entries()) {
    await page
      .getByRole('navigation', { name: 'Frames' })
      .getByRole('button', { name: `Open Frame ${i + 1}`, exact: true })
      .dblclick();
    await page.keyboard.type(name);
    await page.keyboard.press('Enter');
  }

  await studio.openFrame('Harbour');
  await page.keyboard.press('y');
  await page.keyboard.type('menu bar');
  await page.keyboard.press('Enter');
  await expect(studio.row('Menu bar')).toBeVisible();
  await studio.draw('b', 40, 500, 310, 60);
  await studio.doubleClickStage(195, 530);
  await page.keyboard.type('See the boats');
  await page.keyboard.press('Enter');
  await studio.write('Sailings');

  await studio.openFrame('Sailings');
  await studio.draw('b', 9, 80, 80, 48);
  await page.keyboard.press('r');
  await page.keyboard.type('Fri, Sat, Sun');
  await page.keyboard.press('Enter');
  await expect(studio.row('Sun')).toBeVisible();
  await page.keyboard.press('c');
  await expect(studio.row('Sat')).toContainText('Choice = Sat');
  await studio.draw('b', 40, 200, 310, 60);
  await studio.write('Seats · push left 200 ms ease-out');

  await studio.openFrame('Seats');
  await studio.draw('x', 120, 200, 150, 60);
  await page.keyboard.type('{Seats left} left');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Make the variable' }).click();
  await studio.draw('b', 40, 300, 310, 60);
  await studio.write('set Seats left to Seats left - 1');
  await page.getByRole('tab', { name: /^Variables/ }).click();
  await page.getByLabel('Seats left begins as').fill('2');
  await page.getByLabel('Seats left begins as').press('Enter');
  await page.getByLabel('Seats left at least').fill('0');
  await page.getByLabel('Seats left at least').press('Enter');
  await studio.draw('b', 40, 600, 310, 60);
  await studio.write('if Seats left > 0 → go to Pay; otherwise → go to Sold out');

  await studio.openFrame('Pay');
  for (const starter of ['text field', 'checkbox']) {
    await page.keyboard.press('y');
    await page.keyboard.type(starter);
    await page.keyboard.press('Enter');
  }
  await studio.draw('b', 40, 700, 310, 60);
  await studio.write('enabled when Checkbox.state = "On"');
  await studio.write('Harbour');
  const tops: number[] = [];
  for (const name of ['Text field', 'Checkbox']) {
    await studio.select(name);
    tops.push(Number(await page.getByRole('toolbar', { name: 'Properties' }).getByLabel('y', { exact: true }).inputValue()));
  }
  expect(tops[1]!).toBeGreaterThanOrEqual(tops[0]! + 76);

  await studio.openFrame('Harbour');
  await page.keyboard.press('t');
  await studio.button('Fares').click();
  await expect(studio.stage.getByText('Fares one')).toBeVisible();
  await studio.button('See the boats').click();
  await studio.running('Sailings');
  await studio.button('Sat').click();
  await expect(studio.button('Sat')).toHaveAttribute('aria-pressed', 'true');
  await studio.button(/^Box/).click();
  await studio.running('Seats');
  await expect(studio.stage.getByText('2 left')).toBeVisible();
  await studio.button('Box 1').click();
  await expect(studio.stage.getByText('1 left')).toBeVisible();
  await studio.button('Box 2').click();
  await studio.running('Pay');
  const pay = studio.button('Box 1');
  await expect(pay).toHaveAttribute('aria-disabled', 'true');
  await studio.stage.getByText('I agree').click();
  await expect(pay).not.toHaveAttribute('aria-disabled', 'true');
  await page.keyboard.press('Escape');
  await studio.openFrame('Seats');
  await page.keyboard.press('t');
  for (const left of [1, 0, 0]) {
    await studio.button('Box 1').click();
    await expect(studio.stage.getByText(`${left} left`)).toBeVisible();
  }
  await studio.button('Box 2').click();
  await studio.running('Sold out');
});

test('an SVG drawing comes in shape by shape, and a picture is replaced in its place', async ({ studio, page }) => {
  await studio.newPiece('Drawing');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 200 100"><script>alert(1)</script>
    <g transform="translate(10 10)"><rect id="Hull" width="100" height="40" rx="6" fill="#1f4e5f" onclick="alert(2)"/></g>
    <circle id="Lamp" cx="150" cy="50" r="20" fill="#f0b13c"/><path id="Wave" d="M0 90 Q 50 70 100 90 T 200 90" fill="none" stroke="#0b7a75" stroke-width="4"/>
    <text id="Name" x="20" y="90" font-size="18" fill="#26232c">Kittiwake</text></svg>`;
  const bring = async (name: string, mimeType: string, buffer: Buffer) => {
    await page.locator('[data-chooser]').setInputFiles({ name, mimeType, buffer });
    await page.getByRole('button', { name: /^As layers in/ }).click();
  };
  await bring('ferry.svg', 'image/svg+xml', Buffer.from(svg));
  await expect(studio.row('ferry')).toBeVisible();
  for (const name of ['Hull', 'Lamp', 'Wave', 'Name']) await expect(studio.row(name)).toBeVisible();
  await studio.select('Hull');
  const bar = page.getByRole('toolbar', { name: 'Properties' });
  await expect(bar.getByLabel('width', { exact: true })).toHaveValue('100');
  const { default: sharp } = await import('sharp');
  const dot = (color: string) =>
    sharp({ create: { width: 40, height: 30, channels: 3, background: color } })
      .png()
      .toBuffer();
  await bring('dot.png', 'image/png', await dot('#ff0000'));
  await expect(studio.row('dot')).toBeVisible();
  await studio.select('dot');
  const source = () => studio.sheet.locator('img').first().getAttribute('src');
  const before = await source();
  const x = await bar.getByLabel('x', { exact: true }).inputValue();
  await page.getByLabel('Replace the file').setInputFiles({ name: 'other.png', mimeType: 'image/png', buffer: await dot('#0000ff') });
  await expect.poll(source).not.toBe(before);
  await expect(bar.getByLabel('x', { exact: true })).toHaveValue(x);
  await page.getByLabel('Replace the file').setInputFiles({ name: 'wrong.png', mimeType: 'image/png', buffer: Buffer.from('no picture at all') });
  await expect(page.getByText(/wrong\.png/)).toBeVisible();
});
