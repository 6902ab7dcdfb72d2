/** All files but Svelte's own, which `eslint.config.js` has, by the same rules. */
import { direction, ignored, ours, recommended } from './scripts/lib/lint.mjs';

/** One that has no rule here: whatever reads a module refuses it. */
const REFUSED_BY_THE_LANGUAGE = new Set(['no-octal']);

const rules = Object.entries(Object.assign({}, ...recommended.map((config) => config.rules), ours)).filter(
  ([name, level]) => level !== 'off' && !REFUSED_BY_THE_LANGUAGE.has(name)
);

const pureCore = {
  files: ['core/src/**/*.ts'],
  rules: {
    'no-restricted-globals': ['error', 'window', 'document', 'localStorage', 'fetch', 'setTimeout', 'setInterval', 'performance', 'process'],
    'no-restricted-properties': [
      'error',
      { object: 'Math', property: 'random', message: 'The core has no randomness of its own.' },
      { object: 'Date', property: 'now', message: 'The core has no clock.' },
    ],
  },
};

export default {
  plugins: ['typescript'],
  categories: { correctness: 'off' },
  env: { builtin: true, browser: true, node: true },
  ignorePatterns: [...ignored, '**/*.svelte', '**/*.svelte.ts'],
  rules: Object.fromEntries(rules),
  overrides: [...direction, pureCore, { files: ['core/src/**/*.test.ts'], rules: { '@typescript-eslint/no-explicit-any': 'off' } }],
};
