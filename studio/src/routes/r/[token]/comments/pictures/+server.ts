import { answer, readBytes } from '$lib/server/errors';
import { addPicture, MOST_PICTURE_BYTES } from '$lib/server/services/comment-pictures';
import type { RequestHandler } from './$types';

/** A picture for a comment by who came by a link. */
export const POST: RequestHandler = ({ request, locals }) =>
  answer(async () => addPicture(locals.who, null, await readBytes(request, MOST_PICTURE_BYTES)));
