import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { expect, test } from 'vitest';

const src = fileURLToPath(new URL('../..', import.meta.url));

const sheets = readdirSync(src, { recursive: true, encoding: 'utf8' }).filter((file) => /\.(svelte|css)$/.test(file));

/** Where such a rule stands, the whole page is styled anew whenever anything on it comes or goes: each press of a key then takes as long. */
test('no rule looks through the whole page for something by what is in it', () => {
  expect(sheets.length).toBeGreaterThan(100);
  const found = sheets.filter((file) => /(?:\bbody|\bhtml|:root)\)?:has\(/.test(readFileSync(join(src, file), 'utf8')));
  expect(found).toEqual([]);
});
