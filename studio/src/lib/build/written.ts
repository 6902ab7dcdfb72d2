import { cutText } from '@zany/core';

/** Words with commas between them, as they are written for layers: one for each, with its name and text; none where a number begins it. */
export const wordsWritten = (written: string): string[] =>
  /^\s*\d/.test(written) || !written.trim()
    ? []
    : written
        .split(',')
        .map((word) => cutText(word.trim(), 110))
        .filter(Boolean);
