/** `npm run bench`: builds what is measured, then prints the figures; with `core` or `page` one half of them. */
import { join } from 'node:path';
import { runPlaywright } from './lib/browser.mjs';
import { ensurePrograms } from './lib/debian.mjs';
import { build, checkNode, installPackages } from './lib/prepare.mjs';
import { root, run } from './lib/run.mjs';
import { main } from './lib/say.mjs';

await main(async () => {
  const [half] = process.argv.slice(2);
  checkNode();
  if (half !== 'core') await ensurePrograms(['postgresql', 'chromium']);
  await installPackages();
  await build();
  const codes = [];
  if (half !== 'page') codes.push(await run(join(root, 'node_modules/.bin/tsx'), ['bench/src/main.ts']));
  if (half !== 'core') codes.push(await runPlaywright('bench-postgres', ['--config', 'bench.config.ts']));
  process.exitCode = codes.find(Boolean) ?? 0;
});
