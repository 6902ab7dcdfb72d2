import type { Effect } from '../run/state.ts';
import { boundsOf, changedByLooks, type Screen, type Shown, type Surface } from '../run/resolve.ts';
import { centerOf, type Point } from '../program/geometry.ts';
import type { Timing } from '../fields/step-fields.ts';
import { transitionKinds, type Transition } from '../vocabulary/transitions/all.ts';
import type { LookName } from '../piece/schema.ts';
import { clear } from './color.ts';
import { easingOf } from './easing.ts';
import { lifting, ofWhole, placedAt, startMotion, still, timingOf, withoutMovement, type FrameMotion, type Placed } from './frames.ts';
import { pairsOf } from './pairs.ts';
import { mixValue, type ValueName } from './mix.ts';
import { changedNames, MOVING, valuesOf, type Values } from './values.ts';

/**
 * Presenting: from settled screens to what is on the screen at any moment. Pure: a presentation is a value that can be asked
 * for any time, so a change can be scrubbed, interrupted and exported. Times are milliseconds of one clock.
 */

interface Track {
  readonly name: ValueName;
  readonly from: number | string | undefined;
  readonly to: number | string | undefined;
  readonly start: number;
  readonly ms: number;
  readonly easing: string;
}

/** A layer that is no longer there and fades away where it was. */
interface Ghost {
  readonly shown: Shown;
  readonly scene: string;
  /** The key of the layer it fades in; null for the scene itself. */
  readonly parent: string | null;
  readonly values: Values;
  /** Where it goes while it fades; null where it stays. */
  readonly toward: Values | null;
  readonly start: number;
  readonly ms: number;
  readonly easing: string;
}

interface Sliding {
  readonly surface: Surface;
  readonly motion: FrameMotion;
  readonly began: number;
  readonly isLeaving: boolean;
}

export interface Presentation {
  readonly screen: Screen;
  readonly tracks: ReadonlyMap<string, readonly Track[]>;
  readonly ghosts: readonly Ghost[];
  /** The change from frame to frame, and the frames in it. */
  readonly frames: { readonly motion: FrameMotion; readonly began: number; readonly surfaces: ReadonlyMap<string, Surface> } | null;
  readonly ground: { readonly scene: string; readonly track: Track } | null;
  readonly overlays: readonly Sliding[];
  /** When everything is at rest. */
  readonly until: number;
}

/** A scene on the screen at a moment. */
export interface Pictured {
  readonly surface: Surface;
  readonly x: number;
  readonly y: number;
  readonly opacity: number;
  readonly cut: Placed['cut'];
  readonly background: string | null;
  readonly scroll: Point;
  /** It takes part in nothing any more. */
  readonly isLeaving: boolean;
  /** Layers that fade away in it, by the layer they are in ('' is the scene). */
  readonly ghosts: ReadonlyMap<string, readonly { readonly shown: Shown; readonly values: Values }[]>;
}

/** The screen at a moment: scenes from back to front, and the values of those layers that are under way. */
export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly scenes: readonly Pictured[];
  readonly values: ReadonlyMap<string, Values>;
}

export const atRest = (screen: Screen): Presentation => ({
  screen,
  tracks: NO_TRACKS,
  ghosts: [],
  frames: null,
  ground: null,
  overlays: [],
  until: -Infinity,
});

const NO_TRACKS: ReadonlyMap<string, readonly Track[]> = new Map();

export interface PresentOptions {
  /** Movement is turned off: what would move fades or jumps instead. */
  readonly still?: boolean;
  /** Where staggering by distance counts from. */
  readonly pointer?: Point | null;
}

/** Goes on to a new settled screen, in the ways that effects ask for, from whatever is on the screen at `now`. */
export function present(old: Presentation, screen: Screen, effects: readonly Effect[], now: number, options: PresentOptions = {}): Presentation {
  return new Presenter(old, screen, options.still ? effects.map(stilled) : effects, now, options).run();
}

