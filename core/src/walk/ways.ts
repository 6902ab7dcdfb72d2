import type { Piece, Thread } from '../piece/piece.ts';
import { isPointed, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import { isFocusable, isPassedOver, takesClicks } from '../run/focusable.ts';
import type { Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { expand } from '../program/expand.ts';
import { threadsIn } from './at-thread.ts';
import { shownByLooks } from './by-looks.ts';
import type { RunEvent } from '../run/state.ts';

/** Ways of going through a piece: what somebody can do who has a finger, or a keyboard, and nothing else. */
export type Way = 'finger' | 'keyboard';

interface WayKind {
  /** Whether an event can be made in this way. */
  readonly allows: (program: Program) => (event: RunEvent) => boolean;
}

/** Whether the keyboard presses a layer: by Enter or space, as a click. */
const isOperable = (node: Node): boolean => node.layer.field !== undefined || (takesClicks(node) && isFocusable(node));

/** What a keyboard does without pointing at anything. */
const TYPED: ReadonlySet<RunEvent['type']> = new Set(['key', 'value', 'wait', 'media', 'signal', 'pad', 'scroll', 'set']);

export const ways: { readonly [W in Way]: WayKind } = {
  finger: { allows: () => (event) => event.type !== 'hover' && event.type !== 'leave' },
  keyboard: {
    allows: (program) => (event) => {
      if (TYPED.has(event.type)) return true;
      if (event.type === 'focus') return event.layer === null || isAt(program, event.layer, isFocusable);
      return event.type === 'click' && event.layer !== null && isAt(program, event.layer, isOperable);
    },
  },
};

function isAt(program: Program, key: string, is: (node: Node) => boolean): boolean {
  const scene = program.scenes.get(program.piece.layers.get(key.split('/', 1)[0]!)?.scene ?? '');
  const node = scene && expand(program, scene).byKey.get(key);
  return node !== undefined && is(node);
}

/** Whether anything in a piece asks for more than a way can do: where not, nobody need be asked what it comes to. */
export function asksMoreThan({ piece, scenes }: Program, way: Way): boolean {
  if ([...scenes.values()].some((scene) => shownByLooks(scene).length > 0)) return true;
  return threadsIn(piece).some((thread) => {
    const { enabled, cue } = thread;
    if (!enabled) return false;
    if (way === 'finger') return waitsFor(cue, 'hover') || waitsFor(cue, 'leave');
    return isOnlyPointed(cue) || (waitsFor(cue, 'click') && !isTypedClick(piece, thread));
  });
}

/** Whether a click comes from the keyboard, too: to a layer that it does not pass over. */
export function isTypedClick({ layers }: Piece, { on, owner }: Pick<Thread, 'on' | 'owner'>): boolean {
  const layer = on === 'layer' ? layers.get(owner) : undefined;
  return layer !== undefined && !isPassedOver(layer);
}

/** Cues that only a pointer gives: a click comes from the keyboard, too. */
export const isOnlyPointed = (cue: Cue): boolean => isPointed(cue) && !waitsFor(cue, 'click');
