import { axeOn } from './axe.ts';
import { expect, test, type Studio } from './studio.ts';

/** What axe finds in the studio itself, or only in what has just come up in it, with places; what a piece shows is its designer's. */
async function faults({ page }: Studio, rules: string[] | null, within?: string): Promise<string[]> {
  const axe = axeOn(page).exclude('.zany-screen');
  if (within) {
    await expect(page.locator(within).first()).toBeVisible();
    axe.include(within);
  }
  const { violations } = await (rules ? axe.withRules(rules) : axe).analyze();
  return violations.map(
    (found) =>
      `${found.id}: ${found.nodes
        .map((node) => node.target.join(' '))
        .slice(0, 4)
        .join(' | ')}`
  );
}

for (const theme of ['linen', 'lamplight'] as const)
  test(`axe finds nothing on any desk in ${theme}`, async ({ studio, page }) => {
    test.setTimeout(600_000);
    // The themes differ in their colours alone.
    const rules = theme === 'linen' ? null : ['color-contrast'];
    await studio.workroom();
    if (theme === 'lamplight') await page.getByRole('button', { name: 'Change to lamplight' }).click();
    expect(await faults(studio, rules), 'Workroom').toEqual([]);
    await page.getByRole('link', { name: 'Open Day trip' }).click();
    await expect(page.getByRole('region', { name: 'Cue sheet' })).toBeVisible();
    await studio.select('Book');
    const bar = page.getByRole('toolbar', { name: 'Properties' });
    for (const [name, what] of [
      [/^Fill: /, '[data-popover]'],
      [/^Type style: /, '[data-popover]'],
      ['More properties', '[role=dialog]'],
    ] as const) {
      await bar.getByRole('button', { name }).click();
      expect(await faults(studio, rules, what), String(name)).toEqual([]);
      await page.keyboard.press('Escape');
    }
    await bar.getByRole('button', { name: 'behaves' }).click();
    expect(await faults(studio, rules), 'Build, a layer selected, how it behaves').toEqual([]);
    await page.keyboard.press('Escape');
    await page.getByRole('tab', { name: /^Variables/ }).click();
    await page.getByRole('tab', { name: 'States' }).click();
    await page.keyboard.press('y');
    expect(await faults(studio, rules), 'variables, states and starter parts').toEqual([]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+a');
    await page.keyboard.press('p');
    expect(await faults(studio, rules, '[role=dialog]'), 'pairing up').toEqual([]);
    await page.keyboard.press('Escape');
    await page.keyboard.press('t');
    await expect(studio.stage).toBeVisible();
    expect(await faults(studio, rules), 'trying').toEqual([]);
    await page.keyboard.press('Escape');
    for (const desk of ['Map', 'Walk', 'Hand over'] as const) {
      await studio.desk(desk);
      await page.waitForTimeout(800);
      expect(await faults(studio, rules), desk).toEqual([]);
    }
    await page.goto('/');
    await page.getByRole('link', { name: 'Open Tide lesson' }).click();
    await page.getByRole('region', { name: 'Strip' }).getByRole('tab', { name: 'Time' }).click();
    await page.locator('[data-knot]').nth(1).click();
    expect(await faults(studio, rules), 'Time').toEqual([]);
    await page.getByRole('treeitem').first().click({ button: 'right' });
    expect(await faults(studio, rules, '[data-popover]'), 'the menu of a layer').toEqual([]);
  });

for (const [width, height] of [
  [1024, 700],
  [2560, 1440],
] as const)
  test(`the desks hold together at ${width} × ${height}`, async ({ studio, page }) => {
    await page.setViewportSize({ width, height });
    await studio.workroom();
    await page.getByRole('link', { name: 'Open Day trip' }).click();
    await studio.select('Book');
    const boxes = await page.evaluate(() =>
      [...document.querySelectorAll('header, main > *, [data-bar], section[aria-label="Strip"]')].map((node) => {
        const { left, right, top, bottom } = node.getBoundingClientRect();
        return { what: node.getAttribute('aria-label') ?? node.tagName, left, right, top, bottom };
      })
    );
    for (const { what, left, right, bottom } of boxes) {
      expect(left, what).toBeGreaterThanOrEqual(-0.5);
      expect(right, what).toBeLessThanOrEqual(width + 0.5);
      expect(bottom, what).toBeLessThanOrEqual(height + 0.5);
    }
    const stage = (await page.locator('[data-stage]').boundingBox())!;
    expect(stage.width).toBeGreaterThan(300);
    expect(stage.height).toBeGreaterThan(200);
    await expect(studio.looseEnds()).toBeVisible();
    const chips = await page.evaluate(() => {
      const header = document.querySelector('header')!;
      return [...header.querySelectorAll('a, button')].filter((node) => node.getBoundingClientRect().right > innerWidth).length;
    });
    expect(chips).toBe(0);
    for (const desk of ['Map', 'Walk', 'Hand over'] as const) {
      await studio.desk(desk);
      await expect(page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name: desk })).toHaveAttribute('aria-current', 'page');
      await expect(page.locator('main')).toBeVisible();
      const beyond = await page.evaluate(() =>
        [...document.querySelectorAll('main > *, main button, main input, main a')].flatMap((node) => {
          const { left, right, width } = node.getBoundingClientRect();
          const inScroller = node.closest('.scroll, [data-map]') !== null;
          return width > 0 && !inScroller && (left < -0.5 || right > innerWidth + 0.5) ? [node.textContent!.trim().slice(0, 40)] : [];
        })
      );
      expect(beyond, desk).toEqual([]);
      expect(await page.evaluate(() => document.documentElement.scrollWidth), desk).toBeLessThanOrEqual(width);
    }
  });
