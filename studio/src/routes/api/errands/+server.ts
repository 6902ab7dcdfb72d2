import { limits } from '$lib/server/config';
import { answer, readBytes } from '$lib/server/errors';
import { fileNameOf } from '$lib/server/file-name';
import { beginBringIn, errandsOf } from '$lib/server/services/errands';
import { somebody } from '$lib/server/services/rights';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) => answer(async () => ({ errands: await errandsOf(locals.who, null) }));

export const POST: RequestHandler = ({ request, locals }) =>
  answer(async () => {
    // Nobody sends hundreds of megabytes in vain.
    somebody(locals.who);
    const file = fileNameOf(request);
    return { errand: await beginBringIn(locals.who, file, await readBytes(request, limits.package)) };
  });
