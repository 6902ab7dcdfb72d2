import { readFileSync } from 'node:fs';
import type { ComposeSpec } from '@zany/core/testing';
import { axeOn } from './axe.ts';
import { expect, test } from './studio.ts';

/** The Walk desk: guided from where one is, walks that are kept and break, loose ends that are set aside, few and hundreds of them. */

const looks = { hover: { style: { fill: '#2b6678' } } } as const;
const button = (text: string, y: number, ...lines: string[]) =>
  ({ at: [40, y, 310, 60] as const, text, looks, style: { fill: '#1f4e5f', ink: '#ffffff', corner: 10 }, letters: { size: 18 }, lines }) as const;

const harbour: ComposeSpec = {
  name: 'Harbour walk',
  frames: {
    Harbour: { layers: { Boats: button('Boats', 120, 'click → go to Boats'), Fares: button('Fares', 200, 'click → go to Fares') } },
    Boats: { layers: { Pay: button('Pay', 120, 'click → go to Fares'), Home: button('Home', 740, 'click → go to Harbour') } },
    Fares: {
      layers: {
        Home: button('Home', 740, 'click → go to Harbour'),
        Dot: { type: 'hit', at: [300, 40, 30, 30], label: 'A secret way', lines: ['click → go to Harbour'] },
      },
    },
  },
};

test('guided: the next thing to do is said and lit, leaving the path is fine, and at the end all is walked', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  const next = page.locator('[data-next]');
  await expect(next).toContainText('click Boats');
  await studio.button('Fares').click();
  await studio.running('Fares');
  await expect(page.locator('[data-walked]')).toHaveText(/^1 of 6 threads/);
  for (let i = 0; i < 12 && (await next.isVisible()); i++) {
    const before = await next.textContent();
    await page.getByRole('button', { name: 'do it' }).click();
    await expect.poll(async () => ((await next.isVisible()) ? await next.textContent() : 'none')).not.toBe(before);
  }
  await expect(page.locator('[data-walked]')).toHaveText(/^6 of 6 threads/);
  await expect(page.getByText('Every thread has been walked.')).toBeVisible();
});

test('a walk is kept by walking it, breaks when something leads elsewhere, and can be kept as it is now', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  const keep = page.getByRole('button', { name: 'keep this walk' });
  await expect(keep).toBeDisabled();
  await studio.button('Boats').click();
  await studio.running('Boats');
  await studio.button('Pay').click();
  await studio.running('Fares');
  await keep.click();
  await page.getByLabel('Name of the walk').fill('From the pier to the fares');
  await page.keyboard.press('Enter');
  const walk = page.getByRole('article', { name: 'The walk From the pier to the fares', exact: true });
  await expect(walk).toContainText('2 steps');
  await expect(walk).toContainText('Every step leads where it led.');

  await studio.desk('Build');
  await studio.openFrame('Boats');
  await studio.leadElsewhere('Pay', 'Fares', 'Harbour');
  await studio.desk('Walk');
  await expect(walk).toContainText('Step 2, click Pay: it leads to Harbour instead of Fares.');
  const broken = page.getByRole('article', { name: 'The walk From the pier to the fares no longer holds' });
  await expect(broken).toContainText('At step 2, click Pay: it leads to Harbour instead of Fares.');
  await page.getByText('since you opened it').click();
  await expect(page.getByRole('list', { name: 'Since you opened it' })).toContainText('The walk From the pier to the fares no longer holds');
  await walk.getByRole('button', { name: 'Walk it' }).click();
  await expect(page.getByRole('complementary', { name: 'Ledger' })).toContainText('clicked Pay');
  await studio.running('Harbour');
  await walk.getByRole('button', { name: 'keep it as it is now' }).click();
  await expect(broken).toBeHidden();
  await expect(walk).toContainText('Every step leads where it led.');
  await walk.getByRole('button', { name: 'rename' }).click();
  await page.getByLabel('Name of the walk').fill('Round the pier');
  await page.keyboard.press('Enter');
  await page.getByRole('article', { name: 'The walk Round the pier' }).getByRole('button', { name: 'let go' }).click();
  await expect(page.getByRole('region', { name: 'Kept walks' })).toBeHidden();
});

