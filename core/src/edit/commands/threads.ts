import type { LineThread } from '../../lines/line.ts';
import { threadsOf, type Layer, type Piece, type Scene, type Thread } from '../../piece/piece.ts';
import type { OwnerKind } from '../../vocabulary/cues/define.ts';
import { stepKind, type Step } from '../../vocabulary/steps/all.ts';
import { naturally } from '../../words.ts';
import { keysBetween } from '../order.ts';
import type { Operation } from '../operation.ts';

/** A thread that is not there yet; the first of its owner if no place is given. */
export function newThread(id: string, on: OwnerKind, owner: string, { cue, branches }: LineThread, order = 'a0'): Operation {
  const thread: Thread = { id, on, owner, order, cue, branches, enabled: true };
  return { op: 'put', table: 'threads', value: thread };
}

/** Adds threads under those that their owner has, in the order given. */
export function addThreads(piece: Piece, on: OwnerKind, owner: string, lines: readonly LineThread[], makeId: () => string): Operation[] {
  const keys = keysBetween(threadsOf(piece, owner).at(-1)?.order ?? null, null, lines.length);
  return lines.map((line, i) => newThread(makeId(), on, owner, line, keys[i]!));
}

/** Gives a thread what a line says; its place, its note and whether it is on stay. */
export const rewriteThread = (id: string, line: LineThread): Operation[] => [
  { op: 'set', table: 'threads', id, path: ['cue'], value: line.cue },
  { op: 'set', table: 'threads', id, path: ['branches'], value: line.branches },
];

/**
 * Makes clicks on layers lead to a frame: the click thread a layer has gets the new target and keeps its transition;
 * one without gets a thread.
 */
export function wireTo(piece: Piece, layers: readonly string[], frame: string | null, makeId: () => string): Operation[] {
  return layers.flatMap((id): Operation[] => {
    const old = threadsOf(piece, id).find((thread) => thread.cue.type === 'click');
    const at = old?.branches[0]?.steps.findIndex((step) => step.do === 'go') ?? -1;
    if (old && at >= 0)
      return [
        {
          op: 'set' as const,
          table: 'threads' as const,
          id: old.id,
          path: ['branches', '0', 'steps', String(at), 'target'],
          value: { to: 'frame', frame },
        },
      ];
    return leadingElsewhere(old, goTo(frame)) ?? addThreads(piece, 'layer', id, [clickTo(frame)], makeId);
  });
}

/** Of steps that say where one comes to only one is meant at a time. */
const isLeading = (step: Step) => stepKind(step.do).isLeading && !('of' in step);

/** The operations that let a thread which only leads somewhere lead elsewhere; undefined where it does more, or another thing. */
export function leadingElsewhere(thread: Thread | undefined, step: Step): Operation[] | undefined {
  const [only, ...more] = thread?.branches ?? [];
  if (!thread || !only || more.length || only.if !== undefined || only.steps.length !== 1) return undefined;
  if (!isLeading(step) || !isLeading(only.steps[0]!)) return undefined;
  return [{ op: 'set', table: 'threads', id: thread.id, path: ['branches', '0', 'steps', '0'], value: step }];
}

const goTo = (frame: string | null): Step => ({ do: 'go', target: { to: 'frame', frame }, transition: { type: 'cut' } });

const clickTo = (frame: string | null): LineThread => ({ cue: { type: 'click' }, branches: [{ steps: [goTo(frame)] }] });

/** Rows from the top, each from the left; layers whose middles are within half a height of each other are in one row. */
export function readingOrder<T extends { pose: Layer['pose'] }>(layers: readonly T[]): T[] {
  const rows: T[][] = [];
  for (const layer of [...layers].sort((a, b) => middle(a) - middle(b))) {
    const row = rows.at(-1);
    if (row && middle(layer) - middle(row[0]!) < row[0]!.pose.height / 2) row.push(layer);
    else rows.push([layer]);
  }
  return rows.flatMap((row) => row.sort((a, b) => a.pose.x - b.pose.x));
}

const middle = ({ pose }: { pose: Layer['pose'] }) => pose.y + pose.height / 2;

/** Frames that a layer is likely to lead to, likeliest first: same name, next in order, where its neighbours do not lead yet. */
export function likelyFrames(piece: Piece, layer: Layer | null, scene: string | null, frames: readonly Scene[]): Scene[] {
  const here = frames.findIndex((frame) => frame.id === scene);
  const led = new Set(scene === null ? [] : [...(piece.index.layersOf.get(scene) ?? [])].flatMap((id) => threadsOf(piece, id).flatMap(targetsOf)));
  const score = (frame: Scene, at: number) => {
    if (frame.id === scene) return 1_000_000;
    const named = layer && [layer.name, layer.text].some((word) => word !== undefined && naturally(word, frame.name) === 0);
    const distance = at > here ? at - here : frames.length + here - at;
    return (named ? -1_000_000 : 0) + (led.has(frame.id) ? 10_000 : 0) + distance;
  };
  return frames
    .map((frame, at) => ({ frame, score: score(frame, at) }))
    .sort((a, b) => a.score - b.score)
    .map(({ frame }) => frame);
}

export const targetsOf = (thread: Thread): string[] =>
  thread.branches.flatMap(({ steps }) =>
    steps.flatMap((step) => (step.do === 'go' && step.target.to === 'frame' && step.target.frame !== null ? [step.target.frame] : []))
  );

/** Moves a thread up or down among those of its owner. */
export function moveThread(piece: Piece, id: string, by: -1 | 1): Operation[] {
  const thread = piece.threads.get(id);
  const all = thread ? threadsOf(piece, thread.owner) : [];
  const at = all.findIndex((one) => one.id === id);
  const rest = all.filter((one) => one.id !== id);
  const to = at + by;
  if (at < 0 || to < 0 || to > rest.length) return [];
  const order = keysBetween(rest[to - 1]?.order ?? null, rest[to]?.order ?? null, 1)[0];
  return [{ op: 'set', table: 'threads', id, path: ['order'], value: order }];
}

/** Puts a thread right before another one, also of another owner, which then has it. */
export function threadBefore(piece: Piece, id: string, before: string): Operation[] {
  const [thread, other] = [piece.threads.get(id), piece.threads.get(before)];
  if (!thread || !other || id === before) return [];
  const all = threadsOf(piece, other.owner).filter((one) => one.id !== id);
  const at = all.findIndex((one) => one.id === before);
  const order = keysBetween(all[at - 1]?.order ?? null, other.order, 1)[0]!;
  const value: Thread = { ...thread, on: other.on, owner: other.owner, order };
  return [{ op: 'put', table: 'threads', value }];
}
