import { Beside } from '../once.ts';
import type { Expansion } from '../program/expand.ts';
import { statesAround, type Node } from '../program/node.ts';
import { emptyRoot, valueOfField } from '../run/environment.ts';
import { isEnabled, isSelected, stateOf } from '../run/resolve.ts';

/** What things of a scene are while nobody has set them; undefined where that depends on something else. */
export interface Beginnings {
  readonly state: (instance: string) => string | undefined;
  readonly flag: (key: string) => boolean | undefined;
  readonly value: (node: string) => string | number | boolean | undefined;
  readonly number: (node: string, name: string) => number | undefined;
}

const known = new Beside<Expansion, Beginnings>();

/** Asked of the engine, of a root that nothing was done to. */
export function beginningsOf(expansion: Expansion): Beginnings {
  const old = known.get(expansion);
  if (old) return old;
  const touchedIn = (node: Node, what: 'hidden' | 'pose' | 'state') =>
    statesAround(node).some(({ deltas, path }) => deltas[path]?.[what] !== undefined);
  const root = emptyRoot(expansion.root.scene.id, 0);
  const made: Beginnings = {
    state: (key) => {
      const instance = expansion.instances.get(key);
      const placement = instance?.placement;
      if (!instance || (placement && (placement.layer.bindings?.state !== undefined || touchedIn(placement, 'state')))) return undefined;
      return stateOf(root, instance) ?? undefined;
    },
    flag: (key) => {
      const at = key.lastIndexOf('.');
      const node = expansion.byKey.get(key.slice(0, at));
      if (!node) return undefined;
      if (key.endsWith('.selected')) return isSelected(root, node);
      if (key.endsWith('.enabled')) return isEnabled(root, node);
      return touchedIn(node, 'hidden') ? undefined : node.layer.hidden !== true;
    },
    value: (key) => {
      const node = expansion.byKey.get(key);
      return node && valueOfField(root, node);
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
