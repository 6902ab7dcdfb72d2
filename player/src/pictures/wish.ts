import {
  framesOf,
  framesPerSecond,
  listWords,
  MOST_PICTURES,
  scenesOf,
  shotsOfScenes,
  shotsOfTimeline,
  shotsOfWalk,
  timedScenes,
  WALK_RATE,
  walkKept,
  walksOf,
  type FrameShot,
  type KeptWalk,
  type MomentShot,
  type Program,
  type Shot,
} from '@zany/core';

/** What of a piece is to be pictured, as whoever has no desk before him says it: by names. */

/** What is wished cannot be pictured: says what is wrong, and what there is. */
export class WishFault extends Error {}

/** What pictures can be put into, with the file that comes of it. */
export const drawnAs = {
  png: { ending: '.png.zip', mediaType: 'application/zip' },
  svg: { ending: '.svg.zip', mediaType: 'application/zip' },
  pdf: { ending: '.pdf', mediaType: 'application/pdf' },
  'walk-through': { ending: '.walk-through.html', mediaType: 'text/html' },
  gif: { ending: '.gif', mediaType: 'image/gif' },
} as const;

export type DrawForm = keyof typeof drawnAs;
export const drawForms = Object.keys(drawnAs) as readonly DrawForm[];

export interface DrawWish {
  readonly as: DrawForm;
  /** Names of frames, parts and bundles; all frames where there are none. */
  readonly only?: readonly string[];
  readonly states?: boolean;
  readonly scale: number;
  /** Whose timeline, by name. */
  readonly timeline?: string;
  /** Counted from 1, the last one with it. */
  readonly from?: number;
  readonly to?: number;
  readonly every: number;
  /** Which kept walk, by name. */
  readonly walk?: string;
}

/** What is pictured, in one of three ways. */
export type Pictured =
  | { readonly of: 'frames'; readonly shots: readonly FrameShot[] }
  | { readonly of: 'timeline'; readonly shots: readonly MomentShot[]; readonly title: string; readonly perSecond: number; readonly loops: boolean }
  | { readonly of: 'walk'; readonly shots: readonly Shot[]; readonly title: string; readonly perSecond: number; readonly loops: false };

/** Which forms there are of each. */
const FORMS: Readonly<Record<Pictured['of'], readonly DrawForm[]>> = {
  frames: ['png', 'svg', 'pdf', 'walk-through'],
  timeline: ['png', 'svg', 'pdf', 'gif'],
  walk: ['png', 'gif'],
};

const WHOSE = { frames: 'frames', timeline: 'a timeline', walk: 'a walk' } as const;

/** What is pictured by a wish, one after the other. */
export function picturedBy(program: Program, wish: DrawWish): Pictured {
  const pictured = chosenBy(program, wish);
  if (!FORMS[pictured.of].includes(wish.as))
    throw new WishFault(`Of ${WHOSE[pictured.of]} there is ${listWords([...FORMS[pictured.of]], 'or')}, and no ${wish.as}.`);
  return pictured;
}

function chosenBy(program: Program, wish: DrawWish): Pictured {
  if (wish.timeline !== undefined && wish.walk !== undefined) throw new WishFault('It can be a timeline or a walk, not both.');
  if (wish.timeline !== undefined) return timelinePictured(program, wish.timeline, wish);
  if (wish.walk !== undefined) return walkPictured(program, wish.walk);
  const shots = shotsOfScenes(program, scenesWanted(program, wish.only), wish.states === true);
  if (shots.length === 0) throw new WishFault('There is no frame to draw.');
  return { of: 'frames', shots };
}

/** The frames and parts of some names, and the frames of bundles. */
function scenesWanted({ piece }: Program, only: readonly string[] | undefined): ReadonlySet<string> {
  const frames = framesOf(piece);
  if (!only?.length) return new Set(frames.map(({ id }) => id));
  const bundles = Object.entries(piece.head.bundles ?? {});
  const scenes = [...frames, ...scenesOf(piece, 'part')];
  return new Set(
    only.flatMap((name) => {
      const own = scenes.filter((scene) => scene.name === name);
      const inBundle = bundles.filter(([, bundle]) => bundle.name === name).flatMap(([id]) => frames.filter(({ bundle }) => bundle === id));
      if (own.length + inBundle.length === 0) throw new WishFault(`There is no frame, part or bundle “${name}”. There is ${namesIn(scenes)}.`);
      return [...own, ...inBundle].map(({ id }) => id);
    })
  );
}

const namesIn = (named: readonly { readonly name: string }[]): string => listWords(named.map(({ name }) => name));

function timelinePictured(program: Program, name: string, { from = 1, to, every }: DrawWish): Pictured {
  const timed = timedScenes(program.piece);
  const scene = timed.find((one) => one.name === name);
  if (!scene) throw new WishFault(`Nothing called “${name}” has a timeline. ${timed.length ? `There is ${namesIn(timed)}.` : 'Nothing has one.'}`);
  const { length, loop } = scene.timeline!;
  const last = Math.min(to ?? length, length);
  if (from > last) throw new WishFault(`The timeline of ${name} is pictured to ${last}, so it cannot begin at ${from}.`);
  const wanted = Math.floor((last - from) / every) + 1;
  if (wanted > MOST_PICTURES)
    throw new WishFault(`That would be ${wanted} pictures; at most ${MOST_PICTURES} are made. Take fewer of them, or each second one.`);
  const shots = shotsOfTimeline(program, scene.id, from - 1, last - 1, every);
  return { of: 'timeline', shots, title: name, perSecond: framesPerSecond(program) / every, loops: loop === true };
}

function walkPictured(program: Program, name: string): Pictured {
  const walks = walksOf(program.piece.head);
  const walk = walks.find((one) => one.name === name);
  if (!walk) throw new WishFault(`No walk “${name}” is kept. ${walks.length ? `There is ${namesIn(walks)}.` : 'None is kept.'}`);
  return { of: 'walk', shots: filmOfKept(program, walk), title: name, perSecond: WALK_RATE, loops: false };
}

/** The pictures of a kept walk that still holds, and is not too long. */
export function filmOfKept(program: Program, walk: KeptWalk): Shot[] {
  const { name } = walk;
  const { held, broken } = walkKept(program, walk);
  if (broken !== null) throw new WishFault(`${name} breaks at step ${held + 1}, so there is no film of it: ${broken}.`);
  const shots = shotsOfWalk(program, walk, WALK_RATE, MOST_PICTURES);
  if (!shots) throw new WishFault(`A film of ${name} would be longer than ${MOST_PICTURES / WALK_RATE} seconds, which is too long.`);
  return shots;
}
