import { fault, type Fault } from '../result.ts';
import { parseEasing } from '../motion/easing.ts';
import type { Entity, Layer, Piece, TableName, Thread } from './piece.ts';

/** What a layer or thread points at that has to be there: scene, parent, owner, picture. Targets of steps may be missing. */
export function referenceFault(piece: Piece, table: TableName, entity: Entity): Fault | null {
  if (table === 'layers') return layerFault(piece, entity as Layer);
  if (table === 'threads') return threadFault(piece, entity as Thread);
  return null;
}

function layerFault(piece: Piece, layer: Layer): Fault | null {
  const at = (field: string) => ['layers', layer.id, field];
  if (!piece.scenes.has(layer.scene)) return fault('missing-reference', at('scene'), `“${layer.name}” is in a frame that is not there.`);
  if (layer.type === 'picture') {
    if (!layer.asset) return fault('missing', at('asset'), `The picture “${layer.name}” names no picture file.`);
    if (!piece.assets.has(layer.asset)) return fault('missing-reference', at('asset'), `The picture file of “${layer.name}” is not there.`);
  }
  return layer.parent === null ? null : parentFault(piece, layer);
}

function parentFault(piece: Piece, layer: Layer): Fault | null {
  const path = ['layers', layer.id, 'parent'];
  const seen = new Set([layer.id]);
  let inside = layer;
  for (let at: string | null = layer.parent; at !== null;) {
    const parent: Layer | undefined = piece.layers.get(at);
    if (!parent) return fault('missing-reference', path, `“${layer.name}” is in a group that is not there.`);
    if (seen.has(at)) return fault('cycle', path, `“${inside.name}” and “${parent.name}” would be inside each other.`);
    if (parent.type !== 'group') return fault('not-a-group', path, `“${parent.name}” is no group, so “${layer.name}” cannot be in it.`);
    if (parent.scene !== layer.scene) return fault('other-scene', path, `“${layer.name}” and its group “${parent.name}” are in different frames.`);
    seen.add(at);
    inside = parent;
    at = parent.parent;
  }
  return null;
}

function threadFault(piece: Piece, thread: Thread): Fault | null {
  return ownerFault(piece, thread) ?? easingFault(thread);
}

function easingFault(thread: Thread): Fault | null {
  for (const [b, branch] of thread.branches.entries())
    for (const [s, step] of branch.steps.entries()) {
      const easing = step.do === 'go' && step.transition.type !== 'cut' ? step.transition.easing : 'linear';
      if (parseEasing(easing) === null)
        return fault('wrong-easing', ['threads', thread.id, 'branches', b, 'steps', s, 'transition', 'easing'], `“${easing}” is no CSS easing.`);
    }
  return null;
}

function ownerFault(piece: Piece, thread: Thread): Fault | null {
  const path = ['threads', thread.id, 'owner'];
  if (thread.on === 'piece')
    return thread.owner === piece.head.id ? null : fault('missing-reference', path, 'A thread of the piece must name the piece as its owner.');
  const there = thread.on === 'layer' ? piece.layers.has(thread.owner) : piece.scenes.has(thread.owner);
  return there ? null : fault('missing-reference', path, `The thread belongs to a ${thread.on === 'layer' ? 'layer' : 'frame'} that is not there.`);
}