test('of what was just walked is said whether it did what it should; it is kept, in the report, and gone with what it was said of', async ({
  studio,
  page,
}) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  await studio.button('Boats').click();
  await studio.running('Boats');
  const just = page.getByRole('group', { name: 'Just walked' });
  await expect(just).toContainText('Boats: click → go to Boats');
  await just.getByRole('button', { name: 'as it should', exact: false }).first().click();
  await studio.button('Pay').click();
  await studio.running('Fares');
  await expect(just).toContainText('Pay: click → go to Fares');
  await just.getByRole('button', { name: 'not as it should' }).click();
  await just.getByRole('button', { name: 'note…' }).click();
  await page.getByLabel('Note on Pay: click → go to Fares').fill('No <price> here');
  await page.keyboard.press('Enter');
  const said = page.getByRole('region', { name: 'What was said' });
  await expect(said).toContainText('2 branches walked: 1 as it should, 1 not as it should.');
  await page.waitForTimeout(1200);
  await page.reload();
  const one = said.getByRole('article', { name: 'Said of Pay: click → go to Fares' });
  await expect(one).toContainText('“No <price> here”');
  await expect(one).toContainText('on Boats, you');
  await one.getByRole('button', { name: 'go there' }).click();
  await studio.running('Boats');

  const reported = async (kind: string) => {
    await page.getByRole('button', { name: /^Report/ }).click();
    const download = page.waitForEvent('download');
    await page.getByRole('option', { name: kind }).click();
    return readFileSync(await (await download).path(), 'utf8');
  };
  const html = await reported('A page to read and print');
  expect(html).toContain('“No &#60;price&#62; here”');
  expect(html).not.toContain('Boats: click → go to Boats');
  const xml = await reported('Walks as test cases (JUnit)');
  expect(xml).toContain('<testsuite name="Walked by people" tests="2" failures="1"');
  expect(xml).toContain('No &#60;price&#62; here');

  // It was said of what the thread said.
  await studio.desk('Build');
  await studio.openFrame('Boats');
  await studio.leadElsewhere('Pay', 'Fares', 'Harbour');
  await studio.desk('Walk');
  await expect(said).toContainText('1 branch walked: 1 as it should.');
  await expect(one).toBeHidden();
});

test('from any entry of the ledger the walk goes on as if nothing had come after it', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  await studio.button('Boats').click();
  await studio.running('Boats');
  await studio.button('Pay').click();
  await studio.running('Fares');
  const ledger = page.getByRole('complementary', { name: 'Ledger' });
  await ledger.getByRole('button', { name: 'Back to here: clicked Boats' }).click();
  await studio.running('Boats');
  await expect(ledger).not.toContainText('clicked Pay');
  await studio.button('Home').click();
  await studio.running('Harbour');
  await page.getByRole('button', { name: 'keep this walk' }).click();
  await page.getByLabel('Name of the walk').fill('There and back');
  await page.keyboard.press('Enter');
  const walk = page.getByRole('article', { name: 'The walk There and back', exact: true });
  await expect(walk).toContainText('2 steps');
  await expect(walk).toContainText('Every step leads where it led.');
});

test('by the keyboard: straight into the running piece; going from thing to thing is no part of the walk', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  await expect(page.locator('[data-next]')).toContainText('click Boats');
  const skip = page.getByRole('button', { name: 'go into the running piece' });
  await skip.focus();
  await expect(skip).toBeInViewport();
  await page.keyboard.press('Enter');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await studio.running('Fares');
  await expect(page.getByRole('complementary', { name: 'Ledger' })).not.toContainText('Tab');
  await expect(page.locator('[data-walked]')).toHaveText(/^1 of 6 threads/);
});

