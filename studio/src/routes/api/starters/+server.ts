import { answer } from '$lib/server/errors';
import { listStarters } from '$lib/server/services/starters';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) => answer(async () => ({ starters: await listStarters(locals.who) }));
