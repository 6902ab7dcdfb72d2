import type { Layer, Piece, Thread } from '../../piece/piece.ts';
import type { Rect } from '../../program/geometry.ts';
import { union } from '../../program/geometry.ts';
import { framesPerSecond, sectionsOf } from '../../run/playhead.ts';
import type { Program } from '../../program/program.ts';
import type { Timing } from '../../fields/step-fields.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { keysBetween } from '../order.ts';
import type { MakeId } from '../make-id.ts';
import { setKey } from '../time/keys.ts';
import { sectionsFor } from '../time/sections.ts';
import { timelineOperations } from '../time/timeline.ts';
import { isIn, wireToLabel, wireToStep } from './pairs.ts';
import { makePart } from './parts.ts';
import { readingOrder, addThreads } from './threads.ts';

/** Slides: layers of one size that take turns in one window, with arrows and dots where there are some. */
export interface SlideRoles {
  readonly slides: readonly string[];
  /** Back and on; null where there are none. */
  readonly arrows: readonly [back: string, on: string] | null;
  /** One for each slide, or none. */
  readonly dots: readonly string[];
}

/**
 * Which of some layers are slides, which arrows, which dots: the largest are the slides (as many as are about as large), two
 * others apart from the dots are the arrows, and as many small ones as there are slides are the dots. Null with fewer than two slides.
 */
export function slideRoles(layers: readonly Layer[]): SlideRoles | null {
  const area = (layer: Layer) => layer.pose.width * layer.pose.height;
  const bySize = [...layers].sort((a, b) => area(b) - area(a));
  const largest = bySize[0];
  if (!largest) return null;
  const slides = bySize.filter((layer) => area(layer) >= area(largest) * 0.6);
  const rest = bySize.filter((layer) => !slides.includes(layer));
  if (slides.length < 2) return null;
  const small = rest.slice(-slides.length);
  const leftOver = rest.length - slides.length;
  const hasDots = rest.length >= slides.length && (leftOver === 0 || leftOver === 2);
  const dots = hasDots ? small : [];
  const others = rest.filter((layer) => !dots.includes(layer));
  const [a, b] = readingOrder(others);
  const ids = (list: readonly Layer[]) => readingOrder(list).map((layer) => layer.id);
  return { slides: asSeen(slides).map((layer) => layer.id), arrows: others.length === 2 ? [a!.id, b!.id] : null, dots: ids(dots) };
}

/** Side by side in reading order; in one pile the front one, which is what is seen, first. */
function asSeen(slides: readonly Layer[]): Layer[] {
  const [first, ...others] = slides.map(({ pose }) => pose);
  const isPile = others.every((pose) => Math.abs(pose.x - first!.x) < first!.width / 2 && Math.abs(pose.y - first!.y) < first!.height / 2);
  return isPile ? [...slides].sort((a, b) => (a.order < b.order ? 1 : -1)) : readingOrder(slides);
}

export interface SlideOptions {
  readonly name: string;
  readonly timing: Timing;
  /** Past the last one comes the first again; else the arrow at an end is disabled. */
  readonly around: boolean;
}

/**
 * Puts layers into a part with one state for each slide: a window of their size in which they stand side by side and move.
 * Arrows go back and on; dots go to their slide and are selected while it is shown. Gives the placement.
 */
