import Joi from 'joi';
import { exportKinds, type ExportKind } from '@zany/core';
import { answer, Refusal } from '$lib/server/errors';
import { fileAnswer } from '$lib/server/file-answer';
import { exportPiece } from '$lib/server/services/exporting';
import type { RequestHandler } from './$types';

const kindSchema = Joi.string()
  .valid(...Object.keys(exportKinds))
  .required();

export const GET: RequestHandler = ({ params, url, locals }) =>
  answer(async () => {
    const { value, error } = kindSchema.validate(url.searchParams.get('to'));
    if (error) throw new Refusal('bad-request', `“to” must be one of ${Object.keys(exportKinds).join(', ')}.`, ['to']);
    return fileAnswer(await exportPiece(locals.who, params.id, value as ExportKind));
  });
