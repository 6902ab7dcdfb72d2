import { compile, readPackage, unwrap, type Package } from '@zany/core';
import css from './player.css?inline';
import { definePieceElement } from './element.ts';

/** The custom element as a script of its own: reads packages and bare piece.json files, checking all that it reads. Digests only where the browser offers them. */
const digest = async (bytes: Uint8Array) =>
  [...new Uint8Array(await crypto.subtle.digest('SHA-256', bytes as BufferSource))].map((byte) => byte.toString(16).padStart(2, '0')).join('');

definePieceElement(async (src) => {
  const response = await fetch(src);
  if (!response.ok) throw new Error(`${src}: the server answered with ${response.status}.`);
  const read: Package = unwrap(await readPackage(new Uint8Array(await response.arrayBuffer()), isSecureContext ? digest : null));
  const urls = new Map<string, string>();
  for (const [id, bytes] of read.assets)
    urls.set(id, URL.createObjectURL(new Blob([bytes as BlobPart], { type: read.piece.assets.get(id)!.mediaType })));
  return { program: compile(read.piece), assetUrl: (asset) => urls.get(asset) ?? new URL(`assets/${asset}`, src).href };
}, css);
