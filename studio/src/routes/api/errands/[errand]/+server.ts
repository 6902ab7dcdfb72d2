import { answer } from '$lib/server/errors';
import { errandOf, stopErrand } from '$lib/server/services/errands';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ errand: await errandOf(locals.who, null, params.errand) }));

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => stopErrand(locals.who, null, params.errand));
