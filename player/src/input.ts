import type { Program, Report, RunEvent, RunState } from '@zany/core/engine';

/** Real pointers, fingers, wheels and keys as events of a run. */

export type Stop = () => void;

interface Takes {
  readonly send: (event: RunEvent) => unknown;
  readonly state: RunState | null;
  readonly piece: Program;
  readonly shownScale: number;
}

/** A finger that moves this far scrolls, where there is something to scroll; in CSS px. */
const SCROLL_FROM = 8;
const LINE = 16;

export function listen(player: Takes, box: HTMLElement): Stop {
  const stop = new AbortController();
  const on = <K extends keyof HTMLElementEventMap>(type: K, take: (event: HTMLElementEventMap[K]) => void, options: AddEventListenerOptions = {}) =>
    box.addEventListener(type, take, { signal: stop.signal, ...options });
  const pointOf = (event: { clientX: number; clientY: number }) => {
    const at = box.getBoundingClientRect();
    return { x: (event.clientX - at.left) / player.shownScale, y: (event.clientY - at.top) / player.shownScale };
  };
  let finger: { x: number; y: number; scrolls: boolean; layer: string | null } | null = null;

  on('pointermove', (event) => {
    if (finger && event.pointerType === 'touch' && dragsFinger(event)) return;
    player.send({ type: 'move', ...pointOf(event) });
  });
  on('pointerleave', (event) => {
    if (event.pointerType !== 'touch') player.send({ type: 'leave' });
  });
  on('pointerdown', (event) => {
    if (event.button !== 0) return;
    if (event.pointerType === 'touch') finger = { x: event.clientX, y: event.clientY, scrolls: false, layer: scrollerAt(event.target) };
    // What is dragged is followed beyond the edge; a control keeps its own pointer.
    if (!isControl(event.target)) box.setPointerCapture(event.pointerId);
    player.send({ type: 'press', ...pointOf(event) });
  });
  on('pointerup', (event) => {
    if (event.button !== 0) return;
    const scrolled = finger?.scrolls === true;
    finger = null;
    if (!scrolled) player.send({ type: 'release', ...pointOf(event) });
    if (event.pointerType === 'touch') player.send({ type: 'leave' });
  });
  on('pointercancel', () => {
    finger = null;
    player.send({ type: 'leave' });
  });
  on(
    'wheel',
    (event) => {
      if (event.ctrlKey) return;
      const unit = event.deltaMode === 1 ? LINE : 1;
      if (scrollBy(scrollerAt(event.target), event.deltaX * unit, event.deltaY * unit)) event.preventDefault();
    },
    { passive: false }
  );
  on('keydown', (event) => pressKey(event));
  on('focusin', (event) => {
    const layer = layerOf(event.target);
    if (layer !== null) player.send({ type: 'focus', layer });
  });
  on('focusout', (event) => {
    if (!(event.relatedTarget instanceof Node) || !box.contains(event.relatedTarget)) player.send({ type: 'focus', layer: null });
  });
  on('dragstart', (event) => event.preventDefault());
  // The browser brings what has the focus into view by itself; where things are is for the piece alone to say.
  on(
    'scroll',
    ({ target }) => {
      if (!(target instanceof HTMLElement) || isControl(target)) return;
      target.scrollLeft = target.scrollTop = 0;
    },
    { capture: true }
  );

  /** A finger that moves far enough scrolls instead of pressing, unless it drags a layer. */
  function dragsFinger(event: PointerEvent): boolean {
    const { run, at } = { run: player.state, at: finger! };
    const [dx, dy] = [at.x - event.clientX, at.y - event.clientY];
    if (run?.pressed?.drag) return false;
    if (!at.scrolls && Math.hypot(dx, dy) < SCROLL_FROM) return false;
    if (!scrollBy(at.layer, dx / player.shownScale, dy / player.shownScale) && !at.scrolls) return false;
    if (!at.scrolls) player.send({ type: 'leave' });
    finger = { ...at, x: event.clientX, y: event.clientY, scrolls: true };
    return true;
  }

  /** Scrolls a group or the scene by so much; whether there was anything to scroll. */
  function scrollBy(layer: string | null, dx: number, dy: number): boolean {
    const run = player.state;
    if (!run) return false;
    const scene = run.overlays.at(-1)?.frame ?? run.frame;
    for (const target of layer === null ? [null] : [layer, null]) {
      const at = (now: RunState) => {
        const root = target === null ? now.roots[scene] : Object.values(now.roots).find((one) => one.scroll[target]);
        return root?.scroll[target ?? ''] ?? { x: 0, y: 0 };
      };
      const before = at(run);
      const across = target !== null && Math.abs(dx) < Math.abs(dy) && !canScrollDown(target) ? dy : dx;
      player.send({ type: 'scroll', layer: target, x: before.x + across, y: before.y + dy });
      const after = at(player.state!);
      if (after.x !== before.x || after.y !== before.y) return true;
    }
    return false;
  }

  const canScrollDown = (layer: string) => player.piece.piece.layers.get(layer.split('/').at(-1)!)?.scroll !== 'x';

  function scrollerAt(target: EventTarget | null): string | null {
    for (
      let at = target instanceof Element ? target.closest<HTMLElement>('[data-layer]') : null;
      at;
      at = at.parentElement?.closest<HTMLElement>('[data-layer]') ?? null
    ) {
      const layer = at.dataset['layer']!;
      if (player.piece.piece.layers.get(layer.split('/').at(-1)!)?.scroll) return layer;
    }
    return null;
  }

  /** Enter and space press what has the focus, as they do everywhere; arrows and page keys scroll where nothing else takes them. */
  function pressKey(event: KeyboardEvent): void {
    if (isControl(event.target)) return event.stopPropagation();
    const of = (event.target as HTMLElement).closest<HTMLElement>('[tabindex]')?.dataset;
    if (of?.['layer'] === undefined || of['takes'] !== 'press' || (event.key !== 'Enter' && event.key !== ' ') || event.repeat) return;
    event.preventDefault();
    event.stopPropagation();
    player.send({ type: 'click', layer: of['layer'] });
  }

  return () => stop.abort();
}

