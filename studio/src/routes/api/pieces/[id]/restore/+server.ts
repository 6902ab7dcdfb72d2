import { answer } from '$lib/server/errors';
import { setDeleted } from '$lib/server/services/pieces';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, locals }) => answer(() => setDeleted(locals.who, params.id, false));
