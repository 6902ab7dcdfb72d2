import { answer } from '$lib/server/errors';
import { doorBook } from '$lib/server/services/door-book';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ entries: await doorBook(locals.who, params.id) }));
