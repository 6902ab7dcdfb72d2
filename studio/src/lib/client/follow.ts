import type { FollowedBatch, PadPress } from '$lib/shared/types';

/** Follows a piece from a revision on, and what is pressed on its pad; gives a function that ends it. */
export function followPiece(piece: string, revision: number, take: (news: FollowedBatch) => void, press: (button: number) => void): () => void {
  const worker = new SharedWorker(new URL('./follow.worker.ts', import.meta.url), { type: 'module', name: 'zany-follow' });
  worker.port.onmessage = ({ data }: MessageEvent<FollowedBatch | PadPress>) => ('batch' in data ? take(data) : press(data.button));
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
