import Joi from 'joi';
import { answer, readBody } from '$lib/server/errors';
import { idSchema } from '$lib/server/schemas';
import { tellPresence } from '$lib/server/services/presence';
import type { Whereabouts } from '$lib/shared/types';
import type { RequestHandler } from './$types';

export const _body = Joi.object<Whereabouts>({
  client: idSchema.required(),
  desk: Joi.string().valid('build', 'map', 'walk', 'hand-over').required(),
  scene: idSchema.allow(null).required(),
  selection: Joi.array().items(idSchema).max(20).required(),
  gone: Joi.boolean().default(false),
});

/** Where somebody is in a piece and what they have selected, told to all who have it open. */
export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => tellPresence(locals.who, params.id, await readBody(request, _body, 4000)));
