import { limits } from '$lib/server/config';
import { answer, readBytes } from '$lib/server/errors';
import { saveBatches } from '$lib/server/services/saving';
import { somebody } from '$lib/server/services/rights';
import { batchesIn } from '$lib/server/services/batches';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => {
    somebody(locals.who);
    return { results: await saveBatches(locals.who, params.id, await batchesIn(await readBytes(request, limits.save))) };
  });
