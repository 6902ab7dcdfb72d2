import Joi from 'joi';
import { exportKinds, type ExportKind } from '@zany/core';
import { answer, Refusal } from '$lib/server/errors';
import { exportPiece } from '$lib/server/services/exporting';
import type { RequestHandler } from './$types';

const kindSchema = Joi.string()
  .valid(...Object.keys(exportKinds))
  .required();

export const GET: RequestHandler = ({ params, url, locals }) =>
  answer(async () => {
    const { value, error } = kindSchema.validate(url.searchParams.get('to'));
    if (error) throw new Refusal('bad-request', `“to” must be one of ${Object.keys(exportKinds).join(', ')}.`, ['to']);
    const { bytes, name, mediaType } = await exportPiece(locals.who, params.id, value as ExportKind);
    const plain = name.replace(/[^\x20-\x7e]|"/g, '_');
    return new Response(new Uint8Array(bytes), {
      headers: {
        'Content-Type': mediaType,
        'Content-Disposition': `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`,
        'Content-Security-Policy': 'sandbox',
      },
    });
  });
