import type { Piece } from '../../piece/piece.ts';
import { writePackage } from '../package.ts';
import { defineExport } from './define.ts';
import { zipped } from './folder.ts';
import { fileName } from './names.ts';

/** A package for npm with the piece and the element that runs it, for web pages, React and Svelte alike. */
export const npm = defineExport({
  kind: 'npm',
  group: 'build',
  label: 'Web component as an npm package',
  act: 'Save for npm',
  ending: '.npm.zip',
  mediaType: 'application/zip',
  meaning: '<zany-piece> with this piece in it and its types, for plain pages, Svelte and React, to be bundled with an application',
  holdsPictures: true,
  write: (piece, assets, parts) =>
    zipped({
      'package.json': `${JSON.stringify(manifest(piece), null, 2)}\n`,
      'index.js': INDEX,
      'index.d.ts': typesOf(piece),
      'react.js': REACT,
      'react.d.ts': REACT_TYPES,
      'zany-piece.js': parts.element,
      'piece.zip': writePackage(piece, assets),
      'README.md': readme(piece),
    }),
});

/** A name that npm takes. */
const packageName = (piece: Piece): string =>
  fileName(piece.head.name)
    .normalize('NFD')
    .replace(/[^a-z0-9-]+/g, '')
    .replace(/^-+|-+$/g, '') || 'piece';

const manifest = (piece: Piece) => ({
  name: packageName(piece),
  version: '1.0.0',
  private: true,
  type: 'module',
  description: `${piece.head.name}, a piece that runs as <zany-piece>`,
  exports: {
    '.': { types: './index.d.ts', default: './index.js' },
    './react': { types: './react.d.ts', default: './react.js' },
    './piece.zip': './piece.zip',
  },
  sideEffects: ['./index.js', './react.js', './zany-piece.js'],
  peerDependencies: { react: '>=18' },
  peerDependenciesMeta: { react: { optional: true } },
});

const INDEX = `import './zany-piece.js';

/** The address of the piece; a bundler puts the file where it belongs. */
export const src = new URL('./piece.zip', import.meta.url).href;

/** An element that runs the piece. */
export function makePiece() {
  const element = document.createElement('zany-piece');
  element.setAttribute('src', src);
  return element;
}
`;

/** Names of variables as a type. */
const variablesType = (piece: Piece): string => {
  const types = { 'yes/no': 'boolean', number: 'number', text: 'string', choice: 'string' } as const;
  const all = [...piece.variables.values()].filter(({ scene }) => scene === null);
  const lines = all.map(
    ({ name, type, options }) =>
      `  ${JSON.stringify(name)}: ${type === 'choice' ? (options ?? []).map((one) => JSON.stringify(one)).join(' | ') || 'string' : types[type]};`
  );
  return lines.length ? `{\n${lines.join('\n')}\n}` : '{}';
};

const typesOf = (piece: Piece): string => `/** The variables of the piece by name. */
export interface PieceVariables ${variablesType(piece)}

export type PieceFrame = ${
  [...piece.scenes.values()]
    .filter(({ use }) => use === 'frame')
    .map(({ name }) => JSON.stringify(name))
    .join(' | ') || 'never'
};

/** A running piece. Events: zany-ready, zany-frame (detail: the frame), zany-signal (detail: the signal), zany-open, zany-error. */
export interface ZanyPiece extends HTMLElement {
  readonly variables: PieceVariables;
  setVariable<K extends keyof PieceVariables>(name: K, value: PieceVariables[K]): boolean;
  sendSignal(name: string): void;
  goTo(frame: PieceFrame): boolean;
  restart(): void;
}

export const src: string;
export function makePiece(): ZanyPiece;

declare global {
  interface HTMLElementTagNameMap {
    'zany-piece': ZanyPiece;
  }
}
`;

const REACT = `import { createElement, forwardRef } from 'react';
import { src } from './index.js';

/** The piece as a component; a ref gives the element. */
export const Piece = forwardRef((properties, ref) => createElement('zany-piece', { src, ...properties, ref }));
`;

const REACT_TYPES = `import type { ForwardRefExoticComponent, HTMLAttributes, RefAttributes } from 'react';
import type { ZanyPiece } from './index.js';

export const Piece: ForwardRefExoticComponent<HTMLAttributes<ZanyPiece> & { src?: string } & RefAttributes<ZanyPiece>>;
`;

const readme = (piece: Piece): string => `# ${piece.head.name}

\`\`\`js
import { makePiece } from '${packageName(piece)}';

const piece = makePiece();
piece.style.cssText = 'width: ${piece.head.width}px; height: ${piece.head.height}px';
piece.addEventListener('zany-frame', ({ detail }) => console.log(detail));
document.body.append(piece);
\`\`\`

In Svelte: \`<zany-piece {src}></zany-piece>\` with \`import { src } from '${packageName(piece)}'\`. In React: \`import { Piece } from '${packageName(piece)}/react'\`.
`;
