import { answer } from '$lib/server/errors';
import { takeStarter } from '$lib/server/services/starters';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, locals }) => answer(async () => ({ id: await takeStarter(locals.who, params.id) }));
