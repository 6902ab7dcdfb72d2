import { answer } from '$lib/server/errors';
import { resultsOf } from '$lib/server/services/trails';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, locals }) => answer(() => resultsOf(locals.who, params.id, params.link));
