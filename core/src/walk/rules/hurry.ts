import type { Program } from '../../program/program.ts';
import { advance, nextDeadline } from '../../run/run.ts';
import type { RunEvent, RunState } from '../../run/state.ts';
import { onceFor } from '../../once.ts';
import type { Thread } from '../../piece/piece.ts';
import { ownerOf, placeOfThread, threadsIn } from '../at-thread.ts';
import { startOf } from '../explore.ts';
import { finding, type Finding, type Rule } from '../finding.ts';

export const hurry: Rule = {
  id: 'hurry',
  words: 'pressed twice',
  meaning: 'a second press, before what the first one started has ended, that makes more of it: one step too far, one too many bought',
  spares: 'a second press that comes to the same as one',
  check: ({ program, exploration }) => {
    const { states, edges, runOf } = exploration;
    if (!threadsIn(program.piece).some(isWaiting)) return [];
    const tried = new Map<string, number>();
    const found: Finding[] = [];
    for (const at of edges.states)
      for (const { to, event, threads, step } of edges.of(at)) {
        const [thread] = threads;
        const one = thread === undefined ? undefined : program.piece.threads.get(thread);
        if (!one || !isWaiting(one) || !PRESSED.has(event.type) || states[to]!.frame !== states[at]!.frame) continue;
        const key = `${JSON.stringify(event)} ${threads.join()}`;
        const times = tried.get(key) ?? 0;
        if (times >= MOST_TRIED) continue;
        tried.set(key, times + 1);
        const run = runOf(at);
        const once = advance(program, run, event).run;
        if (!waits(run, once, threads)) continue;
        tried.set(key, MOST_TRIED);
        const [single, twice] = [ended(program, once), ended(program, advance(program, once, event).run)];
        if (single.frame === run.frame || isSame(single, twice)) continue;
        const what =
          single.frame === twice.frame
            ? 'more is done than once'
            : `it leads to ${nameOf(program, twice.frame)} instead of ${nameOf(program, single.frame)}`;
        found.push(
          finding(
            'hurry',
            'look',
            placeOfThread(program.piece, one),
            `${ownerOf(program.piece, one)} can be pressed twice`,
            `Pressed again before what it started has ended, ${what}.`,
            {
              route: { from: startOf(exploration, at), events: [...exploration.routeTo(at, [], [step]), event] },
            }
          )
        );
      }
    return [...new Map(found.map((one) => [one.id, one])).values()];
  },
};

const PRESSED: ReadonlySet<RunEvent['type']> = new Set(['click', 'key', 'pad', 'long-press', 'swipe']);

/** It does something after something that takes its time. */
const isWaiting = onceFor(({ branches }: Thread) => branches.some(({ steps }) => steps.length > 1));

/** States in which the same is pressed, before it is taken that nothing waits after it. */
const MOST_TRIED = 20;

const nameOf = ({ piece: { scenes } }: Program, id: string) => scenes.get(id)?.name ?? 'a frame';

/** Whether something that an event fired waits to go on. */
const waits = (before: RunState, now: RunState, threads: readonly string[]): boolean =>
  now.activities.length > before.activities.length && now.activities.some(({ thread }) => threads.includes(thread));

/** Moments that are waited for at most. */
const MOST_WAITS = 40;

/** A run once nothing waits any more that was started. */
function ended(program: Program, run: RunState): RunState {
  let at = run;
  for (let i = 0; i < MOST_WAITS && at.activities.length > 0; i++) {
    const due = nextDeadline(program, at);
    if (due === null || due === Infinity) break;
    at = advance(program, at, { type: 'wait', ms: Math.max(0, due - at.clock) }).run;
  }
  return at;
}

/** Whether two runs have come to the same: the same frame, and as much of everything. */
const isSame = (a: RunState, b: RunState): boolean =>
  a.frame === b.frame && JSON.stringify(a.variables) === JSON.stringify(b.variables) && JSON.stringify(a.overlays) === JSON.stringify(b.overlays);
