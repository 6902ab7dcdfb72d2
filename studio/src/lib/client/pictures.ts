import { mendedText, type Asset, type BroughtIn } from '@zany/core';
import { ask } from './api';
import { aboutOf } from './page-file';

export interface Upload {
  readonly taken: BroughtIn[];
  /** A sentence for each file that was refused. */
  readonly problems: string[];
}

const AT_ONCE = 3;

export const isMedia = (file: File): boolean => /\.(webm|mp4|m4v|ogg|oga|opus|mp3|wav)$/i.test(file.name) || /^(video|audio)\//.test(file.type);

export const isPicture = (file: File): boolean => /\.(png|jpe?g|webp|svg)$/i.test(file.name) || /^image\//.test(file.type);

/** What a camera or a scanner gives. */
export const isPhoto = (file: File): boolean => isPicture(file) && !/\.svg$/i.test(file.name) && file.type !== 'image/svg+xml';

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
        'X-File-Name': encodeURIComponent(mendedText(nameOf(file))),
        'Content-Type': 'application/octet-stream',
        ...(isMedia(file) && { 'X-Measured': await measure(file) }),
      });
      if (answer.ok) taken.push({ asset: answer.value.asset, file: nameOf(file), ...(await aboutOf(file)) });
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

/** Width, height and length of a video or sound as this browser plays it, `640x360x12000`; a usual size where it cannot. */
function measure(file: File): Promise<string> {
  const video = document.createElement('video');
  const address = URL.createObjectURL(file);
  return new Promise<string>((resolve) => {
    const done = (text: string) => {
      URL.revokeObjectURL(address);
      resolve(text);
    };
    const usual = setTimeout(() => done('640x360x0'), 4000);
    video.preload = 'metadata';
    video.onerror = () => (clearTimeout(usual), done('640x360x0'));
    video.onloadedmetadata = () => {
      clearTimeout(usual);
      const ms = Number.isFinite(video.duration) ? Math.round(video.duration * 1000) : 0;
      done(`${video.videoWidth || 320}x${video.videoHeight || 48}x${ms}`);
    };
    video.src = address;
  });
}
