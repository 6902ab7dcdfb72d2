import { compileWith, pieceFromTrusted, type Ast, type PieceJson } from '@zany/core/engine';
import { sendKey } from './input.ts';
import { takeMessage } from './element.ts';
import { makePad } from './pad.ts';
import { Player } from './player.ts';

/** What runs in an exported page: reads the piece that the page holds, its expressions made ready, and plays it in the whole window. */
interface PageData {
  readonly piece: PieceJson;
  readonly assets: Record<string, string>;
  readonly expressions: Record<string, Ast>;
}

const data = JSON.parse(document.getElementById('data')!.textContent!) as PageData;
const host = document.getElementById('piece')!;
const missing = { ok: false as const, error: { code: 'syntax' as const, sentence: '', from: 0, to: 0 } };
const program = compileWith(pieceFromTrusted(data.piece), (stored) =>
  data.expressions[stored] ? { ok: true, value: data.expressions[stored] } : missing
);
const tell = (message: object) => parent !== window && parent.postMessage(message, '*');

const player = new Player(host, program, {
  assetUrl: (asset) => data.assets[asset] ?? 'data:,',
  onSignal: (name) => tell({ zany: 'signal', name }),
  onOpen: (address, name) => tell({ zany: 'open', address, name }),
});
const pad = makePad(document, player);
if (pad) {
  host.classList.add('zany-padded');
  document.body.append(pad);
}

document.addEventListener('keydown', (event) => sendKey(player, event));
window.addEventListener('message', (event) => event.source === parent && takeMessage(player, event.data));