test('a loose end is set aside with a reason, counts no more, and is taken up again', async ({ studio, page }) => {
  await studio.given(harbour);
  await studio.desk('Walk');
  const small = page.getByRole('article', { name: 'Dot is hard to hit' });
  await expect(small).toBeVisible();
  const saved = page.waitForEvent('download');
  await page.getByRole('button', { name: /^Report/ }).click();
  await page.getByRole('option', { name: 'A table (CSV)' }).click();
  expect((await saved).suggestedFilename()).toBe('harbour-walk.loose-ends.csv');
  // What its rule finds and lets be is said where it stands, with a drawn example.
  await small.getByRole('button', { name: /^What is this/ }).click();
  await expect(small.getByRole('note')).toContainText('under 24 CSS px');
  await expect(small.getByRole('note')).toContainText('Nothing is said of');
  await expect.poll(() => small.getByRole('img').evaluate((node) => (node as HTMLImageElement).naturalWidth)).toBeGreaterThan(50);
  await small.getByRole('button', { name: /^What is this/ }).click();
  await expect(small.getByRole('note')).toHaveCount(0);
  const before = Number(await studio.looseEnds().getAttribute('data-loose-ends'));
  await small.getByRole('button', { name: 'aside…' }).click();
  await page.getByLabel('Why it is no matter').fill('Only those who know find it');
  await page.keyboard.press('Enter');
  await expect(small).toBeHidden();
  await expect(studio.looseEnds()).toHaveAttribute('data-loose-ends', String(before - 1));
  await page.getByText(/^set aside 1/).click();
  const aside = page.getByRole('group', { name: 'Dot is hard to hit, set aside' });
  await expect(aside).toContainText('Only those who know find it');
  await page.reload();
  await expect(studio.looseEnds()).toHaveAttribute('data-loose-ends', String(before - 1));
  await page.getByText(/^set aside 1/).click();
  await aside.getByRole('button', { name: 'take up again' }).click();
  await expect(small).toBeVisible();
});

test('a route that has to be quick is shown in its own time, however long one looks on', async ({ studio, page }) => {
  await studio.given({
    name: 'Quick hatch',
    variables: { Opened: { type: 'yes/no', initial: false } },
    frames: {
      Quay: { layers: { Boats: button('Boats', 120, 'click → go to Gate') } },
      Gate: { layers: { Hatch: button('Hatch', 120, 'click → set Opened to true; go to Hold') }, lines: ['after 200 ms → go to Quay'] },
      Hold: { layers: { Words: { type: 'text', at: [40, 120, 310, 60], text: '{if Opened then "opened in time" else "never opened"}' } } },
    },
  });
  await studio.desk('Walk');
  const dead = page.getByRole('article', { name: 'Hold is a dead end' });
  await dead.getByRole('button', { name: 'Show me' }).click();
  await studio.running('Hold');
  await expect(page.getByText('opened in time')).toBeVisible();
});

test('what is read out stands beside the piece, in order, as the browser has it', async ({ studio, page }) => {
  await studio.given({
    name: 'Read out',
    frames: {
      Pay: {
        states: { quiet: {}, told: { Note: { hidden: false } } },
        layers: {
          Title: { type: 'text', text: 'Two seats', at: [20, 20, 300, 40], role: 'heading' },
          Words: { type: 'text', text: 'To Skarra at 10:40', at: [20, 70, 300, 30] },
          Terms: { type: 'field', at: [20, 120, 60, 60], label: 'I have read the terms', field: { kind: 'checkbox' } },
          Tell: button('Tell me', 200, 'click → put this in told'),
          Off: { ...button('Pay', 280, 'click → go to Pay'), disabled: true },
          Note: { type: 'text', text: 'We will tell you', at: [20, 400, 300, 30], hidden: true },
        },
      },
    },
  });
  await studio.desk('Walk');
  await page.getByText('As it is read out').click();
  const items = page.getByRole('list', { name: 'As it is read out' }).getByRole('listitem');
  const said = [
    'heading Two seats',
    'text To Skarra at 10:40',
    'checkbox I have read the terms, not ticked',
    'button Tell me',
    'button Pay, disabled',
  ];
  await expect(items).toHaveText(said);
  // The browser's own account of the running piece, in the same order.
  const tree = await page.locator('[data-running]').ariaSnapshot();
  const places = ['Two seats', 'To Skarra at 10:40', 'I have read the terms', 'Tell me', 'Pay'].map((name) => tree.indexOf(name));
  expect(places).toEqual(places.toSorted((a, b) => a - b));
  expect(places[0]).toBeGreaterThan(-1);
  await studio.button('Tell me').click();
  await expect(items).toHaveText([...said, 'text We will tell you']);
});

