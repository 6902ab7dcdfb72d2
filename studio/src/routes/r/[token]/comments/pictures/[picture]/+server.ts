import { assetAnswer } from '$lib/server/asset-answer';
import { answer } from '$lib/server/errors';
import { pictureIn } from '$lib/server/services/comment-pictures';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, request, locals }) =>
  answer(async () => assetAnswer({ bytes: await pictureIn(locals.who, null, params.picture), mediaType: 'image/webp' }, request));
