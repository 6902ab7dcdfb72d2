import { answer, readBytes } from '$lib/server/errors';
import { addPicture, MOST_PICTURE_BYTES } from '$lib/server/services/comment-pictures';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => addPicture(locals.who, params.id, await readBytes(request, MOST_PICTURE_BYTES)));
