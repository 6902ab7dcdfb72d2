import js from '@eslint/js';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './studio/svelte.config.js';

/** Each package sees only what is above it: core, player, cli, studio, demo, e2e, bench. */
const sees = {
  core: [],
  player: ['@zany/core'],
  cli: ['@zany/core', '@zany/player'],
  studio: ['@zany/core', '@zany/player'],
  demo: ['@zany/core'],
  bench: ['@zany/core'],
  e2e: ['@zany/core', '@zany/player'],
};

const direction = Object.entries(sees).map(([name, allowed]) => ({
  files: [`${name}/**/*.{ts,svelte}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            regex: `^@zany/(?!(${allowed.map((other) => other.slice('@zany/'.length)).join('|') || 'none'})(/|$))`,
            message: `${name} may not import this package.`,
          },
          { regex: '^(\\.\\./)+(core|player|cli|studio|demo|bench|e2e)/', message: 'Import a package by its name.' },
          ...(name === 'core' || name === 'player' ? [{ regex: '^node:', message: `${name} runs in browsers too: no Node modules.` }] : []),
        ],
      },
    ],
  },
}));

const pureCore = {
  files: ['core/src/**/*.ts'],
  rules: {
    '@typescript-eslint/no-explicit-any': 'error',
    'no-restricted-globals': ['error', 'window', 'document', 'localStorage', 'fetch', 'setTimeout', 'setInterval', 'performance', 'process'],
    'no-restricted-properties': [
      'error',
      { object: 'Math', property: 'random', message: 'The core has no randomness of its own.' },
      { object: 'Date', property: 'now', message: 'The core has no clock.' },
    ],
  },
};

export default ts.config(
  {
    ignores: [
      '**/node_modules',
      '**/dist',
      'studio/build',
      '**/.svelte-kit',
      '.data',
      'e2e/test-results',
      'e2e/.handed-out',
      'studio/static/zany-piece.js',
    ],
  },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  { files: ['**/*.svelte', '**/*.svelte.ts'], languageOptions: { parserOptions: { parser: ts.parser, svelteConfig } } },
  {
    rules: {
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/no-unused-expressions': ['error', { allowShortCircuit: true, allowTernary: true }],
      'no-undef': 'off',
      'svelte/no-navigation-without-resolve': 'off',
      'svelte/prefer-svelte-reactivity': 'off',
      'svelte/no-useless-mustaches': 'off',
    },
  },
  ...direction,
  pureCore,
  { files: ['core/src/**/*.test.ts'], rules: { '@typescript-eslint/no-explicit-any': 'off' } }
);
