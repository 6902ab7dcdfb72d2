import { onceFor } from '../once.ts';
import { walksOf } from '../edit/commands/walks.ts';
import type { Program } from '../program/program.ts';
import type { Point } from '../program/geometry.ts';
import { HEARD } from '../run/heard.ts';
import { besideOf, groundOf, offPressed, reachOf } from '../run/reach.ts';
import { SWIPE_TIME } from '../run/pointer.ts';
import { waitsFor } from '../vocabulary/cues/all.ts';
import { boundsOf, resolveScreen, type Screen, type Shown } from '../run/resolve.ts';
import { advance, start } from '../run/run.ts';
import type { Report, RunEvent, RunState } from '../run/state.ts';
import type { Timing } from '../fields/step-fields.ts';
import type { Transition } from '../vocabulary/transitions/all.ts';
import { isLoose } from '../vocabulary/layers/all.ts';
import { auditOf } from './audited.ts';
import { eventWords } from '../walk/event-words.ts';
import { planRoutes } from '../walk/plan.ts';

/** Walks as others can do them again: what is done where on the screen, and what is to be seen after it. */

/** A point as shares of a box: of a layer, of the scene where no layer is named, or of all that is seen where no scene is. */
export interface PointOn {
  readonly layer: string | null;
  readonly scene: string | null;
  readonly x: number;
  readonly y: number;
}

export interface ScriptStep {
  readonly event: RunEvent;
  readonly words: string;
  /** Where a pointer goes for it. */
  readonly at: PointOn | null;
  /** How far the wheel is turned first, over which point, so that it can be seen; CSS px of the frame. */
  readonly wheel: { readonly over: PointOn; readonly dx: number; readonly dy: number } | null;
  /** So long it takes until what it moves has come to rest; it passes before anything is looked at, ms. */
  readonly rests: number;
  /** Null in the middle of what is done without waiting for what moves. */
  readonly seen: Seen | null;
}

/** What is on the screen once it has come to rest. */
export interface Seen {
  /** The frame, sheets it carries and frames laid over it, by id and by name. */
  readonly scenes: readonly string[];
  readonly frame: string;
  readonly laid: readonly string[];
  /** Texts that this step made others, by the keys of their layers. */
  readonly texts: readonly (readonly [key: string, text: string])[];
}

export interface WalkScript {
  readonly name: string;
  readonly from: string;
  readonly begins: Seen;
  readonly steps: readonly ScriptStep[];
}

export interface WalkScripts {
  readonly scripts: readonly WalkScript[];
  /** Walks that cannot be done from outside, and why; branches that no route was found for; what was cut of exploring. */
  readonly leftOut: readonly string[];
}

/** Kept walks first, then routes that together fire every branch that was found to fire. */
export const walkScripts = onceFor((program: Program): WalkScripts => {
  const { exploration } = auditOf(program.piece);
  const { routes, missed } = planRoutes(program, exploration);
  const wanted = [
    ...walksOf(program.piece.head).map(({ name, from, steps }) => ({ name, from, events: steps.map(({ event }) => event as RunEvent) })),
    ...routes.map(({ from, events }, i) => ({ name: `Route ${i + 1}`, from, events })),
  ];
  const scripts: WalkScript[] = [];
  const leftOut: string[] = [];
  for (const { name, from, events } of wanted) {
    const alien = events.find((event) => event.type === 'jump' || (event.type === 'media' && event.what === 'started'));
    const script = alien ? null : (scriptOf(program, name, from, events, false) ?? scriptOf(program, name, from, events, true));
    if (script) scripts.push(script);
    else
      leftOut.push(alien ? `${name}: nobody can do this from outside: ${eventWords(program, alien)}` : `${name}: not all of it can be done by hand`);
  }
  if (missed.length) leftOut.push(`${missed.length} branches that can fire are on no route`);
  if (exploration.cut !== null) leftOut.push(`what lies beyond where exploring was cut: ${exploration.cut}`);
  return { scripts, leftOut };
});

