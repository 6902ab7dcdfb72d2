import { answer } from '$lib/server/errors';
import { membersOf } from '$lib/server/services/members';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ members: await membersOf(locals.who, params.id) }));
