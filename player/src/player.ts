import {
  advance,
  atRest,
  begin,
  isPlaying,
  nextDeadline,
  pictureAt,
  present,
  resolveScreen,
  type Effect,
  type Presentation,
  type Program,
  type Report,
  type RunEvent,
  type RunState,
  type Screen,
  type Value,
} from '@zany/core/engine';
import { listen, movesAnything, type Stop } from './input.ts';
import { MediaInStep } from './media.ts';
import { ScreenView } from './screen-view.ts';

export interface PlayerOptions {
  readonly assetUrl: (asset: string) => string;
  /** The frame to begin on; the start frame if none is given. */
  readonly frame?: string;
  /** Told of links that are opened, with the id they are measured by. */
  readonly onOpen?: (address: string, measure: string | null) => void;
  /** Opens a link; the browser's own way if none is given. */
  readonly openLink?: (address: string, tab: 'same' | 'new', measure: string | null) => void;
  /** Told of every event that was run, and of the state after it. */
  readonly onReport?: (reports: readonly Report[], run: RunState) => void;
  /** Told of every event as the engine got it, with the milliseconds since the one before: what it takes to run all again exactly. */
  readonly onSent?: (ms: number, event: RunEvent, run: RunState, reports: readonly Report[]) => void;
  readonly onSignal?: (signal: string) => void;
  /** Largest scale that fitting into the host may use; 1 if not given. */
  readonly maxScale?: number;
  /** How fast time passes; 1 if not given. */
  readonly rate?: number;
}

/**
 * Shows a piece in an element and runs it: real time and real input go in as values, and pictures of the screen come out. All
 * logic is the engine's; this holds only what is on screen.
 */
export class Player {
  private program: Program;
  private run: RunState | null = null;
  private readonly box: HTMLElement;
  private readonly view: ScreenView;
  private presentation: Presentation | null = null;
  private clockBegan = performance.now();
  private rate: number;
  private readonly media: MediaInStep;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private frameRequest = 0;
  private scale = 1;
  private readonly observer: ResizeObserver;
  private readonly stop: Stop;
  private isDestroyed = false;
  private moved = false;
  private isShowing = false;

  constructor(
    private readonly host: HTMLElement,
    program: Program,
    private readonly options: PlayerOptions
  ) {
    this.program = program;
    this.rate = options.rate ?? 1;
    this.media = new MediaInStep(() => this.now(), this.rate);
    const { ownerDocument: document } = host;
    this.box = document.createElement('div');
    this.box.className = 'zany-player';
    this.view = new ScreenView(document, {
      assetUrl: options.assetUrl,
      live: true,
      onValue: (layer, value) => this.send({ type: 'value', layer, value }),
      onPlayedOut: (layer) => this.send({ type: 'media', layer, what: 'ended' }),
    });
    this.box.append(this.view.root);
    host.append(this.box);
    this.stop = listen(this, this.box);
    this.observer = new ResizeObserver(() => this.fit());
    this.observer.observe(host);
    this.takeFingers();
    this.restart(options.frame);
  }

  get state(): RunState | null {
    return this.run;
  }

  /** Milliseconds that have passed in the run, by the clock of this moment. */
  get clock(): number {
    return this.now();
  }

  get piece(): Program {
    return this.program;
  }

  /** CSS pixels on screen for one of the piece. */
  get shownScale(): number {
    return this.scale;
  }

  /** How fast time passes from now on: 0.25 is slow motion. */
  setRate(rate: number): void {
    this.media.setRate(rate);
    this.clockBegan = performance.now() - this.now() / rate;
    this.rate = rate;
    this.schedule();
  }

  /** Takes an edited program; the run goes on where it is. */
  update(program: Program): void {
    this.program = program;
    this.takeFingers();
    if (!this.run || !program.scenes.has(this.run.frame)) return this.restart();
    this.showSettled([]);
    this.schedule();
  }

  /** Fingers that move are the piece's before the first of them comes down, where it has any use for them. */
  private takeFingers(): void {
    this.box.classList.toggle('zany-moves', movesAnything(this.program));
  }

  /** Begins again, on a frame or on the start frame. */
  restart(frame?: string): void {
    this.media.stop();
    this.clockBegan = performance.now();
    this.presentation = null;
    const begun = begin(this.program, frame !== undefined && this.program.scenes.has(frame) ? frame : undefined);
    this.run = begun?.run ?? null;
    if (!begun) {
      this.view.show({ width: 1, height: 1, scenes: [], values: new Map() });
      return;
    }
    this.takeReports(begun.reports);
    this.options.onReport?.(begun.reports, begun.run);
  }

  /** Puts in a run, to go on from there. */
  resume(run: RunState): void {
    this.media.stop();
    this.clockBegan = performance.now() - run.clock / this.rate;
    this.run = run;
    this.presentation = null;
    this.takeReports([]);
    this.options.onReport?.([], run);
  }