test('hundreds of loose ends are folded by kind, and looked through by how grave, by kind and by frame', async ({ studio, page }) => {
  const frames = Object.fromEntries(
    Array.from({ length: 12 }, (_, i) => [
      `Page ${i + 1}`,
      {
        layers: {
          Next: button('Next', 700, `click → go to Page ${((i + 1) % 12) + 1}`),
          ...Object.fromEntries(
            Array.from({ length: 24 }, (_, n) => [
              `Dot ${n + 1}`,
              {
                type: 'hit',
                at: [(n % 6) * 60, 40 + Math.floor(n / 6) * 60, 20, 20],
                label: `Dot ${n + 1}`,
                lines: ['click → go to Page 1'],
              } as const,
            ])
          ),
        },
      },
    ])
  );
  await studio.given({ name: 'Many', frames });
  await studio.desk('Walk');
  const list = page.getByRole('region', { name: 'Loose ends' });
  await expect(list.getByRole('button', { name: /hard to hit 288 places/ })).toBeVisible();
  await expect(list.getByRole('article')).toHaveCount(0);
  await list.getByRole('button', { name: 'this frame' }).click();
  await list.getByRole('button', { name: /hard to hit 24 places/ }).click();
  await expect(list.getByRole('article')).toHaveCount(24);
  await list.getByRole('button', { name: /^✕ must fix/ }).click();
  await expect(list.getByRole('article')).toHaveCount(0);
  await list.getByRole('button', { name: /^! worth a look/ }).click();
  await expect(list.getByText('None of these here.')).toBeVisible();
  await list.getByRole('button', { name: /^! worth a look/ }).click();
  await list.getByRole('button', { name: 'this frame' }).click();
  await list.getByRole('button', { name: /^Kind of loose end/ }).click();
  await page.getByRole('option', { name: /^changes nothing/ }).click();
  await expect(list.getByRole('article')).toHaveCount(24);
  // Which of many that are called the same it is: the frame is said where nothing else names it.
  await expect(list.getByRole('article').first()).toContainText('Page 1');
});

test('what is said alike of many places is one, set aside and taken up again at once, or looked at one by one', async ({ studio, page }) => {
  const pages = Array.from({ length: 9 }, (_, i) => `Pier ${i + 1}`);
  const frames = Object.fromEntries(
    pages.map((name, i) => [
      name,
      {
        layers: {
          Next: button('Next', 700, `click → go to ${pages[(i + 1) % 9]!}`),
          Dot: { type: 'hit', at: [20, 40, 20, 20], lines: ['click → go to Pier 1'] },
        },
      },
    ])
  ) satisfies ComposeSpec['frames'];
  await studio.given({ name: 'Alike', frames });
  await studio.desk('Walk');
  const list = page.getByRole('region', { name: 'Loose ends' });
  const small = list.getByRole('article', { name: 'Dot is hard to hit' });
  await expect(small).toHaveCount(1);
  await expect(small).toContainText('9 places');
  await expect(small).toContainText('So it is in the others.');
  const places = small.getByRole('group', { name: 'Where it is so' });
  await expect(places.getByRole('button')).toHaveText(['Pier 1', 'Pier 2', 'Pier 3', 'Pier 4', 'Pier 5', 'Pier 6', '3 more', 'one by one']);
  await places.getByRole('button', { name: '3 more places of Dot is hard to hit' }).click();
  await places.getByRole('button', { name: 'Pier 8' }).click();
  await small.getByRole('button', { name: 'open it' }).click();
  await expect(page.getByRole('heading', { name: 'Pier 8', exact: true })).toBeVisible();
  await studio.desk('Walk');
  expect((await axeOn(page).analyze()).violations).toEqual([]);

  await small.getByRole('button', { name: 'all aside…' }).click();
  await page.keyboard.type('a mark, nothing more');
  await page.keyboard.press('Enter');
  await expect(small).toHaveCount(0);
  await list.getByText('set aside 9').click();
  const aside = list.getByRole('group', { name: 'Dot is hard to hit, set aside' });
  await expect(aside).toHaveCount(1);
  await expect(aside).toContainText('9 places');
  await aside.getByRole('button', { name: 'take up again' }).click();
  await expect(aside).toHaveCount(0);
  await places.getByRole('button', { name: 'one by one' }).click();
  await expect(small).toHaveCount(9);
});
