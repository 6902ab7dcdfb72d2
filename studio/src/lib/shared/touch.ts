/** Fingers on a surface that has its own doings with one pointer: two of them move and zoom it, one that rests asks what can be done. */

export interface Place {
  readonly x: number;
  readonly y: number;
}

export interface TouchHands {
  /** Two fingers have moved: their middle from where to where, in CSS px of the window, and so many times further apart. */
  readonly pinch: (from: Place, to: Place, factor: number) => void;
  /** One finger has rested where it came down. */
  readonly hold?: (event: PointerEvent) => void;
}

/** So long a finger rests, ms, and so far it may move in doing so, CSS px. */
const HOLD = 500;
export const STILL = 8;

const middleOf = (a: Place, b: Place): Place => ({ x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 });
const apart = (a: Place, b: Place): number => Math.max(1, Math.hypot(a.x - b.x, a.y - b.y));

/** Minds the fingers on an element. What one of them had begun there is called off (`pointercancel`) when a second one comes, or it was held. */
export function touches(hands: TouchHands): (node: HTMLElement) => () => void {
  return (node) => {
    const down = new Map<number, Place>();
    let [begun, resting]: [Place, ReturnType<typeof setTimeout> | undefined] = [{ x: 0, y: 0 }, undefined];
    /** From when two fingers are down until none is. */
    let isPinching = false;
    let isCallingOff = false;

    const callOff = (pointerId: number) => {
      isCallingOff = true;
      node.dispatchEvent(new PointerEvent('pointercancel', { pointerId, pointerType: 'touch', bubbles: true }));
      isCallingOff = false;
    };

    const press = (event: PointerEvent) => {
      if (event.pointerType !== 'touch') return;
      const place = { x: event.clientX, y: event.clientY };
      down.set(event.pointerId, place);
      clearTimeout(resting);
      if (down.size === 1) {
        begun = place;
        if (hands.hold)
          resting = setTimeout(() => {
            callOff(event.pointerId);
            hands.hold!(event);
          }, HOLD);
        return;
      }
      if (!isPinching) callOff([...down.keys()][0]!);
      isPinching = true;
      event.stopImmediatePropagation();
    };

    const move = (event: PointerEvent) => {
      const was = down.get(event.pointerId);
      if (!was) return;
      const now = { x: event.clientX, y: event.clientY };
      if (Math.hypot(now.x - begun.x, now.y - begun.y) > STILL) clearTimeout(resting);
      down.set(event.pointerId, now);
      if (!isPinching) return;
      event.stopImmediatePropagation();
      const other = [...down].find(([id]) => id !== event.pointerId)?.[1];
      if (other) hands.pinch(middleOf(was, other), middleOf(now, other), apart(now, other) / apart(was, other));
    };

    const lift = (event: PointerEvent) => {
      if (isCallingOff || !down.delete(event.pointerId)) return;
      clearTimeout(resting);
      if (isPinching) event.stopImmediatePropagation();
      if (down.size === 0) isPinching = false;
    };

    const stop = new AbortController();
    const options = { capture: true, signal: stop.signal };
    node.addEventListener('pointerdown', press, options);
    node.addEventListener('pointermove', move, options);
    for (const end of ['pointerup', 'pointercancel'] as const) node.addEventListener(end, lift, options);
    return () => {
      clearTimeout(resting);
      stop.abort();
    };
  };
}
