import { answer } from '$lib/server/errors';
import { forgetHolder } from '$lib/server/services/trails';
import type { RequestHandler } from './$types';

/** Deletes what somebody did by a link, and the name. */
export const DELETE: RequestHandler = ({ params, locals }) => answer(() => forgetHolder(locals.who, params.id, params.link, params.holder));
