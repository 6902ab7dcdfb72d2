/**
 * Follows the pointer that was pressed on an element until it is let go, wherever it goes. It is heard at the window: what is
 * pulled may be drawn anew on the way, as another element. What is called off, by a second finger or by the browser, says no place: it
 * is done with null.
 */
export function followPointer(
  event: PointerEvent,
  {
    move,
    done,
    on = event.currentTarget as HTMLElement,
  }: {
    readonly move: (event: PointerEvent) => void;
    readonly done?: (last: PointerEvent | null) => void;
    /** What has the pointer meanwhile, where that is not what was pressed. */
    readonly on?: HTMLElement;
  }
): void {
  const { pointerId } = event;
  on.setPointerCapture(pointerId);
  const stop = new AbortController();
  const options = { capture: true, signal: stop.signal };
  const mine = (act: (event: PointerEvent) => void) => (next: PointerEvent) => {
    if (next.pointerId === pointerId) act(next);
  };
  window.addEventListener('pointermove', mine(move), options);
  for (const end of ['pointerup', 'pointercancel'] as const)
    window.addEventListener(
      end,
      mine((next) => {
        stop.abort();
        done?.(end === 'pointerup' ? next : null);
      }),
      options
    );
}