export function makeSlides(
  program: Program,
  scene: string,
  roles: SlideRoles,
  options: SlideOptions,
  makeId: MakeId
): { operations: Operation[]; placement: string } | null {
  const all = [...roles.slides, ...(roles.arrows ?? []), ...roles.dots];
  const made = makePart(program, scene, all, options.name, makeId);
  const items = program.scenes.get(scene)?.byId;
  if (!made?.placement || !items) return null;
  const applied = apply(program.piece, made.operations);
  if (!applied.ok) return null;
  const { piece } = applied.value;
  const copies = made.names;
  const inPart = (id: string): Layer => piece.layers.get(copies.get(id)!)!;
  const window = windowOf(roles.slides.map((id) => items.get(id)!.box));
  const origin = union(all.map((id) => items.get(id)!.box))!;
  const at = { x: window.x - origin.x, y: window.y - origin.y };
  const states = statesFor(roles.slides.length, makeId);
  const [clip, strip] = [makeId(), makeId()];
  const key = keysBetween(null, all.map((id) => inPart(id).order).sort()[0]!, 1)[0]!;
  const group = (id: string, parent: string | null, name: string, pose: Rect, more: Partial<Layer> = {}): Layer => ({
    id,
    scene: made.scene,
    parent,
    order: key,
    name,
    type: 'group',
    pose,
    style: {},
    ...more,
  });
  const orders = keysBetween(null, null, roles.slides.length);
  const shift = (n: number) => -n * window.width;
  return {
    placement: made.placement,
    operations: [
      ...made.operations,
      { op: 'put', table: 'layers', value: group(clip, null, 'Window', { ...at, width: window.width, height: window.height }, { clip: true }) },
      {
        op: 'put',
        table: 'layers',
        value: group(strip, clip, 'Slides', { x: 0, y: 0, width: window.width * roles.slides.length, height: window.height }, { clip: true }),
      },
      ...roles.slides.map((id, n): Operation => {
        const layer = inPart(id);
        const pose = { ...layer.pose, x: n * window.width + (window.width - layer.pose.width) / 2, y: (window.height - layer.pose.height) / 2 };
        return { op: 'put', table: 'layers', value: { ...layer, parent: strip, order: orders[n]!, pose } as Layer };
      }),
      {
        op: 'set',
        table: 'scenes',
        id: made.scene,
        path: ['states'],
        value: Object.fromEntries(
          states.map(({ id, ...state }, n) => [id, { ...state, deltas: n === 0 ? {} : { [strip]: { pose: { x: shift(n) } } } }])
        ),
      },
      ...arrowOperations(piece, made.scene, roles, copies, states, options, makeId),
      ...dotOperations(piece, made.scene, roles, copies, states, options, makeId),
    ],
  };
}

type NamedState = { readonly id: string; readonly name: string; readonly order: string };

const statesFor = (count: number, makeId: MakeId): NamedState[] =>
  keysBetween(null, null, count).map((order, n) => ({ id: makeId(), name: `Slide ${n + 1}`, order }));

const windowOf = (boxes: readonly Rect[]): Rect => ({
  x: Math.min(...boxes.map((box) => box.x)),
  y: Math.min(...boxes.map((box) => box.y)),
  width: Math.max(...boxes.map((box) => box.width)),
  height: Math.max(...boxes.map((box) => box.height)),
});

function arrowOperations(
  piece: Piece,
  part: string,
  { arrows }: SlideRoles,
  copies: ReadonlyMap<string, string>,
  states: readonly NamedState[],
  { timing, around }: SlideOptions,
  makeId: MakeId
): Operation[] {
  if (!arrows) return [];
  return arrows.flatMap((arrow, i): Operation[] => {
    const id = copies.get(arrow)!;
    const move = i === 0 ? ('previous' as const) : ('next' as const);
    const to = { move, ...(around && { wrap: true as const }) };
    const end = i === 0 ? states[0]! : states.at(-1)!;
    const wired = addThreads(piece, 'layer', id, [clicked({ do: 'state', to, transition: { type: 'tween', ...timing } })], makeId);
    return around ? wired : [...wired, ...enabledWhile(piece, id, isIn(part, 'state', end.id, '!='))];
  });
}

function dotOperations(
  piece: Piece,
  part: string,
  { dots }: SlideRoles,
  copies: ReadonlyMap<string, string>,
  states: readonly NamedState[],
  { timing }: SlideOptions,
  makeId: MakeId
): Operation[] {
  return dots.flatMap((dot, n): Operation[] => {
    const id = copies.get(dot)!;
    return [
      ...addThreads(piece, 'layer', id, [clicked({ do: 'state', to: { state: states[n]!.id }, transition: { type: 'tween', ...timing } })], makeId),
      ...selectedAs(piece, id, isIn(part, 'state', states[n]!.id)),
    ];
  });
}

