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
  /** Where it was before any of this began, for a way back. */
  readonly origin: Placed;
}

/** A change under way: every frame's way from where it was on screen, and the one that stays. */
export interface FrameMotion {
  readonly to: string;
  /** Its delay included. */
  readonly ms: number;
  readonly delay: number;
  readonly easing: string;
  /** An easing that goes too far goes no further than the end: between two frames side by side it would bare the ground. */
  readonly isBounded: boolean;
  readonly tracks: readonly Track[];
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

const WHOLE: Placed['cut'] = [0, 0, 0, 0];

export const still = (frame: string): Placed => ({ frame, x: 0, y: 0, opacity: 1, cut: WHOLE });

/**
 * Starts a change to a frame from whatever is on screen, which may be the middle of another change (`running`): nothing jumps.
 * A frame that is on screen already comes back to rest in the part of the time that its way is of a whole one. `size` is the box the piece is shown in, in CSS pixels of the piece. A tween has its layers move, so its frames stand still.
 */
export function startMotion(
  onScreen: readonly Placed[],
  to: string,
  transition: Transition,
  size: Size,
  running: FrameMotion | null = null
): FrameMotion {
  if (transition.type === 'cut' || transition.type === 'tween' || transition.ms <= 0)
    return { to, ms: 0, delay: 0, easing: 'linear', isBounded: true, tracks: [trackOf(still(to), still(to))] };
  const { easing, delay = 0 } = transition;
  const origins = new Map(running?.tracks.map((track) => [track.frame, track.origin]));
  const tracks = tracksOf(onScreen, to, transition, size, origins).map((track) => ({ ...track, origin: origins.get(track.frame) ?? track.from }));
  const isBack = onScreen.some((placed) => placed.frame === to);
  const ms = isBack ? transition.ms * Math.max(...tracks.map((track) => wayOf(track, size))) : transition.ms;
  return { to, ms: ms > 0 ? ms + delay : 0, delay, easing, isBounded: transition.type === 'push', tracks };
}

/** How much of a whole way a frame has before it, 0 to 1. */
function wayOf({ from, to }: Track, { width, height }: Size): number {
  const shares = [
    Math.abs(to.x - from.x) / width,
    Math.abs(to.y - from.y) / height,
    Math.abs(to.opacity - from.opacity),
    ...from.cut.map((cut, i) => Math.abs(to.cut[i]! - cut) / (i % 2 ? height : width)),
  ];
  return Math.min(1, Math.max(...shares));
}

type Way = Omit<Track, 'origin'>;

function tracksOf(
  onScreen: readonly Placed[],
  to: string,
  transition: Exclude<Transition, { type: 'cut' | 'tween' }>,
  size: Size,
  origins: ReadonlyMap<string, Placed>
): Way[] {
  const at = onScreen.findIndex((placed) => placed.frame === to);
  if (at >= 0 && transition.type !== 'dissolve' && transition.type !== 'push') return backTracks(onScreen, at, size, origins);
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
  const free = easingOf(motion.easing)(Math.max(0, ms - motion.delay) / (motion.ms - motion.delay));
  const eased = motion.isBounded ? Math.min(1, Math.max(0, free)) : free;
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

const trackOf = (from: Placed, to: Placed): Track => ({ frame: to.frame, from, to, origin: from });

/** A frame that is on screen comes to rest; what is in front of it goes back to where it came from, or fades where that is in sight. */
function backTracks(onScreen: readonly Placed[], at: number, size: Size, origins: ReadonlyMap<string, Placed>): Way[] {
  return onScreen.map((placed, i) => {
    if (i === at) return trackOf(placed, still(placed.frame));
    if (i < at) return trackOf(placed, placed);
    const origin = origins.get(placed.frame);
    return trackOf(placed, origin && isOutOfSight(origin, size) ? origin : { ...placed, opacity: 0 });
  });
}

const isOutOfSight = ({ x, y, opacity, cut }: Placed, { width, height }: Size) =>
  opacity === 0 || Math.abs(x) >= width || Math.abs(y) >= height || cut[0] + cut[2] >= width || cut[1] + cut[3] >= height;

/** The new frame fades in over the rest; if it is on screen already it grows opaque and what is in front of it fades out. */
function dissolveTracks(onScreen: readonly Placed[], to: string): Way[] {
  const at = onScreen.findIndex((placed) => placed.frame === to);
  const tracks = onScreen.map((placed, i) => {
    if (i === at) return trackOf(placed, still(to));
    return trackOf(placed, at >= 0 && i > at ? { ...placed, opacity: 0 } : placed);
  });
  if (at < 0) tracks.push(trackOf({ ...still(to), opacity: 0 }, still(to)));
  return tracks;
}

/** All frames move together by as much as brings the new one to rest; it comes in next to the outermost one. */
function pushTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Way[] {
  const there = onScreen.find((placed) => placed.frame === to);
  const incoming = there ?? enteringFrom(onScreen, to, direction, size);
  return [...onScreen, ...(there ? [] : [incoming])].map((placed) => {
    if (placed.frame === to) return trackOf(placed, still(to));
    const moved = { ...placed, x: placed.x - incoming.x, y: placed.y - incoming.y };
    // In the middle of another kind of change it may not be moved out of sight by that.
    return trackOf(placed, there && !isOutOfSight(moved, size) ? { ...moved, opacity: 0 } : moved);
  });
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
function coverTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Way[] {
  const way = vectorOf[direction];
  const others = onScreen.map((placed) => trackOf(placed, placed));
  return [...others, trackOf({ ...still(to), x: -way.x * size.width || 0, y: -way.y * size.height || 0 }, still(to))];
}

/** The others move out of the view and show the new frame behind them. */
function uncoverTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Way[] {
  const way = vectorOf[direction];
  const others = onScreen.map((placed) =>
    trackOf(placed, { ...placed, x: way.x === 0 ? placed.x : way.x * size.width, y: way.y === 0 ? placed.y : way.y * size.height })
  );
  return [trackOf(still(to), still(to)), ...others];
}

/** An edge runs across in the direction and leaves the new frame behind it. */
function wipeTracks(onScreen: readonly Placed[], to: string, direction: Direction, size: Size): Way[] {
  const others = onScreen.map((placed) => trackOf(placed, placed));
  const { width, height } = size;
  const hidden = { left: [width, 0, 0, 0], right: [0, 0, width, 0], up: [0, height, 0, 0], down: [0, 0, 0, height] } as const;
  return [...others, trackOf({ ...still(to), cut: hidden[direction] }, still(to))];
}
