import { expand, type Expansion } from '../program/expand.ts';
import { statesAround, type Node } from '../program/node.ts';

/** What things of a scene are while nobody has set them; undefined where that depends on something else. */
export interface Beginnings {
  readonly state: (instance: string) => string | undefined;
  readonly flag: (key: string) => boolean | undefined;
  readonly value: (node: string) => string | number | boolean | undefined;
  readonly number: (node: string, name: string) => number | undefined;
}

const known = new WeakMap<Expansion, Beginnings>();

export function beginningsOf(expansion: ReturnType<typeof expand>): Beginnings {
  const old = known.get(expansion);
  if (old) return old;
  const touchedIn = (node: Node, what: 'hidden' | 'pose' | 'state') =>
    statesAround(node).some(({ deltas, path }) => deltas[path]?.[what] !== undefined);
  const made: Beginnings = {
    state: (key) => {
      const instance = expansion.instances.get(key);
      const placement = instance?.placement;
      if (!instance || (placement && (placement.layer.bindings?.state !== undefined || touchedIn(placement, 'state')))) return undefined;
      return placement?.layer.state ?? instance.scene.initial ?? undefined;
    },
    flag: (key) => {
      const at = key.lastIndexOf('.');
      const node = expansion.byKey.get(key.slice(0, at));
      if (!node) return undefined;
      const { layer } = node;
      if (key.endsWith('.selected')) return layer.selected ?? layer.field?.value === true;
      if (key.endsWith('.enabled')) return layer.disabled !== true;
      return touchedIn(node, 'hidden') ? undefined : layer.hidden !== true;
    },
    value: (key) => {
      const field = expansion.byKey.get(key)?.layer.field;
      return field && (field.value ?? (field.kind === 'number' || field.kind === 'slider' ? (field.min ?? 0) : ''));
    },
    number: (key, name) => {
      const node = expansion.byKey.get(key);
      if (!node || node.instance.scene.scene.timeline || touchedIn(node, 'pose')) return undefined;
      if (name === 'opacity') return undefined;
      return { rotation: 0, scale: 1, ...node.layer.pose }[name as 'x'];
    },
  };
  known.set(expansion, made);
  return made;
}
