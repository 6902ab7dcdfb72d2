import { building } from '$app/environment';
import type { Handle, HandleServerError, ServerInit } from '@sveltejs/kit';
import { json } from '@sveltejs/kit';
import { fault } from '@zany/core';
import { disconnect, migrate } from '$lib/server/database';
import { stopListening } from '$lib/server/listen';
import { log } from '$lib/server/log';
import { isReading } from '$lib/server/methods';
import { seedDemo } from '$lib/server/seed';
import { closeStreams } from '$lib/server/services/following';
import { closeLinkStreams } from '$lib/server/services/link-stream';
import { isPerson } from '$lib/server/principal';
import { countRequest } from '$lib/server/services/key-pace';
import { keyFault } from '$lib/server/services/person-keys';
import { bearerOf, whoAsks } from '$lib/server/who-asks';
import { stopQueue, workOn } from '$lib/server/queue';
import { doErrand, watchErrands } from '$lib/server/services/errands';
import { tellHook } from '$lib/server/services/hooks';
import { closePools, pools } from '$lib/server/work';

export const init: ServerInit = async () => {
  if (building) return;
  await migrate();
  await seedDemo();
  pools().pieces.warm(2);
  await workOn({ 'do an errand': doErrand, 'tell a hook': tellHook });
  watchErrands();
  for (const signal of ['SIGTERM', 'SIGINT'] as const)
    process.once(signal, () => {
      closeStreams();
      closeLinkStreams();
      void stopListening();
    });
  process.once('sveltekit:shutdown', () => void Promise.all([stopQueue().then(disconnect), closePools()]));
};

/** Requests that change something must come from our own pages, unless they bring a key of their own instead of a cookie. */
const isForeign = ({ method, headers }: Request, origin: string) =>
  !isReading(method) && headers.get('origin') !== origin && bearerOf(headers) === null;

const LOOPBACK = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/** A page asked for by another name of this machine is sent on to the one that sign-in and forms belong to. */
const otherName = ({ method, headers }: Request, url: URL): string | null => {
  const host = headers.get('host') ?? '';
  const isPage = (method === 'GET' || method === 'HEAD') && (headers.get('accept') ?? '').includes('text/html');
  return isPage && host !== url.host && LOOPBACK.test(host) && LOOPBACK.test(url.host) ? `${url.origin}${url.pathname}${url.search}` : null;
};

export const handle: Handle = async ({ event, resolve }) => {
  if (isForeign(event.request, event.url.origin))
    return json({ error: fault('not-allowed', [], 'This request does not come from Zany Thread itself.') }, { status: 403 });
  const sentOn = otherName(event.request, event.url);
  if (sentOn) return new Response(null, { status: 307, headers: { location: sentOn } });
  const asking = event.url.pathname === '/health' ? null : await whoAsks(event);
  const refused = asking?.keyMay ? keyFault(asking.keyMay, event.request.method, event.route.id) : null;
  if (refused) return json({ error: refused.fault }, { status: refused.status });
  const full = asking?.key === undefined ? null : await countRequest(asking.key);
  if (full) return json({ error: full.refusal.fault }, { status: full.refusal.status, headers: { 'Retry-After': String(full.wait) } });
  event.locals.who = asking?.who ?? null;
  event.locals.person = isPerson(event.locals.who) ? event.locals.who : null;
  const response = await resolve(event);
  response.headers.set('X-Content-Type-Options', 'nosniff');
  response.headers.set('Referrer-Policy', 'same-origin');
  if (event.url.protocol === 'https:') response.headers.set('Strict-Transport-Security', 'max-age=31536000; includeSubDomains');
  // What is not said otherwise is for one person and for now.
  if (!response.headers.has('Cache-Control')) response.headers.set('Cache-Control', 'no-store');
  return response;
};

export const handleError: HandleServerError = ({ error, status, message }) => {
  if (status >= 500) log.error({ err: error }, 'a page failed');
  return { message: status >= 500 ? 'Something went wrong on the server. Please try again.' : message };
};
