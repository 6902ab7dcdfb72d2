import { filmOfWalk } from '../motion/film.ts';
import type { Picture } from '../motion/presenter.ts';
import { framesOf, scenesOf, statesOf, type Piece, type Scene } from '../piece/piece.ts';
import type { KeptWalk } from '../piece/walks.ts';
import type { Point } from '../program/geometry.ts';
import type { Program } from '../program/program.ts';
import type { Screen } from '../run/resolve.ts';
import { stillScreen } from '../run/still.ts';
import { takeFileName } from './exports/names.ts';
import { leadsFrom, type Lead } from './leads-from.ts';

/** What is pictured of a piece for others: frames in their states, and the moments of timelines and walks. */

/** One picture that is to be made: its file's name without an ending, and what is seen on it. */
export interface Shot {
  readonly name: string;
  readonly screen: Screen | Picture;
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

/** A moment of a timeline. */
export interface MomentShot extends Shot {
  readonly screen: Screen;
}

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
  const moments: { picture: Picture; press: Point | null }[] = [];
  for (const moment of filmOfWalk(program, walk, perSecond)) {
    if (moments.length === most) return null;
    moments.push(moment);
  }
  const side = (which: 'width' | 'height') => Math.max(1, ...moments.map(({ picture }) => picture[which]));
  const size = { width: side('width'), height: side('height') };
  const digits = String(moments.length + 1).length;
  return moments.map(({ picture, press }, i) => ({ name: String(i + 1).padStart(digits, '0'), screen: picture, press, size }));
}

/** One page or drawing: what is seen on it, what it is called, and where a click leads from it. */
export interface Leaf extends MomentShot {
  readonly title: string;
  /** The frame that is seen; a moment is by itself. */
  readonly frame: string;
  readonly leads: readonly Lead[];
}

export const leavesOfScenes = (program: Program, shots: readonly FrameShot[]): Leaf[] =>
  shots.map(({ state, ...shot }) => ({ ...shot, leads: leadsFrom(program, shot.frame, { state }) }));

/** The same of moments of a timeline, from which nothing leads. */
export const leavesOfTimeline = (title: string, shots: readonly MomentShot[]): Leaf[] =>
  shots.map((shot) => ({ ...shot, title: `${title} ${shot.name}`, frame: shot.name, leads: [] }));

/** What has a timeline that can be pictured. */
export const timedScenes = (piece: Piece): Scene[] =>
  (['frame', 'part', 'sheet'] as const).flatMap((use) => scenesOf(piece, use)).filter(({ timeline }) => timeline !== undefined);

/** How long each of so many pictures stands, in hundredths of a second, so that all together are as long as they are meant to be. */
export function hundredths(count: number, perSecond: number): number[] {
  const at = (i: number) => Math.round((i * 100) / perSecond);
  return Array.from({ length: count }, (_, i) => Math.max(2, at(i + 1) - at(i)));
}

/** A canvas has at most so many pixels in every browser. */
export const MOST_PIXELS = 64_000_000;

/** Pixels for one CSS px that a picture can have, where so many are wanted. */
export const scaleFor = ({ width, height }: { readonly width: number; readonly height: number }, wanted: number, most = MOST_PIXELS): number =>
  Math.min(wanted, Math.sqrt(most / (width * height)));

/** Pictures of a film of a walk in a second, and of any film at most. */
export const WALK_RATE = 25;
export const MOST_PICTURES = 2000;
