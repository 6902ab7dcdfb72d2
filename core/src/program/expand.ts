import { Beside } from '../once.ts';
import { isMediaLayer } from '../vocabulary/layers/all.ts';
import { isPointed } from '../vocabulary/cues/all.ts';
import { bindingsOf, type Binding } from './binding.ts';
import type { Instance, Node } from './node.ts';
import type { Item, Program, SceneProgram } from './program.ts';

/** A scene with all its parts put in place. */
export interface Expansion {
  readonly root: SceneProgram;
  /** In the order of painting; a group or placement before what is in it. */
  readonly nodes: readonly Node[];
  readonly tops: readonly Node[];
  /** Those with threads. */
  readonly threaded: readonly Node[];
  /** Placements with a timeline, and media: what starts and stops as it comes and goes. */
  readonly timed: readonly Node[];
  readonly byKey: ReadonlyMap<string, Node>;
  readonly instances: ReadonlyMap<string, Instance>;
  readonly bindings: readonly Binding[];
  /** The bindings that read a thing, by the key of what they read. */
  readonly readers: ReadonlyMap<string, readonly Binding[]>;
  /** Parts that it was made from, to know when it is out of date. */
  readonly parts: readonly SceneProgram[];
  /** Ids of parts that were not there. */
  readonly missing: readonly string[];
  /** It was too large to be put together as a whole. */
  readonly cut: boolean;
}

/** More layers than anybody can see at once: what lies beyond is left out. */
export const MOST_NODES = 20_000;

const known = new Beside<SceneProgram, Expansion>();

/** A scene's layers with those of its parts. Made once, and again only when the scene or one of its parts has changed. */
export function expand(program: Program, scene: SceneProgram): Expansion {
  const old = known.get(scene);
  if (old && isUpToDate(program, old)) return old;
  return known.set(scene, new Expander(program, scene).run());
}

/** Whether all parts are as they were, those included that were not there. */
const isUpToDate = (program: Program, { parts, missing }: Expansion): boolean =>
  parts.every((part) => program.scenes.get(part.scene.id) === part) && missing.every((id) => !program.scenes.has(id));

type Draft = { -readonly [K in keyof Node]: Node[K] };

class Expander {
  private readonly nodes: Node[] = [];
  private readonly instances = new Map<string, Instance>();
  private readonly parts = new Set<SceneProgram>();
  private readonly missing = new Set<string>();
  private cut = false;

  constructor(
    private readonly program: Program,
    private readonly root: SceneProgram
  ) {}

  run(): Expansion {
    const instance: Instance = { key: '', scene: this.root, placement: null, outer: null };
    this.instances.set('', instance);
    const tops = this.place(instance, null, []);
    const byInstance = new Map<Instance, Node[]>([...this.instances.values()].map((one) => [one, []]));
    const byKey = new Map<string, Node>();
    for (const node of this.nodes) {
      byInstance.get(node.instance)!.push(node);
      byKey.set(node.key, node);
    }
    const bindings = [...byInstance].flatMap(([one, nodes]) => bindingsOf(this.program, one, nodes));
    const readers = new Map<string, Binding[]>();
    for (const binding of bindings)
      for (const key of binding.reads) {
        const list = readers.get(key);
        if (list) list.push(binding);
        else readers.set(key, [binding]);
      }
    const { nodes, instances, cut } = this;
    const timed = nodes.filter((node) => node.inside?.scene.scene.timeline !== undefined || isMediaLayer(node.layer));
    return {
      root: this.root,
      nodes,
      tops,
      threaded: nodes.filter(({ item }) => item.threads.length > 0),
      timed,
      byKey,
      instances,
      bindings,
      readers,
      parts: [...this.parts],
      missing: [...this.missing],
      cut,
    };
  }

  private place(instance: Instance, placement: Node | null, around: Node['changedBy']): Node[] {
    const tops: Node[] = [];
    const byItem = new Map<Item, Draft>();
    for (const item of instance.scene.items) {
      if (this.nodes.length >= MOST_NODES) {
        this.cut = true;
        break;
      }
      const parent = item.parent ? (byItem.get(item.parent) ?? null) : placement;
      const node = this.make(item, instance, parent, around);
      byItem.set(item, node);
      this.nodes.push(node);
      if (item.parent && parent) (parent.children as Node[]).push(node);
      else tops.push(node);
      if (item.layer.type === 'placement') this.placePart(node);
    }
    return tops;
  }

  private make(item: Item, instance: Instance, parent: Node | null, around: Node['changedBy']): Draft {
    const { layer } = item;
    const key = instance.key ? `${instance.key}/${layer.id}` : layer.id;
    const changedBy = around.map(({ node, path }) => ({ node, path: path ? `${path}/${layer.id}` : layer.id }));
    const fill = fillOf(changedBy);
    for (let at = parent; at && at.instance === instance; at = at.parent)
      if (at.layer.looks) changedBy.splice(around.length, 0, { node: at, path: layer.id });
    return {
      key,
      layer,
      item,
      instance,
      parent,
      children: [],
      inside: null,
      fill,
      catches: item.catches,
      changedBy: changedBy.length ? changedBy : NOBODY,
      at: this.nodes.length,
    };
  }

  private placePart(node: Draft): void {
    const { part: id } = node.layer;
    const part = id === undefined ? undefined : this.program.scenes.get(id);
    if (!part) return void (id !== undefined && this.missing.add(id));
    this.parts.add(part);
    const instance: Instance = { key: node.key, scene: part, placement: node, outer: node.instance };
    this.instances.set(node.key, instance);
    node.inside = instance;
    node.catches ||= node.layer.hit?.how !== 'none' && part.threads.some((thread) => thread.enabled && isPointed(thread.cue));
    const outer = node.changedBy.map((change) => ({ node: change.node, path: change.path }));
    (node.children as Node[]).push(...this.place(instance, node, [...outer, { node, path: '' }]));
  }
}

const NOBODY: Node['changedBy'] = [];

/** What placements put into a text or picture of their part; the outermost one wins. */
function fillOf(around: Node['changedBy']): Node['fill'] {
  for (const { node, path } of around) {
    const fill = node.layer.fills?.[path];
    if (fill && node.inside) return fill;
  }
  return null;
}
