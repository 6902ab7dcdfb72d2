import type { FollowedBatch, PadPress, Presence } from '$lib/shared/types';

export interface Followed {
  readonly batch: (news: FollowedBatch) => void;
  /** A press on its pad. */
  readonly pad: (button: number) => void;
  readonly presence: (presence: Presence) => void;
  /** Comments are otherwise than before. */
  readonly comments: () => void;
  /** So much was missed that the piece has to be fetched anew. */
  readonly behind: () => void;
  /** Nothing is told any more: the session has ended, or the piece is not there for this person. */
  readonly lost: (why: 'signed-out' | 'not-found') => void;
}

/** Word that somebody has commented. */
export interface CommentsNews {
  readonly piece: string;
  readonly comments: true;
}

/** What the worker tells a tab. */
export type ToTab = FollowedBatch | PadPress | Presence | CommentsNews | { readonly behind: true } | { readonly lost: 'signed-out' | 'not-found' };

/** Follows a piece from a revision on; gives a function that ends it. */
export function followPiece(piece: string, revision: number, take: Followed): () => void {
  const worker = new SharedWorker(new URL('./follow.worker.ts', import.meta.url), { type: 'module', name: 'zany-follow' });
  worker.port.onmessage = ({ data }: MessageEvent<ToTab>) => {
    if ('batch' in data) take.batch(data);
    else if ('behind' in data) take.behind();
    else if ('lost' in data) take.lost(data.lost);
    else if ('comments' in data) take.comments();
    else if ('button' in data) take.pad(data.button);
    else take.presence(data);
  };
  worker.port.start();
  worker.port.postMessage({ follow: piece, revision });
  const leave = () => worker.port.postMessage('leave');
  addEventListener('pagehide', leave);
  return () => {
    removeEventListener('pagehide', leave);
    leave();
    worker.port.close();
  };
}
