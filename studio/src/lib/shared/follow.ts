/** Follows the pointer that was pressed on an element until it is let go, wherever it goes. */
export function followPointer(
  event: PointerEvent,
  { move, done }: { readonly move: (event: PointerEvent) => void; readonly done?: (event: PointerEvent) => void }
): void {
  const target = event.currentTarget as HTMLElement;
  target.setPointerCapture(event.pointerId);
  const stop = new AbortController();
  target.addEventListener('pointermove', move, { signal: stop.signal });
  for (const end of ['pointerup', 'pointercancel'] as const)
    target.addEventListener(
      end,
      (next) => {
        stop.abort();
        done?.(next);
      },
      { signal: stop.signal }
    );
}
