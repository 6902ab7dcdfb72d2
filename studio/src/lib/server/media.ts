import { fileTypeFromBuffer } from 'file-type';
import type { Asset } from '@zany/core';
import { Refusal } from './refusal';

/** What a container may hold, as a piece names it: whether there is a picture in one cannot be told from its first bytes. */
const holds: Record<string, readonly Asset['mediaType'][]> = {
  webm: ['video/webm', 'audio/webm'],
  mp4: ['video/mp4'],
  m4v: ['video/mp4'],
  ogg: ['audio/ogg'],
  oga: ['audio/ogg'],
  opus: ['audio/ogg'],
  mp3: ['audio/mpeg'],
  wav: ['audio/wav'],
};

export const isMedia = (mediaType: string): boolean => /^(video|audio)\//.test(mediaType);

/** What a file is as a piece would name it, if it is a video or sound by its content; null for anything else. */
export async function mediaTypeOf(bytes: Uint8Array): Promise<Asset['mediaType'] | null> {
  const found = await fileTypeFromBuffer(bytes);
  return holds[found?.ext ?? '']?.[0] ?? null;
}

/** Refuses a video or sound that is something else than a piece says. */
export async function checkMedia({ id, name, mediaType }: Asset, bytes: Uint8Array): Promise<void> {
  const found = await fileTypeFromBuffer(bytes);
  if (!holds[found?.ext ?? '']?.includes(mediaType))
    throw new Refusal('unreadable', `“${name}” should be ${mediaType} but holds ${found?.mime ?? 'something else'}.`, ['assets', id]);
}
