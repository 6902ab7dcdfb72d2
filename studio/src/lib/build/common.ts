/** What several things have alike. */
export interface Common<V> {
  /** Of the first one. */
  readonly value: V;
  /** Whether another one has another. */
  readonly mixed: boolean;
}

/** What things have alike, by how each is looked at; there has to be one for a value. */
export function commonOf<T, V>(things: readonly T[], of: (thing: T) => V): Common<V | undefined> {
  const values = things.map(of);
  const words = values.map((value) => JSON.stringify(value));
  return { value: values[0], mixed: words.some((one) => one !== words[0]) };
}

/** What a chip is that stands for something some, all or none of several things have: how it looks, and how it is heard. */
export function chipOf(has: readonly boolean[]): { class: string; 'aria-pressed': boolean | 'mixed' } {
  const [some, all] = [has.includes(true), !has.includes(false)];
  if (some && !all) return { class: 'chip chip-mixed', 'aria-pressed': 'mixed' };
  return { class: some ? 'chip chip-on' : 'chip', 'aria-pressed': some };
}
