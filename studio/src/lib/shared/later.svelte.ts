import { afterPaint } from './paint';

/**
 * Whether what belongs to a key may be drawn as a whole. A new key is first drawn with what matters most, so that a press is
 * answered at once, and with the rest after that has been painted. To be called while a component is set up.
 */
export function later(key: () => unknown): { readonly ready: boolean } {
  let painted = $state.raw<unknown>(undefined);
  $effect(() => {
    const now = key();
    return afterPaint(() => (painted = now));
  });
  return {
    get ready() {
      return painted === key();
    },
  };
}
