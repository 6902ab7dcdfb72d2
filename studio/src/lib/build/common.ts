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

/** How a chip looks that stands for something some, all or none of them have. */
export const chipTone = (has: readonly boolean[]): '' | 'chip-on' | 'chip-mixed' =>
  !has.includes(true) ? '' : has.includes(false) ? 'chip-mixed' : 'chip-on';

/** The same for who hears it. */
export const pressedOf = (has: readonly boolean[]): boolean | 'mixed' => (has.includes(true) && has.includes(false) ? 'mixed' : has.includes(true));
