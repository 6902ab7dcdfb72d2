import { untrack } from 'svelte';

let asking = $state(0);

/**
 * Whether something at the bottom of the page asks something: notices then stand above it. It is kept here as a rule that looks for it
 * (`:has`) would have the whole page styled anew whenever anything on it comes or goes.
 */
export const isAskedBelow = (): boolean => asking > 0;

/** An effect of what asks something at the bottom, for as long as it is there. */
export function askBelow(): () => void {
  untrack(() => asking++);
  return () => void untrack(() => asking--);
}
