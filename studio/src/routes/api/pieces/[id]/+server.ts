import Joi from 'joi';
import { answer, jsonText, readBody } from '$lib/server/errors';
import { openPiece, renamePiece, setDeleted } from '$lib/server/services/pieces';
import type { RequestHandler } from './$types';

export const _body = Joi.object<{ name: string }>({ name: Joi.string().trim().min(1).max(120).required() });

export const GET: RequestHandler = ({ params, locals }) => answer(async () => jsonText(await openPiece(locals.who, params.id)));

export const PATCH: RequestHandler = ({ params, request, locals }) =>
  answer(async () => renamePiece(locals.who, params.id, (await readBody(request, _body, 10_000)).name));

export const DELETE: RequestHandler = ({ params, locals }) => answer(() => setDeleted(locals.who, params.id, true));
