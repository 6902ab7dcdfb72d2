import { hasExpressions } from '../expression/text.ts';
import { pointerCues } from '../cues/pointer.ts';
import type { Thread } from '../piece/piece.ts';
import type { Delta, Layer } from '../piece/schema.ts';
import { bindingsOf, type Binding } from './binding.ts';
import type { Item, Program, SceneProgram } from './program.ts';

/** A layer where it stands in a running piece: the same layer of a part stands in it once for each placement. */
export interface Node {
  /** The layer's id; inside placements with their ids in front: `placement/layer`. */
  readonly key: string;
  readonly layer: Layer;
  readonly item: Item;
  readonly instance: Instance;
  /** The group or placement it is in. */
  readonly parent: Node | null;
  readonly children: readonly Node[];
  /** What a placement shows. */
  readonly inside: Instance | null;
  /** What placements around it fill in. */
  readonly fill: { readonly text?: string; readonly asset?: string } | null;
  readonly catches: boolean;
  /** Looks and states of groups and placements around it that change it, the outermost first. */
  readonly changedBy: readonly { readonly node: Node; readonly path: string }[];
  /** Place in the order of painting. */
  readonly at: number;
}

/** The threads that listen where a node is: its own, and those of the part that it shows. */
export const threadsAt = ({ item, inside }: Node): readonly Thread[] => (inside ? [...item.threads, ...inside.scene.threads] : item.threads);

/** A scene where it stands: as itself, or as the part that a placement shows. */
export interface Instance {
  /** '' for the scene itself; the key of the placement for a part. */
  readonly key: string;
  readonly scene: SceneProgram;
  readonly placement: Node | null;
  readonly outer: Instance | null;
}

/** A scene with all its parts put in place. */
export interface Expansion {
  readonly root: SceneProgram;
  /** In the order of painting; a group or placement before what is in it. */
  readonly nodes: readonly Node[];
  readonly tops: readonly Node[];
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

const known = new WeakMap<SceneProgram, Expansion>();

/** A scene's layers with those of its parts. Made once, and again only when the scene or one of its parts has changed. */
export function expand(program: Program, scene: SceneProgram): Expansion {
  const old = known.get(scene);
  if (old && isUpToDate(program, old)) return old;
  const made = new Expander(program, scene).run();
  known.set(scene, made);
  return made;
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
    for (const node of this.nodes) byInstance.get(node.instance)!.push(node);
    const bindings = [...byInstance].flatMap(([one, nodes]) => bindingsOf(this.program, one, nodes));
    const readers = new Map<string, Binding[]>();
    for (const binding of bindings)
      for (const key of binding.reads) {
        const list = readers.get(key);
        if (list) list.push(binding);
        else readers.set(key, [binding]);
      }
    const { nodes, instances, cut } = this;
    const timed = nodes.filter(
      (node) => node.inside?.scene.scene.timeline !== undefined || node.layer.type === 'video' || node.layer.type === 'sound'
    );
    return {
      root: this.root,
      nodes,
      tops,
      timed,
      byKey: new Map(nodes.map((node) => [node.key, node])),
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
    const groups: { node: Node; path: string }[] = [];
    for (let at = parent; at && at.instance === instance; at = at.parent) if (at.layer.looks) groups.unshift({ node: at, path: layer.id });
    const outer = around.map(({ node, path }) => ({ node, path: path ? `${path}/${layer.id}` : layer.id }));
    return {
      key,
      layer,
      item,
      instance,
      parent,
      children: [],
      inside: null,
      fill: fillOf(outer),
      catches: item.catches,
      changedBy: outer.length || groups.length ? [...outer, ...groups] : NOBODY,
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
    node.catches ||= node.layer.hit?.how !== 'none' && part.threads.some((thread) => thread.enabled && pointerCues.has(thread.cue.type));
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

/** The path of a node as a state or a look of an instance's scene writes it; null for one that is not inside it. */
export function pathIn(instance: Instance, node: Node): string | null {
  if (instance.key === '') return node.key;
  return node.key.startsWith(`${instance.key}/`) ? node.key.slice(instance.key.length + 1) : null;
}

/** Whether any text that a node can have is computed. */
export const textsOf = (node: Node): string[] => {
  const { layer } = node;
  const own = [node.fill?.text ?? layer.text, ...Object.values(layer.looks ?? {}).map((look) => look?.text)];
  const states = statesAround(node).flatMap(({ deltas, path }) => [deltas[path]?.text]);
  const looks = node.changedBy.flatMap(({ node: outer, path }) => Object.values(outer.layer.looks ?? {}).map((look) => look?.inside?.[path]?.text));
  return [...new Set([...own, ...states, ...looks])].filter((text): text is string => text !== undefined && hasExpressions(text));
};

/** The deltas of every state of every scene around a node, with the node's path in them. */
export function statesAround(node: Node): { deltas: Readonly<Record<string, Delta>>; path: string }[] {
  const found: { deltas: Readonly<Record<string, Delta>>; path: string }[] = [];
  for (let at: Instance | null = node.instance; at; at = at.outer) {
    const path = pathIn(at, node);
    if (path !== null) for (const state of Object.values(at.scene.scene.states ?? {})) found.push({ deltas: state.deltas, path });
  }
  return found;
}
