import { onMount } from 'svelte';
import { ask } from '$lib/client/api';
import type { EditorSession } from '$lib/client/session.svelte';

/** A list that the server keeps of a piece: read when it is shown, and again after each change of it. */
export class Asked<T> {
  value: T | null = $state.raw(null);
  isBusy = $state(false);

  constructor(
    private readonly session: EditorSession,
    private readonly path: string
  ) {
    onMount(() => void this.read());
  }

  private address = (more = '') => `/api/pieces/${this.session.id}/${this.path}${more}`;

  async read(): Promise<void> {
    const answer = await ask<T>('GET', this.address());
    if (answer.ok) this.value = answer.value;
    else this.session.notify(answer.error.sentence);
  }

  /** Asks for a change; what is refused is said, and the list is read anew in any case. */
  async change<R>(method: string, more: string, body?: unknown): Promise<R | null> {
    if (this.isBusy) return null;
    this.isBusy = true;
    const answer = await ask<R>(method, this.address(more), body);
    if (!answer.ok) this.session.notify(answer.error.sentence);
    await this.read();
    this.isBusy = false;
    return answer.ok ? answer.value : null;
  }
}
