import Joi from 'joi';
import { mendedText } from '@zany/core';
import { limits } from '$lib/server/config';
import { answer, readBytes, Refusal } from '$lib/server/errors';
import { addAsset, type Measured } from '$lib/server/services/assets';
import type { RequestHandler } from './$types';

const fileName = Joi.string().min(1).max(300).required();

/** Width, height and length of a video, in the header as `640x360x12000`. */
const measured = Joi.string()
  .pattern(/^\d{1,5}x\d{1,5}x\d{1,8}$/)
  .custom((text: string) => {
    const [width, height, ms] = text.split('x').map(Number) as [number, number, number];
    return { width: Math.max(1, width), height: Math.max(1, height), ms };
  });

/** The name in the header; one that is not written as it has to be is as good as none. */
function decoded(name: string): string {
  try {
    return decodeURIComponent(name);
  } catch {
    return '';
  }
}

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => {
    const { value, error } = fileName.validate(mendedText(decoded(request.headers.get('x-file-name') ?? '')));
    if (error) throw new Refusal('bad-request', 'The name of the file is missing.', ['x-file-name']);
    const size = measured.validate(request.headers.get('x-measured') ?? undefined);
    if (size.error) throw new Refusal('bad-request', 'The measures of the file cannot be read.', ['x-measured']);
    const limit = size.value ? limits.media : limits.picture;
    const bytes = await readBytes(request, limit).catch((problem: unknown) => {
      throw problem instanceof Refusal && problem.code === 'too-large'
        ? new Refusal('too-large', `${value} has more than ${limit / 1e6} MB, which is the most that can be taken in.`)
        : problem;
    });
    return { asset: await addAsset(locals.who, params.id, value as string, bytes, (size.value as unknown as Measured | undefined) ?? null) };
  });
