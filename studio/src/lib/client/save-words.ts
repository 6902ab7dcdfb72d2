import { count } from '@zany/core';
import type { SaveState } from './saving';

/** What the header says about saving, and the way out where there is one. */
export interface SaveWords {
  readonly text: string;
  readonly meaning: string;
  readonly tone: 'good' | 'wait' | 'bad';
  readonly action: 'sign in' | 'load again' | 'to the Workroom' | 'save as a file' | null;
}

export interface Saving {
  readonly state: SaveState;
  readonly waiting: number;
  /** Whether edits outlive the window. */
  readonly keeps: boolean;
}

type Say = (kept: string) => Omit<SaveWords, 'tone'> & { readonly tone?: SaveWords['tone'] };

const words: Readonly<Record<Exclude<SaveState, 'saved' | 'saving'>, Say>> = {
  offline: (kept) => ({
    text: `Offline, ${kept}`,
    meaning: 'The server cannot be reached. Changes are sent when it can be.',
    action: null,
    tone: 'wait',
  }),
  trouble: (kept) => ({
    text: `Server in trouble, ${kept}`,
    meaning: 'The server answers, but cannot save just now. Changes are sent again and again until it can.',
    action: null,
    tone: 'wait',
  }),
  'signed-out': (kept) => ({
    text: `Signed out, ${kept}`,
    meaning: 'Your session has ended. Sign in again, here or in another tab, and the changes are sent.',
    action: 'sign in',
  }),
  'not-allowed': (kept) => ({
    text: `May only look, ${kept}`,
    meaning: 'You may not change this piece any more. Its owner can let you; then the changes are sent.',
    action: 'save as a file',
  }),
  'not-found': (kept) => ({
    text: `Piece is gone, ${kept}`,
    meaning: 'It was deleted, or is no longer shared with you. When it is back, the changes are sent.',
    action: 'to the Workroom',
  }),
  'other-format': (kept) => ({
    text: `Newer version here, ${kept}`,
    meaning: 'The server is of another version than this page. Load the page again; the changes go along.',
    action: 'load again',
  }),
};

/** In a sentence each: where edits stand, what that means, and what can be done. */
export function saveWords({ state, waiting, keeps }: Saving): SaveWords {
  if (state === 'saved' || state === 'saving') {
    const text = state === 'saved' ? 'Saved' : 'Saving';
    if (keeps) return { text, meaning: 'Every change is saved as it is made.', tone: 'good', action: null };
    return {
      text: `${text}; nothing kept here`,
      meaning:
        'This browser keeps nothing for this page: its storage is blocked, full or does not answer. What is not saved yet would be lost with this window.',
      tone: 'wait',
      action: null,
    };
  }
  const kept =
    waiting === 0 ? 'nothing is waiting' : keeps ? `${count(waiting, 'change')} kept here` : `${count(waiting, 'change')} only in this window`;
  const said = words[state](kept);
  const atRisk = !keeps && waiting > 0;
  return { tone: 'bad', ...said, ...(atRisk && { tone: 'bad' as const }), action: atRisk && said.action === null ? 'save as a file' : said.action };
}
