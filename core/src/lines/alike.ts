import { layerIdsOf, threadsOf, type Piece, type Thread } from '../piece/piece.ts';
import type { Step } from '../vocabulary/steps/all.ts';
import type { Target } from '../vocabulary/target.ts';
import { fieldAt, type Part, type Slot } from '../fields/forms.ts';
import { formOfStep } from './line.ts';
import type { SlotKind } from '../fields/forms.ts';

/** What threads that were copied usually have of their own: where each leads, what it puts something in, what it opens. */
const OWN: ReadonlySet<SlotKind> = new Set<SlotKind>(['target', 'frame', 'state', 'label', 'address']);

/** A place in a thread, to compare and to find again. */
export const placeKey = (branch: number, step: number, path: string): string => `${branch} ${step} ${path}`;

const slotsOf = (parts: readonly Part[]): Slot[] =>
  parts.flatMap((part) => (typeof part === 'string' ? [] : 'path' in part ? [part] : slotsOf(part.maybe)));

/** What is at such a place, as a text to compare; null where nothing is chosen, or only a way to go, such as back. */
function ownValue(step: Step, slot: Slot): string | null {
  const value = fieldAt(step, slot.path);
  if (value === undefined || value === null) return null;
  if (slot.kind === 'target') {
    const target = value as Target;
    return target.to === 'frame' && target.frame !== null ? `frame ${target.frame}` : null;
  }
  const of = slot.of === undefined ? '' : ((fieldAt(step, slot.of) as string | undefined) ?? '');
  return `${slot.kind} ${of} ${JSON.stringify(value)}`;
}

function ownValues(thread: Thread): Map<string, string> {
  const found = new Map<string, string>();
  for (const [b, { steps }] of thread.branches.entries())
    for (const [s, step] of steps.entries())
      for (const slot of slotsOf(formOfStep(step).parts)) {
        const value = OWN.has(slot.kind) ? ownValue(step, slot) : null;
        if (value !== null) found.set(placeKey(b, s, slot.path), value);
      }
  return found;
}

/** The places of a layer's thread that say the same as a thread of another layer in its scene. */
export function sameElsewhere(piece: Piece, thread: Thread): ReadonlySet<string> {
  const scene = thread.on === 'layer' ? piece.layers.get(thread.owner)?.scene : undefined;
  if (scene === undefined) return NONE;
  const others = new Set<string>();
  for (const layer of layerIdsOf(piece, scene))
    if (layer !== thread.owner) for (const other of threadsOf(piece, layer)) for (const value of ownValues(other).values()) others.add(value);
  return new Set([...ownValues(thread)].flatMap(([place, value]) => (others.has(value) ? [place] : [])));
}

const NONE: ReadonlySet<string> = new Set();
