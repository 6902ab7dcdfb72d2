import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { Cluster } from './cluster.mjs';
import { freePort } from './ports.mjs';
import { root, run } from './run.mjs';
import { end, startStudio } from './studio.mjs';

/** Runs Playwright against a studio and a database of its own, both made anew; gives its exit code. */
export async function runPlaywright(clusterName, args) {
  const cluster = new Cluster(clusterName, { durable: false });
  rmSync(cluster.folder, { recursive: true, force: true });
  const databaseUrl = await cluster.start();
  const port = await freePort();
  let studio = null;
  try {
    studio = await startStudio({ port, databaseUrl, demo: true, logLevel: 'error' });
    return await run(join(root, 'node_modules/.bin/playwright'), ['test', ...args], {
      cwd: join(root, 'e2e'),
      env: { ...process.env, ZANY_URL: `http://localhost:${port}`, ZANY_DATABASE_URL: databaseUrl },
    });
  } finally {
    await end(studio);
    await cluster.stop();
  }
}
