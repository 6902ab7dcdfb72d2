import { answer } from '$lib/server/errors';
import { leavePiece } from '$lib/server/services/members';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, locals }) => answer(() => leavePiece(locals.who, params.id));
