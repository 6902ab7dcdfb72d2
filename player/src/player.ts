import {
  advance,
  nextTimer,
  start,
  startMotion,
  still,
  surfacesAt,
  withoutMovement,
  type Effect,
  type FrameMotion,
  type Program,
  type Report,
  type RunEvent,
  type RunState,
  type Surface,
} from '@zany/core/engine';
import { SceneView } from './scene-view.ts';

export interface PlayerOptions {
  readonly assetUrl: (asset: string) => string;
  /** The frame to begin on; the start frame if none is given. */
  readonly frame?: string;
  /** Opens a link; the browser's own way if none is given. */
  readonly openLink?: (address: string, tab: 'same' | 'new') => void;
  /** Told of every event that was run, and of the state after it. */
  readonly onReport?: (reports: readonly Report[], run: RunState) => void;
  /** Largest scale that fitting into the host may use; 1 if not given. */
  readonly maxScale?: number;
}

/**
 * Shows a piece in an element and runs it: real time and real input go in as values, frames move as the motion says.
 * All logic is the engine's; this holds only what is on screen.
 */
export class Player {
  private program: Program;
  private run: RunState | null;
  private readonly box: HTMLElement;
  private readonly views = new Map<string, SceneView>();
  private motion: FrameMotion | null = null;
  private motionBegan = 0;
  private clockBegan = performance.now();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private frameRequest = 0;
  private scale = 1;
  private readonly observer: ResizeObserver;
  private readonly stop = new AbortController();

  constructor(
    private readonly host: HTMLElement,
    program: Program,
    private readonly options: PlayerOptions
  ) {
    this.program = program;
    this.box = host.ownerDocument.createElement('div');
    this.box.className = 'zany-player';
    host.append(this.box);
    this.run = start(program, options.frame);
    this.listen();
    this.observer = new ResizeObserver(() => this.fit());
    this.observer.observe(host);
    this.paint();
    this.schedule();
  }

  get state(): RunState | null {
    return this.run;
  }

  /** CSS pixels on screen for one of the piece. */
  get shownScale(): number {
    return this.scale;
  }

  /** Takes an edited program; the run goes on where it is. */
  update(program: Program): void {
    this.program = program;
    if (!this.run) this.run = start(program);
    else if (!program.scenes.has(this.run.frame)) this.send({ type: 'wait', ms: 0 });
    this.paint();
    this.schedule();
  }

  /** Begins again, on a frame or on the start frame. */
  restart(frame?: string): void {
    this.motion = null;
    this.clockBegan = performance.now();
    this.run = start(this.program, frame);
    this.paint();
    this.schedule();
    if (this.run) this.options.onReport?.([], this.run);
  }

  /** Runs an event now, after the time that has passed since the last one. */
  send(event: RunEvent): readonly Report[] {
    if (!this.run) return [];
    const passed = Math.max(0, Math.floor(performance.now() - this.clockBegan) - this.run.clock);
    const waited = advance(this.program, this.run, { type: 'wait', ms: passed });
    const next = advance(this.program, waited.run, event);
    this.run = next.run;
    const reports = [...waited.reports, ...next.reports];
    for (const report of reports) for (const effect of report.effects) this.perform(effect);
    this.paint();
    this.schedule();
    this.options.onReport?.(reports, this.run);
    return reports;
  }

  /** The element of a layer of the frame that is shown. */
  elementOf(layer: string): HTMLElement | null {
    return (this.run && this.views.get(this.run.frame)?.elementOf(layer)) ?? null;
  }

  destroy(): void {
    this.stop.abort();
    this.observer.disconnect();
    clearTimeout(this.timer);
    cancelAnimationFrame(this.frameRequest);
    this.box.remove();
  }

  private perform(effect: Effect): void {
    if (effect.type === 'open') (this.options.openLink ?? openInBrowser)(effect.address, effect.tab);
    else this.beginMotion(effect);
  }

  private beginMotion(effect: Effect & { type: 'go' }): void {
    const scene = this.program.scenes.get(effect.to);
    if (!scene || effect.from === effect.to) return;
    const transition = reducedMotion() ? withoutMovement(effect.transition) : effect.transition;
    this.motion = startMotion(this.onScreen(effect.from), effect.to, transition, scene.scene);
    this.motionBegan = performance.now();
  }

  private onScreen(from: string): Surface[] {
    return this.motion ? surfacesAt(this.motion, performance.now() - this.motionBegan) : [still(from)];
  }

  private schedule(): void {
    clearTimeout(this.timer);
    const due = this.run && nextTimer(this.program, this.run);
    if (!due) return;
    const wait = Math.max(0, this.clockBegan + due.at - performance.now());
    this.timer = setTimeout(() => this.send({ type: 'wait', ms: 0 }), Math.min(wait + 1, 2 ** 31 - 1));
  }

