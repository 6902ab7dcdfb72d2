import type { Transition } from '../steps/schemas.ts';
import { vectorOf } from '../transitions/directions.ts';
import { parseEasing } from './easing.ts';

/** A frame as it is on screen: moved by x and y in CSS pixels of the piece, and more or less opaque. Later ones are in front. */
export interface Surface {
  readonly frame: string;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
}

interface Track {
  readonly frame: string;
  readonly from: Surface;
  readonly to: Surface;
}

/** A change under way: every surface's way from where it was on screen, and the one that stays. */
export interface FrameMotion {
  readonly to: string;
  readonly ms: number;
  readonly easing: string;
  readonly tracks: readonly Track[];
}

export interface Size {
  readonly width: number;
  readonly height: number;
}

export const still = (frame: string): Surface => ({ frame, x: 0, y: 0, opacity: 1 });

/**
 * Starts a change to a frame from whatever is on screen, which may be the middle of another change: no surface jumps.
 * `size` is the box the piece is shown in, in CSS pixels of the piece.
 */
export function startMotion(onScreen: readonly Surface[], to: string, transition: Transition, size: Size): FrameMotion {
  if (transition.type === 'cut' || transition.ms <= 0) return { to, ms: 0, easing: 'linear', tracks: [trackOf(still(to), still(to))] };
  const { ms, easing } = transition;
  const tracks = transition.type === 'push' ? pushTracks(onScreen, to, transition.direction, size) : dissolveTracks(onScreen, to);
  return { to, ms, easing, tracks };
}

/** What is on screen `ms` milliseconds after a change began; after its end only the frame it leads to. */
export function surfacesAt(motion: FrameMotion, ms: number): Surface[] {
  if (ms >= motion.ms) return [still(motion.to)];
  const eased = (parseEasing(motion.easing) ?? ((t: number) => t))(Math.max(0, ms) / motion.ms);
  return motion.tracks.map(({ frame, from, to }) => ({
    frame,
    x: between(from.x, to.x, eased),
    y: between(from.y, to.y, eased),
    opacity: Math.min(1, Math.max(0, between(from.opacity, to.opacity, eased))),
  }));
}

/** With movement turned off a push becomes a dissolve of the same length. */
export const withoutMovement = (transition: Transition): Transition =>
  transition.type === 'push' ? { type: 'dissolve', ms: transition.ms, easing: transition.easing } : transition;

const between = (a: number, b: number, t: number) => (t === 0 ? a : t === 1 ? b : a + (b - a) * t);

const trackOf = (from: Surface, to: Surface): Track => ({ frame: to.frame, from, to });

/** The new frame fades in over the rest; if it is on screen already it grows opaque and what is in front of it fades out. */
function dissolveTracks(onScreen: readonly Surface[], to: string): Track[] {
  const at = onScreen.findIndex((surface) => surface.frame === to);
  const tracks = onScreen.map((surface, i) => {
    if (i === at) return trackOf(surface, still(to));
    return trackOf(surface, at >= 0 && i > at ? { ...surface, opacity: 0 } : surface);
  });
  if (at < 0) tracks.push(trackOf({ ...still(to), opacity: 0 }, still(to)));
  return tracks;
}

/** All surfaces move together by as much as brings the new one to rest; it comes in next to the outermost one. */
function pushTracks(onScreen: readonly Surface[], to: string, direction: 'left' | 'right' | 'up' | 'down', size: Size): Track[] {
  const way = vectorOf[direction];
  const there = onScreen.find((surface) => surface.frame === to);
  const incoming = there ?? enteringFrom(onScreen, to, way, size);
  const tracks = onScreen
    .filter((surface) => surface.frame !== to)
    .map((surface) => trackOf(surface, { ...surface, x: surface.x - incoming.x, y: surface.y - incoming.y }));
  return [...tracks, trackOf(incoming, still(to))];
}

function enteringFrom(onScreen: readonly Surface[], to: string, way: { x: number; y: number }, size: Size): Surface {
  const along = onScreen.map((surface) => -(surface.x * way.x + surface.y * way.y));
  const outermost = Math.max(0, ...along);
  const lead = onScreen[along.indexOf(outermost)] ?? { x: 0, y: 0 };
  return {
    frame: to,
    x: way.x === 0 ? lead.x : -way.x * (outermost + size.width),
    y: way.y === 0 ? lead.y : -way.y * (outermost + size.height),
    opacity: 1,
  };
}
