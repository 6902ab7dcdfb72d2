import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { collect, has, isRoot } from './run.mjs';
import { say, since, Stop } from './say.mjs';

/** Where Debian keeps the programs of its PostgreSQL server, the newest version first; null where it is not installed. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  if (existsSync(base))
    for (const version of readdirSync(base).sort((a, b) => Number(b) - Number(a)))
      if (existsSync(`${base}/${version}/bin/initdb`) && existsSync(`${base}/${version}/bin/postgres`)) return `${base}/${version}/bin`;
  return null;
}

export const chromium = () => ['/usr/bin/chromium', '/usr/bin/chromium-browser'].find(existsSync) ?? null;

/** The same browser without windows, which is faster. */
const headless = () => ['/usr/bin/chromium-headless-shell'].find(existsSync) ?? null;

const SHELL = 'chromium-headless-shell';

/** Where each program is, by the package that it comes in; null where it is not installed. */
const found = { postgresql: postgresPrograms, chromium, [SHELL]: headless };

/** Installs the browser without windows; gives its path, or null where its package is not to be had. */
export async function ensureTestBrowser() {
  try {
    await ensurePrograms([SHELL]);
  } catch (error) {
    if (!(error instanceof Stop)) throw error;
  }
  return headless();
}

/** Installs what is missing of Debian's packages, or says how to. */
export async function ensurePrograms(wanted) {
  const missing = wanted.filter((name) => !found[name]());
  if (missing.length === 0) return;
  const by = `apt-get install --no-install-recommends ${missing.join(' ')}`;
  if (!has('apt-get'))
    throw new Stop(
      `${missing.join(' and ')} must be installed, and this is no Debian machine: install them with your system's package manager${missing.includes('postgresql') ? ', or set DATABASE_URL to a PostgreSQL database' : ''}, then try again.`
    );
  if (!isRoot()) throw new Stop(`${missing.join(' and ')} must be installed first. Run “sudo ${by}”, then try again.`);
  const began = Date.now();
  say(`installing from Debian: ${missing.join(', ')}`);
  keepDebianFromStartingItsOwn();
  const environment = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  for (const args of [['update'], ['install', '-y', '--no-install-recommends', ...missing]]) {
    const { code, output } = await collect('apt-get', args, { env: environment });
    if (code !== 0)
      throw new Stop(
        `${output.trim().split('\n').slice(-5).join('\n')}\n\nDebian's packages could not be installed (above). Run “${by}” by hand, then try again.`
      );
  }
  say(`installed in ${since(began)}`);
}

/** Debian's package would make and start a cluster of its own, which nobody needs here. */
function keepDebianFromStartingItsOwn() {
  const file = '/etc/postgresql-common/createcluster.conf';
  const line = 'create_main_cluster = false\n';
  mkdirSync('/etc/postgresql-common', { recursive: true });
  const old = existsSync(file) ? readFileSync(file, 'utf8') : '';
  if (!/^create_main_cluster\s*=/m.test(old)) writeFileSync(file, old + line);
}
