import { answer } from '$lib/server/errors';
import { streamOfLink } from '$lib/server/services/link-stream';
import type { RequestHandler } from './$types';

/** A stream that says when the link was changed or withdrawn. */
export const GET: RequestHandler = ({ params, locals, cookies }) =>
  answer(
    async () =>
      new Response(await streamOfLink(locals.who, params.token, cookies.get('holder')), {
        headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' },
      })
  );
