/** `npm start`: does all set-up that is missing, then runs the studio until it is stopped. */
import { Cluster } from './lib/cluster.mjs';
import { ensurePrograms } from './lib/debian.mjs';
import { isFree } from './lib/ports.mjs';
import { build, checkNode, installPackages } from './lib/prepare.mjs';
import { main, say, Stop } from './lib/say.mjs';
import { end, startStudio } from './lib/studio.mjs';

const dev = process.argv.includes('--dev');
const wantedPort = 5180;

let cluster = null;
let studio = null;
let stopping = null;

/** Ends what was started, in the order that loses nothing. */
const stop = () =>
  (stopping ??= (async () => {
    await end(studio);
    await cluster?.stop();
  })());

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop().then(() => process.exit(0)));

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

await main(async () => {
  watchParent();
  checkNode();
  const ownDatabase = !process.env.DATABASE_URL;
  if (ownDatabase) await ensurePrograms(['postgresql']);
  await installPackages();
  if (!dev) await build();
  const port = await choosePort();
  let databaseUrl = process.env.DATABASE_URL;
  if (ownDatabase) {
    cluster = new Cluster('postgres');
    databaseUrl = await cluster.start();
    say('database is up');
  }
  try {
    studio = await startStudio({ port, databaseUrl, demo: ownDatabase, dev });
  } catch (error) {
    await stop();
    throw error;
  }
  studio.once('exit', (code) => {
    if (stopping) return;
    console.error(`\nThe studio ended by itself (${code}). Start again; nothing that was saved is lost.`);
    void stop().then(() => process.exit(1));
  });
  console.log(`\n  Zany Thread is at  http://localhost:${port}\n`);
  if (ownDatabase) console.log('  To look around, press “Look around as Ina of Kittiwake Line” on the first page.\n');
  console.log('  Ctrl+C stops it.');
});
