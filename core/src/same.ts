/** Whether two lists hold the same things in the same order. */
export const areSame = (a: readonly unknown[], b: readonly unknown[]): boolean => a.length === b.length && a.every((one, i) => one === b[i]);