const stilled = (effect: Effect): Effect => ('transition' in effect ? { ...effect, transition: withoutMovement(effect.transition) } : effect);

const NONE: Timing = { ms: 0, easing: 'linear' };

class Presenter {
  private readonly tracks = new Map<string, readonly Track[]>();
  private readonly ghosts: Ghost[] = [];
  private until: number;

  constructor(
    private readonly old: Presentation,
    private readonly screen: Screen,
    private readonly effects: readonly Effect[],
    private readonly now: number,
    private readonly options: PresentOptions
  ) {
    this.until = now;
  }

  run(): Presentation {
    const { old, screen, now } = this;
    const go = this.effects.findLast((effect) => effect.type === 'go');
    // In the middle of another change of frames a tween would have to take layers out of what moves: it dissolves instead.
    const isTween = go?.type === 'go' && movesLayers(go.transition) && go.from !== go.to && !this.running;
    for (const ghost of old.ghosts) if (ghost.start + ghost.ms > now) this.keepGhost(ghost);
    for (const surface of screen.surfaces) {
      const before = old.screen.surfaces.find((one) => one.scene === surface.scene);
      if (before) this.compare(before, surface);
      else if (isTween && surface.kind === 'frame') this.tweenFrames(surface, timingOf(go.transition as Timing));
      else if (go?.type === 'go' && go.transition.type !== 'cut') this.rejoin(surface, timingOf(go.transition));
    }
    const frames = this.moveFrames(go?.type === 'go' ? go.transition : null);
    const overlays = this.moveOverlays();
    // What is on its way out goes on with what it was doing.
    for (const surface of frames?.surfaces.values() ?? []) if (surface.scene !== screen.frame) this.keepTracks(surface);
    for (const sliding of overlays) if (sliding.isLeaving) this.keepTracks(sliding.surface);
    const ground = isTween
      ? this.tweenGround(timingOf(go.transition as Timing))
      : old.ground && old.ground.track.start + old.ground.track.ms > now
        ? old.ground
        : null;
    if (ground) this.note(ground.track.start + ground.track.ms);
    return { screen, tracks: this.tracks, ghosts: this.ghosts, frames, ground, overlays, until: this.until };
  }

  /** The change from frame to frame that is under way. */
  private get running(): Presentation['frames'] {
    const { frames } = this.old;
    return frames && this.now < frames.began + frames.motion.ms ? frames : null;
  }

  private note(end: number): void {
    if (end > this.until) this.until = end;
  }

  private keepGhost(ghost: Ghost): void {
    this.ghosts.push(ghost);
    this.note(ghost.start + ghost.ms);
  }

  /** The values of a layer as they are on the screen just now. */
  private onScreen(shown: Shown): Values {
    return valuesAt(this.old.tracks.get(shown.node.key), valuesOf(shown), this.now);
  }

  // ── layers of a scene that stays ─────────────────────────────────────────────

  private compare(before: Surface, after: Surface): void {
    if (before === after) return this.keepTracks(after);
    const olds = new Map(before.all.map((shown) => [shown.node.key, shown]));
    const changed: Change[] = [];
    const fading = new Set<Shown>();
    for (const shown of after.all) {
      const old = olds.get(shown.node.key);
      olds.delete(shown.node.key);
      if (old === shown) {
        this.keep(shown.node.key, null);
        continue;
      }
      if (!old) {
        const { timing } = this.howOf(shown, after.scene, null);
        const isInner = shown.parent !== null && !before.all.some((one) => one.node.key === shown.parent!.node.key);
        if (timing.ms > 0 && !isInner) changed.push({ shown, from: { ...valuesOf(shown), opacity: 0 }, names: ['opacity'], timing });
        continue;
      }
      const names = changedNames(valuesOf(old), valuesOf(shown));
      const reworded = isReworded(old, shown);
      if (names.length === 0 && !reworded && old.asset === shown.asset) {
        this.keep(shown.node.key, null);
        continue;
      }
      const how = this.howOf(shown, after.scene, old);
      if (how.fades && how.timing.ms > 0) {
        // The new one fades in where it is, the old one out where it was; what is in it goes along.
        fading.add(shown);
        if (isAround(fading, shown)) continue;
        this.ghost(old, after.scene, shown.parent?.node.key ?? null, this.onScreen(old), how.timing);
        changed.push({ shown, from: { ...valuesOf(shown), opacity: 0 }, names: ['opacity'], timing: how.timing });
      } else changed.push(this.movedBy(old, shown, reworded, names, how.timing, after.scene));
    }
    this.startTracks(changed);
    this.fadeGone(olds, after);
    if (before.scroll.x !== after.scroll.x || before.scroll.y !== after.scroll.y) this.moveScroll(before, after);
    else this.keep(`#${after.scene}`, null);
  }

