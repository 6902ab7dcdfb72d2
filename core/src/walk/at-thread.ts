import { onceFor } from '../once.ts';
import { sceneOfThread, type Piece, type Thread } from '../piece/piece.ts';
import { branchKey } from '../run/runner.ts';
import type { Place } from './place.ts';

/** All threads of a piece. */
export const threadsIn = ({ threads }: Piece): readonly Thread[] => allOf(threads);

const allOf = onceFor((threads: Piece['threads']): readonly Thread[] => [...threads.values()]);

/** The branches of a thread, as exploring keeps account of them. */
export const branchKeysOf = onceFor(({ id, branches }: Thread): readonly string[] => branches.map((_, i) => branchKey(id, i)));

/** Where a thread stands in a piece. */
export const placeOfThread = (piece: Piece, thread: Thread): Place => ({
  scene: sceneOfThread(piece, thread),
  ...(thread.on === 'layer' && { layer: thread.owner }),
  thread: thread.id,
});

/** What a thread is on: the name of its layer or scene, or of the piece. */
export function ownerOf(piece: Piece, thread: Thread): string {
  if (thread.on === 'layer') return piece.layers.get(thread.owner)?.name ?? 'A thread';
  return thread.on === 'scene' ? (piece.scenes.get(thread.owner)?.name ?? 'A thread') : piece.head.name;
}
