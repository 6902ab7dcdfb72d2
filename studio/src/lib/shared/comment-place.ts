import type { Piece } from '@zany/core';
import type { CommentPlace } from './types';

/** What a comment is about, in words; what is gone since is said to be. */
export function placeWords(piece: Piece, { scene, sceneName, layer, layerName, thread, threadLine, state, moment, size }: CommentPlace): string {
  const at = piece.scenes.get(scene);
  if (!at) return `${sceneName}, a frame that is gone`;
  const inState = state === null ? '' : `, ${at.states?.[state]?.name ?? 'a state that is gone'}`;
  const inTime = moment === null ? '' : `, at ${moment + 1}`;
  const ofThread = thread === null ? '' : `${piece.threads.has(thread) ? `“${threadLine}”` : `“${threadLine}”, which is gone,`} of `;
  if (layer === null) return `${ofThread}${size === null ? '' : 'a part of '}${at.name}${inState}${inTime}`;
  const now = piece.layers.get(layer.split('/').at(-1)!);
  return `${ofThread}${now ? now.name : `${layerName}, which is gone,`} on ${at.name}${inState}${inTime}`;
}

/** The layer of the scene itself that a comment stands at: its own, or the part that it is in. */
export const outermost = (layer: string): string => layer.split('/')[0]!;