  /** What of a layer is on its way, what a look changes in the time of the look. Words that are swapped fade over each other. */
  private movedBy(old: Shown, shown: Shown, reworded: boolean, names: readonly ValueName[], timing: Timing, scene: string): Change {
    const from = this.onScreen(old);
    const look =
      old.node !== shown.node || old.looks === shown.looks
        ? null
        : { names: lookNames(old, shown), timing: shown.lookTiming ?? old.lookTiming ?? LOOK };
    const change = { shown, from, names, timing, look };
    if (!reworded || this.options.still || (look?.timing ?? timing).ms <= 0) return change;
    const how = look && timing.ms <= 0 ? look.timing : timing;
    this.ghosts.push({
      shown: wordsOf(old),
      scene,
      parent: shown.parent?.node.key ?? null,
      values: from,
      toward: valuesOf(shown),
      start: this.now + (how.delay ?? 0),
      ms: how.ms,
      easing: how.easing,
    });
    this.note(this.now + (how.delay ?? 0) + how.ms);
    return { ...change, from: { ...from, ink: clear(valuesOf(shown).ink!) }, names: [...new Set([...names, 'ink' as const])], words: how };
  }

  private keepTracks(surface: Surface): void {
    for (const shown of surface.all) this.keep(shown.node.key, null);
    this.keep(`#${surface.scene}`, null);
  }

  /** Keeps what is under way of a layer, except for names that start anew. */
  private keep(key: string, except: ReadonlySet<ValueName> | null): readonly Track[] {
    const running = this.old.tracks.get(key)?.filter((track) => track.start + track.ms > this.now && !except?.has(track.name));
    if (!running?.length) return [];
    for (const track of running) this.note(track.start + track.ms);
    this.tracks.set(key, running);
    return running;
  }

  /** Starts what has changed. In a scene that began anew nothing of an earlier visit goes on. */
  private startTracks(changed: readonly Change[], isNew = false): void {
    changed.forEach(({ shown, from, names, timing, look, words }, i) => {
      const kept = isNew ? [] : this.keep(shown.node.key, new Set(names));
      const to = valuesOf(shown);
      const begun = names.flatMap((name): Track[] => {
        const how = (name === 'ink' && words) || this.tweenOf(shown.node.key, name) || (look?.names.has(name) ? look.timing : timing);
        if (how.ms <= 0 || (this.options.still && MOVING.has(name)) || from[name] === to[name]) return [];
        const start = this.now + (how.delay ?? 0) + this.staggerOf(how, shown, i);
        this.note(start + how.ms);
        return [{ name, from: from[name], to: to[name], start, ms: how.ms, easing: how.easing }];
      });
      if (begun.length || kept.length) this.tracks.set(shown.node.key, [...kept, ...begun]);
    });
  }

  /** The time that a step gave to a number of a layer. */
  private tweenOf(key: string, name: ValueName): Timing | null {
    const effect = this.effects.findLast((one) => one.type === 'tween' && one.of === key && one.names.includes(name));
    return effect?.type === 'tween' ? effect.timing : null;
  }

