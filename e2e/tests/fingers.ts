import type { CDPSession, Page } from '@playwright/test';

export type At = readonly [x: number, y: number];

/** Fingers on a screen, each by where it is. */
export class Fingers {
  private constructor(private readonly session: CDPSession) {}

  static on = async (page: Page): Promise<Fingers> => new Fingers(await page.context().newCDPSession(page));

  private touch(type: 'touchStart' | 'touchMove' | 'touchEnd', places: readonly At[]): Promise<unknown> {
    return this.session.send('Input.dispatchTouchEvent', { type, touchPoints: places.map(([x, y], id) => ({ x, y, id })) });
  }

  down = (...places: readonly At[]) => this.touch('touchStart', places);
  to = (...places: readonly At[]) => this.touch('touchMove', places);
  up = () => this.touch('touchEnd', []);

  /** All fingers go from where they are to where they end, in some steps. */
  async glide(from: readonly At[], to: readonly At[], steps = 6): Promise<void> {
    for (const [i] of from.entries()) await this.down(...from.slice(0, i + 1));
    for (let step = 1; step <= steps; step++)
      await this.to(...from.map(([x, y], i): At => [x + ((to[i]![0] - x) * step) / steps, y + ((to[i]![1] - y) * step) / steps]));
    await this.up();
  }

  async tap(at: At): Promise<void> {
    await this.down(at);
    await this.up();
  }
}
