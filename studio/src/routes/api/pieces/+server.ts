import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { createPiece, listPieces } from '$lib/server/services/pieces';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ name: string; width: number; height: number }>({
  name: Joi.string().trim().min(1).max(120).required(),
  width: Joi.number().integer().min(1).max(20_000).required(),
  height: Joi.number().integer().min(1).max(20_000).required(),
});

export const GET: RequestHandler = ({ locals }) => answer(async () => ({ pieces: await listPieces(locals.who) }));

export const POST: RequestHandler = ({ request, locals }) =>
  answer(async () => {
    const { name, width, height } = await readBody(request, _body, 10_000);
    return { id: await createPiece(locals.who, name, width, height) };
  });
