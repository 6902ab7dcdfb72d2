import { answer } from '$lib/server/errors';
import { endPadKey } from '$lib/server/services/pad-keys';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => endPadKey(locals.who, params.id, params.key));
