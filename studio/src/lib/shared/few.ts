/** So many sentences about what did not come in are said at most. */
const MOST_SAID = 5;

/** Sentences to be said at once: the first few each, the others by their number. */
export const fewOf = (sentences: readonly string[]): readonly string[] =>
  sentences.length > MOST_SAID ? [...sentences.slice(0, MOST_SAID - 1), `${sentences.length - MOST_SAID + 1} more of these.`] : sentences;
