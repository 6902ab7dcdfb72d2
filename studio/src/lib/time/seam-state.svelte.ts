import {
  propertyKinds,
  applyPreset,
  copiedKeys,
  framesPerSecond,
  framesPerSecondOperations,
  freshTimeline,
  hasKeyAt,
  keysIn,
  marksIn,
  pasteKeys,
  playedOn,
  pullKeys,
  removeKeys,
  restValue,
  setKey,
  timelineOperations,
  type CopiedKeys,
  type KeyAt,
  type Layer,
  type Preset,
  type Timeline,
  type Tracked,
} from '@zany/core';
import { newId } from '$lib/client/ids';
import { followPointer } from '$lib/shared/follow';
import type { EditorSession } from '$lib/client/session.svelte';

/** What is seen and chosen on the seam, and what its buttons and keys do there. */
export class Seam {
  /** CSS px for a timeline frame; 0 fits the whole into view. */
  perFrame = $state(0);
  /** Keys that are chosen. */
  keys: readonly KeyAt[] = $state.raw([]);
  /** Layers whose rows show a line for each property. */
  open: ReadonlySet<string> = $state.raw(new Set());
  all = $state(false);
  /** The scale and the times that catch, as they were when something was taken hold of: what is pulled must not move them. */
  held: { readonly perFrame: number; readonly marks: readonly number[] } | null = $state.raw(null);
  /** What is on its way just now in words, and where the pointer is. */
  told: { readonly words: string; readonly clientX: number } | null = $state.raw(null);
  private request = 0;
  /** Keys that were copied, here or in another scene. */
  private static copied: readonly CopiedKeys[] = [];

  constructor(readonly session: EditorSession) {}

  get timeline(): Timeline | null {
    return this.session.timeline;
  }

  get playing(): boolean {
    return this.session.playing;
  }

  /** Something is under way along the seam: it is drawn on a canvas, and the elements stand as they were. */
  get isPulled(): boolean {
    return this.held !== null && this.session.rushes;
  }

  get fps(): number {
    return framesPerSecond(this.session);
  }

  /** One named edit of the open scene's time; what it says of a previous version of it is dropped. */
  edit(name: string, change: (timeline: Timeline) => Timeline): boolean {
    const { session } = this;
    if (session.sceneId === null) return false;
    const next = change(session.plain.piece.scenes.get(session.sceneId)?.timeline ?? freshTimeline(this.fps));
    const made = session.edit(name, timelineOperations(session.plain.piece, session.sceneId, next), 'plain');
    this.prune();
    return made;
  }

  /**
   * Follows something that is pulled along the seam, in timeline frames from where it was taken; what settles where it was is not told
   * again. Once it has moved, `says` puts into words what became of it.
   */
  follow(
    event: PointerEvent,
    perFrame: number,
    {
      settle,
      says,
      move,
      done,
    }: {
      readonly says?: (by: number, timeline: Timeline) => string;
      readonly settle?: (by: number, event: PointerEvent) => number;
      readonly move: (by: number, event: PointerEvent) => void;
      readonly done: (by: number, event: PointerEvent) => void;
    }
  ): void {
    this.held = { perFrame, marks: this.timeline ? marksIn(this.timeline) : [] };
    const byOf = (next: PointerEvent) => {
      const by = (next.clientX - event.clientX) / perFrame;
      return settle ? settle(by, next) : by;
    };
    let told = '';
    followPointer(event, {
      move: (next) => {
        const by = byOf(next);
        const tells = `${by} ${next.altKey} ${next.shiftKey}`;
        if (settle && tells === told) return;
        told = tells;
        this.session.rushes = true;
        move(by, next);
        if (says && this.timeline) this.tell(next, says(by, this.timeline));
      },
      done: (last) => {
        this.session.rushes = false;
        this.tell(null);
        done(last ? byOf(last) : 0, last ?? event);
        this.held = null;
      },
    });
  }

  /** Says something where the pointer is, for as long as it moves. */
  tell(event: PointerEvent, words: string): void;
  tell(nothing: null): void;
  tell(event: PointerEvent | null, words = ''): void {
    this.told = event && { words, clientX: event.clientX };
  }

  preview(change: ((timeline: Timeline) => Timeline) | null): void {
    const { session } = this;
    const base = session.sceneId === null ? undefined : session.plain.piece.scenes.get(session.sceneId)?.timeline;
    session.previewTimeline(change && base ? change(base) : null);
  }

  setFps(fps: number): void {
    this.session.edit(`${fps} frames a second`, framesPerSecondOperations(this.session.plain.piece, fps), 'plain');
  }

  /** Keys that are still there. */
  prune(): void {
    const { tracks = {} } = this.timeline ?? {};
    this.keys = this.keys.filter(({ track, time }) => tracks[track] && hasKeyAt(tracks[track], time));
  }

  isChosen = (track: string, time: number): boolean => this.keys.some((key) => key.track === track && key.time === time);

  /** Keys of what the selected layers are at this moment. */
  addKeys(properties: readonly Tracked[]): void {
    const { session } = this;
    const moment = session.moment ?? 0;
    const layers = session.selection.flatMap((id) => session.scene?.byId.get(id)?.layer ?? []);
    this.edit(`Key of ${properties.map((property) => propertyKinds[property].words).join(' and ')}`, (now) =>
      layers.reduce(
        (all, layer) =>
          properties.reduce((next, property) => setKey(next, newId(), layer.id, property, { time: moment, value: restValue(layer, property) }), all),
        now
      )
    );
  }

