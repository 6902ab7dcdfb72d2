import { median, rollup, rollups } from 'd3-array';
import type { ResultStep, ResultTrail, ReviewResults, ReviewTask, ShortestWays } from '$lib/shared/types';

/** What the goes of many people say of a piece, counted. */

export interface Parting {
  /** The frame on the shortest way where others were left behind. */
  readonly at: string;
  /** Where they went instead; null for who did not go on from there at all. */
  readonly to: string | null;
  readonly count: number;
}

export interface TaskResult {
  readonly task: ReviewTask;
  /** Goes at it, one for each person: of several the best, which is the one that reached it first. */
  readonly goes: readonly ResultTrail[];
  readonly reached: number;
  readonly givenUp: number;
  /** Neither: the window was closed, or they are still at it. */
  readonly left: number;
  /** Of those who reached it. */
  readonly steps: number | null;
  readonly ms: number | null;
  readonly shortest: number | null;
  /** Presses that met nothing, of all goes at it. */
  readonly nothing: number;
  /** Where ways part from the shortest, the most first. */
  readonly partings: readonly Parting[];
}

/** The frames that a go went through, in order. */
export function framesOfGo(from: string, steps: readonly ResultStep[]): string[] {
  const frames = [from];
  for (const { to } of steps) if (to !== frames.at(-1)) frames.push(to);
  return frames;
}

/** Where a go leaves the shortest way; null where it does not. */
export function partingOf({ from, steps, reached }: ResultTrail, shortest: readonly string[]): Omit<Parting, 'count'> | null {
  if (!steps) return null;
  const frames = framesOfGo(from, steps);
  if (frames[0] !== shortest[0]) return null;
  for (let i = 1; i < shortest.length; i++) {
    if (frames[i] === shortest[i]) continue;
    if (frames[i] === undefined) return reached ? null : { at: shortest[i - 1]!, to: null };
    return { at: shortest[i - 1]!, to: frames[i]! };
  }
  // It went the whole way; within its last frame nothing parts.
  return reached || frames.length <= shortest.length
    ? reached
      ? null
      : { at: shortest.at(-1)!, to: null }
    : { at: shortest.at(-1)!, to: frames[shortest.length]! };
}

const bestFirst = (a: ResultTrail, b: ResultTrail): number =>
  Number(b.reached !== null) - Number(a.reached !== null) || Number(b.givenUp) - Number(a.givenUp) || (a.begun < b.begun ? -1 : 1);

/** Without the shortest ways, goes are held against nothing. */
export function taskResult(task: ReviewTask, { trails }: ReviewResults, shortest: ShortestWays | null): TaskResult {
  const mine = trails.filter((one) => one.task === task.id && one.steps !== null);
  const goes = rollups(
    mine,
    (of) => [...of].sort(bestFirst)[0]!,
    ({ holder }) => holder
  ).map(([, go]) => go);
  const way = shortest?.[task.id] ?? null;
  const parted = way ? mine.flatMap((go) => partingOf(go, way.frames) ?? []) : [];
  const reached = goes.filter((go) => go.reached !== null);
  return {
    task,
    goes,
    reached: reached.length,
    givenUp: goes.filter((go) => go.reached === null && go.givenUp).length,
    left: goes.filter((go) => go.reached === null && !go.givenUp).length,
    steps: median(reached, (go) => go.reached!.steps) ?? null,
    ms: median(reached, (go) => go.reached!.ms) ?? null,
    shortest: way?.steps ?? null,
    nothing: mine.reduce((sum, { steps }) => sum + steps!.filter(({ met }) => !met).length, 0),
    partings: rollups(
      parted,
      (of) => ({ ...of[0]!, count: of.length }),
      ({ at, to }) => `${at}>${to}`
    )
      .map(([, one]) => one)
      .sort((a, b) => b.count - a.count),
  };
}

export interface FramePresses {
  readonly frame: string;
  readonly presses: readonly { readonly at: readonly [number, number]; readonly met: boolean }[];
  readonly nothing: number;
}

/** Presses by the frame they were made on, those with the most that met nothing first. */
export function pressesByFrame(trails: readonly ResultTrail[]): FramePresses[] {
  const steps = trails.flatMap((one) => one.steps ?? []).filter((step): step is ResultStep & { at: readonly [number, number] } => step.at !== null);
  return rollups(
    steps,
    (of) => of.map(({ at, met }) => ({ at, met })),
    ({ on }) => on
  )
    .map(([frame, presses]) => ({ frame, presses, nothing: presses.filter(({ met }) => !met).length }))
    .sort((a, b) => b.nothing - a.nothing || b.presses.length - a.presses.length);
}

/** What presses that met nothing were on, on one frame, with the reason: the most first. */
export const missedOn = (trails: readonly ResultTrail[], frame: string): { under: string | null; whyNot: string | null; count: number }[] =>
  rollups(
    trails.flatMap((one) => one.steps ?? []).filter((step) => step.on === frame && step.at !== null && !step.met),
    (of) => ({ under: of[0]!.under, whyNot: of[0]!.whyNot, count: of.length }),
    ({ under, whyNot }) => `${under}>${whyNot}`
  )
    .map(([, one]) => one)
    .sort((a, b) => b.count - a.count);

/** How often each thread fired. */
export const timesFired = (trails: readonly ResultTrail[]): ReadonlyMap<string, number> =>
  rollup(
    trails.flatMap((one) => one.steps ?? []).flatMap(({ threads }) => threads),
    (of) => of.length,
    (thread) => thread
  );

/** How often it was gone from one frame to another, the most first. */
export const waysWalked = (trails: readonly ResultTrail[]): { from: string; to: string; count: number }[] =>
  rollups(
    trails.flatMap((one) => one.steps ?? []).filter(({ on, to }) => on !== to),
    (of) => ({ from: of[0]!.on, to: of[0]!.to, count: of.length }),
    ({ on, to }) => `${on}>${to}`
  )
    .map(([, one]) => one)
    .sort((a, b) => b.count - a.count);

/** A line for each go, as a sheet has it. */
export function sheetOf(
  { holders, trails }: ReviewResults,
  shortest: ShortestWays | null,
  tasks: readonly ReviewTask[],
  nameOf: (frame: string) => string
): Record<string, string | number>[] {
  const names = new Map(holders.map(({ id, name }) => [id, name]));
  return trails.map(({ holder, task, begun, givenUp, isFull, from, steps, reached, ms }) => ({
    person: names.get(holder) ?? '',
    task: tasks.find(({ id }) => id === task)?.sentence ?? (task === null ? 'freely' : 'a task that is gone'),
    begun,
    outcome: steps === null ? 'cannot be run again' : reached ? 'reached' : givenUp ? 'given up' : task === null ? '' : 'left',
    steps: reached?.steps ?? steps?.length ?? '',
    'shortest way': shortest ? (task !== null && shortest[task]?.steps) || '' : 'not known',
    seconds: Math.round((reached?.ms ?? ms) / 100) / 10,
    'presses that met nothing': steps?.filter(({ met }) => !met).length ?? '',
    frames: steps ? framesOfGo(from, steps).map(nameOf).join(' > ') : '',
    cut: isFull ? 'more was done than was kept' : '',
  }));
}
