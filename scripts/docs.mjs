/** `npm run docs`: writes the documents anew that are printed from tables in the code. */
import { join } from 'node:path';
import { checkNode, installPackages } from './lib/prepare.mjs';
import { root, run } from './lib/run.mjs';
import { main } from './lib/say.mjs';

await main(async () => {
  checkNode();
  await installPackages();
  for (const [name, file] of [
    ['core', 'src/docs.test.ts'],
    ['studio', 'src/lib/shared/keys-doc.test.ts'],
  ])
    process.exitCode ||= await run(join(root, 'node_modules/.bin/vitest'), ['run', file, '--update'], { cwd: join(root, name) });
});
