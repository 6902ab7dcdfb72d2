import { expand } from '../program/expand.ts';
import { startFrames, type Program } from '../program/program.ts';
import { liveRootsOf } from '../run/environment.ts';
import { standingScreen, stateOf } from '../run/resolve.ts';
import { branchKey } from '../run/runner.ts';
import { advance, begin, isPlaying, nextDeadline } from '../run/run.ts';
import type { RunEvent, RunState } from '../run/state.ts';
import { PlainStore } from '../run/store.ts';
import { Ambient } from '../walk/ambient.ts';
import { eventsIn } from '../walk/events-in.ts';
import { isHurry } from '../walk/hurry.ts';
import { leavesPiece } from '../walk/leaving.ts';
import { settle } from '../walk/settle.ts';
import { Slots } from '../walk/slots.ts';
import { tellingOf, type Telling } from '../walk/telling.ts';
import { waitingIn } from '../walk/waits.ts';

/**
 * Exploring as simple as can be, to hold the real one against: every event is run by the engine in every state, runs are kept whole with
 * all that lies on their back stacks, and told apart by text.
 */
export interface Naive {
  /** It came to its end. */
  readonly isWhole: boolean;
  /** Timelines moved: not all moments were tried then. */
  readonly isPlayed: boolean;
  /** States as texts, of whose back stack only the top is told. */
  readonly states: ReadonlySet<string>;
  /** From which of them to which, by what. */
  readonly moves: ReadonlySet<string>;
  /** Those by which no two things come about that were due at one moment, which may be by chance. */
  readonly single: ReadonlySet<string>;
  readonly fired: ReadonlySet<string>;
  /** Branches that fire, by `branchKey`; and those that fire alone where that makes another state, or is seen or heard outside. */
  readonly branches: ReadonlySet<string>;
  readonly acting: ReadonlySet<string>;
  /** The states that anything on the screen is in, as `scene state`. */
  readonly entered: ReadonlySet<string>;
  /** Frames that are come to, laid over or not. */
  readonly reached: ReadonlySet<string>;
}

/** A run as a text: all that is not as it begins, and what waits, but not for how long yet. */
export function textOf(program: Program, ambient: Ambient, slots: Slots, run: RunState, { back, looksBack }: Telling): string {
  const live = liveRootsOf(program, run);
  // What bindings gave where it is off the screen is worked out anew when it comes back.
  const told = [...slots.valuesOf(run)].filter(([{ kind, scene }]) => kind !== 'bound' || live.includes(scene!));
  const values = told.map(([slot, value]) => `${slot.name}=${slot.texts[value]}`);
  const waiting = waitingIn(program, run, ambient).map(({ wait }) => JSON.stringify(wait));
  return `${[...values, ...waiting].sort().join(' ')} ← ${back && (looksBack === null || looksBack.has(run.frame)) ? (run.back.at(-1) ?? '') : ''}`;
}

export const moveOf = (from: string, event: RunEvent, to: string): string =>
  [from, event.type === 'wait' ? 'wait' : JSON.stringify(event), to].join('\n');

/** Events that change nothing by themselves. */
const BARE: ReadonlySet<RunEvent['type']> = new Set(['key', 'pad', 'signal', 'swipe']);

const scrollsOf = (run: RunState): string =>
  JSON.stringify(Object.entries(run.roots).map(([scene, { scroll }]) => [scene, Object.entries(scroll).map(([key, { x, y }]) => [key, x, y])]));

export function exploreNaively(program: Program, most: number, deep: number, isAllowed: (event: RunEvent) => boolean = () => true): Naive {
  const telling = tellingOf(program);
  const ambient = new Ambient(program);
  const slots = new Slots(program, telling, () => undefined);
  const known = new Map<string, RunState>();
  const queue: RunState[] = [];
  const states = new Set<string>();
  const moves = new Set<string>();
  const single = new Set<string>();
  const fired = new Set<string>();
  const branches = new Set<string>();
  const acting = new Set<string>();
  const entered = new Set<string>();
  const reached = new Set<string>();
  let isWhole = true;
  let isPlayed = false;
  const rested = (run: RunState): RunState => {
    const store = new PlainStore(run);
    settle(program, store, telling, ambient);
    const { roots, back, ...others } = store.run;
    // What nothing in the piece can tell is as it began.
    const still = telling.scroll ? roots : Object.fromEntries(Object.entries(roots).map(([scene, root]) => [scene, { ...root, scroll: {} }]));
    return { ...others, roots: still, back: telling.back ? back : [] };
  };
  const see = (run: RunState): string => {
    const text = textOf(program, ambient, slots, run, telling);
    const left = waitingIn(program, run, ambient).map((one) => [one.wait, Math.round(one.left * 4)]);
    const key = `${text} ${JSON.stringify(left)} ${run.back.join()}`;
    if (!known.has(key)) {
      if (run.back.length > deep || known.size >= most) isWhole = false;
      else {
        known.set(key, run);
        queue.push(run);
        states.add(text);
        for (const frame of [run.frame, ...run.overlays.map((overlay) => overlay.frame)]) reached.add(frame);
        for (const scene of liveRootsOf(program, run))
          for (const instance of expand(program, program.scenes.get(scene)!).instances.values()) {
            const state = stateOf(run.roots[scene]!, instance);
            if (state !== null) entered.add(`${instance.scene.scene.id} ${state}`);
          }
      }
    }
    return text;
  };
  for (const frame of startFrames(program)) {
    const begun = begin(program, frame)!;
    for (const report of begun.reports)
      for (const one of report.fired) {
        fired.add(one.thread);
        branches.add(branchKey(one.thread, one.branch));
        acting.add(branchKey(one.thread, one.branch));
      }
    see(rested(begun.run));
  }
  for (let run = queue.shift(); run; run = queue.shift()) {
    const from = textOf(program, ambient, slots, run, telling);
    const due = nextDeadline(program, run) ?? 0;
    const all = [...eventsIn(program, run, standingScreen(program, run), telling)];
    // While timelines move, what can be done is another with each moment: then only from stop to stop.
    if (isPlaying(program, run)) isPlayed = true;
    else if (due >= 1 && due !== Infinity) all.push({ type: 'wait', ms: due / 2 });
    for (const event of all) {
      if (!isAllowed(event)) continue;
      const next = advance(program, run, event);
      const fires = next.reports.flatMap((report) => report.fired);
      for (const one of fires) {
        fired.add(one.thread);
        branches.add(branchKey(one.thread, one.branch));
      }
      const isOutside = next.reports.some(({ effects }) => effects.some(({ type }) => type === 'open' || type === 'signal' || type === 'media'));
      const isOther = isOutside || scrollsOf(run) !== scrollsOf(next.run) || textOf(program, ambient, slots, rested(next.run), telling) !== from;
      if (fires.length === 1 && isOther && BARE.has(event.type)) acting.add(branchKey(fires[0]!.thread, fires[0]!.branch));
      if (leavesPiece(next.reports)) continue;
      const now = rested(next.run);
      if (isHurry(now)) continue;
      const move = moveOf(from, event, see(now));
      moves.add(move);
      if (event.type !== 'wait' || waitingIn(program, run, ambient).filter(({ left }) => left <= event.ms).length < 2) single.add(move);
    }
  }
  return { isWhole, isPlayed, states, moves, single, fired, branches, acting, entered, reached };
}
