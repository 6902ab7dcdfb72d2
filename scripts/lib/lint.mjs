/** What both linters hold to: the one for Svelte's files, and the quick one for all others. */
import js from '@eslint/js';
import ts from 'typescript-eslint';

export const ignored = [
  '**/node_modules',
  '**/dist',
  'studio/build',
  '**/.svelte-kit',
  '.data',
  'e2e/test-results',
  'e2e/.handed-out',
  'studio/static/zany-piece.js',
];

export const recommended = [js.configs.recommended, ...ts.configs.recommended];

export const ours = {
  '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
  '@typescript-eslint/no-unused-expressions': ['error', { allowShortCircuit: true, allowTernary: true }],
  'no-undef': 'off',
};

/** Each package sees only what is above it: core, player, cli, studio, demo, e2e, bench. */
const sees = {
  core: [],
  player: ['core'],
  cli: ['core', 'player'],
  studio: ['core', 'player'],
  demo: ['core'],
  bench: ['core'],
  e2e: ['core', 'player'],
};
const packages = Object.keys(sees);
const others = (allowed) => packages.filter((name) => !allowed.includes(name)).join('|');

export const direction = Object.entries(sees).map(([name, allowed]) => ({
  files: [`${name}/**/*.{ts,svelte}`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { regex: `^@zany/(${others(allowed)})(/|$)`, message: `${name} may not import this package.` },
          { regex: `^(\\.\\./)+(${packages.join('|')})/`, message: 'Import a package by its name.' },
          ...(name === 'core' || name === 'player' ? [{ regex: '^node:', message: `${name} runs in browsers too: no Node modules.` }] : []),
        ],
      },
    ],
  },
}));
