import { hasExpressions } from '../expression/text.ts';
import type { Thread } from '../piece/piece.ts';
import type { Delta, Layer } from '../piece/schema.ts';
import type { Item, SceneProgram } from './program.ts';

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

/** The path of a node as a state or a look of an instance's scene writes it; null for one that is not inside it. */
export function pathIn(instance: Instance, node: Node): string | null {
  if (instance.key === '') return node.key;
  return node.key.startsWith(`${instance.key}/`) ? node.key.slice(instance.key.length + 1) : null;
}

/** Whether any text that a node can have is computed. */
export function textsOf(node: Node): readonly string[] {
  const { layer } = node;
  const deltas = statesAround(node);
  if (layer.text === undefined && !node.fill && !layer.looks && deltas.length === 0 && node.changedBy.length === 0) return NO_TEXTS;
  let found: Set<string> | null = null;
  const add = (text: string | undefined) => {
    if (text !== undefined && hasExpressions(text)) (found ??= new Set()).add(text);
  };
  add(node.fill?.text ?? layer.text);
  if (layer.looks) for (const look of Object.values(layer.looks)) add(look?.text);
  for (const { deltas: of, path } of deltas) add(of[path]?.text);
  for (const { node: outer, path } of node.changedBy) for (const look of Object.values(outer.layer.looks ?? {})) add(look?.inside?.[path]?.text);
  return found ? [...(found as Set<string>)] : NO_TEXTS;
}

const NO_TEXTS: readonly string[] = [];

interface DeltasAt {
  readonly deltas: Readonly<Record<string, Delta>>;
  readonly path: string;
}

const NO_DELTAS: readonly DeltasAt[] = [];

/** The deltas of every state of every scene around a node, with the node's path in them. */
export function statesAround(node: Node): readonly DeltasAt[] {
  let found: DeltasAt[] | null = null;
  for (let at: Instance | null = node.instance; at; at = at.outer) {
    const { states } = at.scene.scene;
    const path = states ? pathIn(at, node) : null;
    if (path !== null) for (const state of Object.values(states!)) (found ??= []).push({ deltas: state.deltas, path });
  }
  return found ?? NO_DELTAS;
}

/** A layer and what is around it, from the inside out. */
export function outwardNodes(node: Node | null): Node[] {
  const chain: Node[] = [];
  for (let at = node; at; at = at.parent) chain.push(at);
  return chain;
}
