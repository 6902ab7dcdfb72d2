import { limits } from '$lib/server/config';
import { answer, readBytes } from '$lib/server/errors';
import { bringInPackage } from '$lib/server/services/pieces';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ request, locals }) =>
  answer(async () => ({ id: await bringInPackage(locals.person, await readBytes(request, limits.package)) }));
