import { onMount } from 'svelte';
import { ask } from '$lib/client/api';
import { isUnderWay, type BringInWish, type Errand } from '$lib/shared/errands';

interface Listener {
  readonly say: (text: string) => void;
  readonly problem: (text: string) => void;
  /** A piece has come in. */
  readonly came: () => Promise<unknown>;
}

/** Between two looks at how far they have come, in milliseconds. */
const PACE = 400;

/** Packages that the server brings in, as the Workroom shows them: also those that were sent before it was there. */
export class BringingIn {
  /** Those under way. */
  all: readonly Errand[] = $state.raw([]);
  private isGone = false;
  private isAsked = false;
  private looking: Promise<void> | null = null;

  constructor(private readonly listener: Listener) {
    onMount(() => {
      void this.look();
      return () => (this.isGone = true);
    });
  }

  fileOf = ({ wish }: Errand): string => (wish as BringInWish).file;

  /** Sends a package, and waits until it has come in, or has not. */
  async bringIn(file: File): Promise<void> {
    this.listener.say(`Sending ${file.name}…`);
    const headers = { 'Content-Type': 'application/octet-stream', 'x-file-name': encodeURIComponent(file.name) };
    const answer = await ask<{ errand: Errand }>('POST', '/api/errands', file, headers);
    this.listener.say('');
    if (!answer.ok) return this.listener.problem(`${file.name}: ${answer.error.sentence}`);
    await this.look();
  }

  async stop(errand: Errand): Promise<void> {
    this.all = this.all.filter((one) => one !== errand);
    await this.forget(errand);
  }

  private forget = ({ id }: Errand) => ask('DELETE', `/api/errands/${id}`);

  /** Looks, at least once from now on, until nothing is under way any more. */
  private look(): Promise<void> {
    this.isAsked = true;
    return (this.looking ??= this.lookOn());
  }

  private async lookOn(): Promise<void> {
    try {
      while (!this.isGone && (this.isAsked || this.all.length > 0)) {
        if (!this.isAsked) await new Promise((resolve) => setTimeout(resolve, PACE));
        this.isAsked = false;
        const answer = await ask<{ errands: Errand[] }>('GET', '/api/errands');
        if (this.isGone) return;
        if (answer.ok) await this.take(answer.value.errands);
        else if (answer.error.code !== 'offline') return this.listener.problem(answer.error.sentence);
      }
    } finally {
      this.looking = null;
    }
  }

  private async take(errands: readonly Errand[]): Promise<void> {
    this.all = errands.filter(isUnderWay);
    for (const ended of errands.filter((one) => !isUnderWay(one))) {
      if (ended.problem) this.listener.problem(`${this.fileOf(ended)}: ${ended.problem}`);
      await this.forget(ended);
      if (ended.made) await this.listener.came();
    }
  }
}
