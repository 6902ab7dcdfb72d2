import type { Instance, Node } from '../program/node.ts';

/** A layer's name; of one in a part with that of the placement, and of those around it, as the same is not so of every placement. */
export function nameWhere({ layer, instance }: Node): string {
  const around: string[] = [];
  for (let at: Instance | null = instance; at?.placement; at = at.outer) around.unshift(at.placement.layer.name);
  return around.length ? `${layer.name} in ${around.join(' / ')}` : layer.name;
}
