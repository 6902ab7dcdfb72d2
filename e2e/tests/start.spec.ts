import { spawn, type ChildProcess } from 'node:child_process';
import { chmodSync, existsSync, mkdtempSync, readdirSync, readFileSync, renameSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { expect, test } from '@playwright/test';
import { ask } from './database.ts';

/** The start command as a person meets it: run twice, killed in the middle, with a damaged database. No browser is needed. */

const root = new URL('../..', import.meta.url).pathname;

interface Scripts {
  readonly startStudio: (options: object) => Promise<ChildProcess>;
  readonly end: (child: ChildProcess) => Promise<void>;
  readonly freePort: () => Promise<number>;
  readonly Cluster: new (
    name: string,
    options: object
  ) => { start: () => Promise<string>; stop: () => Promise<void>; folder: string; secretFile: string };
}

const scripts = async (): Promise<Scripts> =>
  Object.assign({}, ...(await Promise.all(['studio', 'ports', 'cluster'].map((name) => import(`../../scripts/lib/${name}.mjs`))))) as Scripts;

class Started {
  output = '';
  private constructor(
    readonly child: ChildProcess,
    readonly port: number
  ) {
    for (const stream of [child.stdout, child.stderr]) stream?.on('data', (part: Buffer) => (this.output += part.toString()));
  }

  static async run(data: string): Promise<Started> {
    const port = await (await scripts()).freePort();
    const { DATABASE_URL: _other, ...env } = process.env;
    const child = spawn(process.execPath, ['scripts/start.mjs'], {
      cwd: root,
      env: { ...env, PORT: String(port), ZANY_DATA: data },
      stdio: ['ignore', 'pipe', 'pipe'],
    });
    return new Started(child, port);
  }

  health = () =>
    fetch(`http://localhost:${this.port}/health`).then(
      (response) => response.status,
      () => 0
    );

  async until(is: () => boolean | Promise<boolean>, what: string): Promise<void> {
    for (let i = 0; i < 600 && !(await is()); i++) await sleep(100);
    expect(await is(), `${what}\n${this.output}`).toBe(true);
  }

  ready = () => this.until(() => this.output.includes('Ctrl+C stops it'), 'it starts');

  ended = () => this.until(() => this.child.exitCode !== null || this.child.signalCode !== null, 'it ends');

  async stop(): Promise<void> {
    if (this.child.exitCode === null) this.child.kill('SIGTERM');
    await this.ended();
  }
}

let data: string;

test.beforeEach(() => {
  data = mkdtempSync(join(tmpdir(), 'zany-start-'));
  // The database's own user has to get there.
  chmodSync(data, 0o755);
});
test.afterEach(() => rmSync(data, { recursive: true, force: true }));

const processesWith = (word: string): number[] =>
  readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .filter((pid) => {
      try {
        const words = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0');
        return words.includes(word) && /postgres$/.test(words[0] ?? '');
      } catch {
        return false;
      }
    })
    .map(Number);

test('a second start in one place leaves the first alone and says where it is', async () => {
  const first = await Started.run(data);
  try {
    await first.ready();
    const second = await Started.run(data);
    await second.ended();
    expect(second.child.exitCode).toBe(1);
    expect(second.output).toContain(`Zany Thread already runs from this folder, at http://localhost:${first.port}`);
    expect(await first.health()).toBe(200);
    // What browsers are sent stands packed on the server, and is sent so.
    const page = await (await fetch(`http://localhost:${first.port}/sign-in`)).text();
    const script = /_app\/immutable\/[\w/.-]+\.js/.exec(page)![0];
    for (const packing of ['br', 'gzip']) {
      const { headers } = await fetch(`http://localhost:${first.port}/${script}`, { headers: { 'accept-encoding': packing } });
      expect(headers.get('content-encoding')).toBe(packing);
    }
  } finally {
    await first.stop();
  }
  expect(existsSync(join(data, 'start.owner'))).toBe(false);
});

test('a database or a studio that dies is noticed and brought back', async () => {
  const started = await Started.run(data);
  try {
    await started.ready();
    const [database] = processesWith(join(data, 'postgres'));
    process.kill(database!, 'SIGKILL');
    await started.until(() => started.output.includes('the database is back'), 'the database comes back');
    await started.until(async () => (await started.health()) === 200, 'it is ready again');
    const owner = JSON.parse(readFileSync(join(data, 'start.owner'), 'utf8')) as { pid: number };
    const studios = readdirSync('/proc').filter((pid) => /^\d+$/.test(pid) && isChild(Number(pid), owner.pid, 'build/index.js'));
    process.kill(Number(studios[0]), 'SIGKILL');
    await started.until(() => started.output.includes('the studio is back'), 'the studio comes back');
    expect(await started.health()).toBe(200);
  } finally {
    await started.stop();
  }
});

function isChild(pid: number, parent: number, word: string): boolean {
  try {
    const stat = readFileSync(`/proc/${pid}/stat`, 'utf8')
      .replace(/^.*\) /s, '')
      .split(' ');
    return Number(stat[1]) === parent && readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(word);
  } catch {
    return false;
  }
}

test('a damaged database is left as it is, with what to do', async () => {
  const first = await Started.run(data);
  await first.ready();
  await first.stop();
  const version = join(data, 'postgres/PG_VERSION');
  renameSync(version, `${version}.away`);
  const before = readdirSync(join(data, 'postgres')).sort();
  const second = await Started.run(data);
  await second.ended();
  expect(second.child.exitCode).toBe(1);
  expect(second.output).toContain('is not empty, but holds no database');
  expect(readdirSync(join(data, 'postgres')).sort()).toEqual(before);
  renameSync(`${version}.away`, version);
  const third = await Started.run(data);
  await third.ready();
  expect(await third.health()).toBe(200);
  await third.stop();
});

test('killed in the middle of the first start, it begins anew and ends with the whole demo; two servers at once make it once', async () => {
  const { Cluster, startStudio, freePort, end } = await scripts();
  const cluster = new Cluster(`e2e-start-${process.pid}`, { durable: false });
  const databaseUrl = await cluster.start();
  try {
    const options = async () => ({ port: await freePort(), databaseUrl, demo: true, logLevel: 'silent' });
    const killed = spawn(process.execPath, ['build/index.js'], {
      cwd: join(root, 'studio'),
      env: {
        ...process.env,
        PORT: String(await freePort()),
        DATABASE_URL: databaseUrl,
        ZANY_DEMO: '1',
        ZANY_DEMO_PIECES: join(root, 'demo/pieces'),
        ZANY_WORKER: join(root, 'studio/dist/worker.js'),
      },
      stdio: 'ignore',
    });
    await sleep(900);
    killed.kill('SIGKILL');
    const servers = await Promise.all([startStudio(await options()), startStudio(await options())]);
    const count = async (table: string) => Number((await ask(databaseUrl, `SELECT count(*) FROM ${table}`))[0]!.count);
    expect(await count('people')).toBe(1);
    const demos = readdirSync(join(root, 'demo/pieces')).filter((file) => file.endsWith('.zip')).length;
    expect(await count('pieces')).toBe(demos);
    expect(await count('members')).toBe(demos);
    expect(await count('migrations')).toBe(readdirSync(join(root, 'studio/src/lib/server/migrations')).length);
    await Promise.all(servers.map((server) => end(server)));
  } finally {
    await cluster.stop();
    for (const path of [cluster.folder, cluster.secretFile]) rmSync(path, { recursive: true, force: true });
  }
});
