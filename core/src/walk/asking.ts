import { Beside } from '../once.ts';
import type { Instance, Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { liveRootsOf } from '../run/environment.ts';
import { awaiting } from '../run/heads.ts';
import { knowScreen, type KnownScreen } from '../run/known-screen.ts';
import { runnerIn } from '../run/machine.ts';
import type { Read } from '../run/notebook.ts';
import { RecordingStore } from '../run/recording.ts';
import { standingScreen } from '../run/resolve.ts';
import { advanceIn, meetIn } from '../run/run.ts';
import { branchKey } from '../run/runner.ts';
import type { Report, RunState } from '../run/state.ts';
import type { Ambient } from './ambient.ts';
import { deedsIn } from './events-in.ts';
import { isHurry } from './hurry.ts';
import type { Reading } from './slots.ts';
import { leavesPiece } from './leaving.ts';
import type { Memory } from './memory.ts';
import type { Outcome, Seen, Started } from './outcome.ts';
import { isMovedBy } from './rested.ts';
import { rest } from './settle.ts';
import { seeingIn } from './sights.ts';
import type { Slot } from './slots.ts';
import type { Telling } from './telling.ts';
import { deadlineOf, headsIn, heldIn, inUnits, waitOfHead, waitOfSteps, waitOfTimer } from './waits.ts';

/** A state as it is read, with the frame on the top of its back stack; '' for none. */
export interface Here extends Reading {
  readonly back: string;
}

interface Asked<T> {
  readonly answer: T;
  readonly reads: Iterable<Read>;
}

/** Where everything stands in a state, as far as there were so many columns. */
interface Standing {
  readonly columns: number;
  readonly run: RunState;
  readonly known: KnownScreen;
  /** What was asked for to know it, and what that was. */
  readonly scenes: ReadonlySet<string>;
  readonly of: readonly unknown[];
}

/** Where everything stands in states of which something was asked: much is asked of each. */
const standings = new Beside<Here, Standing>();

/**
 * Asks the engine, and gives what it says with what it read. What waits for its time stands beside the run that is asked about: no
 * answer depends on what else waits, or for how long yet.
 */
export class Asking {
  constructor(
    private readonly memory: Memory,
    private readonly telling: Telling,
    private readonly ambient: Ambient
  ) {}

  private get program(): Program {
    return this.memory.watched;
  }

  private about(here: Here): { readonly run: RunState; readonly store: RecordingStore } {
    const { run, known, scenes } = this.standingIn(here);
    this.memory.note(scenes);
    // What comes of something may lead to what is another by now.
    const now = known.program === this.program ? known : { ...known, program: this.program };
    return { run, store: RecordingStore.on(run, now, this.memory.follows) };
  }

  /** Where everything stands in a state: known from before where nothing that was asked for it is another by now. */
  private standingIn(here: Here): Standing {
    const { memory } = this;
    const columns = memory.slots.columns.length;
    const old = standings.get(here);
    if (old?.columns === columns && memory.areSame(old.scenes, old.of)) return old;
    const run = memory.slots.runOf(here, here.back === '' ? [] : [here.back]);
    const { made, scenes } = memory.noting(() => knowScreen(this.program, run, memory.shelf.isOpen, memory.shelf.bundle));
    return standings.set(here, { columns, run, known: made, scenes, of: memory.ofScenes(scenes) });
  }

  look(here: Here): Asked<Seen> {
    const { store } = this.about(here);
    const screen = standingScreen(this.program, store.run);
    const isLetStand = (scene: string, node: Node) => isMovedBy(node, this.ambient.standingIn(scene));
    const seen = {
      ...seeingIn(runnerIn(this.program, store), store.about, isLetStand),
      isCut: screen.surfaces.some(({ expansion }) => expansion.cut),
    };
    return { answer: seen, reads: store.reads };
  }

  find(here: Here): Asked<readonly number[]> {
    const { store } = this.about(here);
    const screen = standingScreen(this.program, store.run);
    const events = Array.from(deedsIn(this.program, store.run, screen, this.telling), (event) => this.memory.eventNumber(event));
    return { answer: events, reads: store.reads };
  }

  learn(here: Here, number: number): Asked<Outcome> {
    const { program, memory } = this;
    const event = memory.events[number]!;
    const wait = memory.dueOf(number);
    const { run: base, store } = this.about(here);
    const runner = runnerIn(program, store, event);
    const due = wait === undefined ? null : deadlineOf(memory.times.waits[wait]!, runner);
    const { run, reports } = wait === undefined ? advanceIn(runner, event) : due ? meetIn(runner, due) : runner.finish();
    const after = store.fork(run);
    rest(program, after, this.telling, this.ambient, { before: base, now: after.plain });
    const now = after.plain;
    const isCleared = (scene: string) => after.isCleared(scene);
    const set = [...memory.slots.changesBetween(base, now, isCleared)];
    const isTaken = base.back.length > 0 && now.back[0] !== base.back[0];
    const cleared = Object.keys(base.roots).filter(isCleared);
    const pushed = this.telling.back ? now.back.slice(isTaken ? 0 : base.back.length) : [];
    const held = this.pressedIn(reports);
    const acted = [...runner.acted].filter(([branch, acts]) => acts === 'inside' && !held.has(branch)).map(([branch]) => branch);
    const begun = store.fork(base);
    const heads = this.headsBetween(begun, after);
    const presses = this.pressBetween(begun, after);
    const starts = [...this.startedIn(now), ...heads.starts, ...presses.starts];
    const wasSo = ({ scene, column }: Slot, value: number) => (scene !== null && cleared.includes(scene)) || here.at(column) === value;
    const isStill =
      wait === undefined && starts.length === 0 && set.every(([slot, value]) => wasSo(slot, value)) && now.frame === base.frame && !isTaken;
    const answer: Outcome = {
      cleared,
      columns: set.map(([slot]) => slot.column),
      values: set.map(([, value]) => value),
      isTaken,
      pushed,
      threads: threadsIn(reports),
      branches: branchesIn(reports),
      acted: [...runner.acted.keys()].filter((branch) => !isStill || !acted.includes(branch)),
      clearing: isStill && cleared.length > 0 ? acted : [],
      entered: [...new Map(store.entered.map((one) => [one.join(' '), one])).values()],
      endless: reports.flatMap(({ whyNot }) => whyNot.flatMap(({ code, thread }) => (code === 'endless-loop' && thread ? thread : []))),
      starts,
      ended: [...new Map(store.ended.map((one) => [JSON.stringify(one), one])).values()],
      endedHeads: [...heads.ended, ...presses.ended],
      failed: [
        ...new Set(reports.flatMap(({ whyNot }) => whyNot.flatMap(({ fault, thread }) => (fault === 'division-by-zero' && thread ? thread : [])))),
      ],
      leaves: leavesPiece(reports),
      isHurry: isHurry({ activities: now.activities.filter(({ head }) => head !== null) }),
      isDeep: after.isDeep,
    };
    return { answer, reads: store.reads };
  }

  /** Branches that fire as a press begins or ends: what one does and the other undoes is there as long as the finger is. */
  private pressedIn(reports: readonly Report[]): ReadonlySet<string> {
    const { threads } = this.program.piece;
    const held = reports.flatMap(({ fired }) => fired.filter(({ thread }) => ['press', 'release'].includes(threads.get(thread)?.cue.type ?? '')));
    return new Set(held.map(({ thread, branch }) => branchKey(thread, branch)));
  }

  /** Timers and steps that wait for their time: all of them have begun to just now. */
  private startedIn(now: RunState): Started[] {
    const { times } = this.memory;
    const started = (wait: Parameters<typeof times.numberOf>[0], due: number) => ({
      wait: times.numberOf(wait),
      span: inUnits(this.program, Math.max(0, due - now.clock)),
    });
    return [
      ...liveRootsOf(this.program, now).flatMap((scene) => now.roots[scene]!.timers.map((timer) => started(waitOfTimer(scene, timer), timer.due))),
      ...now.activities.filter(({ head }) => head === null).map((one) => started(waitOfSteps(one), one.due)),
    ];
  }

  /** What is held now until that is a long press, and what was and is no longer. */
  private pressBetween(begun: RecordingStore, after: RecordingStore): { readonly starts: readonly Started[]; readonly ended: readonly number[] } {
    if (!begun.plain.pressed && !after.plain.pressed) return NO_PRESS;
    const { times } = this.memory;
    const [was, is] = [begun, after].map((store) => heldIn(runnerIn(this.program, store)));
    const [old, now] = [was, is].map((one) => (one ? times.numberOf(one.wait) : null));
    if (old === now && begun.plain.pressed?.at === after.plain.pressed?.at) return NO_PRESS;
    return {
      starts: is ? [{ wait: now!, span: inUnits(this.program, is.due - after.plain.clock) }] : [],
      ended: was ? [old!] : [],
    };
  }

  /** Playheads that are under way now from another place than before, and those that are so no longer. */
  private headsBetween(begun: RecordingStore, after: RecordingStore): { readonly starts: readonly Started[]; readonly ended: readonly number[] } {
    const { times } = this.memory;
    const { program } = this;
    const [starts, ended]: [Started[], number[]] = [[], []];
    const [base, now] = [begun.plain, after.plain];
    const movingIn = (store: RecordingStore, scene: string, keys: ReadonlySet<string>) => {
      const isAwaited = (instance: Instance) => store.isSo(({ activities }) => activities.some(awaiting(scene, instance)));
      return new Map(headsIn(program, store.plain, scene, this.ambient, keys, isAwaited).map((one) => [keyOf(one.wait), one]));
    };
    const wasLive = new Set(liveRootsOf(program, base));
    for (const scene of liveRootsOf(program, now)) {
      const old = wasLive.has(scene) && !after.isCleared(scene) ? base.roots[scene] : undefined;
      const root = now.roots[scene]!;
      if (old && old.heads === root.heads && old.present === root.present) continue;
      const all = [...Object.keys(root.heads), ...Object.keys(old?.heads ?? {})];
      const keys = new Set(all.filter((key) => !old || old.heads[key] !== root.heads[key] || old.present[key] !== root.present[key]));
      for (const key of keys) void after.run.roots[scene]?.heads[key];
      const before: ReadonlyMap<string, unknown> = old ? movingIn(begun, scene, keys) : new Map();
      const moving = movingIn(after, scene, keys);
      for (const key of keys) {
        const is = moving.get(key);
        const wait = before.has(key) || is ? times.numberOf(waitOfHead(scene, key)) : -1;
        if (before.has(key)) ended.push(wait);
        if (is) starts.push({ wait, span: inUnits(program, is.left) });
      }
    }
    return { starts, ended };
  }
}

const NO_PRESS = { starts: [], ended: [] };

const keyOf = (wait: ReturnType<typeof headsIn>[number]['wait']): string => (wait.kind === 'head' ? wait.instance : '');

export const branchesIn = (reports: readonly Report[]): string[] =>
  reports.flatMap((report) => report.fired.map((fired) => branchKey(fired.thread, fired.branch)));

export const threadsIn = (reports: readonly Report[]): string[] => reports.flatMap((report) => report.fired.map((fired) => fired.thread));
