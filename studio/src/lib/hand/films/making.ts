import { fileName, framesOf, statesOf, stillScreen, type Program, type Screen } from '@zany/core';
import { paintWhole, type Picture } from '$lib/shared/thumb-paint';

/** Pictures of a piece for others: of frames in their states, and of the moments of a timeline. */

/** One picture that is to be made: its file's name without an ending, and what is seen on it. */
export interface Shot {
  readonly name: string;
  readonly screen: Screen;
}

/** A canvas has at most so many pixels in every browser. */
const MOST_PIXELS = 64_000_000;

/** Frames as they begin, and in each of their states where those are wanted; each file with a name of its own. */
export function shotsOfFrames(program: Program, frames: ReadonlySet<string>, withStates: boolean): Shot[] {
  const taken = new Set<string>();
  const nameOf = (wanted: string): string => {
    const plain = fileName(wanted);
    let name = plain;
    for (let i = 2; taken.has(name); i++) name = `${plain}-${i}`;
    taken.add(name);
    return name;
  };
  return framesOf(program.piece)
    .filter(({ id }) => frames.has(id))
    .flatMap((scene) => {
      const states = withStates ? statesOf(scene) : [];
      const looks = states.length
        ? states.map(({ id, name }) => ({ state: id, name: `${scene.name} ${name}` }))
        : [{ state: null, name: scene.name }];
      return looks.flatMap(({ state, name }) => {
        const screen = stillScreen(program, scene.id, { state });
        return screen ? [{ name: nameOf(name), screen }] : [];
      });
    });
}

/** The moments of a scene's timeline from one to another and with it, both counted from 0, every so many of them. */
export function shotsOfTimeline(program: Program, scene: string, from: number, to: number, every: number): Shot[] {
  const shots: Shot[] = [];
  const digits = String(to + 1).length;
  for (let frame = from; frame <= to; frame += every) {
    const screen = stillScreen(program, scene, { frame });
    if (screen) shots.push({ name: String(frame + 1).padStart(digits, '0'), screen });
  }
  return shots;
}

/** How long each of so many pictures stands, in hundredths of a second, so that all together are as long as they are meant to be. */
export function hundredths(count: number, perSecond: number): number[] {
  const at = (i: number) => Math.round((i * 100) / perSecond);
  return Array.from({ length: count }, (_, i) => Math.max(2, at(i + 1) - at(i)));
}

/** Paints pictures one after the other; stops where it is told to. */
export async function* painted(
  shots: readonly Shot[],
  assetUrl: (asset: string) => string,
  scale: number,
  stop: AbortSignal
): AsyncGenerator<{ readonly name: string; readonly picture: Picture }> {
  for (const { name, screen } of shots) {
    if (stop.aborted) return;
    const picture = await paintWhole({ screen, assetUrl, scale, mostPixels: MOST_PIXELS });
    if (!picture) throw new Error(`${name} cannot be painted: it would have too many pixels.`);
    yield { name, picture };
  }
}

export async function pngOf(picture: Picture): Promise<Uint8Array> {
  return new Uint8Array(await (await picture.convertToBlob({ type: 'image/png' })).arrayBuffer());
}
