import { answer, jsonText } from '$lib/server/errors';
import { openLinked } from '$lib/server/services/shown';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) => answer(async () => jsonText(await openLinked(locals.who)));
