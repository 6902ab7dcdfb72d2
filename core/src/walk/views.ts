import type { Node } from '../program/node.ts';
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

/** What is seen, over all states that are met. What is open in one state is not covered; what is small in one is small. */
export class Views {
  private readonly open = new Set<string>();
  private readonly worst = new Map<string, Covered>();
  private readonly within = new Set<string>();
  private readonly out = new Map<string, { readonly node: Node; readonly at: Moment }>();
  readonly unseen = new Map<string, { readonly node: Node; readonly at: Moment }>();
  readonly smallest = new Map<string, Small>();
  readonly crowds = new Map<string, Crowd & { readonly at: Moment }>();

  see({ sights, crowds }: Pick<Seeing, 'sights' | 'crowds'>, at: Moment): void {
    for (const sight of sights) this.look(sight, at);
    for (const crowd of crowds) this.crowd({ ...crowd, at });
  }

  /** What was seen elsewhere of the same piece counts as seen here. */
  add(other: Views): void {
    for (const key of other.open) this.open.add(key);
    for (const key of other.within) this.within.add(key);
    for (const one of other.worst.values()) this.cover(one);
    for (const [key, one] of other.out) if (!this.out.has(key)) this.out.set(key, one);
    for (const [key, one] of other.unseen) if (!this.unseen.has(key)) this.unseen.set(key, one);
    for (const one of other.smallest.values()) this.measure(one);
    for (const one of other.crowds.values()) this.crowd(one);
  }

  /** Layers of which others took a half or more in every state in which they were seen. */
  get covered(): readonly Covered[] {
    return [...this.worst].flatMap(([key, one]) => (this.open.has(key) ? [] : one));
  }

  /** Layers of which nothing could be scrolled into view in any state in which they were there. */
  get beyond(): readonly { readonly node: Node; readonly at: Moment }[] {
    return [...this.out].flatMap(([key, one]) => (this.within.has(key) ? [] : one));
  }

  private look({ node, share, isOpen, by, size, isOut, isUnseen }: Sight, at: Moment): void {
    const { key } = node;
    if (isOut) {
      if (!this.out.has(key)) this.out.set(key, { node, at });
    } else this.within.add(key);
    if (isUnseen && !this.unseen.has(key)) this.unseen.set(key, { node, at });
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

  private crowd(one: Crowd & { readonly at: Moment }): void {
    const key = `${one.a.key} ${one.b.key}`;
    const old = this.crowds.get(key);
    if (!old || one.gap < old.gap) this.crowds.set(key, one);
  }
}
