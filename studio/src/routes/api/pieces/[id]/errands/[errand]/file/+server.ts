import { answer } from '$lib/server/errors';
import { fileAnswer } from '$lib/server/file-answer';
import { errandFile } from '$lib/server/services/errands';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ params, locals }) => answer(async () => fileAnswer(await errandFile(locals.who, params.id, params.errand)));