const isControl = (target: EventTarget | null) =>
  target instanceof HTMLElement && (target.classList.contains('zany-control') || target instanceof HTMLMediaElement);

const layerOf = (target: EventTarget | null): string | null =>
  target instanceof Element ? (target.closest<HTMLElement>('[data-layer]')?.dataset['layer'] ?? null) : null;

const known = new WeakMap<object, boolean>();

/** Whether fingers mean more than presses anywhere in a piece: then the page around it must not take them. */
export function movesAnything({ piece, scenes }: Program): boolean {
  let answer = known.get(scenes);
  if (answer === undefined) {
    answer =
      [...piece.threads.values()].some((thread) => thread.cue.type === 'swipe') ||
      [...piece.layers.values()].some((layer) => layer.drag !== undefined || layer.scroll !== undefined);
    answer ||= [...piece.scenes.values()].some((scene) => (scene.contentHeight ?? 0) > scene.height);
    known.set(scenes, answer);
  }
  return answer;
}

/** A key as thread lines write it: with its modifiers in front; null for a modifier alone. */
export function keyOf(event: KeyboardEvent): string | null {
  if (['Control', 'Alt', 'Shift', 'Meta'].includes(event.key)) return null;
  const isCharacter = [...event.key].length === 1;
  const parts = [event.ctrlKey && 'Ctrl', event.altKey && 'Alt', event.shiftKey && !isCharacter && 'Shift', event.key === ' ' ? 'Space' : event.key];
  return parts.filter(Boolean).join('+');
}

/** Pad buttons that a piece waits for, in order. */
export function padButtons({ piece }: Program): number[] {
  const buttons = new Set<number>();
  for (const { cue, enabled } of piece.threads.values()) if (enabled && cue.type === 'pad') buttons.add(cue.button);
  return [...buttons].sort((a, b) => a - b);
}

interface KeyTaker extends Omit<Takes, 'send'> {
  readonly send: (event: RunEvent) => readonly Report[];
}

/** A key pressed anywhere on the page: told to the piece, digits also as pad buttons, and left to scrolling where nobody takes it. */
export function sendKey(player: KeyTaker, event: KeyboardEvent): void {
  const key = keyOf(event);
  if (key === null || event.defaultPrevented) return;
  const taken = player.send({ type: 'key', key }).some((report) => report.fired.length > 0);
  const button = /^\d$/.test(key) ? Number(key) : -1;
  if (padButtons(player.piece).includes(button)) player.send({ type: 'pad', button });
  if (taken) event.preventDefault();
  else scrollByKey(player, event);
}

function scrollByKey(player: Takes, event: KeyboardEvent): void {
  const run = player.state;
  const scene = run && player.piece.piece.scenes.get(run.overlays.at(-1)?.frame ?? run.frame);
  if (!run || !scene || (scene.contentHeight ?? 0) <= scene.height) return;
  const page = scene.height * 0.9;
  const by = { ArrowDown: 40, ArrowUp: -40, PageDown: page, PageUp: -page, ' ': page, Home: -1e6, End: 1e6 }[event.key];
  if (by === undefined) return;
  event.preventDefault();
  player.send({ type: 'scroll', layer: null, x: 0, y: (run.roots[scene.id]?.scroll['']?.y ?? 0) + by });
}