  private paint(): void {
    cancelAnimationFrame(this.frameRequest);
    if (!this.run) return this.box.replaceChildren();
    if (this.motion && performance.now() - this.motionBegan >= this.motion.ms) this.motion = null;
    const surfaces = this.motion ? surfacesAt(this.motion, performance.now() - this.motionBegan) : [still(this.run.frame)];
    this.paintSurfaces(surfaces, this.run);
    if (this.motion) this.frameRequest = requestAnimationFrame(() => this.paint());
  }

  private paintSurfaces(surfaces: readonly Surface[], run: RunState): void {
    const shown = new Set<string>();
    surfaces.forEach((surface, depth) => {
      const scene = this.program.scenes.get(surface.frame);
      if (!scene) return;
      const view = this.viewOf(surface.frame);
      view.show(scene);
      const { style } = view.root;
      style.transform = surface.x || surface.y ? `translate(${surface.x}px, ${surface.y}px)` : '';
      style.opacity = surface.opacity === 1 ? '' : String(surface.opacity);
      style.zIndex = String(depth);
      view.root.inert = surface.frame !== run.frame;
      const current = surface.frame === run.frame;
      view.point(current ? run.over : [], current && run.pressed ? run.over : []);
      shown.add(surface.frame);
    });
    for (const [frame, view] of this.views)
      if (!shown.has(frame)) {
        view.root.remove();
        this.views.delete(frame);
      }
    this.fit();
  }

  private viewOf(frame: string): SceneView {
    let view = this.views.get(frame);
    if (!view) {
      view = new SceneView(this.host.ownerDocument, { assetUrl: this.options.assetUrl, live: true });
      view.root.dataset['frame'] = frame;
      this.views.set(frame, view);
      this.box.append(view.root);
    }
    return view;
  }

  private fit(): void {
    const scene = this.run && this.program.scenes.get(this.run.frame)?.scene;
    if (!scene) return;
    const { clientWidth, clientHeight } = this.host;
    const most = this.options.maxScale ?? 1;
    this.scale = Math.min(most, clientWidth / scene.width, clientHeight / scene.height) || most;
    const { style } = this.box;
    style.width = `${scene.width}px`;
    style.height = `${scene.height}px`;
    style.transform = this.scale === 1 ? '' : `scale(${this.scale})`;
    style.left = `${Math.max(0, (clientWidth - scene.width * this.scale) / 2)}px`;
    style.top = `${Math.max(0, (clientHeight - scene.height * this.scale) / 2)}px`;
  }

  private listen(): void {
    const on = <T extends Event>(type: string, take: (event: T) => void) =>
      this.box.addEventListener(type, take as (event: Event) => void, { signal: this.stop.signal });
    on<PointerEvent>('pointermove', (event) => this.send({ type: 'move', ...this.pointOf(event) }));
    on('pointerleave', () => this.send({ type: 'leave' }));
    on<PointerEvent>('pointerdown', (event) => event.button === 0 && this.send({ type: 'press', ...this.pointOf(event) }));
    on<PointerEvent>('pointerup', (event) => event.button === 0 && this.send({ type: 'release', ...this.pointOf(event) }));
    on('pointercancel', () => this.send({ type: 'leave' }));
    on<KeyboardEvent>('keydown', (event) => this.pressKeyOn(event));
    on('dragstart', (event) => event.preventDefault());
  }

  /** Enter and space press the button that has the focus, as they do everywhere. */
  private pressKeyOn(event: KeyboardEvent): void {
    const layer = (event.target as HTMLElement).closest<HTMLElement>('[role]')?.dataset['layer'];
    if (layer === undefined || (event.key !== 'Enter' && event.key !== ' ') || event.repeat) return;
    event.preventDefault();
    event.stopPropagation();
    this.send({ type: 'click', layer });
  }

  private pointOf(event: PointerEvent): { x: number; y: number } {
    const box = this.box.getBoundingClientRect();
    return { x: (event.clientX - box.left) / this.scale, y: (event.clientY - box.top) / this.scale };
  }
}

/** A key as thread lines write it: with its modifiers in front; null for a modifier alone. */
export function keyOf(event: KeyboardEvent): string | null {
  if (['Control', 'Alt', 'Shift', 'Meta'].includes(event.key)) return null;
  const isCharacter = [...event.key].length === 1;
  const parts = [event.ctrlKey && 'Ctrl', event.altKey && 'Alt', event.shiftKey && !isCharacter && 'Shift', event.key === ' ' ? 'Space' : event.key];
  return parts.filter(Boolean).join('+');
}

const reducedMotion = () => matchMedia('(prefers-reduced-motion: reduce)').matches;

function openInBrowser(address: string, tab: 'same' | 'new'): void {
  if (tab === 'same' || !/^https?:/i.test(address)) location.href = address;
  else window.open(address, '_blank', 'noopener,noreferrer');
}
