import { expect, type Locator, type Page } from '@playwright/test';
import { writePackage, type Piece } from '@zany/core';
import { compose, type ComposeSpec } from '@zany/core/testing';
import { test as base } from './kept-context.ts';
import type { FileToBring } from './pages.ts';

export { expect };

/** What a person does in the studio, by the names they see. */
export class Studio {
  constructor(readonly page: Page) {}

  /** Signs the page's person in without a page being drawn: most tests go straight to a piece. */
  async signIn(): Promise<void> {
    const headers = { origin: await this.origin(), accept: 'application/json' };
    const answer = await this.page.request.post('/sign-in?/demo', { form: {}, headers });
    expect(await answer.json()).toMatchObject({ type: 'redirect' });
  }

  /** Where the studio is that this page goes to. */
  async origin(): Promise<string> {
    const url = this.page.url();
    return new URL(url.startsWith('http') ? url : (await this.page.request.get('/icon.svg')).url()).origin;
  }

  async workroom(): Promise<void> {
    await this.page.goto('/');
    await expect(this.page.getByRole('heading', { name: 'Workroom' })).toBeVisible();
    await expect(this.page.locator('html[data-hears]')).toBeAttached();
  }

  /** Makes a piece without the interface, for tests that are about something else. */
  async newPiece(name: string, width = 390, height = 844): Promise<string> {
    const origin = await this.origin();
    const answer = await this.page.request.post('/api/pieces', { data: { name, width, height }, headers: { origin } });
    const { id } = (await answer.json()) as { id: string };
    await this.open(id);
    return id;
  }

  /** The same in a page that has been nowhere yet. */
  async newPieceBeside(origin: string, name: string): Promise<string> {
    await this.page.goto(origin);
    return this.newPiece(name);
  }

  /** Puts a whole piece in as a package, as the given of a test, and opens it. */
  given(spec: ComposeSpec): Promise<string> {
    return this.givenPiece(compose(spec));
  }

  async givenPiece(piece: Piece): Promise<string> {
    const origin = await this.origin();
    const data = Buffer.from(writePackage(piece, new Map()));
    const answer = await this.page.request.post('/api/packages', { data, headers: { origin, 'content-type': 'application/octet-stream' } });
    const { id } = (await answer.json()) as { id: string };
    await this.open(id);
    return id;
  }

  async open(id: string): Promise<void> {
    await this.page.goto(`/p/${id}/build`);
    // A machine with much else to do takes its time over a whole page.
    await expect(this.page.getByRole('region', { name: 'Cue sheet' })).toBeVisible({ timeout: 40_000 });
  }

