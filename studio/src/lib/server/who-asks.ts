import type { RequestEvent } from '@sveltejs/kit';
import type { Principal } from './principal';
import { holderOf } from './services/link-door';
import { padOf } from './services/pad-keys';
import { personOfSession } from './services/people';

/** The key that a request brings (RFC 6750); such a request counts for what its key is, whatever cookies come with it. */
export const bearerOf = (headers: Headers): string | null => /^Bearer ([\w-]{20,200})$/.exec(headers.get('authorization') ?? '')?.[1] ?? null;

/** Who asks, as the server knows. */
export async function whoAsks({
  request,
  cookies,
  route,
  params,
}: Pick<RequestEvent, 'request' | 'cookies' | 'route' | 'params'>): Promise<Principal> {
  // By a review link one is its holder and nobody else, also where one has signed in.
  if (route.id?.startsWith('/r/[token]')) return holderOf(params['token'] ?? '', cookies.get('holder'));
  const key = bearerOf(request.headers);
  return key === null ? personOfSession(cookies.get('session')) : padOf(key);
}
