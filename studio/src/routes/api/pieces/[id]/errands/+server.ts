import Joi from 'joi';
import { exportKinds, reportKinds } from '@zany/core';
import { drawForms } from '@zany/player/pictures';
import type { ErrandKind, ErrandWish } from '$lib/shared/errands';
import { answer, readBody } from '$lib/server/errors';
import { beginErrand, errandsOf } from '$lib/server/services/errands';
import type { RequestHandler } from './$types';

const revision = Joi.number().integer().min(0).max(2_147_483_647);
const name = Joi.string().max(200);
const frame = Joi.number().integer().min(1).max(100_000);
const draw = Joi.object({
  as: Joi.string()
    .valid(...drawForms)
    .required(),
  only: Joi.array().items(name).max(1000),
  states: Joi.boolean(),
  scale: Joi.number().integer().min(1).max(4).default(1),
  timeline: name,
  from: frame,
  to: frame,
  every: frame.default(1),
  walk: name,
});
/** What goes with each kind; nothing else may. */
const fields: Readonly<Record<ErrandKind, Joi.SchemaMap>> = {
  export: { to: Joi.string().valid(...Object.keys(exportKinds)) },
  walk: { as: Joi.string().valid(...Object.keys(reportKinds)) },
  draw: { draw },
  compare: { before: revision, after: revision.allow(null) },
  shortest: { link: Joi.string().max(100) },
};

export const _body = Joi.object<ErrandWish>({
  kind: Joi.string()
    .valid(...Object.keys(fields))
    .required(),
  ...Object.fromEntries(
    Object.entries(fields).flatMap(([kind, map]) =>
      Object.entries(map).map(([name, schema]) => [
        name,
        (schema as Joi.Schema).when('kind', { is: kind, then: Joi.required(), otherwise: Joi.forbidden() }),
      ])
    )
  ),
});

export const GET: RequestHandler = ({ params, locals }) => answer(async () => ({ errands: await errandsOf(locals.who, params.id) }));

export const POST: RequestHandler = ({ params, request, locals }) =>
  answer(async () => ({ errand: await beginErrand(locals.who, params.id, await readBody(request, _body, 20_000)) }));
