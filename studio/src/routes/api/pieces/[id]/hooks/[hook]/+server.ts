import { answer } from '$lib/server/errors';
import { endHook, tryHook } from '$lib/server/services/hooks';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, locals }) => answer(() => tryHook(locals.who, params.id, params.hook));

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => endHook(locals.who, params.id, params.hook));
