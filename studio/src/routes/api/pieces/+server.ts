import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { createPiece, listPieces } from '$lib/server/services/pieces';
import { Refusal } from '$lib/server/errors';
import type { RequestHandler } from './$types';

const schema = Joi.object<{ name: string; width: number; height: number }>({
  name: Joi.string().trim().min(1).max(120).required(),
  width: Joi.number().integer().min(1).max(20_000).required(),
  height: Joi.number().integer().min(1).max(20_000).required(),
});

export const GET: RequestHandler = ({ locals }) =>
  answer(async () => {
    if (!locals.person) throw new Refusal('signed-out', 'Please sign in first.');
    return { pieces: await listPieces(locals.person) };
  });

export const POST: RequestHandler = ({ request, locals }) =>
  answer(async () => {
    const { name, width, height } = await readBody(request, schema, 10_000);
    return { id: await createPiece(locals.person, name, width, height) };
  });
