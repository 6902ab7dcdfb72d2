import { test as base, type Browser, type BrowserContext, type CDPSession } from '@playwright/test';

/**
 * A browser context that a worker's tests have after each other. Most of what a test costs is a browser that has seen nothing yet; here a
 * page that stays keeps the site's process, and with it what was fetched and compiled. What a person leaves behind is cleared away.
 */
class KeptContext {
  private constructor(
    readonly context: BrowserContext,
    private readonly origin: string,
    private readonly devtools: CDPSession
  ) {}

  static async begin(browser: Browser, origin: string): Promise<KeptContext> {
    const context = await browser.newContext();
    const stays = await context.newPage();
    await stays.goto(`${origin}/icon.svg`);
    return new KeptContext(context, origin, await context.newCDPSession(stays));
  }

  /** Closes what a test has opened and forgets what it has left; the next one finds the context as a new one is. */
  async clear(): Promise<void> {
    const [, ...opened] = this.context.pages();
    for (const page of opened) await page.close();
    await this.context.unrouteAll({ behavior: 'ignoreErrors' });
    await this.context.setOffline(false);
    await this.context.clearPermissions();
    await this.context.clearCookies();
    await this.devtools.send('Storage.clearDataForOrigin', {
      origin: this.origin,
      storageTypes: 'local_storage,indexeddb,cache_storage,service_workers',
    });
  }
}

/** Tests whose pages share a context with those before them, unless they touch: touch is given to a context when it is made. */
export const test = base.extend<object, { kept: { context?: KeptContext } }>({
  kept: [
    async ({ browser: _browser }, use) => {
      const kept: { context?: KeptContext } = {};
      await use(kept);
      await kept.context?.context.close();
    },
    { scope: 'worker' },
  ],
  context: async ({ browser, kept, hasTouch, baseURL }, use) => {
    if (hasTouch) {
      const own = await browser.newContext();
      await use(own);
      await own.close();
      return;
    }
    kept.context ??= await KeptContext.begin(browser, new URL(baseURL!).origin);
    await use(kept.context.context);
    await kept.context.clear();
  },
});
