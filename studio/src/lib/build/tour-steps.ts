import type { EditorSession } from '$lib/client/session.svelte';

export interface TourStep {
  readonly title: string;
  readonly words: string;
  /** What is pointed at. */
  readonly target: string;
  readonly prepare?: (session: EditorSession) => void;
}

/** The first layer of the piece that leads somewhere, with its frame open, so that there is something to see. */
function selectWired(session: EditorSession): void {
  for (const frame of [session.sceneId, ...session.program.frames]) {
    const item = session.program.scenes.get(frame ?? '')?.items.find(({ threads }) => threads.some((thread) => thread.cue.type === 'click'));
    if (!item || !frame) continue;
    if (session.sceneId !== frame) session.openScene(frame);
    if (session.selection[0] !== item.layer.id) session.select([item.layer.id]);
    return;
  }
}

/** The tour, in the order of work. To change it: here. */
export const tourSteps: readonly TourStep[] = [
  {
    title: 'The shelf holds the frames',
    words: 'Each is a page of the piece, with parts and sheets below them. A mark at the corner says that something is missing there.',
    target: 'nav[aria-label="Frames"]',
  },
  {
    title: 'The cue sheet reads like sentences',
    words: 'Every layer with what happens when it is touched. Each word is a chip that opens in place; or press Enter and type a line.',
    target: 'section[aria-label="Cue sheet"]',
    prepare: selectWired,
  },
  {
    title: 'Landings show where it leads',
    words: 'Before and after, with the way between them to be scrubbed. Press G, or a picture, to lead somewhere else.',
    target: 'aside[aria-label="Landings"]',
    prepare: selectWired,
  },
  {
    title: 'The strip shows looks and states',
    words: 'Rest, hover and press side by side. Every edit says what it reaches: this one, those you choose, or all.',
    target: 'section[aria-label="Strip"]',
    prepare: selectWired,
  },
  {
    title: 'T tries it, right here',
    words: 'The ledger then says what fired, and why not when nothing did. Ctrl K finds every command, ? lists the keys.',
    target: '[data-stage]',
  },
];