  /** By order: one after the other as they are painted; by distance: per 100 px from the pointer, or from the corner. */
  private staggerOf({ stagger }: Timing, shown: Shown, at: number): number {
    if (!stagger) return 0;
    if (stagger.by === 'order') return at * stagger.ms;
    const { x, y } = centerOf(boundsOf(shown));
    const from = this.options.pointer ?? { x: 0, y: 0 };
    return (Math.hypot(x - from.x, y - from.y) / 100) * stagger.ms;
  }

  /** How a layer's change is shown: by the effect nearest to it, else by the look that came or went, else at once. */
  private howOf(shown: Shown, scene: string, old: Shown | null): { readonly timing: Timing; readonly fades: boolean } {
    let best: Timing | null = null;
    let fades = false;
    let nearest = -1;
    for (const effect of this.effects) {
      if (effect.type !== 'show') continue;
      const isIt = effect.of === shown.node.key;
      const isIn = shown.node.key.startsWith(`${effect.of}/`) || isUnderKey(shown, effect.of);
      if (!isIt && !isIn && effect.of !== scene) continue;
      const near = isIt ? 1e6 : effect.of === scene ? 0 : effect.of.length;
      if (near < nearest) continue;
      nearest = near;
      best = effect.transition.type === 'cut' ? NONE : timingOf(effect.transition);
      fades = effect.transition.type !== 'cut' && !movesLayers(effect.transition) && !this.options.still;
    }
    if (best) return { timing: best, fades };
    const isByLook = old ? old.looks !== shown.looks : changedByLooks(shown.node).has('hidden');
    return { timing: isByLook ? (shown.lookTiming ?? old?.lookTiming ?? LOOK) : NONE, fades: false };
  }

  private fadeGone(gone: ReadonlyMap<string, Shown>, surface: Surface): void {
    for (const shown of gone.values()) {
      if (shown.parent && gone.has(shown.parent.node.key)) continue;
      const { timing } = this.howOf(shown, surface.scene, null);
      if (timing.ms > 0) this.ghost(shown, surface.scene, shown.parent?.node.key ?? null, this.onScreen(shown), timing);
    }
  }

  private ghost(shown: Shown, scene: string, parent: string | null, values: Values, timing: Timing): void {
    this.keepGhost({ shown, scene, parent, values, toward: null, start: this.now + (timing.delay ?? 0), ms: timing.ms, easing: timing.easing });
  }

  private moveScroll(before: Surface, after: Surface): void {
    const effect = this.effects.findLast((one) => one.type === 'tween' && one.of === after.scene);
    const key = `#${after.scene}`;
    if (effect?.type !== 'tween' || this.options.still) return;
    const from = scrollAt(this.old, before, this.now);
    const start = this.now + (effect.timing.delay ?? 0);
    this.tracks.set(key, [
      { name: 'scrollX', from: from.x, to: after.scroll.x, start, ms: effect.timing.ms, easing: effect.timing.easing },
      { name: 'scrollY', from: from.y, to: after.scroll.y, start, ms: effect.timing.ms, easing: effect.timing.easing },
    ]);
    this.note(start + effect.timing.ms);
  }

  // ── from frame to frame ──────────────────────────────────────────────────────

  /** Layers that both frames have go from pose to pose; what only one has fades. */
  private tweenFrames(surface: Surface, timing: Timing): void {
    const before = this.old.screen.surfaces.find((one) => one.kind === 'frame');
    if (!before) return;
    const { pairs, left } = pairsOf(before, surface);
    this.moveGhosts(before.scene, surface, pairs);
    const changed = surface.all.flatMap((shown): Change[] => {
      const old = pairs.get(shown);
      if (old) {
        const names = changedNames(this.onScreen(old), valuesOf(shown));
        return [this.movedBy(old, shown, isReworded(old, shown), names, timing, surface.scene)];
      }
      const isInner = shown.parent !== null && !pairs.has(shown.parent);
      if (isInner) return [];
      // What is still fading away comes back from there.
      const ghost = this.ghosts.findIndex((one) => one.shown.node.key === shown.node.key);
      const from = ghost < 0 ? { ...valuesOf(shown), opacity: 0 } : ghostValues(this.ghosts.splice(ghost, 1)[0]!, this.now);
      return [{ shown, from, names: changedNames(from, valuesOf(shown)), timing }];
    });
    this.startTracks(changed, true);
    for (const { shown, into } of left) this.ghost(shown, surface.scene, into, this.onScreen(shown), timing);
  }

