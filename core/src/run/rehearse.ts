import { atRest, pictureAt, present, type Picture, type Presentation } from '../motion/presenter.ts';
import type { Thread } from '../piece/piece.ts';
import { update, type Program } from '../program/program.ts';
import { resolveScreen, type Screen } from './resolve.ts';
import { stillRun, type Still } from './still.ts';
import { advance, nextDeadline } from './run.ts';
import type { Effect, RunState } from './state.ts';

/** What one branch of a thread does, tried out from a scene as it is looked at: the engine runs it, whatever its cue and condition. */
export interface Rehearsal {
  readonly before: Screen;
  readonly after: Screen;
  /** The run after it, to see where it has led. */
  readonly run: RunState;
  /** How long it takes until nothing moves any more, ms; at most `MOST_MS`. */
  readonly length: number;
  /** Whether anything on the screen is different after it. */
  readonly changes: boolean;
  /** What it does besides: links, signals, media. */
  readonly effects: readonly Effect[];
  /** The screen at a moment, ms from its beginning. */
  readonly at: (ms: number) => Picture;
}

/** Steps that wait longer than this are not waited for. */
export const MOST_MS = 6000;

const SIGNAL = '(rehearsed)';

export function rehearse(program: Program, scene: string, still: Still, thread: string, branch: number): Rehearsal | null {
  const found = program.piece.threads.get(thread);
  const chosen = found?.branches[branch];
  if (!found || !chosen) return null;
  const alone: Thread = { ...found, enabled: true, cue: { type: 'signal', signal: SIGNAL }, branches: [{ steps: chosen.steps }] };
  const stage = withThread(program, alone);
  const begun = stillRun(stage, scene, still);
  if (!begun) return null;
  return play(stage, begun);
}

/** The program with one thread in place of itself. */
function withThread(program: Program, thread: Thread): Program {
  const { piece } = program;
  const scene = thread.on === 'scene' ? thread.owner : thread.on === 'layer' ? piece.layers.get(thread.owner)?.scene : undefined;
  const touched = { scenes: new Set(scene === undefined ? [] : [scene]), frames: false, pieceThreads: thread.on === 'piece', variables: false };
  return update(program, { ...piece, threads: piece.threads.set(thread.id, thread) }, touched);
}

function play(program: Program, begun: RunState): Rehearsal {
  const before = resolveScreen(program, begun);
  const scenes: { began: number; presentation: Presentation }[] = [{ began: -Infinity, presentation: atRest(before) }];
  const effects: Effect[] = [];
  const start = begun.clock;
  let next = advance(program, begun, { type: 'signal', signal: SIGNAL });
  let screen: Screen;
  for (;;) {
    const made = next.reports.flatMap((report) => report.effects);
    effects.push(...made);
    screen = resolveScreen(program, next.run);
    const now = next.run.clock - start;
    scenes.push({ began: now, presentation: present(scenes.at(-1)!.presentation, screen, made, now) });
    const due = next.run.activities.length ? nextDeadline(program, next.run) : null;
    if (due === null || !Number.isFinite(due) || due - start > MOST_MS) break;
    next = advance(program, next.run, { type: 'wait', ms: Math.max(0, due - next.run.clock) });
  }
  const last = scenes.at(-1)!;
  return {
    before,
    after: screen,
    run: next.run,
    length: Math.min(MOST_MS, Math.max(0, last.presentation.until, last.began)),
    changes: look(before) !== look(screen),
    effects,
    at: (ms) => pictureAt(scenes.findLast((one) => one.began <= ms)!.presentation, ms),
  };
}

const look = ({ frame, surfaces }: Screen): string =>
  JSON.stringify([
    frame,
    surfaces.map(({ scene, x, y, scroll, all }) => [
      scene,
      x,
      y,
      scroll,
      all.map(({ node, matrix, width, height, opacity, style, text, asset, looks }) => [
        node.key,
        matrix,
        width,
        height,
        opacity,
        style,
        text,
        asset,
        looks,
      ]),
    ]),
  ]);
