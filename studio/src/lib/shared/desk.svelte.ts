import { getContext, setContext } from 'svelte';
import type { EditorSession } from '$lib/client/session.svelte';
import type { Snippet } from 'svelte';
import type { DeskHands } from './commands';

/** What the frame around the desks and the open desk share: the session, and what commands can do there. */
export class DeskPlace {
  session: EditorSession | null = $state.raw(null);
  hands: DeskHands = {};
  /** The tools of the open desk, where they stand in the header; null where it has none or keeps them itself. */
  tools: Snippet | null = $state.raw(null);
  /** Where the menu of the selected layers stands, in the window; null while it is closed. */
  menuAt: { readonly x: number; readonly y: number } | null = $state.raw(null);

  /** Lends hands to commands; gives a function that takes them back, unless the next desk has lent its own meanwhile. */
  lend(hands: DeskHands): () => void {
    this.hands = hands;
    return () => {
      if (this.hands === hands) this.hands = {};
    };
  }
}

const KEY = Symbol('desk');

export const setDesk = (): DeskPlace => setContext(KEY, new DeskPlace());

export const getDesk = (): DeskPlace => getContext<DeskPlace>(KEY);

/** The open piece; desks are drawn only once there is one. */
export function useSession(): EditorSession {
  const { session } = getDesk();
  if (!session) throw new Error('no piece is open');
  return session;
}
