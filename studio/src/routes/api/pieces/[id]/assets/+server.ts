import Joi from 'joi';
import { limits } from '$lib/server/config';
import { answer, readBytes, Refusal } from '$lib/server/errors';
import { fileNameOf } from '$lib/server/file-name';
import { addAsset, type Measured } from '$lib/server/services/assets';
import type { RequestHandler } from './$types';

/** Width, height and length of a video, in the header as `640x360x12000`. */
const measured = Joi.string()
  .pattern(/^\d{1,5}x\d{1,5}x\d{1,8}$/)
  .custom((text: string) => {
    const [width, height, ms] = text.split('x').map(Number) as [number, number, number];
    return { width: Math.max(1, width), height: Math.max(1, height), ms };
  });

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => {
    const file = fileNameOf(request);
    const size = measured.validate(request.headers.get('x-measured') ?? undefined);
    if (size.error) throw new Refusal('bad-request', 'The measures of the file cannot be read.', ['x-measured']);
    const limit = size.value ? limits.media : limits.picture;
    const bytes = await readBytes(request, limit).catch((problem: unknown) => {
      throw problem instanceof Refusal && problem.code === 'too-large'
        ? new Refusal('too-large', `${file} has more than ${limit / 1e6} MB, which is the most that can be taken in.`)
        : problem;
    });
    return { asset: await addAsset(locals.who, params.id, file, bytes, (size.value as unknown as Measured | undefined) ?? null) };
  });