  /** What fades away in a frame that is tweened from goes on doing so in the one that is tweened to. */
  private moveGhosts(from: string, surface: Surface, pairs: ReadonlyMap<Shown, Shown>): void {
    const places = new Map([...pairs].map(([shown, old]) => [old.node.key, shown.node.key]));
    const moved = this.ghosts.splice(0).flatMap((ghost): Ghost[] => {
      if (ghost.scene !== from) return [ghost];
      const parent = ghost.parent === null ? null : places.get(ghost.parent);
      return parent === undefined ? [] : [{ ...ghost, scene: surface.scene, parent }];
    });
    this.ghosts.push(...moved);
  }

  /** A frame that comes back while it is still on its way out: it began anew, so its layers go from where they are to where they begin. */
  private rejoin(surface: Surface, timing: Timing): void {
    const leaving = this.running?.surfaces.get(surface.scene);
    if (!leaving) return;
    const olds = new Map(leaving.all.map((shown) => [shown.node.key, shown]));
    const changed = surface.all.flatMap((shown) => {
      const old = olds.get(shown.node.key);
      if (!old) return [];
      const from = this.onScreen(old);
      const names = changedNames(from, valuesOf(shown));
      return names.length ? [{ shown, from, names, timing }] : [];
    });
    this.startTracks(changed, true);
  }

  private tweenGround(timing: Timing): Presentation['ground'] {
    const [before, after] = [this.old.screen, this.screen].map((screen) => screen.surfaces.find((surface) => surface.kind === 'frame'));
    const from = before && groundOf(this.old, before, this.now);
    const to = after?.background;
    if (!from || !to || from === to) return null;
    return { scene: after.scene, track: { name: 'fill', from, to, start: this.now + (timing.delay ?? 0), ms: timing.ms, easing: timing.easing } };
  }

  private moveFrames(transition: Transition | null): Presentation['frames'] {
    const { old, screen, now } = this;
    const { running } = this;
    const to = screen.surfaces.find((surface) => surface.kind === 'frame');
    if (!to) return null;
    if (!transition || old.screen.frame === screen.frame) {
      if (!running) return null;
      this.note(running.began + running.motion.ms);
      return { ...running, surfaces: new Map(running.surfaces).set(screen.frame, to) };
    }
    const onScreen = running ? placedAt(running.motion, now - running.began) : [still(old.screen.frame)];
    const way = running ? ofWhole(transition) : transition;
    const motion = startMotion(onScreen, screen.frame, way, screen, running?.motion);
    if (motion.ms <= 0) return null;
    const surfaces = new Map(running?.surfaces);
    const before = old.screen.surfaces.find((surface) => surface.kind === 'frame');
    if (before) surfaces.set(before.scene, before);
    surfaces.set(screen.frame, to);
    this.note(now + motion.ms);
    return { motion, began: now, surfaces };
  }

  // ── frames laid over ─────────────────────────────────────────────────────────

  private moveOverlays(): Sliding[] {
    const { old, screen, now } = this;
    const found = old.overlays.filter(
      (sliding) =>
        now < sliding.began + sliding.motion.ms && (sliding.isLeaving || screen.surfaces.some((surface) => surface.scene === sliding.surface.scene))
    );
    for (const effect of this.effects) {
      if (effect.type !== 'lay' && effect.type !== 'lift') continue;
      const isLeaving = effect.type === 'lift';
      const surface = (isLeaving ? old.screen : screen).surfaces.find((one) => one.scene === effect.frame);
      const transition = ofWhole(effect.transition);
      if (!surface || transition.type === 'cut') continue;
      const motion = isLeaving ? lifting(surface.scene, transition, screen) : startMotion([], surface.scene, transition, screen);
      const others = found.filter((sliding) => sliding.surface.scene !== surface.scene);
      found.splice(0, found.length, ...others, { surface, motion, began: now, isLeaving });
    }
    for (const sliding of found) this.note(sliding.began + sliding.motion.ms);
    return found;
  }
}

