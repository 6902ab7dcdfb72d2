import { answer, readBody } from '$lib/server/errors';
import { commentSchema } from '$lib/server/schemas';
import { addComment, commentsOn, namesAround } from '$lib/server/services/comments';
import type { RequestHandler } from './$types';

export const _body = commentSchema;

export const GET: RequestHandler = ({ params, locals }) =>
  answer(async () => ({ comments: await commentsOn(locals.who, params.id), people: await namesAround(locals.who, params.id) }));

export const POST: RequestHandler = ({ params, request, locals, url }) =>
  answer(async () => addComment(locals.who, params.id, await readBody(request, _body, 40_000), url.origin));