  /** Runs an event now, after the time that has passed since the last one. */
  send(event: RunEvent): readonly Report[] {
    if (!this.run || this.isDestroyed) return [];
    if (this.isShowing) {
      // Taking away what has the focus moves the focus, in the middle of showing.
      queueMicrotask(() => this.send(event));
      return [];
    }
    const passed = Math.max(0, Math.floor(this.now()) - this.run.clock);
    const waited = advance(this.program, this.run, { type: 'wait', ms: passed });
    const next = event.type === 'wait' && event.ms === 0 ? waited : advance(this.program, waited.run, event);
    this.run = next.run;
    const reports = next === waited ? waited.reports : [...waited.reports, ...next.reports];
    this.options.onSent?.(passed, event, next.run, reports);
    this.takeReports(reports);
    this.options.onReport?.(reports, this.run);
    return reports;
  }

  /** Sets a variable of the piece by its name. False where there is none, or the value does not fit it. */
  setVariable(name: string, value: Value): boolean {
    const variable = [...this.program.variables.values()].find((one) => one.scene === null && one.name === name);
    if (!variable) return false;
    const reports = this.send({ type: 'set', variable: variable.id, value });
    return !reports.some((report) => report.whyNot.some((why) => why.code === 'wrong-value'));
  }

  /** The element of a layer that is on the screen. */
  elementOf(layer: string): HTMLElement | null {
    return this.view.elementOf(layer);
  }

  destroy(): void {
    this.isDestroyed = true;
    this.stop();
    this.observer.disconnect();
    clearTimeout(this.timer);
    cancelAnimationFrame(this.frameRequest);
    for (const media of this.box.querySelectorAll<HTMLMediaElement>('video, audio')) media.pause();
    this.box.remove();
  }

  /** The run's clock, in ms. */
  private now(): number {
    return (performance.now() - this.clockBegan) * this.rate;
  }

  private takeReports(reports: readonly Report[]): void {
    const effects = reports.flatMap((report) => report.effects);
    this.showSettled(effects);
    for (const effect of effects) this.perform(effect);
    this.schedule();
  }

  private perform(effect: Effect): void {
    switch (effect.type) {
      case 'open':
        this.options.onOpen?.(effect.address, effect.measure);
        return (this.options.openLink ?? openInBrowser)(effect.address, effect.tab, effect.measure);
      case 'signal':
        return this.options.onSignal?.(effect.signal);
      case 'media':
        return this.control(effect.node, effect.do);
      default:
    }
  }

  private control(node: string, what: 'play' | 'pause' | 'rewind'): void {
    const media = this.view.mediaOf(node);
    if (!media) return;
    if (what === 'rewind') this.media.rewind(media);
    else if (what === 'pause') this.media.pause(media);
    else this.media.play(media);
  }

  private showSettled(effects: readonly Effect[]): void {
    if (!this.run) return;
    this.paint(resolveScreen(this.program, this.run), effects, this.now());
    this.fit();
  }

  private paint(screen: Screen, effects: readonly Effect[], now: number): void {
    this.presentation = this.presentation
      ? present(this.presentation, screen, effects, now, { still: reducedMotion(), pointer: this.run!.pointer })
      : atRest(screen);
    this.show(now);
    // As of what was drawn: a moment later it may be over, and its last picture is still owed.
    this.moved = now < this.presentation.until;
  }

  private show(now: number): void {
    this.isShowing = true;
    this.view.show(pictureAt(this.presentation!, now), this.run!);
    this.isShowing = false;
  }

  private schedule(): void {
    clearTimeout(this.timer);
    cancelAnimationFrame(this.frameRequest);
    if (!this.run || this.isDestroyed) return;
    const plays = isPlaying(this.program, this.run);
    if (plays || this.moved) this.frameRequest = requestAnimationFrame(() => this.tick(plays));
    const due = nextDeadline(this.program, this.run);
    if (due === null || due === Infinity || plays) return;
    const wait = Math.max(0, (due - this.now()) / this.rate);
    this.timer = setTimeout(() => this.send({ type: 'wait', ms: 0 }), Math.min(wait + 1, 2 ** 31 - 1));
  }

  /** One frame of the browser: the next moment of what moves, and of timelines that play. */
  private tick(plays: boolean): void {
    if (!this.presentation || !this.run) return;
    const now = this.now();
    if (plays) {
      // What is due is the engine's; in between keyframes move on with every frame of the screen.
      if ((nextDeadline(this.program, this.run) ?? Infinity) <= now) return void this.send({ type: 'wait', ms: 0 });
      this.paint(resolveScreen(this.program, { ...this.run, clock: now }), [], now);
      this.frameRequest = requestAnimationFrame(() => this.tick(true));
      return;
    }
    const moves = now < this.presentation.until;
    if (moves) this.view.move(pictureAt(this.presentation, now));
    else if (this.moved) this.show(now);
    this.moved = moves;
    if (moves) this.frameRequest = requestAnimationFrame(() => this.tick(plays));
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
}

const reducedMotion = () => matchMedia('(prefers-reduced-motion: reduce)').matches;

function openInBrowser(address: string, tab: 'same' | 'new'): void {
  if (tab === 'same' || !/^https?:/i.test(address)) location.href = address;
  else window.open(address, '_blank', 'noopener,noreferrer');
}