/**
 * A walk step by step, each looked at once it has come to rest. In a hurry one follows the other at once, as where something is there only
 * for a moment: then points are of the screen, for layers are on their way, and only the end is looked at. Null where a
 * pointer cannot get at something that way.
 */
function scriptOf(program: Program, name: string, from: string, events: readonly RunEvent[], isHurried: boolean): WalkScript | null {
  const begun = start(program, from);
  if (!begun) return null;
  let run = advance(program, begun, { type: 'wait', ms: REST }).run;
  let screen = resolveScreen(program, run);
  const begins = seenOn(program, run, null, screen);
  const steps: ScriptStep[] = [];
  const all = doneByHand(program, events);
  let isDown = false;
  for (let i = 0; i < all.length; i++) {
    // What was pressed may be gone from under the finger, which has to be lifted all the same before it presses again.
    if (isDown && !run.pressed && isPointed(all[i]!)) all.splice(i, 0, { type: 'let-go', where: 'elsewhere' });
    const event = all[i]!;
    if (event.type === 'hold' || event.type === 'let-go') isDown = event.type === 'hold';
    const before: RunState = run;
    const isLast = i === all.length - 1;
    const done = advance(program, before, event);
    const rests = isHurried && !isLast ? 0 : motionOf(program, done.reports);
    run = advance(program, done.run, { type: 'wait', ms: rests }).run;
    const wheel = wheelFor(event, before, done.run);
    const spot = spotFor(program, wheel ? scrolledAs(before, done.run) : before, event);
    if (spot === 'nowhere') return null;
    const after = resolveScreen(program, run);
    const inView = ({ x, y }: Point): PointOn => ({ layer: null, scene: null, x: x / screen.width, y: y / screen.height });
    steps.push({
      event,
      words: eventWords(program, event),
      at: spot && (isHurried ? inView(spot.point) : spot.on),
      wheel: wheel && { over: { layer: wheel.group, scene: wheel.scene, x: 0.5, y: 0.5 }, dx: wheel.dx, dy: wheel.dy },
      rests,
      seen: isHurried && !isLast ? null : seenOn(program, run, screen, after),
    });
    if (!isHurried || isLast) screen = after;
  }
  return { name, from, begins, steps };
}

/** Whether a pointer goes somewhere for an event. */
const isPointed = ({ type }: RunEvent): boolean => type in HEARD || type === 'beside' || type === 'scroll';

/** What is let go elsewhere is held until that is no swipe any more, where anybody waits for one. */
function doneByHand({ piece }: Program, events: readonly RunEvent[]): RunEvent[] {
  const isSwiped = [...piece.threads.values()].some(({ enabled, cue }) => enabled && waitsFor(cue, 'swipe'));
  const late: RunEvent = { type: 'wait', ms: SWIPE_TIME + 1 };
  return events.flatMap((event) => (isSwiped && event.type === 'let-go' && event.where === 'elsewhere' ? [late, event] : [event]));
}

/** Looks come and go within this, ms. */
export const REST = 200;

/** How long what was started goes on moving, ms. */
function motionOf(program: Program, reports: readonly Report[]): number {
  const steps = reports.flatMap(({ fired }) =>
    fired.flatMap(({ thread, branch }) => program.piece.threads.get(thread)?.branches[branch]?.steps ?? [])
  );
  return (
    Math.max(
      0,
      ...steps.map((step) => Math.max('transition' in step ? lastsFor(step.transition) : 0, 'timing' in step ? lastsFor(step.timing) : 0))
    ) + REST
  );
}

/** One after the other, so many layers, or so far from each other (px), are counted on. */
const STAGGERED = { order: 30, distance: 12 } as const;

const lastsFor = (how: Timing | Transition | undefined): number => {
  if (!how || !('ms' in how)) return 0;
  const { ms, delay = 0, stagger } = how;
  return ms + delay + (stagger ? stagger.ms * STAGGERED[stagger.by] : 0);
};

