import { zxcvbn, zxcvbnOptions } from '@zxcvbn-ts/core';
import * as common from '@zxcvbn-ts/language-common';

zxcvbnOptions.setOptions({
  dictionary: { ...common.dictionary, ours: ['zany', 'thread', 'zanythread', 'kittiwake'] },
  graphs: common.adjacencyGraphs,
});

export const PASSWORD = { least: 12, most: 128 } as const;

/** What is wrong with a new password, or null: too short, or one that guessers try first. `about` are words about its owner. */
export function passwordProblem(password: string, about: readonly string[]): string | null {
  const length = [...password].length;
  if (length < PASSWORD.least || password.length > PASSWORD.most)
    return `Please choose a password of ${PASSWORD.least} to ${PASSWORD.most} signs. Several words are good.`;
  const words = about.flatMap((text) => [text, text.replace(/\s+/g, ''), ...text.split(/[\s@.]+/)]).filter((word) => word.length > 2);
  // 10^8 guesses: beyond what can be tried over the net, and far beyond the lists of common ones.
  return zxcvbn(password.slice(0, 100), words).guesses < 1e8
    ? 'This password is too easy to guess. Three or four words that do not belong together are good.'
    : null;
}
