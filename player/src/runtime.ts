import { compile, pieceFromTrusted, type PieceJson } from '@zany/core/engine';
import { keyOf, Player } from './player.ts';

/** What runs in an exported page: reads the piece that the page holds and plays it in the whole window. */
const data = JSON.parse(document.getElementById('data')!.textContent!) as { piece: PieceJson; assets: Record<string, string> };
const host = document.getElementById('piece')!;
const player = new Player(host, compile(pieceFromTrusted(data.piece)), { assetUrl: (asset) => data.assets[asset] ?? 'data:,' });

document.addEventListener('keydown', (event) => {
  const key = keyOf(event);
  if (key !== null && !event.defaultPrevented) player.send({ type: 'key', key });
});