function seenOn(program: Program, run: RunState, before: Screen | null, after: Screen): Seen {
  const nameOf = (id: string) => program.piece.scenes.get(id)?.name ?? id;
  const was = new Map(before ? textsOn(before) : []);
  return {
    scenes: after.surfaces.map(({ scene }) => scene),
    frame: nameOf(run.frame),
    laid: run.overlays.map(({ frame }) => nameOf(frame)),
    texts: before ? textsOn(after).filter(([key, text]) => was.has(key) && was.get(key) !== text) : [],
  };
}

const textsOn = (screen: Screen): [string, string][] =>
  screen.surfaces.flatMap(({ all }) =>
    all.flatMap(({ node, text }): [string, string][] => (text !== undefined && node.layer.type !== 'field' ? [[node.key, text]] : []))
  );

interface Wheel {
  readonly scene: string;
  readonly group: string | null;
  readonly dx: number;
  readonly dy: number;
}

/** What is scrolled by an event: on purpose, or so that what it is about can be got at. */
function wheelFor(event: RunEvent, before: RunState, after: RunState): Wheel | null {
  if (!('layer' in event)) return null;
  for (const [scene, root] of Object.entries(after.roots)) {
    const old = before.roots[scene];
    if (!old) continue;
    for (const [group, { x, y }] of Object.entries(root.scroll)) {
      const was = old.scroll[group] ?? { x: 0, y: 0 };
      if (was.x !== x || was.y !== y) return { scene, group: group || null, dx: x - was.x, dy: y - was.y };
    }
  }
  return null;
}

/** A run in which everything is scrolled as in another one. */
const scrolledAs = (run: RunState, other: RunState): RunState => ({
  ...run,
  roots: Object.fromEntries(Object.entries(run.roots).map(([id, root]) => [id, { ...root, scroll: other.roots[id]?.scroll ?? root.scroll }])),
});

interface Spot {
  readonly point: Point;
  readonly on: PointOn;
}

/** Where a pointer goes for an event; null where it takes none, `nowhere` where there is no such place. */
function spotFor(program: Program, run: RunState, event: RunEvent): Spot | null | 'nowhere' {
  const screen = resolveScreen(program, run);
  const onScene = (scene: string, point: Point | null | undefined): Spot | 'nowhere' => {
    const surface = screen.surfaces.find((one) => one.scene === scene) ?? screen.surfaces[0];
    if (!surface || !point) return 'nowhere';
    return { point, on: { layer: null, scene: surface.scene, x: (point.x - surface.x) / surface.width, y: (point.y - surface.y) / surface.height } };
  };
  if (event.type === 'let-go') return event.where === 'there' ? null : onScene(run.frame, offPressed({ program, run }));
  if (event.type === 'beside') return onScene(run.frame, besideOf({ program, run }));
  if (!('layer' in event) || event.type === 'focus' || event.type === 'value' || event.type === 'media' || event.type === 'scroll') return null;
  if (event.layer === null) {
    const scene = ('scene' in event && event.scene) || run.frame;
    return onScene(scene, event.type === 'drag' || event.type === 'hover' ? null : groundOf({ program, run }, scene, HEARD[event.type])?.point);
  }
  const found = shownOn(screen, event.layer);
  if (!found) return 'nowhere';
  const reached = reachOf({ program, run }, found.shown.node, HEARD[event.type]);
  if (!('point' in reached)) return 'nowhere';
  const { point } = reached;
  // What stands in a group may lie outside of its own box, so the point is said on the scene then.
  if (isLoose(found.shown.node.layer)) return onScene(found.scene, point);
  const box = boundsOf(found.shown);
  const share = (at: number, from: number, size: number) => (size > 0 ? (at - from) / size : 0.5);
  return { point, on: { layer: event.layer, scene: found.scene, x: share(point.x, box.x, box.width), y: share(point.y, box.y, box.height) } };
}

function shownOn(screen: Screen, key: string): { readonly scene: string; readonly shown: Shown } | null {
  for (const { scene, all } of screen.surfaces) {
    const shown = all.find(({ node }) => node.key === key);
    if (shown) return { scene, shown };
  }
  return null;
}
