import type { Desk } from '$lib/shared/commands';
import type { Presence } from '$lib/shared/types';
import { ask } from './api';
import { newId } from './ids';

/** Somebody else who has the piece open now. */
export interface Other extends Presence {
  readonly color: string;
  readonly initials: string;
}

const COLORS = ['#1f5f9e', '#6d3a7c', '#4a6b1f', '#b23a26', '#8f5c00', '#0b7a75'];
const BEAT = 12_000;
const SILENT = 30_000;

/** Who else is in the piece: tells where this window is, and keeps what the others tell until they fall silent. */
export class Presences {
  others: readonly Other[] = $state.raw([]);

  private readonly client = newId();
  private readonly heard = new Map<string, { other: Other; at: number }>();
  private place: Pick<Presence, 'desk' | 'scene' | 'selection'> = { desk: 'build', scene: null, selection: [] };
  private timer: ReturnType<typeof setTimeout> | undefined;
  private readonly beat: ReturnType<typeof setInterval>;
  private readonly leave = () => this.goodbye();

  constructor(private readonly piece: string) {
    this.beat = setInterval(() => {
      this.forget();
      if (document.visibilityState === 'visible') void this.tell();
    }, BEAT);
    addEventListener('pagehide', this.leave);
  }

  /** Says where this window is now; many changes in a row are told once. */
  at(desk: Desk, scene: string | null, selection: readonly string[]): void {
    this.place = { desk, scene, selection: selection.slice(0, 20) };
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.tell(), 250);
  }

  /** What somebody tells. A newcomer is answered at once, so that both see each other. */
  take(presence: Presence): void {
    if (presence.client === this.client) return;
    if (presence.gone) this.heard.delete(presence.client);
    else {
      if (!this.heard.has(presence.client)) void this.tell();
      this.heard.set(presence.client, { other: withLooks(presence), at: Date.now() });
    }
    this.show();
  }

  stop(): void {
    clearInterval(this.beat);
    clearTimeout(this.timer);
    removeEventListener('pagehide', this.leave);
    this.goodbye();
  }

  private async tell(): Promise<void> {
    await ask('POST', `/api/pieces/${this.piece}/presence`, { client: this.client, ...this.place, gone: false });
  }

  private goodbye(): void {
    const body = JSON.stringify({ client: this.client, ...this.place, gone: true });
    void fetch(`/api/pieces/${this.piece}/presence`, {
      method: 'POST',
      body,
      keepalive: true,
      headers: { 'Content-Type': 'application/json' },
    }).catch(() => undefined);
  }

  private forget(): void {
    const now = Date.now();
    for (const [client, { at }] of this.heard) if (now - at > SILENT) this.heard.delete(client);
    this.show();
  }

  private show(): void {
    this.others = [...this.heard.values()].map(({ other }) => other).sort((a, b) => (a.client < b.client ? -1 : 1));
  }
}

function withLooks(presence: Presence): Other {
  const sum = [...presence.client].reduce((total, sign) => total + sign.charCodeAt(0), 0);
  const initials = presence.name
    .split(/\s+/)
    .map((word) => word.charAt(0))
    .slice(0, 2)
    .join('')
    .toUpperCase();
  return { ...presence, color: COLORS[sum % COLORS.length]!, initials };
}
