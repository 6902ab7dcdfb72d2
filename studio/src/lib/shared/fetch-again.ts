/** Pictures, films and sounds that did not come: the network or the server may have been away for a moment, so they are fetched again. */

/** So long after each try the next one is made, ms; after the last of them what does not come is given up. */
const AGAIN = [500, 2000, 8000] as const;

const wait = (ms: number) => new Promise((resolve) => setTimeout(resolve, ms));

/** Whether the server gives a file at all: what it gives and what still cannot be shown never will be. */
const isGiven = (url: string): Promise<boolean> =>
  fetch(url, { method: 'HEAD' }).then(
    ({ ok }) => ok,
    () => false
  );

/**
 * How long to wait before what did not come is tried again, ms; null where that is given up. The first time it is tried again in any case,
 * as a machine that is short of room shows at the second try what it could not at the first.
 */
async function pauseAfter(tries: number, url: string): Promise<number | null> {
  return tries > 0 && (await isGiven(url)) ? null : (AGAIN[tries] ?? null);
}

/**
 * What `load` gives, tried again while the server does not give the file.
 *
 * @throws what the last try threw
 */
export async function patiently<T>(url: string, load: (url: string) => Promise<T>): Promise<T> {
  for (let tries = 0; ; tries++) {
    try {
      return await load(url);
    } catch (error) {
      const pause = await pauseAfter(tries, url);
      if (pause === null) throw error;
      await wait(pause);
    }
  }
}

/** Fetches again what fails to load in an element, each as often as `patiently` does; gives a function that ends it. */
export function fetchAgainIn(node: HTMLElement): () => void {
  const tried = new Map<string, number>();
  const timers = new Set<ReturnType<typeof setTimeout>>();
  const failed = async ({ target }: Event) => {
    if (!(target instanceof HTMLImageElement || target instanceof HTMLMediaElement)) return;
    const url = target.getAttribute('src');
    if (!url) return;
    const tries = tried.get(url) ?? 0;
    const pause = await pauseAfter(tries, url);
    if (pause === null) return;
    tried.set(url, tries + 1);
    const timer = setTimeout(() => {
      timers.delete(timer);
      if (target.isConnected && target.getAttribute('src') === url) target.src = url;
    }, pause);
    timers.add(timer);
  };
  // Such events do not rise, but can be caught on their way down.
  node.addEventListener('error', failed, true);
  return () => {
    node.removeEventListener('error', failed, true);
    timers.forEach(clearTimeout);
  };
}
