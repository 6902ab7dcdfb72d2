import { answer } from '$lib/server/errors';
import { takeBack } from '$lib/server/services/invitations';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => takeBack(locals.who, params.id, params.invitation));
