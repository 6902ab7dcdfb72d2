import { limits } from '$lib/server/config';
import { answer, readBytes } from '$lib/server/errors';
import { saveBatches } from '$lib/server/services/saving';
import { signedOut } from '$lib/server/services/rights';
import { batchesIn } from '$lib/server/services/batches';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => {
    if (!locals.person) throw signedOut();
    return { results: await saveBatches(locals.person, params.id, await batchesIn(await readBytes(request, limits.save))) };
  });
