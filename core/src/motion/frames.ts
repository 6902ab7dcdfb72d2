import type { Timing, Transition } from '../steps/schemas.ts';
import { vectorOf, type Direction } from '../transitions/directions.ts';
import { easingOf } from './easing.ts';

/**
 * A frame as it is on screen: moved by x and y in CSS pixels of the piece, more or less opaque, and cut off at its edges by so
 * much. Later ones are in front.
 */
export interface Placed {
  readonly frame: string;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
  /** CSS pixels cut off at the left, top, right and bottom. */
  readonly cut: readonly [number, number, number, number];
}

interface Track {
  readonly frame: string;
  readonly from: Placed;
  readonly to: Placed;
}

/** A change under way: every frame's way from where it was on screen, and the one that stays. */
export interface FrameMotion {
  readonly to: string;
  /** Its delay included. */
  readonly ms: number;
  readonly delay: number;
  readonly easing: string;
  readonly tracks: readonly Track[];
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

const WHOLE: Placed['cut'] = [0, 0, 0, 0];

export const still = (frame: string): Placed => ({ frame, x: 0, y: 0, opacity: 1, cut: WHOLE });

/**
 * Starts a change to a frame from whatever is on screen, which may be the middle of another change: nothing jumps.
 * `size` is the box the piece is shown in, in CSS pixels of the piece. A tween has its layers move, so its frames stand still.
 */
export function startMotion(onScreen: readonly Placed[], to: string, transition: Transition, size: Size): FrameMotion {
  if (transition.type === 'cut' || transition.type === 'tween' || transition.ms <= 0)
    return { to, ms: 0, delay: 0, easing: 'linear', tracks: [trackOf(still(to), still(to))] };
  const { ms, easing, delay = 0 } = transition;
  return { to, ms: ms + delay, delay, easing, tracks: tracksOf(onScreen, to, transition, size) };
}

function tracksOf(onScreen: readonly Placed[], to: string, transition: Exclude<Transition, { type: 'cut' | 'tween' }>, size: Size): Track[] {
  switch (transition.type) {
    case 'dissolve':
      return dissolveTracks(onScreen, to);
    case 'push':
      return pushTracks(onScreen, to, transition.direction, size);
    case 'cover':
      return coverTracks(onScreen, to, transition.direction, size);
    case 'uncover':
      return uncoverTracks(onScreen, to, transition.direction, size);
    default:
      return wipeTracks(onScreen, to, 'direction' in transition ? transition.direction : 'left', size);
  }
}

/** What is on screen `ms` milliseconds after a change began; after its end only the frame it leads to. */
export function placedAt(motion: FrameMotion, ms: number): Placed[] {
  if (ms >= motion.ms) return [still(motion.to)];
  const eased = easingOf(motion.easing)(Math.max(0, ms - motion.delay) / (motion.ms - motion.delay));
  return motion.tracks.map(({ frame, from, to }) => ({
    frame,
    x: between(from.x, to.x, eased),
    y: between(from.y, to.y, eased),
    opacity: Math.min(1, Math.max(0, between(from.opacity, to.opacity, eased))),
    cut: from.cut.map((cut, i) => between(cut, to.cut[i]!, eased)) as unknown as Placed['cut'],
  }));
}

/** With movement turned off every other change becomes a dissolve of the same length. */
export const withoutMovement = (transition: Transition): Transition =>
  transition.type === 'cut' || transition.type === 'dissolve' ? transition : { type: 'dissolve', ...timingOf(transition) };

export const timingOf = ({ ms, easing, delay, stagger }: Timing): Timing => ({
  ms,
  easing,
  ...(delay !== undefined && { delay }),
  ...(stagger && { stagger }),
});

const between = (a: number, b: number, t: number) => (t === 0 ? a : t === 1 ? b : a + (b - a) * t);

const trackOf = (from: Placed, to: Placed): Track => ({ frame: to.frame, from, to });

/** The new frame fades in over the rest; if it is on screen already it grows opaque and what is in front of it fades out. */
function dissolveTracks(onScreen: readonly Placed[], to: string): Track[] {
  const at = onScreen.findIndex((placed) => placed.frame === to);
  const tracks = onScreen.map((placed, i) => {
    if (i === at) return trackOf(placed, still(to));
    return trackOf(placed, at >= 0 && i > at ? { ...placed, opacity: 0 } : placed);
  });
  if (at < 0) tracks.push(trackOf({ ...still(to), opacity: 0 }, still(to)));
  return tracks;
}

/** All frames move together by as much as brings the new one to rest; it comes in next to the outermost one. */
function pushTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Track[] {
  const there = onScreen.find((placed) => placed.frame === to);
  const incoming = there ?? enteringFrom(onScreen, to, direction, size);
  const tracks = onScreen
    .filter((placed) => placed.frame !== to)
    .map((placed) => trackOf(placed, { ...placed, x: placed.x - incoming.x, y: placed.y - incoming.y }));
  return [...tracks, trackOf(incoming, still(to))];
}

function enteringFrom(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Placed {
  const way = vectorOf[direction];
  const along = onScreen.map((placed) => -(placed.x * way.x + placed.y * way.y));
  const outermost = Math.max(0, ...along);
  const lead = onScreen[along.indexOf(outermost)] ?? { x: 0, y: 0 };
  return {
    ...still(to),
    x: way.x === 0 ? lead.x : -way.x * (outermost + size.width),
    y: way.y === 0 ? lead.y : -way.y * (outermost + size.height),
  };
}

/** The new frame comes in over the others, which stay where they are. */
function coverTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Track[] {
  const way = vectorOf[direction];
  const there = onScreen.find((placed) => placed.frame === to);
  const others = onScreen.filter((placed) => placed.frame !== to).map((placed) => trackOf(placed, placed));
  return [...others, trackOf(there ?? { ...still(to), x: -way.x * size.width || 0, y: -way.y * size.height || 0 }, still(to))];
}

/** The others move out of the view and show the new frame behind them. */
function uncoverTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Track[] {
  const way = vectorOf[direction];
  const there = onScreen.find((placed) => placed.frame === to) ?? still(to);
  const others = onScreen
    .filter((placed) => placed.frame !== to)
    .map((placed) => trackOf(placed, { ...placed, x: way.x === 0 ? placed.x : way.x * size.width, y: way.y === 0 ? placed.y : way.y * size.height }));
  return [trackOf(there, still(to)), ...others];
}

/** An edge runs across in the direction and leaves the new frame behind it. */
function wipeTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Track[] {
  const there = onScreen.find((placed) => placed.frame === to);
  const others = onScreen.filter((placed) => placed.frame !== to).map((placed) => trackOf(placed, placed));
  const { width, height } = size;
  const hidden = { left: [width, 0, 0, 0], right: [0, 0, width, 0], up: [0, height, 0, 0], down: [0, 0, 0, height] } as const;
  return [...others, trackOf(there ?? { ...still(to), cut: hidden[direction] }, still(to))];
}
