import { layerKind } from '../vocabulary/layers/all.ts';
import { propertyKinds } from '../vocabulary/properties/all.ts';
import { fault, type Fault } from '../result.ts';
import { parseEasing } from '../motion/easing.ts';
import { MOST_GROUPS_DEEP, tooDeep } from './nesting.ts';
import { layerIdsOf, type Entity, type Layer, type Piece, type Scene, type TableName, type Thread, type Variable } from './piece.ts';

/**
 * What an entity points at that has to be there: scene, parent, owner, picture. What a step, a placement or a carried sheet
 * points at may be missing: that is a loose end, not an error.
 */
export function referenceFault(piece: Piece, table: TableName, entity: Entity): Fault | null {
  if (table === 'scenes') return sceneFault(entity as Scene);
  if (table === 'layers') return layerFault(piece, entity as Layer);
  if (table === 'threads') return threadFault(piece, entity as Thread);
  if (table === 'variables') return variableFault(piece, entity as Variable);
  return null;
}

function sceneFault(scene: Scene): Fault | null {
  if (scene.initial !== undefined && !Object.hasOwn(scene.states ?? {}, scene.initial))
    return fault('missing-reference', ['scenes', scene.id, 'initial'], `“${scene.name}” begins in a state that it does not have.`);
  for (const [id, track] of Object.entries(scene.timeline?.tracks ?? {})) {
    const path = ['scenes', scene.id, 'timeline', 'tracks', id, 'keys'];
    for (const [i, key] of Object.entries(track.keys)) {
      const isText = typeof propertyKinds[track.property].neutral === 'string';
      if (isText !== (typeof key.value === 'string'))
        return fault('wrong-value', [...path, i, 'value'], `A keyframe of ${track.property} must be a ${isText ? 'text' : 'number'}.`);
      if (key.easing !== undefined && parseEasing(key.easing) === null)
        return fault('wrong-easing', [...path, i, 'easing'], `“${key.easing}” is no easing.`);
    }
  }
  return null;
}

function layerFault(piece: Piece, layer: Layer): Fault | null {
  const at = (field: string) => ['layers', layer.id, field];
  if (!piece.scenes.has(layer.scene)) return fault('missing-reference', at('scene'), `“${layer.name}” is in a frame that is not there.`);
  if (layer.type === 'picture' && !layer.asset) return fault('missing', at('asset'), `The picture “${layer.name}” names no picture file.`);
  if (layer.asset !== undefined && !piece.assets.has(layer.asset))
    return fault('missing-reference', at('asset'), `The file of “${layer.name}” is not there.`);
  if (layer.type === 'field' && !layer.field) return fault('missing', at('field'), `The field “${layer.name}” does not say what it takes.`);
  if (layer.type === 'placement' && layer.part !== undefined) {
    const cycle = placesItself(piece, layer);
    if (cycle) return cycle;
  }
  return layer.parent === null ? null : parentFault(piece, layer);
}

/** A part that would be placed in itself, by way of others or at once. */
function placesItself(piece: Piece, placement: Layer): Fault | null {
  const seen = new Set<string>();
  const open = [placement.part!];
  for (let id = open.pop(); id !== undefined; id = open.pop()) {
    if (id === placement.scene) return cycleFault(piece, placement.id, placement.part!, placement.scene);
    if (seen.has(id)) continue;
    seen.add(id);
    open.push(...partsIn(piece, id));
  }
  return null;
}

function* partsIn(piece: Piece, scene: string): Iterable<string> {
  for (const id of layerIdsOf(piece, scene)) {
    const part = piece.layers.get(id)?.part;
    if (part !== undefined) yield part;
  }
}

const cycleFault = (piece: Piece, layer: string, part: string, scene: string): Fault => {
  const name = (id: string) => piece.scenes.get(id)?.name ?? id;
  const both = part === scene ? `“${name(part)}” would be placed in itself.` : `“${name(part)}” and “${name(scene)}” would be placed in each other.`;
  return fault('cycle', ['layers', layer, 'part'], both);
};

/** The first cycle of parts in a whole piece, found in one go. */
export function partCycle(piece: Piece): Fault | null {
  const state = new Map<string, 'open' | 'done'>();
  for (const root of piece.scenes.keys()) {
    const stack: { scene: string; rest: Iterator<string> }[] = [{ scene: root, rest: partsIn(piece, root)[Symbol.iterator]() }];
    if (state.has(root)) continue;
    state.set(root, 'open');
    while (stack.length) {
      const { scene, rest } = stack.at(-1)!;
      const next = rest.next();
      if (next.done) {
        state.set(scene, 'done');
        stack.pop();
      } else if (state.get(next.value) === 'open') {
        const layer = [...layerIdsOf(piece, scene)].find((id) => piece.layers.get(id)?.part === next.value)!;
        return cycleFault(piece, layer, next.value, scene);
      } else if (!state.has(next.value)) {
        state.set(next.value, 'open');
        stack.push({ scene: next.value, rest: partsIn(piece, next.value)[Symbol.iterator]() });
      }
    }
  }
  return null;
}

function parentFault(piece: Piece, layer: Layer): Fault | null {
  const path = ['layers', layer.id, 'parent'];
  const seen = new Set([layer.id]);
  let inside = layer;
  for (let at: string | null = layer.parent; at !== null;) {
    const parent: Layer | undefined = piece.layers.get(at);
    if (!parent) return fault('missing-reference', path, `“${layer.name}” is in a group that is not there.`);
    if (seen.has(at)) return fault('cycle', path, `“${inside.name}” and “${parent.name}” would be inside each other.`);
    if (!layerKind(parent).holdsLayers) return fault('not-a-group', path, `“${parent.name}” is no group, so “${layer.name}” cannot be in it.`);
    if (parent.scene !== layer.scene) return fault('other-scene', path, `“${layer.name}” and its group “${parent.name}” are in different frames.`);
    if (seen.size > MOST_GROUPS_DEEP) return tooDeep(layer);
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
      const [field, timed] =
        'transition' in step ? (['transition', step.transition] as const) : (['timing', 'timing' in step ? step.timing : undefined] as const);
      const easing = timed && 'easing' in timed ? timed.easing : 'linear';
      if (parseEasing(easing) === null)
        return fault(
          'wrong-easing',
          ['threads', thread.id, 'branches', b, 'steps', s, field, 'easing'],
          `“${easing}” is no CSS easing, spring() or overshoot().`
        );
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

const kindOf: Record<Variable['type'], string> = { 'yes/no': 'boolean', number: 'number', text: 'string', choice: 'string' };

function variableFault(piece: Piece, variable: Variable): Fault | null {
  const at = (field: string) => ['variables', variable.id, field];
  if (variable.scene !== null && !piece.scenes.has(variable.scene))
    return fault('missing-reference', at('scene'), `The variable “${variable.name}” belongs to a scene that is not there.`);
  if (typeof variable.initial !== kindOf[variable.type])
    return fault(
      'wrong-value',
      at('initial'),
      `“${variable.name}” is of type ${variable.type}, so it cannot begin as ${JSON.stringify(variable.initial)}.`
    );
  if (variable.type === 'choice' && !variable.options?.includes(String(variable.initial)))
    return fault('wrong-value', at('initial'), `“${variable.name}” begins as “${String(variable.initial)}”, which is none of its options.`);
  return null;
}
