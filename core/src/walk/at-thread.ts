import { onceFor } from '../once.ts';
import { sceneOfThread, type Piece, type Thread } from '../piece/piece.ts';
import type { Place } from './place.ts';

/** All threads of a piece. */
export const threadsIn = onceFor((piece: Piece): readonly Thread[] => [...piece.threads.values()]);

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