const LOOK: Timing = { ms: 120, easing: 'ease' };

/** What of a layer starts anew, from what, and in which times. */
interface Change {
  readonly shown: Shown;
  readonly from: Values;
  readonly names: readonly ValueName[];
  readonly timing: Timing;
  /** What a look that came or went changes of it. */
  readonly look?: { readonly names: ReadonlySet<ValueName>; readonly timing: Timing } | null;
  /** How its words come in. */
  readonly words?: Timing;
}

/** Whether a layer says something else. */
const isReworded = (old: Shown, shown: Shown) => old.text !== undefined && shown.text !== undefined && old.text !== shown.text;

/** Whether something around a layer is among those that fade. */
function isAround(fading: ReadonlySet<Shown>, shown: Shown): boolean {
  for (let at = shown.parent; at; at = at.parent) if (fading.has(at)) return true;
  return false;
}

/** A layer of which only the words are seen. */
function wordsOf(shown: Shown): Shown {
  const { fill: _fill, line: _line, shadow: _shadow, ...style } = shown.style;
  return { ...shown, style, asset: undefined, children: [] };
}

/** The names of what the looks change that only one of two moments of a layer has. */
function lookNames(old: Shown, shown: Shown): ReadonlySet<ValueName> {
  const [before, after] = [old, shown].map(({ looks }) => new Set(looks.split(' ')));
  const names = new Set<ValueName>();
  for (const look of new Set([...before!, ...after!]))
    if (look !== '' && before!.has(look) !== after!.has(look)) for (const name of namesOf(shown, look)) names.add(name);
  return names;
}

/** A look is said by its name; one of a group or placement around it has that one's key in front. */
function namesOf({ node }: Shown, look: string): ValueName[] {
  const dot = look.lastIndexOf('.');
  const outer = dot < 0 ? undefined : node.changedBy.find((one) => one.node.key === look.slice(0, dot));
  const name = look.slice(dot + 1) as LookName;
  const delta = outer ? outer.node.layer.looks?.[name]?.inside?.[outer.path] : node.layer.looks?.[name];
  const { line, shadow, ...style } = delta?.style ?? {};
  return [
    ...(Object.keys({ ...delta?.pose, ...style }) as ValueName[]),
    ...(line ? (['lineColor', 'lineWidth'] as const) : []),
    ...(shadow ? (['shadowX', 'shadowY', 'shadowBlur', 'shadowColor'] as const) : []),
    ...(delta?.letters?.size !== undefined ? (['size'] as const) : []),
    ...(delta?.path !== undefined ? (['path'] as const) : []),
  ];
}

function isUnderKey(shown: Shown, key: string): boolean {
  for (let at = shown.parent; at; at = at.parent) if (at.node.key === key) return true;
  return false;
}

const movesLayers = (transition: Transition) => transitionKinds[transition.type].movesLayers === true;

/** A share of the way that a track has come, eased; 0 before it starts and 1 from its end on. */
const progressOf = (track: Track, now: number): number => {
  const t = (now - track.start) / track.ms;
  return t <= 0 ? 0 : t >= 1 ? 1 : easingOf(track.easing)(t);
};

function valuesAt(tracks: readonly Track[] | undefined, settled: Values, now: number): Values {
  if (!tracks?.length) return settled;
  const values: Record<string, unknown> = { ...settled };
  for (const track of tracks) values[track.name] = mixValue(track.name, track.from, track.to, progressOf(track, now));
  return values as unknown as Values;
}

