import type { Page, TestInfo } from '@playwright/test';
import { expect, test, type Studio } from './studio.ts';

/**
 * Jobs that designers do all day, each within a budget of acts. An act is a click, a drag, a key chord, a choice from a
 * list, or one typed word or value.
 */
export class Acts {
  count = 0;

  constructor(readonly studio: Studio) {}

  async do(name: string, work: () => Promise<unknown>, acts = 1): Promise<void> {
    await test.step(name, work);
    this.count += acts;
  }

  press(keys: string): Promise<void> {
    return this.do(`press ${keys}`, () => this.studio.page.keyboard.press(keys));
  }

  /** Types words: each counts. */
  type(words: string): Promise<void> {
    return this.do(`type ${words}`, () => this.studio.page.keyboard.type(words), words.trim().split(/\s+/).length);
  }

  /** Turns Try on; it begins in the frame that is open. */
  async try(): Promise<void> {
    await this.press('t');
    await expect(this.studio.page.locator('[data-running]')).toBeVisible();
  }
}

const table: { job: string; acts: number; budget: number }[] = [];

/** Prints what the jobs of a file took, once each; called once in every file. */
export const printActs = (): void =>
  test.afterAll(() => {
    for (const { job, acts, budget } of table.splice(0)) console.log(`  acts  ${String(acts).padStart(3)} of ${String(budget).padStart(3)}  ${job}`);
  });

export function finish(job: string, acts: Acts, budget: number): void {
  table.push({ job, acts: acts.count, budget });
  expect(acts.count).toBeLessThanOrEqual(budget);
}

/** Saves the piece as a page and opens that in a tab of its own. */
export async function published(acts: Acts, { page }: Studio, info: TestInfo): Promise<Page> {
  await acts.press('4');
  const coming = page.waitForEvent('download');
  await acts.do('save the page', () => page.getByRole('button', { name: 'Save the page' }).click());
  const file = info.outputPath('page.html');
  await (await coming).saveAs(file);
  const other = await page.context().newPage();
  await other.goto(`file://${file}`);
  return other;
}
