import Joi from 'joi';
import { answer, Refusal } from '$lib/server/errors';
import { follow } from '$lib/server/services/following';
import type { RequestHandler } from './$types';

/** `piece:revision,piece:revision`, from the address or from the event a browser saw last. */
const placeSchema = Joi.string()
  .pattern(/^[0-9A-Za-z_-]{1,40}:\d{1,9}(,[0-9A-Za-z_-]{1,40}:\d{1,9}){0,49}$/)
  .required();

export const GET: RequestHandler = ({ request, url, locals, cookies }) =>
  answer(async () => {
    const { value, error } = placeSchema.validate(request.headers.get('last-event-id') || url.searchParams.get('from'));
    if (error) throw new Refusal('bad-request', '“from” must name pieces with revisions, such as abc:12.', ['from']);
    const from = new Map((value as string).split(',').map((part) => [part.split(':')[0]!, Number(part.split(':')[1])] as const));
    return new Response(await follow(locals.who, cookies.get('session'), from), {
      headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' },
    });
  });
