/** `npm run bench`: builds what is measured, then prints the figures. */
import { join } from 'node:path';
import { build, checkNode, installPackages } from './lib/prepare.mjs';
import { root, run } from './lib/run.mjs';
import { main } from './lib/say.mjs';

await main(async () => {
  checkNode();
  await installPackages();
  await build();
  process.exitCode = await run(join(root, 'node_modules/.bin/tsx'), ['bench/src/main.ts']);
});
