import { createHash, randomBytes } from 'node:crypto';
import { hash, verify } from '@node-rs/argon2';
import { RateLimiterPostgres } from 'rate-limiter-flexible';
import { fn, Op, col, where } from 'sequelize';
import type { Person } from '$lib/shared/types';
import { database } from '../database';
import { Refusal } from '../errors';
import { PersonRow, SessionRow } from '../models';
import { newId } from '../ids';

const DAYS = 30;
export const SESSION_SECONDS = DAYS * 24 * 3600;

export const DEMO_EMAIL = 'demo@kittiwake.example';

const personOf = ({ id, name, email }: PersonRow): Person => ({ id, name, email });

const byEmail = (email: string) => PersonRow.findOne({ where: where(fn('lower', col('email')), email.trim().toLowerCase()) });

export async function register(name: string, email: string, password: string): Promise<Person> {
  if (await byEmail(email)) throw new Refusal('bad-request', 'There is an account with this address already: sign in instead.', ['email']);
  return personOf(await PersonRow.create({ id: newId(), name: name.trim(), email: email.trim(), passwordHash: await hash(password) }));
}

/** Checks a password. The answer takes as long and says the same for an address that is not known. */
export async function signIn(email: string, password: string, from: string): Promise<Person> {
  await countTry(`${from}/${email.trim().toLowerCase()}`);
  const row = await byEmail(email);
  const good = await verify(row?.passwordHash ?? (await decoyHash()), password).catch(() => false);
  if (!row || !good) throw new Refusal('signed-out', 'This address and password do not go together.', ['password']);
  return personOf(row);
}

let decoy: Promise<string> | null = null;
const decoyHash = () => (decoy ??= hash(randomBytes(16).toString('hex')));

let limiter: Promise<RateLimiterPostgres> | null = null;

/** Ten tries in five minutes for one address from one place, counted in the database for all servers. */
async function countTry(key: string): Promise<void> {
  limiter ??= new Promise((resolve, reject) => {
    const made: RateLimiterPostgres = new RateLimiterPostgres(
      { storeClient: database(), storeType: 'sequelize', points: 10, duration: 300, tableName: 'rate_limits', keyPrefix: 'sign-in' },
      (error) => (error ? reject(error) : resolve(made))
    );
  });
  try {
    await (await limiter).consume(key);
  } catch (refused) {
    if (refused instanceof Error) throw refused;
    const wait = Math.ceil((refused as { msBeforeNext: number }).msBeforeNext / 60_000);
    throw new Refusal('too-often', `Too many tries. Please wait ${wait} min.`);
  }
}

const tokenHash = (token: string) => createHash('sha256').update(token).digest('hex');

/** A new session; the token goes into the cookie and is nowhere else. */
export async function openSession(person: Person): Promise<string> {
  const token = randomBytes(32).toString('base64url');
  await SessionRow.destroy({ where: { expires: { [Op.lt]: new Date() } } });
  await SessionRow.create({ tokenHash: tokenHash(token), personId: person.id, expires: new Date(Date.now() + SESSION_SECONDS * 1000) });
  return token;
}

export async function personOfSession(token: string | undefined): Promise<Person | null> {
  if (!token) return null;
  const session = await SessionRow.findOne({ where: { tokenHash: tokenHash(token), expires: { [Op.gt]: new Date() } } });
  const row = session && (await PersonRow.findByPk(session.personId));
  return row ? personOf(row) : null;
}

export const closeSession = (token: string | undefined) =>
  token ? SessionRow.destroy({ where: { tokenHash: tokenHash(token) } }) : Promise.resolve(0);

/** The person of the demo sign-in; exists only where the start command made the database. */
export async function demoPerson(): Promise<Person> {
  const row = await byEmail(DEMO_EMAIL);
  if (!row) throw new Refusal('not-found', 'There is no demo here.');
  return personOf(row);
}
