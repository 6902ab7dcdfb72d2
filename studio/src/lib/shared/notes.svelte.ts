import type { Notice } from '$lib/client/session.svelte';

/** Short notices at the foot of a page. */
export class Notes {
  notices: readonly Notice[] = $state.raw([]);
  private count = 0;

  notify(text: string, action?: Notice['action']): void {
    const id = ++this.count;
    this.notices = [...this.notices.slice(-3), { id, text, ...(action && { action }) }];
    setTimeout(() => this.dismiss(id), action ? 9000 : 7000);
  }

  dismiss(id: number): void {
    this.notices = this.notices.filter((notice) => notice.id !== id);
  }
}
