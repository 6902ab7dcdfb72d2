import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { root } from './run.mjs';

const passedOver = new Set(['node_modules', 'dist', '.svelte-kit', '.data', 'test-results', 'zany-piece.js']);

/** A digest of files and of all files in folders, by content. */
export function digest(paths) {
  const hash = createHash('sha256');
  const take = (path) => {
    if (!existsSync(path)) return;
    if (statSync(path).isDirectory()) {
      for (const name of readdirSync(path).sort()) if (!passedOver.has(name)) take(join(path, name));
    } else hash.update(path.slice(root.length)).update('\0').update(readFileSync(path));
  };
  for (const path of paths) take(join(root, path));
  return hash.digest('hex');
}

/** Does work only when what it depends on has changed since it was last done well. */
export async function once(name, value, work) {
  const file = join(root, '.data/stamps', name);
  if (existsSync(file) && readFileSync(file, 'utf8') === value) return false;
  await work();
  mkdirSync(dirname(file), { recursive: true });
  writeFileSync(file, value);
  return true;
}
