import { assetAnswer } from '$lib/server/asset-answer';
import { answer } from '$lib/server/errors';
import { readAsset } from '$lib/server/services/assets';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, request, locals }) =>
  answer(async () => assetAnswer(await readAsset(locals.who, params.id, params.sha), request));
