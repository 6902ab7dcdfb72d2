/** `npm run screenshots`: draws the pictures of the main views from the demo pieces, into `docs/screenshots`. */
import { mkdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { Cluster } from './lib/cluster.mjs';
import { ensurePrograms } from './lib/debian.mjs';
import { freePort } from './lib/ports.mjs';
import { build, checkNode, installPackages } from './lib/prepare.mjs';
import { root, run } from './lib/run.mjs';
import { main } from './lib/say.mjs';
import { end, startStudio } from './lib/studio.mjs';

await main(async () => {
  checkNode();
  await ensurePrograms(['postgresql', 'chromium']);
  await installPackages();
  await build();
  const cluster = new Cluster('pictures-postgres', { durable: false });
  rmSync(cluster.folder, { recursive: true, force: true });
  const databaseUrl = await cluster.start();
  const port = await freePort();
  let studio = null;
  try {
    studio = await startStudio({ port, databaseUrl, demo: true, logLevel: 'error' });
    mkdirSync(join(root, 'docs/screenshots'), { recursive: true });
    process.exitCode = await run(
      join(root, 'node_modules/.bin/playwright'),
      ['test', '--config', 'screenshots.config.ts', ...process.argv.slice(2)],
      {
        cwd: join(root, 'e2e'),
        env: { ...process.env, ZANY_URL: `http://localhost:${port}`, ZANY_DATABASE_URL: databaseUrl },
      }
    );
  } finally {
    await end(studio);
    await cluster.stop();
  }
});
