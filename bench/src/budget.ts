/** What is measured against what it may be: over 1 is too much. */
export const atMost = (measured: number, limit: number): number => measured / limit;

/** The same for what there has to be so much of. */
export const atLeast = (measured: number, limit: number): number => limit / measured;

/** A budget in words, and whether it is met: `budget 50 ms 95th: missed, 1.4 ×`. The worst of several shares counts. */
export function budget(words: string, ...shares: readonly number[]): string {
  const worst = Math.max(...shares);
  return `budget ${words}: ${worst <= 1 ? 'met' : `missed, ${worst.toFixed(worst < 10 ? 1 : 0)} ×`}`;
}
