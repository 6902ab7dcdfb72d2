import { existsSync, readdirSync } from 'node:fs';
import { readFile, writeFile } from 'node:fs/promises';
import { extname, join } from 'node:path';
import { promisify } from 'node:util';
import * as zlib from 'node:zlib';
import { collect, root } from './run.mjs';
import { say, since, Stop } from './say.mjs';
import { digest, once } from './stamp.mjs';

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19))
    throw new Stop(`Node.js 20.19 or later is needed; this is ${process.versions.node}. Install a newer one, then try again.`);
}

/** Installs the npm packages that the lock file names, those that build included, when it has changed or they are not there. */
export async function installPackages() {
  const value = existsSync(join(root, 'node_modules/.package-lock.json')) ? digest(['package-lock.json']) : `absent ${Date.now()}`;
  await once('packages', value, async () => {
    const began = Date.now();
    say('installing npm packages');
    const { code, output } = await collect('npm', ['ci', '--include=dev', '--no-audit', '--no-fund']);
    if (code !== 0)
      throw new Stop(
        `${output.trim().split('\n').slice(-8).join('\n')}\n\nThe npm packages could not be installed (above). Is the npm registry reached? Then try again.`
      );
    say(`installed in ${since(began)}`);
  });
  // The lock file's digest is what counts from now on.
  await once('packages', digest(['package-lock.json']), async () => undefined);
}

const sources = [
  'core/src',
  'core/package.json',
  'player/src',
  'player/package.json',
  'cli/src',
  'studio/src',
  'studio/static',
  'studio/package.json',
  'studio/svelte.config.js',
  'studio/vite.config.ts',
  'scripts/build-runtime.mjs',
  'package-lock.json',
];

/** Builds the player, the command line and the studio, when a source has changed. */
export async function build() {
  const isThere = [
    'player/dist/page-parts.json',
    'studio/static/zany-piece.js',
    'cli/dist/main.js',
    'studio/dist/worker.js',
    'studio/build/index.js',
  ].every((file) => existsSync(join(root, file)));
  const built = await once('build', isThere ? digest(sources) : `absent ${Date.now()}`, async () => {
    const began = Date.now();
    say('building');
    await buildParts();
    await buildStep(join(root, 'node_modules/.bin/vite'), ['build', '--logLevel', 'warn'], join(root, 'studio'));
    say(`built in ${since(began)}`);
  });
  if (built) await once('build', digest(sources), async () => undefined);
}

/** Builds all but the studio itself, which builds its pages as they are asked for while it is worked on. */
export const buildParts = () => buildStep('node', ['scripts/build-runtime.mjs'], root);

const gzip = promisify(zlib.gzip);
const brotli = promisify(zlib.brotliCompress);

/** What gets smaller when it is packed. */
const PACKED = new Set(['.js', '.css', '.html', '.json', '.svg', '.xml', '.txt', '.webmanifest']);

/** Lays beside each file that browsers are sent what it is packed, so that the server has it ready; what is there stays. */
export async function packAssets() {
  const folder = join(root, 'studio/build/client');
  const files = readdirSync(folder, { recursive: true, withFileTypes: true })
    .filter((entry) => entry.isFile() && PACKED.has(extname(entry.name)))
    .map((entry) => join(entry.parentPath ?? entry.path, entry.name))
    .filter((file) => !existsSync(`${file}.br`));
  const params = { [zlib.constants.BROTLI_PARAM_QUALITY]: 9 };
  for (const file of files) {
    const bytes = await readFile(file);
    await writeFile(`${file}.gz`, await gzip(bytes, { level: 9 }));
    // The last to be written: a file that has it has both.
    await writeFile(`${file}.br`, await brotli(bytes, { params }));
  }
}

async function buildStep(command, args, cwd) {
  const { code, output } = await collect(command, args, { cwd });
  if (code !== 0) throw new Stop(`${output.trim().split('\n').slice(-20).join('\n')}\n\nThe build failed (above).`);
}