function scrollAt(presentation: Presentation, surface: Surface, now: number): Point {
  const tracks = presentation.tracks.get(`#${surface.scene}`);
  if (!tracks) return surface.scroll;
  const at = (name: 'scrollX' | 'scrollY', settled: number) => {
    const track = tracks.find((one) => one.name === name);
    return track ? (mixValue(name, track.from, track.to, progressOf(track, now)) as number) : settled;
  };
  return { x: at('scrollX', surface.scroll.x), y: at('scrollY', surface.scroll.y) };
}

/** What is on the screen at a moment. At or after `until` it is the settled screen itself. */
export function pictureAt(presentation: Presentation, now: number): Picture {
  const { screen, frames, overlays } = presentation;
  const values = new Map<string, Values>();
  const scenes: Pictured[] = [];
  const put = (surface: Surface, placed: Placed, isLeaving: boolean) => {
    if (now < presentation.until)
      for (const shown of surface.all) {
        const tracks = presentation.tracks.get(shown.node.key);
        if (tracks) values.set(shown.node.key, valuesAt(tracks, valuesOf(shown), now));
      }
    scenes.push({
      surface,
      x: surface.x + placed.x,
      y: surface.y + placed.y,
      opacity: placed.opacity,
      cut: placed.cut,
      background: groundOf(presentation, surface, now),
      scroll: scrollAt(presentation, surface, now),
      isLeaving,
      ghosts: ghostsAt(presentation, surface.scene, now),
    });
  };
  for (const surface of screen.surfaces) {
    if (surface.kind === 'frame' && frames && now < frames.began + frames.motion.ms) {
      for (const placed of placedAt(frames.motion, now - frames.began)) {
        const one = frames.surfaces.get(placed.frame);
        if (one) put(placed.frame === screen.frame ? surface : one, placed, placed.frame !== screen.frame);
      }
      continue;
    }
    const sliding = overlays.find((one) => one.surface.scene === surface.scene && !one.isLeaving && now < one.began + one.motion.ms);
    put(surface, sliding ? placedAt(sliding.motion, now - sliding.began)[0]! : still(surface.scene), false);
  }
  for (const sliding of overlays)
    if (sliding.isLeaving && now < sliding.began + sliding.motion.ms) put(sliding.surface, placedAt(sliding.motion, now - sliding.began)[0]!, true);
  return { width: screen.width, height: screen.height, scenes, values };
}

function groundOf({ ground }: Presentation, surface: Surface, now: number): string | null {
  if (!ground || ground.scene !== surface.scene || surface.background === null) return surface.background;
  return (mixValue('fill', ground.track.from, ground.track.to, progressOf(ground.track, now)) as string | undefined) ?? surface.background;
}

/** The values of what fades away, at a moment. */
function ghostValues({ values, toward, start, ms, easing }: Ghost, now: number): Values {
  const t = easingOf(easing)(Math.min(1, Math.max(0, now - start) / ms));
  const opacity = Math.min(1, Math.max(0, values.opacity * (1 - t)));
  if (!toward) return { ...values, opacity };
  const moved: Record<string, unknown> = { ...values, opacity };
  for (const name of MOVING) moved[name] = mixValue(name, values[name], toward[name], t);
  return moved as unknown as Values;
}

const NO_GHOSTS: Pictured['ghosts'] = new Map();

function ghostsAt({ ghosts }: Presentation, scene: string, now: number): Pictured['ghosts'] {
  const found = new Map<string, { shown: Shown; values: Values }[]>();
  for (const ghost of ghosts) {
    if (ghost.scene !== scene || now >= ghost.start + ghost.ms) continue;
    const one = { shown: ghost.shown, values: ghostValues(ghost, now) };
    const list = found.get(ghost.parent ?? '');
    if (list) list.push(one);
    else found.set(ghost.parent ?? '', [one]);
  }
  return found.size ? found : NO_GHOSTS;
}
