import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { dataFolder, root } from './run.mjs';
import { Stop } from './say.mjs';

/** Starts the built studio on a loopback port and waits until it answers. */
export async function startStudio({
  port,
  databaseUrl,
  demo,
  logLevel = 'warn',
  dev = false,
  mailFolder = process.env.ZANY_MAIL_FOLDER ?? join(dataFolder, 'mail'),
  hooksInside = false,
}) {
  const environment = {
    ...process.env,
    HOST: '127.0.0.1',
    PORT: String(port),
    ORIGIN: `http://localhost:${port}`,
    BODY_SIZE_LIMIT: '320M',
    // Longer than a proxy, or a client that asks now and then, keeps a connection for the next request.
    KEEP_ALIVE_TIMEOUT: '50',
    ZANY_WORKER: join(root, 'studio/dist/worker.js'),
    DATABASE_URL: databaseUrl,
    ZANY_MAIL_FOLDER: mailFolder,
    ZANY_STARTERS: join(root, 'demo'),
    LOG_LEVEL: process.env.LOG_LEVEL ?? logLevel,
    NODE_ENV: dev ? 'development' : 'production',
    ...(hooksInside && { ZANY_HOOKS_INSIDE: 'on' }),
    ...(demo && { ZANY_DEMO: '1', ZANY_DEMO_PIECES: join(root, 'demo/pieces') }),
  };
  if (!demo) delete environment.ZANY_DEMO;
  const [command, args, cwd] = dev
    ? [join(root, 'node_modules/.bin/vite'), ['dev', '--port', String(port), '--strictPort', '--host', '127.0.0.1'], join(root, 'studio')]
    : [process.execPath, ['build/index.js'], join(root, 'studio')];
  const child = spawn(command, args, { cwd, env: environment, stdio: ['ignore', 'inherit', 'inherit'], detached: true });
  for (let i = 0; i < 400; i++) {
    if (child.exitCode !== null || child.signalCode !== null) throw new Stop('The studio did not start; what went wrong is above.');
    const isUp = await fetch(`http://127.0.0.1:${port}/health`)
      .then((response) => response.ok)
      .catch(() => false);
    if (isUp) return child;
    await sleep(100);
  }
  child.kill('SIGKILL');
  throw new Stop('The studio did not answer within 40 s; what it said is above.');
}

/** Ends a child: asks first, then insists. */
export async function end(child, patience = 5000) {
  if (!child || child.exitCode !== null || child.signalCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await Promise.race([ended, sleep(patience)]);
  if (child.exitCode === null && child.signalCode === null) child.kill('SIGKILL');
}
