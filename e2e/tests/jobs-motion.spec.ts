import { Acts, finish, printActs, published } from './acts.ts';
import { expect, test } from './studio.ts';

printActs();

const gold = '#f0b13c';
const navy = '#1f4e5f';

test('job 14: banner', async ({ studio, page }, info) => {
  const picture = (fill: string) => ({ at: [50, 50, 200, 120] as const, style: { fill } });
  await studio.given({
    size: [300, 250],
    frames: {
      Banner: {
        size: [300, 250],
        layers: {
          Logo: { at: [40, 10, 120, 32], text: 'Kittiwake Line', style: { fill: '#ffffff' } },
          Storm: picture('#8fa8a0'),
          Flood: picture('#cfe1ea'),
          Ebb: picture('#f7e6c3'),
          'Arrow back': { at: [2, 88, 44, 44], text: '‹', style: { fill: navy, ink: '#ffffff' } },
          'Arrow on': { at: [254, 88, 44, 44], text: '›', style: { fill: navy, ink: '#ffffff' } },
          'See the fares': { at: [30, 190, 160, 44], text: 'See the fares', style: { fill: gold } },
        },
      },
    },
  });
  const acts = new Acts(studio);
  await acts.do('select the pictures', () => studio.select('Storm'));
  await acts.do('and the arrows', () => studio.select('Arrow on', ['Shift']));
  await acts.press('s');
  const dialog = page.getByRole('dialog', { name: 'Make slides' });
  await acts.do('over time', () => dialog.getByRole('button', { name: 'over time' }).click());
  await acts.do('round and round', () => dialog.getByRole('button', { name: 'round and round' }).click());
  await acts.do('make them', () => dialog.getByRole('button', { name: 'Make slides' }).click());
  await acts.do('the call to action', () => studio.select('See the fares'));
  await acts.press('Enter');
  await acts.type('open https://www.kittiwake.example/fares in new tab as banner-7');
  await acts.press('Enter');
  await acts.do('more about them', () => page.getByRole('button', { name: 'More properties' }).click());
  await acts.do('centred', () => page.getByRole('button', { name: 'center', exact: true }).last().click());
  const x = page.getByRole('toolbar', { name: 'Properties' }).getByLabel('x', { exact: true });
  await expect(x).toHaveValue('70');
  finish('14 banner', acts, 18);

  await page.keyboard.press('Escape');
  const other = await published(acts, studio, info);
  const shown = () =>
    other.locator('.zany-box').evaluateAll((nodes) =>
      nodes.flatMap((node) => {
        const { x, y, width } = node.getBoundingClientRect();
        const style = getComputedStyle(node);
        return Math.round(width) >= 200 && style.opacity === '1' && x >= 0 && y >= 0 ? [style.backgroundColor] : [];
      })
    );
  for (const [press, fill] of [
    [null, 'rgb(247, 230, 195)'],
    ['›', 'rgb(207, 225, 234)'],
    ['›', 'rgb(143, 168, 160)'],
    ['›', 'rgb(247, 230, 195)'],
    ['‹', 'rgb(143, 168, 160)'],
  ] as const) {
    if (press) await other.getByRole('button', { name: press }).click();
    await expect.poll(shown).toEqual([fill]);
  }
  await other.evaluate(() => (window.open = (...opened) => ((document.title = opened.slice(0, 2).join(' ')), null)));
  await other.getByRole('link', { name: 'See the fares' }).click();
  await expect(other).toHaveTitle('https://www.kittiwake.example/fares _blank');
});

test('job 16: swipe row', async ({ studio, page }, info) => {
  await studio.given({
    frames: {
      List: {
        layers: {
          Keep: { at: [200, 120, 90, 72], text: 'Keep', style: { fill: gold } },
          Bin: { at: [292, 120, 90, 72], text: 'Bin', style: { fill: '#b4472e' } },
          Row: { at: [8, 120, 374, 72], text: 'Skarra, 14:20', style: { fill: '#cfe1ea' } },
        },
      },
    },
  });
  const acts = new Acts(studio);
  await acts.do('the row', () => studio.select('Row'));
  await acts.do('how it behaves', () => page.getByRole('toolbar', { name: 'Properties' }).getByRole('button', { name: 'behaves' }).click());
  await acts.do('sideways', () => page.getByRole('button', { name: 'across', exact: true }).click());
  await acts.do('as far as', () => page.getByLabel('Drag limit left').fill('-200'));
  await page.keyboard.press('Tab');
  await page.keyboard.press('Escape');
  await acts.do('keep', () => studio.select('Keep'));
  await acts.press('Enter');
  await acts.type('hide Row, dissolve 200 ms; hide Keep, dissolve; hide Bin, dissolve');
  await acts.press('Enter');
  await acts.try();
  const row = studio.stage.getByText('Skarra, 14:20');
  const left = async () => Math.round((await row.boundingBox())!.x);
  const start = await left();
  const scale = (await row.boundingBox())!.width / 374;
  const box = (await row.boundingBox())!;
  await acts.do('drag it', async () => {
    await page.mouse.move(box.x + box.width - 30, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + 20, box.y + box.height / 2 + 60, { steps: 8 });
    await page.mouse.up();
  });
  // Sideways only, and no further than it may.
  expect(Math.abs(start - (await left()) - 200 * scale)).toBeLessThan(3);
  expect(Math.abs((await row.boundingBox())!.y - box.y)).toBeLessThan(1);
  await acts.do('keep it', () => studio.button('Keep').click());
  await expect(row).toHaveCount(0);
  await expect(studio.button('Keep')).toHaveCount(0);
  await expect(studio.button('Bin')).toHaveCount(0);
  finish('16 swipe row', acts, 22);
  await page.keyboard.press('Escape');

  const other = await published(acts, studio, info);
  await other.setViewportSize({ width: 390, height: 844 });
  const at = (await other.getByText('Skarra, 14:20').boundingBox())!;
  await other.mouse.move(at.x + 350, at.y + 30);
  await other.mouse.down();
  await other.mouse.move(at.x + 100, at.y + 30, { steps: 6 });
  await other.mouse.up();
  await other.getByRole('button', { name: 'Keep' }).click();
  await expect(other.getByText('Skarra, 14:20')).toHaveCount(0);
});
