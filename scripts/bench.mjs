/** `npm run bench`: builds what is measured, then prints the figures; with `core`, `explore`, `truth`, `page` or `server` one part of them. */
import { join } from 'node:path';
import { runPlaywright, withStudio } from './lib/browser.mjs';
import { ensurePrograms } from './lib/debian.mjs';
import { build, checkNode, installPackages } from './lib/prepare.mjs';
import { root, run } from './lib/run.mjs';
import { main } from './lib/say.mjs';

const tsx = join(root, 'node_modules/.bin/tsx');

/** A durable database, as people have it. */
const server = (args) =>
  withStudio({ name: 'bench-server', durable: true }, ({ port, databaseUrl, studio }) =>
    run(tsx, ['bench/src/server/main.ts', ...args], {
      env: { ...process.env, ZANY_URL: `http://localhost:${port}`, ZANY_DATABASE_URL: databaseUrl, ZANY_PID: String(studio.pid) },
    })
  );

await main(async () => {
  const [part, ...more] = process.argv.slice(2);
  const is = (name) => part === undefined || part === name;
  checkNode();
  await ensurePrograms(['core', 'explore', 'truth'].includes(part) ? [] : part === 'server' ? ['postgresql'] : ['postgresql', 'chromium']);
  await installPackages();
  await build();
  const codes = [];
  if (is('core')) codes.push(await run(tsx, ['bench/src/main.ts']));
  if (is('explore')) codes.push(await run(tsx, ['bench/src/explore.ts']));
  if (is('truth')) codes.push(await run(tsx, ['bench/src/truth.ts', ...more]));
  if (is('page')) codes.push(await runPlaywright('bench-postgres', ['--config', 'bench.config.ts']));
  if (is('server')) codes.push(await server(more));
  process.exitCode = codes.find(Boolean) ?? 0;
});
