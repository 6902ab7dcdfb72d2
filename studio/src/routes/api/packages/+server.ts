import { limits } from '$lib/server/config';
import { answer, readBytes } from '$lib/server/errors';
import { bringInPackage } from '$lib/server/services/pieces';
import { somebody } from '$lib/server/services/rights';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ request, locals }) =>
  answer(async () => {
    // Nobody sends hundreds of megabytes in vain.
    somebody(locals.who);
    return { id: await bringInPackage(locals.who, await readBytes(request, limits.package)) };
  });
