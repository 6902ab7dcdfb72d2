import type { Layer } from '../../piece/piece.ts';
import { update } from '../../program/program.ts';
import type { Program } from '../../program/program.ts';
import { apply } from '../apply.ts';
import type { MakeId } from '../make-id.ts';
import type { Operation } from '../operation.ts';
import { MOST_REPEATED, namedByWords, repeatLayer } from './repeat.ts';
import type { SlideRoles } from './slides.ts';
import { readingOrder } from './threads.ts';

/** Of some layers the one that is a slide, those that are its arrows, and the one that is a dot. */
export interface OneSlide {
  readonly slide: string;
  readonly arrows: readonly [back: string, on: string] | null;
  readonly dot: string | null;
}

/** Which of some layers is which: the largest is the slide, two others are arrows, and one more, the smallest, is a dot. Null where that is not so. */
export function oneSlide(layers: readonly Layer[]): OneSlide | null {
  const area = ({ pose }: Layer) => pose.width * pose.height;
  const [slide, ...others] = [...layers].sort((a, b) => area(b) - area(a));
  if (!slide || others.length > 3 || (others[0] && area(others[0]) >= area(slide) * 0.6)) return null;
  const dot = others.length % 2 === 1 ? others.at(-1)! : null;
  const [back, on] = readingOrder(others.filter((layer) => layer !== dot));
  return { slide: slide.id, arrows: back && on ? [back.id, on.id] : null, dot: dot?.id ?? null };
}

/** A program that was gone on with, and what did. */
export interface WentOn {
  readonly program: Program;
  readonly operations: readonly Operation[];
}

/** Goes on with a program; as it was where an operation does not fit. */
export function goOn({ program, operations }: WentOn, more: readonly Operation[]): WentOn {
  const applied = apply(program.piece, more);
  if (!applied.ok) return { program, operations };
  const { piece, touched } = applied.value;
  return { program: update(program, piece, touched), operations: [...operations, ...more] };
}

/** Space between dots, CSS px. */
const BETWEEN = 8;

/** As many slides as there are words, each with its own, and a dot for each in a row whose middle is where the one was; null where they are too few, or too many. */
export function slidesOfOne(
  begun: WentOn,
  scene: string,
  { slide, arrows, dot }: OneSlide,
  words: readonly string[],
  makeId: MakeId
): (WentOn & { readonly roles: SlideRoles }) | null {
  if (words.length < 2 || words.length > MOST_REPEATED) return null;
  const repeat = (of: WentOn, id: string, gapX: number) => {
    const row = { across: words.length, down: 1, gapX, gapY: 0, fill: null };
    const { operations, ids } = repeatLayer(of.program, scene, id, row, makeId);
    return { ids, now: goOn(of, operations) };
  };
  // In one place, as all of them are seen in one window.
  const slides = repeat(begun, slide, -(begun.program.scenes.get(scene)?.byId.get(slide)?.box.width ?? 0));
  const named = goOn(slides.now, namedByWords(slides.now.program.piece, slides.ids, words, slide));
  if (dot === null) return { ...named, roles: { slides: slides.ids, arrows, dots: [] } };
  const dots = repeat(named, dot, BETWEEN);
  const poseOf = (id: string) => dots.now.program.piece.layers.get(id)!.pose;
  const back = ((words.length - 1) * (poseOf(dot).width + BETWEEN)) / 2;
  const moved = dots.ids.map((id): Operation => ({ op: 'set', table: 'layers', id, path: ['pose', 'x'], value: poseOf(id).x - back }));
  return { ...goOn(dots.now, moved), roles: { slides: slides.ids, arrows, dots: dots.ids } };
}
