/**
 * `npm run mutants [file …]`: changes the engine in one small way after the other and counts how many of the changes its tests notice.
 * All of `run/` takes hours; with names of files there (`runner`, `heads`) only those. Words are left as they are: nothing depends on them.
 */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { checkNode, installPackages } from './lib/prepare.mjs';
import { root, run } from './lib/run.mjs';
import { main } from './lib/say.mjs';

await main(async () => {
  checkNode();
  await installPackages();
  mkdirSync(join(root, '.data/reports'), { recursive: true });
  const files = process.argv.slice(2).map((name) => `src/run/${name.replace(/\.ts$/, '')}.ts`);
  const only = files.length ? ['--mutate', files.join(',')] : [];
  process.exitCode = await run(join(root, 'node_modules/.bin/stryker'), ['run', 'stryker.config.json', ...only], { cwd: join(root, 'core') });
});
