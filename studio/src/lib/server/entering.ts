import { redirect, type Cookies } from '@sveltejs/kit';
import { ownPath } from '$lib/shared/own-path';
import type { Person } from '$lib/shared/types';
import { openSession, rememberDevice, SESSION_SECONDS } from './services/people';

const DEVICE_SECONDS = 365 * 24 * 3600;

/** Cookies as all of ours are. */
export const cookieFor = (url: URL) => ({ path: '/', httpOnly: true, sameSite: 'lax', secure: url.protocol === 'https:' }) as const;

/** Opens a session for somebody who has shown who he is, and goes to where he wanted. */
export async function enter(cookies: Cookies, url: URL, person: Person, back: string | null): Promise<never> {
  cookies.set('session', await openSession(person, cookies.get('session')), { ...cookieFor(url), maxAge: SESSION_SECONDS });
  cookies.set('device', await rememberDevice(person.id, cookies.get('device')), { ...cookieFor(url), path: '/sign-in', maxAge: DEVICE_SECONDS });
  redirect(303, ownPath(back));
}
