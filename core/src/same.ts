/** What an object holds as one text to compare, in whatever order it was written. */
export const wordsOfAll = (value: object): string => JSON.stringify(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));

/** Whether two lists hold the same things in the same order. */
export const areSame = (a: readonly unknown[], b: readonly unknown[]): boolean => a.length === b.length && a.every((one, i) => one === b[i]);
