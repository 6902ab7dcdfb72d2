import { cutText } from '../../text.ts';
import type { Piece } from '../../piece/piece.ts';
import type { Head } from '../../piece/schema.ts';
import type { Operation } from '../operation.ts';
import { timelineOperations } from '../time/timeline.ts';
import type { MakeId } from '../make-id.ts';
import { inOrder, namedLast, setHead, type Ordered } from './named.ts';

/**
 * Easings kept under a name in the piece. Keys, transitions and looks hold the easing itself, as CSS writes it; a name stands for
 * all that hold the same one, and changing it changes them.
 */

export interface NamedEasing {
  readonly id: string;
  readonly name: string;
  readonly easing: string;
}

export const easingsOf = (head: Head): (NamedEasing & Ordered)[] => inOrder(head.easings);

/** The name that an easing is kept under. */
export const easingName = (head: Head, easing: string): string | undefined => easingsOf(head).find((one) => one.easing === easing)?.name;

export const addEasing = (piece: Piece, name: string, easing: string, makeId: MakeId): Operation[] => [
  setHead(piece, ['easings', makeId()], { ...namedLast(easingsOf(piece.head), name, 'Easing'), easing }),
];

export const renameEasing = (piece: Piece, id: string, name: string): Operation[] =>
  name.trim() ? [setHead(piece, ['easings', id, 'name'], cutText(name.trim(), 120))] : [];

/** What it stands for keeps its easing. */
export const removeEasing = (piece: Piece, id: string): Operation[] => [setHead(piece, ['easings', id])];

/** Makes what a name stands for another easing, wherever it is used. */
export function changeEasing(piece: Piece, id: string, easing: string): Operation[] {
  const old = piece.head.easings?.[id]?.easing;
  return old === undefined || old === easing ? [] : [setHead(piece, ['easings', id, 'easing'], easing), ...replaceEasing(piece, old, easing)];
}

/** Every place that holds an easing holds another one. */
function replaceEasing(piece: Piece, old: string, easing: string): Operation[] {
  const swapped = <T>(value: T): T => swap(value, old, easing) as T;
  const scenes = [...piece.scenes.values()].flatMap((scene) => (scene.timeline ? timelineOperations(piece, scene.id, swapped(scene.timeline)) : []));
  const threads = [...piece.threads.values()].flatMap((thread): Operation[] => {
    const branches = swapped(thread.branches);
    return branches === thread.branches ? [] : [{ op: 'set', table: 'threads', id: thread.id, path: ['branches'], value: branches }];
  });
  const looks = [...piece.layers.values()].flatMap((layer): Operation[] => {
    const next = swapped(layer.looks);
    return next === layer.looks ? [] : [{ op: 'set', table: 'layers', id: layer.id, path: ['looks'], value: next }];
  });
  return [...scenes, ...threads, ...looks];
}

/** A value in which every field named `easing` that holds one text holds another; the same value where none does. */
function swap(value: unknown, old: string, easing: string): unknown {
  if (typeof value !== 'object' || value === null) return value;
  if (Array.isArray(value)) {
    const next = value.map((one) => swap(one, old, easing));
    return next.some((one, i) => one !== value[i]) ? next : value;
  }
  const entries = Object.entries(value);
  const next = entries.map(([key, one]) => [key, key === 'easing' && one === old ? easing : swap(one, old, easing)] as const);
  return next.some(([, one], i) => one !== entries[i]![1]) ? Object.fromEntries(next) : value;
}

/** How many keys, transitions and looks hold each easing. */
export function easingUses(piece: Piece): Map<string, number> {
  const uses = new Map<string, number>();
  const visit = (value: unknown) => {
    if (typeof value !== 'object' || value === null) return;
    for (const [key, one] of Object.entries(value))
      if (key === 'easing' && typeof one === 'string') uses.set(one, (uses.get(one) ?? 0) + 1);
      else visit(one);
  };
  for (const scene of piece.scenes.values()) visit(scene.timeline?.tracks);
  for (const thread of piece.threads.values()) visit(thread.branches);
  for (const layer of piece.layers.values()) visit(layer.looks);
  return uses;
}
