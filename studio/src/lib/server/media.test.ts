import { expect, test } from 'vitest';
import type { Asset } from '@zany/core';
import { checkMedia } from './media';

const text = (...parts: (string | number[])[]) =>
  Buffer.concat(parts.map((part) => (typeof part === 'string' ? Buffer.from(part, 'latin1') : Buffer.from(part))));

const wav = text('RIFF', [36, 0, 0, 0], 'WAVEfmt ', [16, 0, 0, 0], Buffer.alloc(28).toString('latin1'));
const ogg = text('OggS', [0, 2], '\0'.repeat(22), '\x01vorbis', '\0'.repeat(60));

const asset = (mediaType: Asset['mediaType']): Asset => ({ id: 'a'.repeat(64), name: 'bell', mediaType, size: 1, width: 1, height: 1 });

test('sounds and videos must be what they say', async () => {
  await expect(checkMedia(asset('audio/wav'), wav)).resolves.toBeUndefined();
  await expect(checkMedia(asset('audio/ogg'), ogg)).resolves.toBeUndefined();
  await expect(checkMedia(asset('video/webm'), wav)).rejects.toThrow('“bell” should be video/webm but holds audio/wav.');
  await expect(checkMedia(asset('video/mp4'), text('<html><script>'))).rejects.toThrow('“bell” should be video/mp4 but holds something else.');
  await expect(checkMedia(asset('audio/wav'), Buffer.alloc(0))).rejects.toThrow('holds something else');
});
