import { Acts, finish, printActs } from './acts.ts';
import { Seam } from './seam.ts';
import { expect, test } from './studio.ts';

printActs();

test('an opening is made, made faster, put off and used again for other layers', async ({ studio, page }) => {
  const letters = ['F', 'E', 'R', 'R', 'Y'];
  await studio.given({
    size: [640, 360],
    parts: {
      Waves: {
        size: [640, 60],
        timeline: { length: 48, loop: true, tracks: [['Crest', 'x', [[0, 0] as const, [47, 40] as const]]] },
        layers: { Crest: { at: [0, 0, 600, 60], style: { fill: '#1f4e5f' } } },
      },
    },
    frames: {
      Opening: {
        size: [640, 360],
        ending: true,
        layers: {
          Tender: { at: [400, 180, 80, 40], style: { fill: '#6d3a7c' } },
          Ship: { at: [240, 200, 160, 70], style: { fill: '#b4472e' } },
          Waves: { type: 'placement', part: 'Waves', at: [0, 300, 640, 60] },
          ...Object.fromEntries(
            letters.map((letter, i) => [
              `Letter ${i + 1}`,
              { type: 'text' as const, text: letter, at: [200 + i * 44, 60, 40, 50] as const, letters: { size: 40 } },
            ])
          ),
          Sail: { at: [240, 130, 160, 44], text: 'Sail', style: { fill: '#f0b13c' }, lines: ['click → start over'] },
        },
      },
    },
  });
  const seam = new Seam(studio);
  const acts = new Acts(studio);
  const stand = (moment: string) => acts.do(`stand at ${moment}`, () => seam.stand(moment));
  const add = (words: string) => acts.do(`add ${words}`, () => seam.add(words), 2);
  const field = (label: string, value: string) =>
    acts.do(`${label}: ${value}`, async () => {
      await page.getByLabel(label, { exact: true }).fill(value);
      await page.getByLabel(label, { exact: true }).press('Enter');
    });
  const span = async (layer: string) => {
    const knots = await seam.knots(layer);
    return [Math.min(...knots), Math.max(...knots)];
  };

  await acts.press('m');
  await acts.type('Opening');
  await acts.press('Tab');
  await acts.type('10');
  await acts.press('Enter');
  await expect(page.getByRole('button', { name: /^Section Opening, 240 frames, holds/ })).toBeVisible();
  await acts.do('the ship', () => studio.select('Ship'));
  await add('come in from the left');
  await field('Frames from the first to the last', '49');
  expect(await span('Ship')).toEqual([0, 48]);
  await acts.do('the letters', () => studio.select('Letter 1'));
  await acts.do('all of them', () => studio.select('Letter 5', ['Shift']));
  await stand('2.5 s');
  await add('come in from the top');
  await field('Frames one after the other', '3');
  await acts.do('the button', () => studio.select('Sail'));
  await stand('9 s');
  await add('there from here on');
  const made = acts.count;
  const starts = await Promise.all(letters.map(async (_, i) => (await span(`Letter ${i + 1}`))[0]!));
  expect([...starts].sort((a, b) => a - b)).toEqual([60, 63, 66, 69, 72]);

  // A third faster, but not the letters.
  await acts.do('the ship', () => studio.select('Ship'));
  await acts.press('m');
  await acts.press('Control+a');
  await field('Speed, per cent', '150');
  expect(await span('Ship')).toEqual([0, 32]);
  expect((await span('Letter 1'))[0]).toBe(starts[0]);

  // Half a second later.
  await acts.press('m');
  await acts.press('Control+a');
  await acts.press('Alt+Shift+ArrowRight');
  await acts.press('Alt+ArrowRight');
  await acts.press('Alt+ArrowRight');
  expect(await span('Ship')).toEqual([12, 44]);

  // The same for another boat.
  await acts.press('Control+c');
  await acts.do('the tender', () => studio.select('Tender'));
  await acts.press('m');
  await acts.press('Home');
  await acts.press('Control+v');
  expect(await span('Tender')).toEqual([0, 32]);
  finish(`opening of ten seconds (${made} to make it, ${acts.count - made} to change it three times)`, acts, 45);

  await page.keyboard.press('t');
  await expect(studio.button('Sail')).toHaveCount(0);
  await expect(studio.button('Sail')).toHaveCount(1, { timeout: 15_000 });
});
