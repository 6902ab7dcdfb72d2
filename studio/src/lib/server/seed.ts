import { randomBytes } from 'node:crypto';
import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { hash } from '@node-rs/argon2';
import { config } from './config';
import { newId } from './ids';
import { log } from './log';
import { PersonRow } from './models';
import { DEMO_EMAIL } from './services/people';
import { bringInPackage } from './services/pieces';

/** Makes the demo person and brings in the demo pieces, once. The account has no password anybody knows. */
export async function seedDemo(): Promise<void> {
  if (!config.demo || !config.demoPieces) return;
  if (await PersonRow.findOne({ where: { email: DEMO_EMAIL } })) return;
  const person = { id: newId(), name: 'Ina Rask', email: DEMO_EMAIL };
  await PersonRow.create({ ...person, passwordHash: await hash(randomBytes(24).toString('hex')) });
  const files = (await readdir(config.demoPieces))
    .filter((file) => file.endsWith('.zip'))
    .sort()
    .reverse();
  for (const file of files) await bringInPackage(person, await readFile(join(config.demoPieces, file)));
  log.info({ pieces: files.length }, 'made the demo');
}
