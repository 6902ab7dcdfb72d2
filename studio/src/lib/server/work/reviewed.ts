import {
  compile,
  exploring,
  followTrail,
  framesAlone,
  framesOf,
  isReached,
  readTrail,
  replay,
  routeTo,
  start,
  startFrame,
  type Goal,
  type Piece,
  type Program,
} from '@zany/core';
import type { ReviewTask, ShortestWays } from '$lib/shared/types';
import type { ShownPiece, Tell, TrailRun } from './tasks';

/** What review links show, and what was done by them, worked out beside the server's own thread. */

export function shownAs(piece: Piece, bundle: string | null, start: string | null): ShownPiece {
  const frames = framesOf(piece).filter((frame) => bundle === null || frame.bundle === bundle);
  const json = framesAlone(piece, new Set(frames.map(({ id }) => id)), start);
  return {
    document: JSON.stringify(json),
    assets: Object.keys(json.assets),
    frames: frames.map(({ id }) => id),
    problem: frames.length
      ? null
      : bundle === null
        ? 'There is no frame in this piece yet.'
        : 'The frames that this link shows are gone from the piece.',
  };
}

/** So long one go is run again at most, and all of one version. In ms. */
const MOST_FOR = { one: 3000, all: 45_000 };

export function runTrails(piece: Piece, trails: readonly { readonly trail: unknown; readonly goal: Goal | null }[]): TrailRun[] {
  const program = compile(piece);
  const end = performance.now() + MOST_FOR.all;
  return trails.map(({ trail: sent, goal }) => {
    const trail = readTrail(sent);
    const until = Math.min(end, performance.now() + MOST_FOR.one);
    const run = trail.ok ? followTrail(program, trail.value, goal, () => performance.now() > until) : null;
    const from = trail.ok ? trail.value.from : '';
    if (!run) return { from, steps: null, reached: null, ms: 0 };
    return {
      from,
      steps: run.steps.map(({ on, to, met, under, whyNot, threads, point }) => ({
        on,
        to,
        met,
        under,
        whyNot,
        threads,
        at: point && ([point.x, point.y] as const),
      })),
      reached: run.reached && { steps: run.reached.steps, ms: run.reached.at },
      ms: run.ms,
    };
  });
}

/** Exploring for the shortest ways ends here; it is looked whether they are there at each of these numbers of states. */
const LOOKS = [500, 4000, 30_000];
const MOST_MS = 15_000;

/** The shortest way to each goal that exploring finds from where its task begins. */
export function shortestWays(piece: Piece, tasks: readonly ReviewTask[], tell: Tell): ShortestWays {
  return Object.fromEntries(
    tasks.map((task, i) => {
      tell(`task ${i + 1} of ${tasks.length}`);
      return [task.id, shortestWay(piece, task)];
    })
  );
}

function shortestWay(piece: Piece, { start: from, goal }: ReviewTask): ShortestWays[string] {
  const begins = from !== null && piece.scenes.has(from) ? from : startFrame(compile(piece));
  if (begins === null) return null;
  const program = compile({ ...piece, head: { ...piece.head, start: [begins] } });
  const end = performance.now() + MOST_MS;
  const begun = exploring(program);
  let looked = 0;
  for (const states of LOOKS) {
    const ended = begun.on(states, () => performance.now() > end);
    const exploration = begun.result();
    // States are met in the order of how far they are, so that the first in which it is reached is the nearest.
    const isPlain = 'frame' in goal && goal.state === undefined;
    const candidates = isPlain
      ? [exploration.reached.get(goal.frame)]
      : Array.from({ length: exploration.states.length - looked }, (_, i) => looked + i);
    for (const state of candidates) {
      if (state === undefined || performance.now() > end) break;
      const events = routeTo(exploration, state);
      const way = wayOf(program, begins, events);
      if (way && isReached(program, way.run, goal)) return { frames: way.frames, steps: events.filter(({ type }) => type !== 'wait').length };
    }
    looked = exploration.states.length;
    if (ended !== 'limit') break;
  }
  return null;
}

function wayOf(program: Program, from: string, events: ReturnType<typeof routeTo>) {
  let run = start(program, from);
  if (!run) return null;
  const frames = [from];
  for (const event of events) {
    ({ run } = replay(program, run, [event]));
    const at = run.overlays.at(-1)?.frame ?? run.frame;
    if (at !== frames.at(-1)) frames.push(at);
  }
  return { run, frames };
}
