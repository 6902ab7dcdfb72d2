import { untrack } from 'svelte';
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

/**
 * A value as it was when the page was last painted: for what stands beside the work and may follow it by a moment. To be called
 * while a component is set up.
 */
export function behind<T>(value: () => T): { readonly now: T } {
  let seen = $state.raw(untrack(value));
  $effect(() => {
    const next = value();
    return afterPaint(() => (seen = next));
  });
  return {
    get now() {
      return seen;
    },
  };
}