const clicked = (step: Thread['branches'][number]['steps'][number]) => ({ cue: { type: 'click' as const }, branches: [{ steps: [step] }] });

/** An arrow that leads somewhere only while a condition holds; else it is disabled, and seen to be. */
function enabledWhile(piece: Piece, id: string, condition: string): Operation[] {
  return [
    { op: 'set', table: 'layers', id, path: ['bindings', 'enabled'], value: condition },
    ...(piece.layers.get(id)?.looks?.disabled
      ? []
      : [{ op: 'set' as const, table: 'layers' as const, id, path: ['looks', 'disabled'], value: { style: { opacity: 0.3 } } }]),
  ];
}

/** A dot that is selected while a condition holds, and seen to be: it stands out, or the others stand back. */
function selectedAs(piece: Piece, id: string, condition: string): Operation[] {
  const layer = piece.layers.get(id)!;
  return [
    { op: 'set', table: 'layers', id, path: ['bindings', 'selected'], value: condition },
    ...(layer.looks?.selected
      ? []
      : [
          { op: 'set' as const, table: 'layers' as const, id, path: ['looks', 'selected'], value: layer.looks?.hover ?? { style: { opacity: 1 } } },
          ...(layer.looks?.hover || (layer.style.opacity ?? 1) < 1
            ? []
            : [{ op: 'set' as const, table: 'layers' as const, id, path: ['style', 'opacity'], value: 0.4 }]),
        ]),
  ];
}

/** How slides take turns in time: each in a section of the scene that is so long and holds. */
export interface TimedSlideOptions {
  readonly frames: number;
  readonly timing: Timing;
  readonly around: boolean;
}

/**
 * Gives each slide a section of the scene's own time, in the place of the first, in which it alone is there and fades in. Arrows
 * play the section before and after; dots play theirs and are selected in it.
 */
export function makeTimedSlides(piece: Piece, scene: string, roles: SlideRoles, options: TimedSlideOptions, makeId: MakeId): Operation[] {
  const { timing, around } = options;
  const slides = roles.slides.flatMap((id) => piece.layers.get(id) ?? []);
  const first = slides[0];
  if (!first || slides.length < 2) return [];
  const fps = framesPerSecond({ piece });
  const old = piece.scenes.get(scene)?.timeline;
  const labels = new Set(Object.keys(old?.labels ?? {}));
  const long = Math.max(1, Math.round(options.frames));
  const turns = sectionsFor(old ?? { length: 1 }, slides, long, makeId);
  const sections = sectionsOf(turns).filter(({ label }) => label !== null && !labels.has(label));
  if (sections.length !== slides.length) return [];
  const fade = Math.min(long - 1, Math.round((timing.ms * fps) / 1000));
  const shown = slides.reduce((all, layer, n) => {
    const { from } = sections[n]!;
    const id = makeId();
    const key = (at: number, value: number, easing?: string) => ({ time: at, value, ...(easing !== undefined && { easing }) });
    if (fade < 1) return all;
    const begun = setKey(all, id, layer.id, 'opacity', key(from, 0, timing.easing));
    return setKey(begun, id, layer.id, 'opacity', key(from + fade, layer.style.opacity ?? 1));
  }, turns);
  const section = (n: number, is: '=' | '!=') => isIn(scene, 'section', sections.at(n)!.label!, is);
  return [
    ...timelineOperations(piece, scene, shown),
    ...slides
      .slice(1)
      .flatMap(({ id }) =>
        (['x', 'y'] as const).map((axis): Operation => ({ op: 'set', table: 'layers', id, path: ['pose', axis], value: first.pose[axis] }))
      ),
    ...(roles.arrows ?? []).flatMap((id, i) => [
      ...wireToStep(piece, id, { do: 'section', to: i === 0 ? 'previous' : 'next' }, makeId),
      ...(around ? [] : enabledWhile(piece, id, section(i === 0 ? 0 : -1, '!='))),
    ]),
    ...roles.dots.flatMap((id, n) => [...wireToLabel(piece, id, undefined, sections[n]!.label!, makeId), ...selectedAs(piece, id, section(n, '='))]),
  ];
}
