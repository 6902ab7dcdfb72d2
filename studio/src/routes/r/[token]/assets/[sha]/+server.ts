import { assetAnswer } from '$lib/server/asset-answer';
import { answer } from '$lib/server/errors';
import { linkedAsset } from '$lib/server/services/shown';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, request, locals }) =>
  answer(async () => assetAnswer(await linkedAsset(locals.who, params.sha), request));
