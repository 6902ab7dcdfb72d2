import type { Timing } from '../fields/step-fields.ts';
import { transitionKinds, type TimedTransition, type Transition } from '../vocabulary/transitions/all.ts';
import { isOutOfSight, still, wayOf, type Placed, type Size, type Way } from '../vocabulary/transitions/moving.ts';
import { easingOf } from './easing.ts';

export { still, type Placed, type Size } from '../vocabulary/transitions/moving.ts';

interface Track extends Way {
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

/**
 * Starts a change to a frame from whatever is on screen, which may be the middle of another change (`running`): nothing jumps.
 * A frame that is on screen already comes back to rest in the part of the time that its way is of a whole one. `size` is the box the
 * piece is shown in, in CSS pixels of the piece. What has
 * its layers move has its frames stand still.
 */
export function startMotion(
  onScreen: readonly Placed[],
  to: string,
  transition: Transition,
  size: Size,
  running: FrameMotion | null = null
): FrameMotion {
  if (transition.type === 'cut' || !transitionKinds[transition.type].ways || transition.ms <= 0) return atOnce(to, [wayOf(still(to), still(to))]);
  const { easing, delay = 0 } = transition;
  const origins = new Map(running?.tracks.map((track) => [track.frame, track.origin]));
  const tracks = waysOf(onScreen, to, transition, size, origins).map((track) => ({ ...track, origin: origins.get(track.frame) ?? track.from }));
  const isBack = onScreen.some((placed) => placed.frame === to);
  const ms = isBack ? transition.ms * Math.max(...tracks.map((track) => shareOf(track, size))) : transition.ms;
  return { to, ms: ms > 0 ? ms + delay : 0, delay, easing, isBounded: transitionKinds[transition.type].isBounded === true, tracks };
}

const atOnce = (to: string, ways: readonly Way[]): FrameMotion => ({
  to,
  ms: 0,
  delay: 0,
  easing: 'linear',
  isBounded: true,
  tracks: ways.map((way) => ({ ...way, origin: way.from })),
});

/** How much of a whole way a frame has before it, 0 to 1. */
function shareOf({ from, to }: Way, { width, height }: Size): number {
  const shares = [
    Math.abs(to.x - from.x) / width,
    Math.abs(to.y - from.y) / height,
    Math.abs(to.opacity - from.opacity),
    ...from.cut.map((cut, i) => Math.abs(to.cut[i]! - cut) / (i % 2 ? height : width)),
  ];
  return Math.min(1, Math.max(...shares));
}

function waysOf(onScreen: readonly Placed[], to: string, transition: TimedTransition, size: Size, origins: ReadonlyMap<string, Placed>): Way[] {
  const kind = transitionKinds[transition.type];
  const at = onScreen.findIndex((placed) => placed.frame === to);
  if (at >= 0 && !kind.bringsBack) return waysBack(onScreen, at, size, origins);
  return kind.ways!(onScreen, { to, direction: directionOf(transition), size });
}

/** The side that a transition is about; the left where it is about none. */
const directionOf = (transition: TimedTransition) => ('direction' in transition ? transition.direction : 'left');

/** How a frame that was laid over leaves the view: the way it came backwards. */
export function lifting(frame: string, transition: TimedTransition, size: Size): FrameMotion {
  const { lifted, ways } = transitionKinds[transition.type];
  const [from, direction] = [still(frame), directionOf(transition)];
  const out = transitionKinds.uncover.ways!([from], { to: NOTHING, direction, size }).find((way) => way.frame === frame)!;
  const way = lifted ? wayOf(from, lifted(from, direction, size)) : out;
  const { ms, easing, delay = 0 } = transition;
  if (!ways || ms <= 0) return atOnce(NOTHING, []);
  return { to: NOTHING, ms: ms + delay, delay, easing, isBounded: false, tracks: [{ ...way, origin: from }] };
}

const NOTHING = '';

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
  transition.type === 'cut' || transitionKinds[transition.type].isStill ? transition : dissolving(transition);

/** A dissolve in the same time. */
export const dissolving = (transition: Timing): TimedTransition => ({ type: 'dissolve', ...timingOf(transition) });

/** What takes the place of a transition that has its layers move, where there are none to move. */
export const ofWhole = (transition: Transition): Transition =>
  transition.type !== 'cut' && transitionKinds[transition.type].movesLayers ? dissolving(transition) : transition;

export const timingOf = ({ ms, easing, delay, stagger }: Timing): Timing => ({
  ms,
  easing,
  ...(delay !== undefined && { delay }),
  ...(stagger && { stagger }),
});

const between = (a: number, b: number, t: number) => (t === 0 ? a : t === 1 ? b : a + (b - a) * t);

/** A frame that is on screen comes to rest; what is in front of it goes back to where it came from, or fades where that is in sight. */
function waysBack(onScreen: readonly Placed[], at: number, size: Size, origins: ReadonlyMap<string, Placed>): Way[] {
  return onScreen.map((placed, i) => {
    if (i === at) return wayOf(placed, still(placed.frame));
    if (i < at) return wayOf(placed, placed);
    const origin = origins.get(placed.frame);
    return wayOf(placed, origin && isOutOfSight(origin, size) ? origin : { ...placed, opacity: 0 });
  });
}
