import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { Cluster } from './cluster.mjs';
import { freePort } from './ports.mjs';
import { dataFolder, root, run } from './run.mjs';
import { end, startStudio } from './studio.mjs';

/**
 * A studio with a database of its own, both made anew and gone afterwards: gives what the work gives. Each call has a
 * cluster of its own, so that several can run at once.
 */
export async function withStudio({ name, durable = false, logLevel = 'error' }, work) {
  const cluster = new Cluster(`${name}-${process.pid}`, { durable });
  const mailFolder = join(dataFolder, `${name}-mail-${process.pid}`);
  let studio = null;
  try {
    const databaseUrl = await cluster.start();
    const port = await freePort();
    // What programs are told is told to tests on this machine.
    studio = await startStudio({ port, databaseUrl, demo: true, logLevel, mailFolder, hooksInside: true });
    return await work({ port, databaseUrl, studio, mailFolder });
  } finally {
    await end(studio);
    await cluster.stop();
    for (const path of [cluster.folder, cluster.secretFile, mailFolder]) rmSync(path, { recursive: true, force: true });
  }
}

/** Runs Playwright against a studio and a database of its own, with a browser without windows where there is one; gives its exit code. */
export const runPlaywright = (name, args, browser = null) =>
  withStudio({ name }, ({ port, databaseUrl, mailFolder }) =>
    run(join(root, 'node_modules/.bin/playwright'), ['test', ...args], {
      cwd: join(root, 'e2e'),
      env: {
        ...process.env,
        ZANY_URL: `http://localhost:${port}`,
        ZANY_DATABASE_URL: databaseUrl,
        ZANY_MAIL_FOLDER: mailFolder,
        ...(browser && { ZANY_BROWSER: browser }),
      },
    })
  );
