import { answer, readBody } from '$lib/server/errors';
import { commentSchema } from '$lib/server/schemas';
import { addComment, commentsOn } from '$lib/server/services/comments';
import type { RequestHandler } from './$types';

/** Comments on what a link shows, by who came by it. */
export const GET: RequestHandler = ({ locals }) => answer(async () => ({ comments: await commentsOn(locals.who, null) }));

export const POST: RequestHandler = ({ request, locals, url }) =>
  answer(async () => addComment(locals.who, null, await readBody(request, commentSchema, 40_000), url.origin));
