import { RateLimiterPostgres } from 'rate-limiter-flexible';
import { database } from '../database';
import { Refusal } from '../refusal';

/** How often something may be tried, counted in the database for all servers. */
const kinds = {
  /** One address from one place, or one browser that is known. */
  'sign-in': { points: 10, duration: 300 },
  /** All addresses from one place together. */
  'sign-in from': { points: 100, duration: 300 },
  /** Accounts made from one place. */
  register: { points: 20, duration: 3600 },
  /** The old password, asked for before it is changed. */
  'old password': { points: 10, duration: 300 },
  /** Links for a forgotten password, to one address and from one place. */
  'forgotten to': { points: 3, duration: 3600 },
  'forgotten from': { points: 20, duration: 3600 },
  /** Letters with invitations, by one person. */
  invite: { points: 60, duration: 3600 },
  /** Links that there are not, or wrong passwords for them, from one place. */
  'wrong link': { points: 60, duration: 600 },
  /** Coming in by links from one place: a room full of reviewers may share one. */
  'come in': { points: 300, duration: 3600 },
  /** Wrong passwords for one link, from anywhere. */
  'link password': { points: 50, duration: 600 },
} as const;

export type TryKind = keyof typeof kinds;

const limiters = new Map<TryKind, Promise<RateLimiterPostgres>>();

function limiterOf(kind: TryKind): Promise<RateLimiterPostgres> {
  const known = limiters.get(kind);
  if (known) return known;
  const { points, duration } = kinds[kind];
  const made = new Promise<RateLimiterPostgres>((resolve, reject) => {
    const limiter: RateLimiterPostgres = new RateLimiterPostgres(
      {
        storeClient: database(),
        storeType: 'sequelize',
        points,
        duration,
        tableName: 'rate_limits',
        keyPrefix: kind.replace(' ', '-'),
      },
      (error) => (error ? reject(error) : resolve(limiter))
    );
  });
  limiters.set(kind, made);
  // A database that was not there for a moment must not count as a limiter for ever.
  made.catch(() => limiters.delete(kind));
  return made;
}

/** Forgets the connection that tries are counted by, when it is closed. */
export const forgetLimiters = (): void => limiters.clear();

/** Counts a try; refuses one too many with how long to wait. */
export async function countTry(kind: TryKind, key: string): Promise<void> {
  try {
    await (await limiterOf(kind)).consume(key);
  } catch (refused) {
    if (refused instanceof Error) throw refused;
    const wait = Math.ceil((refused as { msBeforeNext: number }).msBeforeNext / 60_000);
    throw new Refusal('too-often', `Too many tries. Please wait ${wait} min.`);
  }
}

/** Forgets the tries of somebody who was right in the end. */
export async function forgive(kind: TryKind, key: string): Promise<void> {
  await (await limiterOf(kind)).delete(key);
}
