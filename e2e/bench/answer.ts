import type { Page } from '@playwright/test';

/** How long the page took for each input of one kind, in milliseconds: from the event to the paint, and the main thread's work for it. */
export interface Answers {
  readonly toPaint: readonly number[];
  readonly work: readonly number[];
}

declare global {
  interface Window {
    zanyAnswers: { toPaint: number[]; work: number[] };
  }
}

/**
 * Times every event of a type from now on. A message posted in the first listener is handled once the handlers and what
 * they queued are done; one posted in a frame callback, once that frame is painted.
 */
export async function timeAnswers(page: Page, type: 'keydown' | 'pointermove' | 'wheel'): Promise<void> {
  await page.evaluate((kind) => {
    window.zanyAnswers = { toPaint: [], work: [] };
    const after = (done: () => void) => {
      const { port1, port2 } = new MessageChannel();
      port1.onmessage = done;
      port2.postMessage(null);
    };
    addEventListener(
      kind,
      (event) => {
        const begun = performance.now();
        let handled: number | null = null;
        after(() => (handled = performance.now()));
        requestAnimationFrame(() => {
          const drawing = performance.now();
          after(() => {
            const now = performance.now();
            window.zanyAnswers.toPaint.push(now - event.timeStamp);
            window.zanyAnswers.work.push(now - drawing + ((handled !== null && handled < drawing ? handled : drawing) - begun));
          });
        });
      },
      { capture: true }
    );
  }, type);
}

/** What was timed since the last call. */
export const answers = (page: Page): Promise<Answers> =>
  page.evaluate(() => {
    const timed = window.zanyAnswers;
    window.zanyAnswers = { toPaint: [], work: [] };
    return timed;
  });
