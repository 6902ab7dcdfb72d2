import { answer } from '$lib/server/errors';
import { revisionIn } from '$lib/server/schemas';
import { editsOf } from '$lib/server/services/versions';
import type { RequestHandler } from './$types';

/** The edits up to a version, after the one that the address names. */
export const GET: RequestHandler = ({ params, url, locals }) =>
  answer(async () => ({
    edits: await editsOf(locals.who, params.id, revisionIn(url.searchParams.get('after') ?? '0'), revisionIn(params.revision)),
  }));
