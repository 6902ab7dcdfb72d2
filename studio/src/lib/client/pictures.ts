import type { Asset, BroughtIn } from '@zany/core';
import { ask } from './api';

export interface Upload {
  readonly taken: BroughtIn[];
  /** A sentence for each file that was refused. */
  readonly problems: string[];
}

const AT_ONCE = 3;

export const isPicture = (file: File): boolean => /\.(png|jpe?g|webp|svg)$/i.test(file.name) || /^image\//.test(file.type);

/** Sends picture files, a few at once; the ones that are refused are named and the others still come in. */
export async function uploadPictures(
  piece: string,
  files: readonly File[],
  progress: (done: number, all: number) => void,
  stop?: AbortSignal
): Promise<Upload> {
  const taken: BroughtIn[] = [];
  const problems: string[] = [];
  const queue = [...files];
  let done = 0;
  const work = async () => {
    for (let file = queue.shift(); file && !stop?.aborted; file = queue.shift()) {
      const answer = await ask<{ asset: Asset }>('POST', `/api/pieces/${piece}/assets`, file, {
        'X-File-Name': encodeURIComponent(nameOf(file)),
        'Content-Type': 'application/octet-stream',
      });
      if (answer.ok) taken.push({ asset: answer.value.asset, file: nameOf(file) });
      else problems.push(answer.error.code === 'offline' ? `${nameOf(file)} could not be sent: ${answer.error.sentence}` : answer.error.sentence);
      progress(++done, files.length);
    }
  };
  progress(0, files.length);
  await Promise.all(Array.from({ length: AT_ONCE }, work));
  return { taken, problems };
}

/** A pasted picture has a name such as image.png; its type tells the ending where it has none. */
const nameOf = (file: File): string =>
  /\.[a-z0-9]+$/i.test(file.name) ? file.name : `${file.name || 'Page'}.${file.type.split('/')[1]?.replace('svg+xml', 'svg') ?? 'png'}`;
