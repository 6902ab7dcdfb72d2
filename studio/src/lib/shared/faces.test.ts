import { readFileSync } from 'node:fs';
import { FACES } from '@zany/core';
import { expect, test } from 'vitest';

test('every face that letters can be set in is served, with its weights', () => {
  const css = readFileSync(new URL('../../app.css', import.meta.url), 'utf8').replace(/\s+/g, ' ');
  for (const [family, { file, weights }] of Object.entries(FACES)) {
    const rule = css.split('@font-face').find((one) => one.includes(`font-family: '${family}'`)) ?? '';
    expect(rule, family).toContain(`${file}-latin-wght-normal.woff2`);
    expect(rule, family).toContain(`font-weight: ${weights.join(' ')};`);
  }
});
