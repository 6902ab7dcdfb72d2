import { createHash } from 'node:crypto';
import type { Asset } from '@zany/core';

/** Files of a demo piece, known by their content. */
export class Files {
  readonly bytes = new Map<string, Uint8Array>();
  readonly list: Asset[] = [];

  add(name: string, mediaType: Asset['mediaType'], bytes: Uint8Array, width: number, height: number, ms?: number): string {
    const id = createHash('sha256').update(bytes).digest('hex');
    if (!this.bytes.has(id)) this.list.push({ id, name, mediaType, size: bytes.length, width, height, ...(ms !== undefined && { ms }) });
    this.bytes.set(id, bytes);
    return id;
  }
}
