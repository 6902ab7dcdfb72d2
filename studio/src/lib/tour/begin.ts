import { ask } from '$lib/client/api';

/** The piece that the tour goes through, of which everybody who takes it has one of their own. */
const LESSON = 'first-crossing';

/** Makes a piece to take the tour on and opens it; a sentence where that cannot be done. */
export async function beginTour(): Promise<string | null> {
  const made = await ask<{ id: string }>('POST', `/api/starters/${LESSON}`);
  if (!made.ok) return made.error.sentence;
  // A whole new page: another piece may be open on this one.
  location.assign(`/p/${made.value.id}/build?tour`);
  return null;
}
