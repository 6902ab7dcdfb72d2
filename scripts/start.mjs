/** `npm start`: does all set-up that is missing, then runs the studio until it is stopped. */
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import { Cluster } from './lib/cluster.mjs';
import { ensurePrograms } from './lib/debian.mjs';
import { Owner } from './lib/owner.mjs';
import { isFree } from './lib/ports.mjs';
import { build, buildParts, checkNode, installPackages, packAssets } from './lib/prepare.mjs';
import { dataFolder } from './lib/run.mjs';
import { main, say, Stop } from './lib/say.mjs';
import { end, startStudio } from './lib/studio.mjs';

const dev = process.argv.includes('--dev');
const wantedPort = 5180;
/** What dies more often than this in a minute is not brought back any more. */
const MOST_DEATHS = 5;

const owner = new Owner(join(dataFolder, 'start.owner'));
let cluster = null;
let studio = null;
let stopping = null;
let options = null;
const deaths = [];

/** Ends what was started, in the order that loses nothing. */
const stop = () =>
  (stopping ??= (async () => {
    await end(studio);
    await cluster?.stop();
    owner.release();
  })());

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop().then(() => process.exit(0)));
process.on('exit', () => owner.release());

/** npm ends at a signal without waiting for us: then nothing must stay behind. */
function watchParent() {
  const parent = process.ppid;
  if (process.env.npm_lifecycle_event) setInterval(() => process.ppid !== parent && void stop().then(() => process.exit(0)), 500).unref();
}

async function choosePort() {
  const own = process.env.PORT;
  if (own !== undefined) {
    const port = Number(own);
    if (!Number.isInteger(port) || port < 1 || port > 65_535) throw new Stop(`PORT is “${own}”; it must be a number from 1 to 65535.`);
    if (!(await isFree(port))) throw new Stop(`Port ${port} is taken. Set PORT to another one, or stop what uses it.`);
    return port;
  }
  for (let port = wantedPort; port < wantedPort + 20; port++) if (await isFree(port)) return port;
  throw new Stop(`The ports from ${wantedPort} to ${wantedPort + 19} are all taken. Set PORT to a free one.`);
}

/** Whether something that died may be brought back; else all ends, saying so. */
function mayReturn(what) {
  const now = Date.now();
  deaths.push(now);
  while (deaths[0] < now - 60_000) deaths.shift();
  if (deaths.length <= MOST_DEATHS) return true;
  console.error(
    `\n${what} ended ${deaths.length} times within a minute and is not started again. Nothing that was saved is lost; what it said is above.`
  );
  void stop().then(() => process.exit(1));
  return false;
}

async function bringBack(what, work) {
  while (!stopping && mayReturn(what)) {
    say(`${what} has ended by itself; starting it again`);
    try {
      await work();
      return say(`${what} is back`);
    } catch (error) {
      console.error(error.message);
      await sleep(1000);
    }
  }
}

async function runStudio() {
  studio = await startStudio(options);
  studio.once('exit', () => void (stopping ?? bringBack('the studio', runStudio)));
}

await main(async () => {
  watchParent();
  checkNode();
  const other = owner.take();
  if (other)
    throw new Stop(
      other.address
        ? `Zany Thread already runs from this folder, at ${other.address} (process ${other.pid}).`
        : `Zany Thread is just being started from this folder by process ${other.pid}.`
    );
  const ownDatabase = !process.env.DATABASE_URL;
  if (ownDatabase) await ensurePrograms(['postgresql']);
  await installPackages();
  if (dev) await buildParts();
  else {
    await build();
    await packAssets();
  }
  const port = await choosePort();
  try {
    let databaseUrl = process.env.DATABASE_URL;
    if (ownDatabase) {
      cluster = new Cluster('postgres');
      databaseUrl = await cluster.start();
      cluster.onDeath = () => void (stopping ?? bringBack('the database', () => cluster.startAgain()));
      say('database is up');
    }
    options = { port, databaseUrl, demo: ownDatabase, dev };
    await runStudio();
  } catch (error) {
    await stop();
    throw error;
  }
  const address = `http://localhost:${port}`;
  owner.say({ address });
  console.log(`\n  Zany Thread is at  ${address}\n`);
  if (ownDatabase) console.log('  To look around, press “Look around as Ina of Kittiwake Line” on the first page.\n');
  console.log('  Ctrl+C stops it.');
});
