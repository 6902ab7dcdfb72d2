import { onceFor } from '../once.ts';
import type { Expansion } from '../program/expand.ts';
import { outwardNodes, pathIn, type Instance, type Node } from '../program/node.ts';
import { sectionAt } from '../run/playhead.ts';
import { afterSection } from '../run/played.ts';
import type { Playhead, RunState } from '../run/state.ts';
import { listWords } from '../words.ts';

/** What stands still in a run, and what timelines have on its way. */

/** Whether anything that is shown looks otherwise by where a timeline is, or is there by that. */
export const looksByTime = (expansion: Expansion): boolean => hasKeys(expansion) || hasSpans(expansion);

const hasKeys = onceFor((expansion: Expansion): boolean => timelinesIn(expansion).some(({ tracks }) => isAny(tracks)));

/** Whether anything that is shown is there only at some time. */
export const hasSpans = onceFor((expansion: Expansion): boolean => timelinesIn(expansion).some(({ spans }) => isAny(spans)));

const timelinesIn = ({ instances }: Expansion): readonly Timeline[] => [...instances.values()].flatMap(({ scene }) => scene.scene.timeline ?? []);

const isAny = (of: object | undefined): boolean => of !== undefined && Object.keys(of).length > 0;

/** The instances, by their keys, whose timelines have keys for a layer, or for something around it. */
const movedBy = onceFor((node: Node): readonly string[] => [...new Set(outwardNodes(node).flatMap((one) => [...keyedBy(one)]))]);

function* keyedBy(node: Node): Iterable<string> {
  for (let at: Instance | null = node.instance; at; at = at.outer) {
    const path = at.scene.scene.timeline?.tracks ? pathIn(at, node) : null;
    if (path !== null && keyedOn(at.scene.scene.timeline!).has(path)) yield at.key;
  }
}

type Timeline = NonNullable<Instance['scene']['scene']['timeline']>;

const keyedOn = onceFor((timeline: Timeline): ReadonlySet<string> => new Set(Object.values(timeline.tracks ?? {}).map(({ layer }) => layer)));

/** Whether any timeline has keys for a layer, or for something around it. */
export const isKeyed = (node: Node): boolean => movedBy(node).length > 0;

/** Whether a timeline that plays moves a layer of a scene, or something around it: it is where it is, and looks as it does, for a moment only. */
export const isMovingIn = ({ roots }: Pick<RunState, 'roots'>, scene: string, node: Node): boolean =>
  movedBy(node).some((instance) => roots[scene]?.heads[instance]?.playing === true);

/** Whether any of some instances, by their keys, has a timeline with keys for a layer, or for something around it. */
export const isMovedBy = (node: Node, instances: ReadonlySet<string>): boolean =>
  instances.size > 0 && movedBy(node).some((one) => instances.has(one));

/** The sections in which timelines stand that have keys for a layer, or for something around it, in words; empty where none has a name. */
export function sectionsWhere({ roots }: Pick<RunState, 'roots'>, { root, instances }: Expansion, node: Node): string {
  const named = movedBy(node).flatMap((key) => {
    const timeline = instances.get(key)?.scene.scene.timeline;
    const head = roots[root.scene.id]?.heads[key];
    const label = timeline && head && sectionAt(timeline, head.at)?.label;
    return label ? (timeline.labels?.[label]?.name ?? []) : [];
  });
  return named.length ? `in section ${listWords(named)}` : '';
}

/** Where a timeline comes to rest, and after so many timeline frames. */
interface Rest {
  readonly at: number;
  readonly frames: number;
}

/** So many sections are played after each other before a timeline counts as one that never rests. */
const MOST_SECTIONS = 1000;

const restsOf = onceFor((_timeline: Timeline) => new Map<number, Rest | null>());

/** Where what is left to play from a timeline frame comes to rest; null where it goes on for ever. */
function restFrom(timeline: Timeline, from: number): Rest | null {
  const rests = restsOf(timeline);
  let rest = rests.get(from);
  if (rest === undefined) rests.set(from, (rest = restFound(timeline, from)));
  return rest;
}

function restFound(timeline: Timeline, from: number): Rest | null {
  let [at, frames] = [from, 0];
  for (let i = 0; i < MOST_SECTIONS; i++) {
    const section = sectionAt(timeline, at);
    // A label beyond the end of its timeline is gone to, and plays nothing.
    if (!section) return { at, frames };
    const { ending } = section;
    if (ending.do === 'loop' && ending.times === undefined) return null;
    frames += section.to + 1 - at;
    if (ending.do === 'loop') frames += (section.to + 1 - section.from) * (ending.times! - 1);
    const next = ending.do === 'loop' ? null : afterSection(timeline, section);
    if (next === null) return { at: section.to, frames };
    at = next;
  }
  return null;
}

/**
 * A run in which timelines that exploring lets stand have come to where they rest, in timeline frames from then; those that never do are on
 * their way.
 */
export function rested(
  look: { readonly run: () => RunState; readonly isUnderWay: boolean },
  expansions: readonly Expansion[],
  standingIn: (scene: string) => ReadonlySet<string>
): { readonly run: RunState; readonly frames: number } {
  const run = look.run();
  const roots = { ...run.roots };
  let most = 0;
  for (const { root, instances } of expansions) {
    const { id } = root.scene;
    const own = roots[id];
    if (!own) continue;
    const heads: Record<string, Playhead> = { ...own.heads };
    for (const key of standingIn(id)) {
      const [head, timeline] = [heads[key], instances.get(key)?.scene.scene.timeline];
      if (!head || !timeline) continue;
      const goesOn = look.isUnderWay ? head.playing : timeline.autoplay !== false;
      const rest = goesOn ? restFrom(timeline, head.at) : { at: head.at, frames: 0 };
      heads[key] = { ...head, at: rest?.at ?? head.at, playing: rest === null };
      most = Math.max(most, rest?.frames ?? 0);
    }
    roots[id] = { ...own, heads };
  }
  return { run: { ...run, roots }, frames: most };
}
