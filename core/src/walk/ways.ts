import { isPointed, waitsFor, type Cue } from '../vocabulary/cues/all.ts';
import type { Thread } from '../piece/piece.ts';
import { threadsAt, type Node } from '../program/node.ts';
import type { Program } from '../program/program.ts';
import { expand } from '../program/expand.ts';
import { threadsIn } from './at-thread.ts';
import type { RunEvent } from '../run/state.ts';

/** Ways of going through a piece: what somebody can do who has a finger, or a keyboard, and nothing else. */
export type Way = 'finger' | 'keyboard';

interface WayKind {
  /** Whether an event can be made in this way. */
  readonly allows: (program: Program) => (event: RunEvent) => boolean;
}

/** Whether the keyboard comes to a layer and presses it: by Enter or space, as a click. */
export const isOperable = (node: Node): boolean => node.layer.field !== undefined || hasClick(threadsAt(node));

const hasClick = (threads: readonly Thread[]) => threads.some(({ enabled, cue }) => enabled && waitsFor(cue, 'click'));

/** What a keyboard does without pointing at anything. */
const TYPED: ReadonlySet<RunEvent['type']> = new Set(['key', 'value', 'wait', 'media', 'signal', 'pad', 'scroll', 'set']);

export const ways: { readonly [W in Way]: WayKind } = {
  finger: { allows: () => (event) => event.type !== 'hover' && event.type !== 'leave' },
  keyboard: {
    allows: (program) => (event) => {
      if (TYPED.has(event.type)) return true;
      if (event.type === 'focus') return event.layer === null || isAt(program, event.layer);
      return event.type === 'click' && event.layer !== null && isAt(program, event.layer);
    },
  },
};

function isAt(program: Program, key: string): boolean {
  const scene = program.scenes.get(program.piece.layers.get(key.split('/', 1)[0]!)?.scene ?? '');
  const node = scene && expand(program, scene).byKey.get(key);
  return node !== undefined && isOperable(node);
}

/** Whether anything in a piece asks for more than a way can do: where not, nobody need be asked what it comes to. */
export function asksMoreThan({ piece }: Program, way: Way): boolean {
  return threadsIn(piece).some(({ enabled, cue, on }) => {
    if (!enabled) return false;
    if (way === 'finger') return waitsFor(cue, 'hover') || waitsFor(cue, 'leave');
    return isOnlyPointed(cue) || (on !== 'layer' && waitsFor(cue, 'click'));
  });
}

/** Cues that only a pointer gives: a click comes from the keyboard, too. */
export const isOnlyPointed = (cue: Cue): boolean => isPointed(cue) && !waitsFor(cue, 'click');
