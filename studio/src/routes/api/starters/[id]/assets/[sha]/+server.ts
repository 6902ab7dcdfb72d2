import { assetAnswer } from '$lib/server/asset-answer';
import { answer } from '$lib/server/errors';
import { starterAsset } from '$lib/server/services/starters';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, request, locals }) =>
  answer(async () => assetAnswer(await starterAsset(locals.who, params.id, params.sha), request));
