import { count, groupedBy, scenesOf, type Program, type Thread } from '@zany/core';
import { stitchesOf, type Stitch } from './stitches';

/**
 * What the map draws of how frames lead to each other. Stitches between the same two frames are one ribbon. What leads everywhere would
 * make a net of it: frames that many others lead to, *back*, and threads of sheets and of the piece are marks with a count.
 */
export interface Web {
  readonly stitches: readonly Stitch[];
  readonly ribbons: readonly Ribbon[];
  /** By the frame they stand at. */
  readonly marks: ReadonlyMap<string, readonly Mark[]>;
}

export interface Ribbon {
  readonly key: string;
  readonly from: string;
  readonly to: string;
  readonly stitches: readonly Stitch[];
  /** It leads to a frame that many lead to: drawn only where it is asked for. */
  readonly isToHub: boolean;
  /** Some of it fires only where a condition holds. */
  readonly isConditional: boolean;
}

export interface Mark {
  readonly kind: MarkKind;
  readonly words: string;
  /** What it says in full. */
  readonly meaning: string;
}

/** Leads back; many lead here; leads to where many lead; a sheet, or the piece from anywhere, leads here; something was said of it. */
export type MarkKind = 'back' | 'hub' | 'toHub' | 'sheet' | 'piece' | 'said';

/** The signs that marks begin with; those of sheets have their names. */
export const markSigns = { back: '↩', hub: '⇥', toHub: '→', piece: '✱', said: '❞' } as const satisfies Partial<Record<MarkKind, string>>;

/** A frame that more others lead to than this is a hub, on maps with more frames than are few. */
const MANY = 6;
const FEW = 12;

export function webOf(program: Program): Web {
  const stitches = stitchesOf(program);
  const pairs = groupedBy(stitches, ({ from, to }) => `${from} ${to}`);
  const sources = new Map<string, Set<string>>();
  for (const { from, to } of stitches) {
    const set = sources.get(to);
    if (set) set.add(from);
    else sources.set(to, new Set([from]));
  }
  const isHub = (id: string) => program.frames.length > FEW && (sources.get(id)?.size ?? 0) > MANY;
  const ribbons = [...pairs].map(([key, list]): Ribbon => {
    const { from, to } = list[0]!;
    const isConditional = list.some(({ thread }) => thread.branches.some((branch) => branch.if !== undefined));
    return { key, from, to, stitches: list, isToHub: isHub(to), isConditional };
  });
  return { stitches, ribbons, marks: marksOf(program, ribbons, sources) };
}

function marksOf(program: Program, ribbons: readonly Ribbon[], sources: ReadonlyMap<string, ReadonlySet<string>>): Map<string, Mark[]> {
  const marks = new Map<string, Mark[]>();
  const add = (frame: string, kind: MarkKind, words: string, meaning: string) => {
    const list = marks.get(frame);
    if (list) list.push({ kind, words, meaning });
    else marks.set(frame, [{ kind, words, meaning }]);
  };
  const nameOf = (id: string) => program.scenes.get(id)!.scene.name;
  for (const id of program.frames) {
    const scene = program.scenes.get(id)!;
    const own = [...scene.items.flatMap(({ threads }) => threads), ...scene.threads];
    const backs = own.filter((thread) => leadsOf(thread).some(({ to }) => to === 'back')).length;
    if (backs) add(id, 'back', `${markSigns.back} ${backs}`, `${count(backs, 'thread')} of ${nameOf(id)} lead${backs === 1 ? 's' : ''} back`);
  }
  for (const { from, to, stitches, isToHub } of ribbons)
    if (isToHub) add(from, 'toHub', `${markSigns.toHub} ${nameOf(to)}`, `${count(stitches.length, 'thread')} to ${nameOf(to)}, which many lead to`);
  for (const to of new Set(ribbons.flatMap((ribbon) => (ribbon.isToHub ? ribbon.to : [])))) {
    const many = sources.get(to)!.size;
    add(to, 'hub', `${markSigns.hub} ${many}`, `${count(many, 'frame')} lead to ${nameOf(to)}`);
  }
  for (const sheet of scenesOf(program.piece, 'sheet')) {
    const scene = program.scenes.get(sheet.id)!;
    for (const [to, threads] of targetsOf([...scene.items.flatMap((item) => item.threads), ...scene.threads], program))
      add(
        to,
        'sheet',
        `${sheet.name}${threads > 1 ? ` ${threads}` : ''}`,
        `${count(threads, 'thread')} of the sheet ${sheet.name} lead${threads === 1 ? 's' : ''} to ${nameOf(to)}`
      );
  }
  for (const [to, threads] of targetsOf(program.threads, program))
    add(
      to,
      'piece',
      `${markSigns.piece} ${threads}`,
      `From anywhere: ${count(threads, 'thread')} of the piece lead${threads === 1 ? 's' : ''} to ${nameOf(to)}`
    );
  return marks;
}

/** Where threads lead that are of no frame, with how many of them. */
function targetsOf(threads: readonly Thread[], program: Program): Map<string, number> {
  const found = new Map<string, number>();
  for (const thread of threads) {
    const targets = leadsOf(thread).flatMap((target) =>
      target.to === 'frame' ? (target.frame ?? []) : target.to === 'start' ? (program.piece.head.start[0] ?? []) : []
    );
    for (const to of new Set(targets)) if (program.frameAt.has(to)) found.set(to, (found.get(to) ?? 0) + 1);
  }
  return found;
}

const leadsOf = ({ enabled, branches }: Thread) =>
  enabled ? branches.flatMap(({ steps }) => steps.flatMap((step) => (step.do === 'go' ? [step.target] : []))) : [];

/** Frames so many steps around one, itself included: what leads there and where it leads on. */
export function around(web: Web, frame: string, steps: number): ReadonlySet<string> {
  const found = new Set([frame]);
  for (const [from, to] of [
    ['from', 'to'],
    ['to', 'from'],
  ] as const) {
    const next = groupedBy(web.ribbons, (ribbon) => ribbon[from]);
    let edge = [frame];
    const seen = new Set(edge);
    for (let i = 0; i < steps; i++) {
      edge = [...new Set(edge.flatMap((id) => (next.get(id) ?? []).map((ribbon) => ribbon[to])))].filter((id) => !seen.has(id));
      for (const id of edge) seen.add(id);
    }
    for (const id of seen) found.add(id);
  }
  return found;
}
