import { limits } from '$lib/server/config';
import { answer, readBytes } from '$lib/server/errors';
import { bringInPackage } from '$lib/server/services/pieces';
import { signedOut } from '$lib/server/services/rights';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ request, locals }) =>
  answer(async () => {
    if (!locals.person) throw signedOut();
    return { id: await bringInPackage(locals.person, await readBytes(request, limits.package)) };
  });
