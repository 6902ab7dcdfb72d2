import Joi from 'joi';
import { limits } from '$lib/server/config';
import { answer, readBytes, Refusal } from '$lib/server/errors';
import { addPicture } from '$lib/server/services/assets';
import type { RequestHandler } from './$types';

const fileName = Joi.string().min(1).max(300).required();

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => {
    const { value, error } = fileName.validate(decodeURIComponent(request.headers.get('x-file-name') ?? ''));
    if (error) throw new Refusal('bad-request', 'The name of the file is missing.', ['x-file-name']);
    const bytes = await readBytes(request, limits.picture).catch((problem: unknown) => {
      throw problem instanceof Refusal && problem.code === 'too-large'
        ? new Refusal('too-large', `${value} has more than ${limits.picture / 1e6} MB, which is the most that can be taken in.`)
        : problem;
    });
    return { asset: await addPicture(locals.person, params.id, value as string, bytes) };
  });
