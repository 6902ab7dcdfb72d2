import { rmSync } from 'node:fs';
import { Cluster } from '../scripts/lib/cluster.mjs';

/** The tests of services run against a real database, made for them and gone afterwards. */
export default async function setup() {
  const cluster = new Cluster(`unit-${process.pid}`, { durable: false });
  process.env.DATABASE_URL = await cluster.start();
  process.env.LOG_LEVEL ??= 'silent';
  return async () => {
    await cluster.stop();
    for (const path of [cluster.folder, cluster.secretFile]) rmSync(path, { recursive: true, force: true });
  };
}
