import type { RequestEvent } from '@sveltejs/kit';
import type { Principal } from './principal';
import { holderOf } from './services/link-door';
import type { KeyMay } from '$lib/shared/types';
import { padOf } from './services/pad-keys';
import { personOfSession } from './services/people';
import { personOfKey } from './services/person-keys';

/** The key that a request brings (RFC 6750); such a request counts for what its key is, whatever cookies come with it. */
export const bearerOf = (headers: Headers): string | null => /^Bearer ([\w-]{20,200})$/.exec(headers.get('authorization') ?? '')?.[1] ?? null;

export interface Asking {
  readonly who: Principal;
  /** What the key of a program that acts for somebody may; null where no such key was brought. */
  readonly keyMay: KeyMay | null;
  /** What that key is counted by. */
  readonly key?: string;
}

/** Who asks, as the server knows. */
export async function whoAsks({ request, cookies, route, params }: Pick<RequestEvent, 'request' | 'cookies' | 'route' | 'params'>): Promise<Asking> {
  // By a review link one is its holder and nobody else, also where one has signed in.
  if (route.id?.startsWith('/r/[token]')) return { who: await holderOf(params['token'] ?? '', cookies.get('holder')), keyMay: null };
  const key = bearerOf(request.headers);
  if (key === null) return { who: await personOfSession(cookies.get('session')), keyMay: null };
  const used = await personOfKey(key);
  return used ? { who: used.person, keyMay: used.may, key: used.key } : { who: await padOf(key), keyMay: null };
}
