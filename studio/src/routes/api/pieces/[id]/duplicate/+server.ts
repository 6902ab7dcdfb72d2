import { answer } from '$lib/server/errors';
import { revisionIn } from '$lib/server/schemas';
import { duplicatePiece } from '$lib/server/services/pieces';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ params, url, locals }) =>
  answer(async () => {
    const revision = url.searchParams.get('revision');
    return { id: await duplicatePiece(locals.who, params.id, revision === null ? null : revisionIn(revision)) };
  });
