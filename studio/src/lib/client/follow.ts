import type { FollowedBatch, PadPress, Presence } from '$lib/shared/types';

export interface Followed {
  readonly batch: (news: FollowedBatch) => void;
  /** A press on its pad. */
  readonly pad: (button: number) => void;
  readonly presence: (presence: Presence) => void;
}

/** Follows a piece from a revision on; gives a function that ends it. */
export function followPiece(piece: string, revision: number, take: Followed): () => void {
  const worker = new SharedWorker(new URL('./follow.worker.ts', import.meta.url), { type: 'module', name: 'zany-follow' });
  worker.port.onmessage = ({ data }: MessageEvent<FollowedBatch | PadPress | Presence>) => {
    if ('batch' in data) take.batch(data);
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
