/** Svelte's files, and modules with its runes; all others have `oxlint.config.mjs`, by the same rules. */
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import { direction, ignored, ours, recommended } from './scripts/lib/lint.mjs';
import svelteConfig from './studio/svelte.config.js';

export default ts.config(
  { ignores: [...ignored, '**/*.{js,mjs,ts}', '!**/*.svelte.ts'] },
  ...recommended,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } } },
  {
    rules: {
      ...ours,
      'svelte/no-navigation-without-resolve': 'off',
      'svelte/prefer-svelte-reactivity': 'off',
      'svelte/no-useless-mustaches': 'off',
    },
  },
  ...direction
);
