import { answer } from '$lib/server/errors';
import { duplicatePiece } from '$lib/server/services/pieces';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, locals }) => answer(async () => ({ id: await duplicatePiece(locals.who, params.id) }));