  async bringIn(files: readonly FileToBring[], how: 'own size' | 'fitted' = 'own size'): Promise<void> {
    await this.page.locator('[data-chooser]').setInputFiles([...files]);
    const dialog = this.page.getByRole('dialog', { name: 'Bring in pages' });
    await dialog.getByRole('button', { name: how === 'fitted' ? /^Fitted/ : /own|pictures' size/ }).click();
    await expect(dialog).toBeHidden({ timeout: 20_000 });
  }

  get sheet(): Locator {
    return this.page.locator('[data-sheet]');
  }

  /** Scale of the stage: CSS pixels on screen for one of the frame. */
  private async onScreen(x: number, y: number): Promise<{ x: number; y: number }> {
    const box = (await this.sheet.boundingBox())!;
    const scene = (await this.page
      .locator('[data-sheet] .zany-scene')
      .first()
      .evaluate((node) => [(node as HTMLElement).offsetWidth, (node as HTMLElement).offsetHeight])) as [number, number];
    return { x: box.x + (x / scene[0]) * box.width, y: box.y + (y / scene[1]) * box.height };
  }

  /** Drags on the stage from one point of the frame to another. */
  async drag(from: readonly [number, number], to: readonly [number, number], modifier?: 'Alt' | 'Shift'): Promise<void> {
    const a = await this.onScreen(...from);
    const b = await this.onScreen(...to);
    if (modifier) await this.page.keyboard.down(modifier);
    await this.page.mouse.move(a.x, a.y);
    await this.page.mouse.down();
    await this.page.mouse.move((a.x + b.x) / 2, (a.y + b.y) / 2, { steps: 3 });
    await this.page.mouse.move(b.x, b.y, { steps: 3 });
    await this.page.mouse.up();
    if (modifier) await this.page.keyboard.up(modifier);
  }

  /** Drags a frame from the shelf onto the stage. */
  async putDown(frame: string, x: number, y: number): Promise<void> {
    const { x: left, y: top } = (await this.sheet.boundingBox())!;
    const to = await this.onScreen(x, y);
    const from = this.page.getByRole('navigation', { name: 'Frames' }).getByRole('group', { name: frame, exact: true });
    await from.dragTo(this.sheet, { targetPosition: { x: to.x - left, y: to.y - top } });
  }

  /** Pastes what was copied as text. */
  async pasteText(text: string): Promise<void> {
    await this.page.evaluate((text) => {
      const data = new DataTransfer();
      data.setData('text/plain', text);
      window.dispatchEvent(new ClipboardEvent('paste', { clipboardData: data, bubbles: true, cancelable: true }));
    }, text);
  }

  async clickStage(x: number, y: number): Promise<void> {
    const at = await this.onScreen(x, y);
    await this.page.mouse.click(at.x, at.y);
  }

  async doubleClickStage(x: number, y: number): Promise<void> {
    const at = await this.onScreen(x, y);
    await this.page.mouse.dblclick(at.x, at.y);
  }

  async draw(key: 'h' | 'b' | 'o' | 'x', x: number, y: number, width: number, height: number): Promise<void> {
    await this.page.keyboard.press(key);
    await this.drag([x, y], [x + width, y + height]);
  }

  row(name: string): Locator {
    return this.page.getByRole('treeitem', { name, exact: true });
  }

  /** Has a layer of the open frame lead to another frame than it does. */
  async leadElsewhere(layer: string, from: string, to: string): Promise<void> {
    await this.select(layer);
    await this.row(layer)
      .getByRole('button', { name: `Leads to: ${from}` })
      .click();
    await this.page
      .getByRole('option', { name: new RegExp(`^${to}`) })
      .first()
      .click();
  }

  async select(name: string, modifiers: ('Shift' | 'Control')[] = []): Promise<void> {
    await this.row(name).locator('[data-pick]').click({ modifiers });
  }

  /** Writes a thread line for the selected layer. */
  async write(line: string): Promise<void> {
    await this.page.keyboard.press('Enter');
    await this.page.keyboard.type(line);
    await this.page.keyboard.press('Enter');
  }

  async openFrame(name: string): Promise<void> {
    await this.page
      .getByRole('navigation', { name: 'Frames' })
      .getByRole('button', { name: `Open ${name}`, exact: true })
      .click();
  }

  async desk(name: 'Build' | 'Map' | 'Walk' | 'Hand over'): Promise<void> {
    const link = this.page.getByRole('navigation', { name: 'Desks' }).getByRole('link', { name, exact: true });
    await link.click();
    await expect(link).toHaveAttribute('aria-current', 'page');
    // What is drawn or typed before it is there meets the desk that one comes from.
    if (name === 'Build') await expect(this.page.getByRole('region', { name: 'Cue sheet' })).toBeVisible();
  }

  frames(): Promise<string[]> {
    return this.page
      .getByRole('navigation', { name: 'Frames' })
      .locator('[data-shelf-frame]')
      .evaluateAll((nodes) => nodes.map((node) => node.getAttribute('aria-label') ?? ''));
  }

  async saved(timeout = 15_000): Promise<void> {
    await expect(this.page.locator('[data-save-state]')).toHaveAttribute('data-save-state', 'saved', { timeout });
  }

  looseEnds(): Locator {
    return this.page.locator('[data-loose-ends]');
  }

  /** The piece that runs in place. */
  get stage(): Locator {
    return this.page.locator('[data-running]');
  }

  /** A layer of the running piece by its accessible name. */
  button(name: string | RegExp): Locator {
    // A frame that is on its way out is inert.
    return this.stage.locator('.zany-scene:not([inert])').getByRole('button', { name });
  }

  /** The frame that the running piece shows. */
  async running(name: string): Promise<void> {
    await expect(this.page.getByRole('complementary', { name: 'Ledger' }).locator('dd').first()).toHaveText(name);
  }
}

/** Which sides of the Build desk are open: as they begin, or as of somebody who keeps the side column open. */
type OpenSides = 'as they begin' | 'all';

export const test = base.extend<{ studio: Studio; openSides: OpenSides }>({
  openSides: ['all', { option: true }],
  studio: async ({ page, openSides }, use) => {
    if (openSides === 'all')
      await page.addInitScript(() => {
        // Pages from a file, and some frames, have no storage.
        try {
          if (!localStorage.getItem('zany-sides')) localStorage.setItem('zany-sides', JSON.stringify({ folded: [] }));
        } catch {
          return;
        }
      });
    const problems: string[] = [];
    page.on('pageerror', (error) => problems.push(error.stack ?? error.message));
    const studio = new Studio(page);
    await studio.signIn();
    await use(studio);
    expect(problems).toEqual([]);
  },
});
