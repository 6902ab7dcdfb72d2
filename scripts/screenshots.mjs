/** `npm run screenshots`: draws the pictures of the main views from the demo pieces, into `docs/screenshots`. */
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { runPlaywright } from './lib/browser.mjs';
import { ensurePrograms } from './lib/debian.mjs';
import { build, checkNode, installPackages } from './lib/prepare.mjs';
import { root } from './lib/run.mjs';
import { main } from './lib/say.mjs';

await main(async () => {
  checkNode();
  await ensurePrograms(['postgresql', 'chromium']);
  await installPackages();
  await build();
  mkdirSync(join(root, 'docs/screenshots'), { recursive: true });
  process.exitCode = await runPlaywright('pictures-postgres', ['--config', 'screenshots.config.ts', ...process.argv.slice(2)]);
});
