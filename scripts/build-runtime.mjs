/**
 * Builds the player as classic scripts (of an exported page, and of the element for any page), the command line as one module,
 * and what the studio's worker threads run.
 */
import { execFileSync } from 'node:child_process';
import { copyFileSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import ts from 'typescript';
import { build } from 'vite';
import { builtinModules } from 'node:module';

const root = new URL('..', import.meta.url).pathname;

/** In an exported page nobody is told why something did not happen, so it does without the sentences. */
const silent = {
  name: 'silent',
  enforce: 'pre',
  resolveId: (source, importer) => (source === './why.ts' && importer?.includes('/core/src/run/') ? `${root}core/src/run/why-silent.ts` : null),
};

const bundle = async (entry, outDir, format, ssr, file = 'runtime.js', empty = true, plugins = []) => {
  await build({
    root,
    configFile: false,
    logLevel: 'warn',
    plugins,
    ...(ssr && { ssr: { noExternal: true } }),
    build: {
      outDir,
      emptyOutDir: empty,
      target: ssr ? 'node20' : 'es2022',
      minify: ssr ? false : 'oxc',
      ...(ssr && { ssr: true }),
      lib: { entry: root + entry, formats: [format], name: 'ZanyThread', fileName: () => file },
      rollupOptions: { external: ssr ? [...builtinModules, ...builtinModules.map((name) => `node:${name}`)] : [] },
    },
  });
};

export async function buildRuntime() {
  await bundle('player/src/runtime.ts', root + 'player/dist', 'iife', false, 'runtime.js', true, [silent]);
  await bundle('player/src/embed.ts', root + 'player/dist', 'iife', false, 'zany-piece.js', false);
  mkdirSync(root + 'studio/static', { recursive: true });
  for (const file of ['runtime.js', 'zany-piece.js']) inAscii(root + 'player/dist/' + file);
  copyFileSync(root + 'player/dist/zany-piece.js', root + 'studio/static/zany-piece.js');
  const css = ['player.css', 'page.css'].map((file) => readFileSync(root + 'player/src/' + file, 'utf8')).join('');
  const parts = { runtime: readFileSync(root + 'player/dist/runtime.js', 'utf8'), css, fonts: await fontFiles() };
  writeFileSync(root + 'player/dist/page-parts.json', JSON.stringify(parts));
}

/** A page that names no encoding must not change what a script says, so every other sign is written as an escape. */
function inAscii(file) {
  const escaped = (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`;
  writeFileSync(file, readFileSync(file, 'utf8').replace(/[^ -~\n\r\t]/g, escaped));
}

/** The fonts that a page can carry, as base64 of their woff2 files by family. */
async function fontFiles() {
  const source = readFileSync(root + 'core/src/piece/faces.ts', 'utf8');
  const { outputText } = ts.transpileModule(source, { compilerOptions: { module: ts.ModuleKind.ESNext, target: ts.ScriptTarget.ES2022 } });
  const { FACES } = await import(`data:text/javascript;base64,${Buffer.from(outputText).toString('base64')}`);
  const inBase64 = ({ file }) =>
    readFileSync(`${root}node_modules/@fontsource-variable/${file}/files/${file}-latin-wght-normal.woff2`).toString('base64');
  return Object.fromEntries(Object.entries(FACES).map(([family, face]) => [family, inBase64(face)]));
}

export async function buildCli() {
  await bundle('cli/src/main.ts', root + 'cli/dist', 'es', true);
}

/**
 * All in one file, since a worker has to be there soon; but what only reads files that are brought in is loaded when there is
 * one, and stays where it is: some of it is native code.
 */
export async function buildWorker() {
  // The studio's settings for TypeScript rest on a file that this makes; on a fresh checkout it is not there yet.
  execFileSync(root + 'node_modules/.bin/svelte-kit', ['sync'], { cwd: root + 'studio', stdio: ['ignore', 'ignore', 'inherit'] });
  await build({
    root: root + 'studio',
    configFile: false,
    logLevel: 'warn',
    ssr: { noExternal: true, external: ['sharp', 'css-tree', 'file-type', 'saxes'] },
    build: {
      ssr: 'src/lib/server/work/worker.ts',
      outDir: root + 'studio/dist',
      emptyOutDir: true,
      target: 'node20',
      minify: false,
      rollupOptions: { output: { entryFileNames: 'worker.js', format: 'es' } },
    },
  });
}

if (process.argv[1] === new URL(import.meta.url).pathname) {
  await buildRuntime();
  await buildCli();
  await buildWorker();
}
