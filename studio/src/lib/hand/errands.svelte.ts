import { getContext, onMount, setContext } from 'svelte';
import { ask } from '$lib/client/api';
import type { EditorSession } from '$lib/client/session.svelte';
import { isUnderWay, type Errand, type ErrandWish } from '$lib/shared/errands';

const KEY = Symbol('errands');

/** One list for all that stands on a desk. */
export const setErrands = (session: EditorSession): Errands => setContext(KEY, new Errands(session));
export const useErrands = (): Errands => getContext<Errands>(KEY);

/** How they stand is asked soon at first, then less often, in milliseconds. */
const SOON = 120;
const SELDOM = 1500;

/** What the server makes for somebody of a piece, as a page shows it: also what was begun before the page was there. */
export class Errands {
  all: readonly Errand[] = $state.raw([]);
  private timer: ReturnType<typeof setTimeout> | undefined;
  private delay = SOON;
  private isGone = false;
  private readonly waiting = new Map<string, (errand: Errand | null) => void>();

  constructor(private readonly session: EditorSession) {
    onMount(() => {
      void this.read();
      return () => {
        this.isGone = true;
        clearTimeout(this.timer);
        for (const settle of this.waiting.values()) settle(null);
      };
    });
  }

  private get path(): string {
    return `/api/pieces/${this.session.id}/errands`;
  }

  fileOf = ({ id }: Errand): string => `${this.path}/${id}/file`;

  /** Has something made, and waits until that has ended; null where it was refused, which is said, or the page has gone. */
  async make(wish: ErrandWish): Promise<Errand | null> {
    const answer = await ask<{ errand: Errand }>('POST', this.path, wish);
    if (!answer.ok) {
      this.session.notify(answer.error.sentence);
      return null;
    }
    const { errand } = answer.value;
    this.all = [errand, ...this.all.filter(({ id }) => id !== errand.id)];
    if (!isUnderWay(errand)) return errand;
    this.delay = SOON;
    this.lookLater();
    return new Promise((resolve) => this.waiting.set(errand.id, resolve));
  }

  /** Stops what is under way, and forgets what has ended. */
  async stop({ id }: Errand): Promise<void> {
    const answer = await ask('DELETE', `${this.path}/${id}`);
    if (!answer.ok) this.session.notify(answer.error.sentence);
    await this.read();
  }

  private async read(): Promise<void> {
    const answer = await ask<{ errands: Errand[] }>('GET', this.path);
    if (this.isGone) return;
    if (answer.ok) {
      this.all = answer.value.errands;
      for (const [id, settle] of this.waiting) {
        const errand = this.all.find((one) => one.id === id) ?? null;
        if (errand && isUnderWay(errand)) continue;
        this.waiting.delete(id);
        settle(errand);
      }
    } else if (answer.error.code !== 'offline') this.session.notify(answer.error.sentence);
    if (this.all.some(isUnderWay)) this.lookLater();
  }

  private lookLater(): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.read(), this.delay);
    this.delay = Math.min(SELDOM, this.delay * 1.5);
  }
}
