import { building } from '$app/environment';
import type { Handle, HandleServerError } from '@sveltejs/kit';
import { json } from '@sveltejs/kit';
import { fault } from '@zany/core';
import { disconnect, migrate } from '$lib/server/database';
import { stopListening } from '$lib/server/listen';
import { log } from '$lib/server/log';
import { seedDemo } from '$lib/server/seed';
import { closeStreams } from '$lib/server/services/following';
import { personOfSession } from '$lib/server/services/people';
import type { ServerInit } from '@sveltejs/kit';

export const init: ServerInit = async () => {
  if (building) return;
  await migrate();
  await seedDemo();
  process.once('SIGTERM', closeStreams);
  process.once('SIGINT', closeStreams);
  process.once('SIGTERM', () => void stopListening());
  process.once('SIGINT', () => void stopListening());
  process.once('sveltekit:shutdown', () => void disconnect());
};

/** Requests that change something must come from our own pages. */
const isForeign = (request: Request, origin: string) =>
  !['GET', 'HEAD', 'OPTIONS'].includes(request.method) && request.headers.get('origin') !== origin;

export const handle: Handle = async ({ event, resolve }) => {
  if (isForeign(event.request, event.url.origin))
    return json({ error: fault('not-allowed', [], 'This request does not come from Zany Thread itself.') }, { status: 403 });
  event.locals.person = event.url.pathname === '/health' ? null : await personOfSession(event.cookies.get('session'));
  const response = await resolve(event);
  response.headers.set('X-Content-Type-Options', 'nosniff');
  response.headers.set('Referrer-Policy', 'same-origin');
  return response;
};

export const handleError: HandleServerError = ({ error, status, message }) => {
  if (status >= 500) log.error({ err: error }, 'a page failed');
  return { message: status >= 500 ? 'Something went wrong on the server. Please try again.' : message };
};
