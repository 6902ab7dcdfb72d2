import { randomBytes } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { hash } from '@node-rs/argon2';
import { config } from './config';
import { alone, database } from './database';
import { newId } from './ids';
import { log } from './log';
import { PersonRow } from './models';
import { DEMO_EMAIL } from './services/people';
import { bringInPackage } from './services/pieces';

/** Servers that start at once fill the demo once. */
const SEED_LOCK = 7_391_205;

/**
 * Makes the demo person and brings in the demo pieces, once, and all or nothing: a server that is ended meanwhile leaves
 * nothing, and the next one begins anew. The account has no password anybody knows.
 */
export async function seedDemo(): Promise<void> {
  const { demo, demoPieces } = config;
  if (!demo || !demoPieces || (await isThere())) return;
  await alone(SEED_LOCK, async () => {
    if (await isThere()) return;
    const files = (await readdir(demoPieces))
      .filter((file) => file.endsWith('.zip'))
      .sort()
      .reverse();
    await database().transaction(async (transaction) => {
      const person = { id: newId(), name: 'Ina Rask', email: DEMO_EMAIL };
      await PersonRow.create({ ...person, passwordHash: await hash(randomBytes(24).toString('hex')) }, { transaction });
      for (const file of files) await bringInPackage(person, await readFile(join(demoPieces, file)), transaction);
    });
    log.info({ pieces: files.length }, 'made the demo');
  });
}

const isThere = async () => (await PersonRow.findOne({ where: { email: DEMO_EMAIL } })) !== null;
