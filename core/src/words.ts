import { cutText, MOST_NAME } from './text.ts';

/** A duration in milliseconds as it is written everywhere: `300 ms`, `2 s`. */
export const durationWords = (ms: number): string => (ms >= 1000 && ms % 1000 === 0 ? `${ms / 1000} s` : `${ms} ms`);

/** `1 frame`, `2 frames`. */
export const count = (n: number, one: string, many = `${one}s`): string => `${n} ${n === 1 ? one : many}`;

/** A list in a sentence: `a, b and c`; or with *or*, as after *no*. */
export const listWords = (words: readonly string[], last: 'and' | 'or' = 'and'): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} ${last} ${words.at(-1)}`;

/** The name itself where it is free, else with the first free number behind it; the name is then taken. */
export function takeName(taken: Set<string>, wanted: string): string {
  let name = cutText(wanted, MOST_NAME);
  const [, stem = cutText(name, MOST_NAME - 8), number] = /^(.*?) (\d{1,6})$/.exec(name) ?? [];
  for (let n = Number(number ?? 1) + 1; taken.has(name); n++) name = `${stem} ${n}`;
  taken.add(name);
  return name;
}

/** Natural order: 2 before 10, whatever the case. */
export const naturally = (a: string, b: string): number => collator.compare(a, b);

const collator = new Intl.Collator('en', { numeric: true, sensitivity: 'base' });
