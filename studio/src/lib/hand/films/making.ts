import {
  filmOfWalk,
  framesOf,
  scenesOf,
  statesOf,
  stillScreen,
  takeFileName,
  type KeptWalk,
  type Picture as Moment,
  type Point,
  type Program,
  type Screen,
} from '@zany/core';
import { markPress } from '$lib/shared/press-mark';
import { paintWhole, type Picture } from '$lib/shared/thumb-paint';

export type { Picture };

/** Pictures of a piece for others: of frames in their states, and of the moments of a timeline. */

/** One picture that is to be made: its file's name without an ending, and what is seen on it. */
export interface Shot {
  readonly name: string;
  readonly screen: Screen | Moment;
  /** Where somebody presses, CSS px of the screen. */
  readonly press?: Point | null;
  /** How large the picture is where not all of a film have one size, CSS px; the screen stands in its middle. */
  readonly size?: { readonly width: number; readonly height: number };
}

/** A frame or part, in one of its states where it has some. */
export interface FrameShot extends Shot {
  readonly screen: Screen;
  readonly title: string;
  readonly frame: string;
  readonly state: string | null;
}

/** A canvas has at most so many pixels in every browser. */
const MOST_PIXELS = 64_000_000;

/** Frames and parts as they begin, and in each of their states where those are wanted; each file with a name of its own. */
export function shotsOfScenes(program: Program, scenes: ReadonlySet<string>, withStates: boolean): FrameShot[] {
  const taken = new Set<string>();
  return [...framesOf(program.piece), ...scenesOf(program.piece, 'part')]
    .filter(({ id }) => scenes.has(id))
    .flatMap((scene) => {
      const states = withStates ? statesOf(scene) : [];
      const looks = states.length
        ? states.map(({ id, name }) => ({ state: id, title: `${scene.name} ${name}` }))
        : [{ state: null, title: scene.name }];
      return looks.flatMap(({ state, title }) => {
        const screen = stillScreen(program, scene.id, { state });
        return screen ? [{ name: takeFileName(taken, title), title, frame: scene.id, state, screen }] : [];
      });
    });
}

/** A moment of a timeline. */
export interface MomentShot extends Shot {
  readonly screen: Screen;
}

/** The moments of a scene's timeline from one to another and with it, both counted from 0, every so many of them. */
export function shotsOfTimeline(program: Program, scene: string, from: number, to: number, every: number): MomentShot[] {
  const shots: MomentShot[] = [];
  const digits = String(to + 1).length;
  for (let frame = from; frame <= to; frame += every) {
    const screen = stillScreen(program, scene, { frame });
    if (screen) shots.push({ name: String(frame + 1).padStart(digits, '0'), screen });
  }
  return shots;
}

/** The moments of a kept walk, all in one size; null where there would be more than so many. */
export function shotsOfWalk(program: Program, walk: KeptWalk, perSecond: number, most: number): Shot[] | null {
  const moments: { picture: Moment; press: Point | null }[] = [];
  for (const moment of filmOfWalk(program, walk, perSecond)) {
    if (moments.length === most) return null;
    moments.push(moment);
  }
  const side = (which: 'width' | 'height') => Math.max(1, ...moments.map(({ picture }) => picture[which]));
  const size = { width: side('width'), height: side('height') };
  const digits = String(moments.length + 1).length;
  return moments.map(({ picture, press }, i) => ({ name: String(i + 1).padStart(digits, '0'), screen: picture, press, size }));
}

/** How long each of so many pictures stands, in hundredths of a second, so that all together are as long as they are meant to be. */
export function hundredths(count: number, perSecond: number): number[] {
  const at = (i: number) => Math.round((i * 100) / perSecond);
  return Array.from({ length: count }, (_, i) => Math.max(2, at(i + 1) - at(i)));
}

/** So long pictures are painted at a time, ms, before anything else has its turn: pressing stop is among it. */
const AT_A_TIME = 12;

/** Lets whatever waits have its turn. */
export const breath = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => {
      port1.close();
      resolve();
    };
    port2.postMessage(null);
  });

/** Paints pictures one after the other; stops where it is told to. */
export async function* painted<S extends Shot>(
  shots: readonly S[],
  assetUrl: (asset: string) => string,
  scale: number,
  stop: AbortSignal
): AsyncGenerator<{ readonly shot: S; readonly picture: Picture }> {
  let begun = performance.now();
  for (const shot of shots) {
    if (performance.now() - begun > AT_A_TIME) {
      await breath();
      begun = performance.now();
    }
    if (stop.aborted) return;
    const picture = await paintWhole({ screen: shot.screen, assetUrl, scale, mostPixels: MOST_PIXELS });
    if (!picture) throw new Error(`${shot.name} cannot be painted: it would have too many pixels.`);
    if (shot.press) {
      const context = picture.getContext('2d')!;
      context.setTransform(scale, 0, 0, scale, 0, 0);
      markPress(context, shot.press, 18);
    }
    yield { shot, picture: shot.size ? within(picture, shot.size, scale) : picture };
  }
}

/** A picture in the middle of a size. */
function within(picture: Picture, { width, height }: { readonly width: number; readonly height: number }, scale: number): Picture {
  const [w, h] = [Math.round(width * scale), Math.round(height * scale)];
  if (w === picture.width && h === picture.height) return picture;
  const around = new OffscreenCanvas(w, h);
  around.getContext('2d')!.drawImage(picture, Math.round((w - picture.width) / 2), Math.round((h - picture.height) / 2));
  return around;
}

/** Films have no holes: what nothing is painted on is white in them. */
export function onWhite(picture: Picture): Picture {
  const context = picture.getContext('2d')!;
  context.setTransform(1, 0, 0, 1, 0, 0);
  context.globalCompositeOperation = 'destination-over';
  context.fillStyle = '#ffffff';
  context.fillRect(0, 0, picture.width, picture.height);
  return picture;
}

export async function pngOf(picture: Picture): Promise<Uint8Array> {
  return new Uint8Array(await (await picture.convertToBlob({ type: 'image/png' })).arrayBuffer());
}
