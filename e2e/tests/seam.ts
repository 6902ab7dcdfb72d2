import { expect, type Studio } from './studio.ts';

/** The seam of the open scene, by what is seen on it. */
export class Seam {
  constructor(readonly studio: Studio) {}

  get page() {
    return this.studio.page;
  }

  async open(): Promise<void> {
    await this.page.getByRole('region', { name: 'Strip' }).getByRole('tab', { name: 'Time' }).click();
  }

  async begin(names: string, seconds: number): Promise<void> {
    await this.page.getByLabel('Names of sections').fill(names);
    await this.page.getByLabel('Seconds').fill(String(seconds));
    await this.page.getByLabel('Seconds').press('Tab');
    await this.page.getByRole('button', { name: 'Give it time' }).click();
    await expect(this.page.locator('[data-ruler]')).toBeVisible();
  }

  async stand(moment: string): Promise<void> {
    await this.page.getByLabel('Moment', { exact: true }).fill(moment);
    await this.page.getByLabel('Moment', { exact: true }).press('Enter');
  }

  words = () => this.page.locator('[data-moment]');

  sections = () =>
    this.page
      .getByRole('list', { name: 'Sections' })
      .getByRole('button', { name: /^Section / })
      .evaluateAll((tags) => tags.map((tag) => tag.getAttribute('aria-label')!.replace('Section ', '')));

  knots = (layer: string) =>
    this.page
      .locator(`[data-seam-row]`, { has: this.page.getByRole('button', { name: layer, exact: true }) })
      .locator('[data-knot]')
      .evaluateAll((knots) => knots.map((knot) => Number(knot.getAttribute('data-knot'))));

  row = (layer: string) => this.page.getByRole('gridcell', { name: new RegExp(`^${layer}: `) });

  /** Puts something on the selected layers by the menu for what is done in time. */
  async add(words: string): Promise<void> {
    await this.page.getByRole('button', { name: /^Add in time/ }).click();
    await expect(this.page.getByRole('dialog', { name: 'Add in time' }).locator('input')).toBeFocused();
    await this.page.keyboard.type(words);
    await this.page.keyboard.press('Enter');
    await expect(this.page.getByRole('dialog', { name: 'Add in time' })).toHaveCount(0);
  }
}
