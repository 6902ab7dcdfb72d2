/** Outlines of sounds and pictures of films, for the bars they have in time; worked out once for each file. */

/** Stretches that a sound is cut into, however long it is. */
export const PEAKS = 2000;
/** Moments of a film that pictures are taken of. */
const PICTURES = 12;

const outlines = new Map<string, Promise<Float32Array | null>>();
const films = new Map<string, Promise<readonly HTMLCanvasElement[]>>();
let worker: Worker | null = null;
let count = 0;
const waiting = new Map<number, (peaks: Float32Array) => void>();

/** The peaks of a sound file, `PEAKS` of them from 0 to 1; null where this browser cannot read it. */
export function outlineOf(url: string): Promise<Float32Array | null> {
  let known = outlines.get(url);
  if (!known) outlines.set(url, (known = decoded(url)));
  return known;
}

async function decoded(url: string): Promise<Float32Array | null> {
  try {
    const bytes = await (await fetch(url)).arrayBuffer();
    const sound = await new OfflineAudioContext(1, 1, 22_050).decodeAudioData(bytes);
    const samples = sound.getChannelData(0).slice();
    worker ??= began(new Worker(new URL('./peaks.worker.ts', import.meta.url), { type: 'module' }));
    const id = ++count;
    return await new Promise((resolve) => {
      waiting.set(id, resolve);
      worker!.postMessage({ id, samples, count: PEAKS }, [samples.buffer]);
    });
  } catch {
    return null;
  }
}

function began(made: Worker): Worker {
  made.onmessage = ({ data: { id, peaks } }: MessageEvent<{ id: number; peaks: Float32Array }>) => {
    waiting.get(id)?.(peaks);
    waiting.delete(id);
  };
  return made;
}

/** Pictures of a film at equal distances, as high as given; none where this browser cannot show it. */
export function picturesOf(url: string, height: number): Promise<readonly HTMLCanvasElement[]> {
  let known = films.get(url);
  if (!known) films.set(url, (known = taken(url, height).catch(() => [])));
  return known;
}

async function taken(url: string, height: number): Promise<readonly HTMLCanvasElement[]> {
  const video = document.createElement('video');
  video.muted = true;
  video.preload = 'auto';
  const until = (type: string) =>
    new Promise<void>((resolve, reject) => {
      video.addEventListener(type, () => resolve(), { once: true });
      video.addEventListener('error', () => reject(new Error('no film')), { once: true });
    });
  const loaded = until('loadeddata');
  video.src = url;
  await loaded;
  const pictures: HTMLCanvasElement[] = [];
  for (let i = 0; i < PICTURES; i++) {
    const sought = until('seeked');
    video.currentTime = (video.duration * (i + 0.5)) / PICTURES;
    await sought;
    const canvas = document.createElement('canvas');
    canvas.height = height;
    canvas.width = Math.max(1, Math.round((height * video.videoWidth) / video.videoHeight));
    canvas.getContext('2d')!.drawImage(video, 0, 0, canvas.width, canvas.height);
    pictures.push(canvas);
  }
  video.removeAttribute('src');
  return pictures;
}
