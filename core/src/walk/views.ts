import { onceFor } from '../once.ts';
import { outwardNodes, type Node } from '../program/node.ts';
import type { Moment } from './moment.ts';
import type { Crowd } from './crowds.ts';
import type { Seeing, Sight } from './sights.ts';

/** A layer that others take from the pointer. */
export interface Covered {
  readonly node: Node;
  readonly by: Node;
  /** Share of what is in view of it, 0 to 1, where least of it is taken. */
  readonly share: number;
  /** A state in which it is so. */
  readonly at: Moment;
}

/** Where an area to press is smallest. */
export interface Small {
  readonly node: Node;
  readonly width: number;
  readonly height: number;
  readonly at: Moment;
}

type Judged = Pick<Seeing, 'sights' | 'crowds'>;

/** What is seen on the screen, by the scene that it stands in, by way of parts too. */
const byScene = onceFor(({ sights, crowds }: Judged): ReadonlyMap<string, Judged> => {
  const scenes = new Map<string, { readonly sights: Sight[]; readonly crowds: Crowd[] }>();
  const of = (node: Node) => {
    const { scene } = outwardNodes(node).at(-1)!.layer;
    return scenes.get(scene) ?? scenes.set(scene, { sights: [], crowds: [] }).get(scene)!;
  };
  for (const sight of sights) of(sight.node).sights.push(sight);
  for (const crowd of crowds) of(crowd.a).crowds.push(crowd);
  return scenes;
});

/** The scenes of which something is seen. */
export const scenesOf = (seen: Judged): Iterable<string> => byScene(seen).keys();

/** What is seen, over all states that are met. What is open in one state is not covered; what is small in one is small. */
export class Views {
  private readonly scenes = new Map<string, SceneViews>();
  private lists: Partial<Lists> = {};

  /** `only` says of which scenes it is new. */
  see(seen: Judged, at: Moment, only?: ReadonlySet<string>): void {
    for (const [scene, judged] of byScene(seen)) if (!only || only.has(scene)) this.of(scene).see(judged, at);
    this.lists = {};
  }

  /** What was seen elsewhere of the same piece counts as seen here. */
  add(other: Views): void {
    for (const [scene, views] of other.scenes) this.of(scene).add(views);
    this.lists = {};
  }

  /** The same but for what was seen of some scenes. */
  without(scenes: ReadonlySet<string>): Views {
    const views = new Views();
    for (const [scene, seen] of this.scenes) views.scenes.set(scene, scenes.has(scene) ? new SceneViews() : seen);
    return views;
  }

  /** All of one kind, of every scene. */
  list<K extends keyof Lists>(what: K): Lists[K] {
    const known: Lists[K] | undefined = this.lists[what];
    if (known) return known;
    const all: Lists[K][number][] = [];
    for (const views of this.scenes.values()) for (const one of views.list(what)) all.push(one);
    return ((this.lists as Lists)[what] = all as unknown as Lists[K]);
  }

  private of(scene: string): SceneViews {
    let views = this.scenes.get(scene);
    if (!views) this.scenes.set(scene, (views = new SceneViews()));
    return views;
  }
}

interface Glimpse {
  readonly node: Node;
  readonly at: Moment;
}

/** What is not seen, and what lies before it. */
interface Unseen extends Glimpse {
  readonly behind: Node | null;
  /** Elsewhere it is seen, at rest. */
  readonly isSeenToo: boolean;
}

type CrowdAt = Crowd & { readonly at: Moment };

/** What is told of all that was seen. */
interface Lists {
  /** Layers of which others took a half or more in every state in which they were seen. */
  covered: readonly Covered[];
  /** Layers of which nothing could be scrolled into view in any state in which they were there. */
  beyond: readonly Glimpse[];
  /** Layers that take presses and cannot be seen in some state. */
  unseen: readonly Unseen[];
  /** Of each area to press, where it is smallest. */
  smallest: readonly Small[];
  /** Of each two areas that crowd each other, where they are nearest. */
  crowds: readonly CrowdAt[];
}

/** What is seen in one scene. */
class SceneViews {
  private readonly open = new Set<string>();
  private readonly worst = new Map<string, Covered>();
  private readonly within = new Set<string>();
  private readonly out = new Map<string, Glimpse>();
  private readonly unseen = new Map<string, Omit<Unseen, 'isSeenToo'>>();
  private readonly seen = new Set<string>();
  private readonly smallest = new Map<string, Small>();
  private readonly crowds = new Map<string, CrowdAt>();

  private lists: Partial<Lists> = {};

  see({ sights, crowds }: Judged, at: Moment): void {
    for (const sight of sights) this.look(sight, at);
    for (const crowd of crowds) this.crowd({ ...crowd, at });
    this.lists = {};
  }

  add(other: SceneViews): void {
    for (const key of other.open) this.open.add(key);
    for (const key of other.within) this.within.add(key);
    for (const key of other.seen) this.seen.add(key);
    for (const one of other.worst.values()) this.cover(one);
    for (const [key, one] of other.out) if (!this.out.has(key)) this.out.set(key, one);
    for (const [key, one] of other.unseen) if (!this.unseen.has(key)) this.unseen.set(key, one);
    for (const one of other.smallest.values()) this.measure(one);
    for (const one of other.crowds.values()) this.crowd(one);
    this.lists = {};
  }

  list<K extends keyof Lists>(what: K): Lists[K] {
    const known: Lists[K] | undefined = this.lists[what];
    return known ?? ((this.lists as Lists)[what] = this.listed[what]());
  }

  private readonly listed: { readonly [K in keyof Lists]: () => Lists[K] } = {
    covered: () => [...this.worst].flatMap(([key, one]) => (this.open.has(key) ? [] : one)),
    beyond: () => [...this.out].flatMap(([key, one]) => (this.within.has(key) ? [] : one)),
    unseen: () => Array.from(this.unseen, ([key, one]) => ({ ...one, isSeenToo: this.seen.has(key) })),
    smallest: () => [...this.smallest.values()],
    crowds: () => [...this.crowds.values()],
  };

  private look({ node, share, isOpen, by, size, isOut, isUnseen, behind, isStill }: Sight, at: Moment): void {
    const { key } = node;
    if (isOut) {
      if (!this.out.has(key)) this.out.set(key, { node, at });
    } else this.within.add(key);
    if (isUnseen && !this.unseen.has(key)) this.unseen.set(key, { node, at, behind });
    if (isOpen && isStill && !isUnseen) this.seen.add(key);
    if (size) this.measure({ node, ...size, at });
    if (isOpen) this.open.add(key);
    else if (by && share !== null) this.cover({ node, by, share, at });
  }

  private cover(one: Covered): void {
    const old = this.worst.get(one.node.key);
    if (!old || one.share < old.share) this.worst.set(one.node.key, one);
  }

  private measure(one: Small): void {
    const old = this.smallest.get(one.node.key);
    if (!old || Math.min(one.width, one.height) < Math.min(old.width, old.height)) this.smallest.set(one.node.key, one);
  }

  private crowd(one: CrowdAt): void {
    const key = `${one.a.key} ${one.b.key}`;
    const old = this.crowds.get(key);
    if (!old || one.gap < old.gap) this.crowds.set(key, one);
  }
}
