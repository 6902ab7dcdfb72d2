/**
 * Keys that are pressed while a piece is being opened. The page keeps them from its first line on, before any of its programs is there;
 * once the desk can take them they are pressed again, in their order.
 */

declare global {
  interface Window {
    /** What was pressed, as long as it is kept; null where somebody hears it. */
    zanyKeys?: KeyboardEvent[] | null;
  }
}

/** From now on keys are kept until somebody takes them; what was kept for something that did not come about is forgotten. */
export function keepKeys(): void {
  window.zanyKeys = [];
}

/** Keeps none any more, and forgets what was kept. */
export function forgetKeys(): void {
  window.zanyKeys = null;
}

/** Presses again what was kept, and keeps none any more. */
export function giveKeys(): void {
  const kept = window.zanyKeys ?? [];
  window.zanyKeys = null;
  for (const event of kept) (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent('keydown', initOf(event)));
}

const initOf = ({ key, code, shiftKey, altKey, repeat }: KeyboardEvent): KeyboardEventInit => ({
  key,
  code,
  shiftKey,
  altKey,
  repeat,
  bubbles: true,
  cancelable: true,
});
