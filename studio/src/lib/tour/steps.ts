import type { Program } from '@zany/core';
import type { EditorSession } from '$lib/client/session.svelte';
import type { Desk, DeskHands } from '$lib/shared/commands';

/** Where somebody is who takes the tour. */
export interface TourContext {
  readonly session: EditorSession;
  readonly desk: Desk;
  readonly hands: DeskHands;
  readonly go: (desk: Desk) => void;
}

export interface TourStep {
  readonly title: string;
  /** What is to be done; what stands between backticks is pressed or typed. */
  readonly words: string;
  /** What is pointed at. */
  readonly target: string;
  readonly isDone: (context: TourContext) => boolean;
  /** Comes to where it is done, as far as that can be done for somebody. */
  readonly comeThere: (context: TourContext) => void;
}

/** What the tour is about, by the names that its piece has for it. */
const NAMES = { home: 'Home', times: 'Times', button: 'See the times' } as const;

const frameNamed = ({ scenes, frames }: Program, name: string): string | undefined => frames.find((id) => scenes.get(id)?.scene.name === name);

/** The button that is wired in the course of the tour, with the threads that it has. */
function buttonIn(program: Program) {
  const home = frameNamed(program, NAMES.home);
  return home === undefined ? undefined : program.scenes.get(home)?.items.find(({ layer }) => layer.name === NAMES.button);
}

/** Whether a piece is one that the tour goes through. */
export const isForTour = (program: Program): boolean => buttonIn(program) !== undefined && frameNamed(program, NAMES.times) !== undefined;

function chooseButton({ session, desk, go }: TourContext): void {
  const button = buttonIn(session.program);
  if (desk !== 'build') go('build');
  session.trying = false;
  if (!button) return;
  if (session.sceneId !== button.layer.scene) session.openScene(button.layer.scene);
  session.select([button.layer.id]);
}

/** The tour, in the order of work: each step is done, not read. To change it: here. */
export const tourSteps: readonly TourStep[] = [
  {
    title: 'Choose the button',
    words: 'Press “See the times” on the stage. The cue sheet beside it chooses it too, with what happens when it is touched: nothing yet.',
    target: '[data-stage]',
    isDone: ({ session }) => session.selection.includes(buttonIn(session.program)?.layer.id ?? ''),
    comeThere: chooseButton,
  },
  {
    title: 'Say where it leads',
    words:
      'Press `Enter`, type `click → go to Times` and press `Enter` again; `->` does for the arrow. Or press `G` and choose the picture of Times.',
    target: 'section[aria-label="Cue sheet"]',
    isDone: ({ session: { program } }) => {
      const times = frameNamed(program, NAMES.times);
      const steps = buttonIn(program)?.threads.flatMap(({ branches }) => branches.flatMap((branch) => branch.steps)) ?? [];
      return steps.some((step) => step.do === 'go' && step.target.to === 'frame' && step.target.frame === times);
    },
    comeThere: (context) => {
      chooseButton(context);
      context.hands.write?.();
    },
  },
  {
    title: 'Try it, right here',
    words: 'Press `T`: the stage runs. Press “See the times” there, and it leads to Times; the ledger says what fired. `Esc` ends it.',
    target: '[data-stage]',
    isDone: ({ session }) => session.trying && session.run?.frame === frameNamed(session.program, NAMES.times),
    comeThere: (context) => {
      chooseButton(context);
      context.session.trying = true;
    },
  },
  {
    title: 'Show that it can be pressed',
    words:
      'Open Home in the shelf and choose “See the times” again. Press `+ Hover` in the strip: that look gets a fill of its own, which you can change.',
    target: 'section[aria-label="Strip"]',
    isDone: ({ session }) => Object.keys(buttonIn(session.program)?.layer.looks?.hover?.style ?? {}).length > 0,
    comeThere: chooseButton,
  },
  {
    title: 'Ask what is still loose',
    words: 'The pill at the top is always true. Press it: the Walk desk goes every way there is, and shows how to come to what is missing.',
    target: '[data-loose-ends]',
    isDone: ({ desk }) => desk === 'walk',
    comeThere: ({ go }) => go('walk'),
  },
  {
    title: 'Mend it',
    words: 'Nothing leads on from Ticket. Press “Mark as an ending”, or lead home from there, and the walk looks again until nothing is loose.',
    target: 'section[aria-label="Loose ends"]',
    isDone: ({ session }) => session.audit !== null && session.auditIsCurrent && session.auditIsDone && session.findings.length === 0,
    comeThere: ({ go }) => go('walk'),
  },
];