  /** Chooses what an edit has put in. */
  private editAndChoose(name: string, change: (timeline: Timeline) => { readonly timeline: Timeline; readonly keys: readonly KeyAt[] }): void {
    let keys: readonly KeyAt[] = [];
    const made = this.edit(name, (now) => {
      const done = change(now);
      keys = done.keys;
      return done.timeline;
    });
    if (made) this.keys = keys;
  }

  /** Puts ready-made motion on layers, from the playhead on; its keys are chosen, to be stretched and staggered. */
  put(preset: Preset, layers: readonly Layer[]): void {
    const scene = this.session.scene?.scene;
    const moment = this.session.moment ?? 0;
    if (!scene) return;
    const name = preset.label[0]!.toUpperCase() + preset.label.slice(1);
    this.editAndChoose(name, (now) => {
      const timeline = applyPreset(now, preset, layers, scene, moment, this.fps, newId);
      const last = moment + Math.max(1, Math.round(preset.seconds * this.fps));
      const ids = new Set(layers.map(({ id }) => id));
      const made = new Set(layers.flatMap((layer) => preset.keys(layer, scene).map(({ property }) => property)));
      const keys = keysIn(timeline, ({ layer, property }, time) => ids.has(layer) && made.has(property) && time >= moment && time <= last);
      return { timeline, keys };
    });
  }

  /** All keys of the selected layers, or of all where none is selected. */
  get allKeys(): readonly KeyAt[] {
    const { selection } = this.session;
    return this.timeline ? keysIn(this.timeline, ({ layer }) => selection.length === 0 || selection.includes(layer)) : [];
  }

  get hasCopied(): boolean {
    return Seam.copied.length > 0;
  }

  copy(): void {
    if (this.timeline && this.keys.length) Seam.copied = copiedKeys(this.timeline, this.keys);
  }

  cut(): void {
    this.copy();
    this.removeChosen();
  }

  /** Puts copied keys in at the playhead: onto the selected layers, or where they came from. */
  paste(): void {
    const { copied } = Seam;
    const { session } = this;
    if (!copied.length) return;
    const isTheirs = copied.every(({ layer }) => session.selection.includes(layer));
    const layers = isTheirs ? [] : session.selection.filter((id) => session.scene?.byId.has(id));
    const there = layers.length ? copied : copied.filter(({ layer }) => session.scene?.byId.has(layer));
    if (!there.length) return session.notify('Select the layers that the copied keys are for.');
    this.editAndChoose('Paste keys', (now) => pasteKeys(now, there, layers, session.moment ?? 0, newId));
  }

  /** The same keys once more, behind the last of them. */
  duplicate(): void {
    const { timeline, keys } = this;
    if (!timeline || !keys.length) return;
    const times = keys.map(({ time }) => time);
    const [first, last] = [Math.min(...times), Math.max(...times)];
    const copied = copiedKeys(timeline, keys);
    this.editAndChoose('Duplicate keys', (now) => pasteKeys(now, copied, [], last + Math.max(1, last - first), newId));
  }

  removeChosen(): void {
    const { keys } = this;
    if (!keys.length) return;
    this.edit(keys.length === 1 ? 'Remove a key' : `Remove ${keys.length} keys`, (now) => removeKeys(now, keys));
    this.keys = [];
  }

  moveChosen(by: number): void {
    const { keys } = this;
    const { timeline } = this;
    if (!timeline || keys.length === 0) return;
    const after = pullKeys(timeline, keys, by).keys;
    if (this.edit(keys.length === 1 ? 'Move a key' : `Move ${keys.length} keys`, (now) => pullKeys(now, keys, by).timeline)) this.keys = after;
  }

  // ── the playhead ─────────────────────────────────────────────────────────────

  stand(frame: number): void {
    this.stop();
    this.session.standAt(Math.min(frame, (this.timeline?.length ?? 1) - 1));
  }

  step(by: number): void {
    this.stand((this.session.moment ?? 0) + by);
  }

  /** To the next or the previous thing that happens in time. */
  toMark(way: 1 | -1): void {
    const { timeline } = this;
    const now = this.session.moment ?? 0;
    if (!timeline) return;
    const marks = marksIn(timeline);
    const to = way > 0 ? marks.find((mark) => mark > now) : marks.findLast((mark) => mark < now);
    if (to !== undefined) this.stand(to);
  }

  toSection(way: 1 | -1): void {
    const { timeline } = this;
    const now = this.session.moment ?? 0;
    const starts = [0, ...Object.values(timeline?.labels ?? {}).map(({ time }) => time)].sort((a, b) => a - b);
    const to = way > 0 ? starts.find((start) => start > now) : starts.findLast((start) => start < now);
    if (to !== undefined) this.stand(to);
  }

  /** Plays from here as it will run: it stops where a section's ending stops it. */
  toggle(): void {
    if (this.session.playing) return this.stop();
    const { timeline, fps } = this;
    if (!timeline) return;
    const from = this.session.moment ?? 0;
    const began = performance.now();
    this.session.playing = true;
    const tick = () => {
      const now = this.timeline;
      if (!now) return this.stop();
      const { frame, stops } = playedOn(now, Math.min(from, now.length - 1), Math.floor(((performance.now() - began) * fps) / 1000));
      this.session.standAt(frame);
      if (stops) return this.stop();
      this.request = requestAnimationFrame(tick);
    };
    this.request = requestAnimationFrame(tick);
  }

  stop(): void {
    cancelAnimationFrame(this.request);
    this.session.playing = false;
  }
}
