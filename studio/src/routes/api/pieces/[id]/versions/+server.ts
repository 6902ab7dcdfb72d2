import { answer } from '$lib/server/errors';
import { versionsOf } from '$lib/server/services/versions';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, locals }) => answer(() => versionsOf(locals.who, params.id));
