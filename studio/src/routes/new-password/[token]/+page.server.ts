import { redirect } from '@sveltejs/kit';
import Joi from 'joi';
import { Refusal } from '$lib/server/errors';
import { attempt } from '$lib/server/forms';
import { PASSWORD } from '$lib/server/passwords';
import { newPasswordSchema as password } from '$lib/server/schemas';
import { resetFor, resetPassword } from '$lib/server/services/accounts';
import type { Actions, PageServerLoad } from './$types';

const form = Joi.object<{ password: string }>({ password });

export const load: PageServerLoad = async ({ params }) => {
  try {
    return { ...(await resetFor(params.token)), problem: '', leastPassword: PASSWORD.least };
  } catch (problem) {
    if (problem instanceof Refusal) return { name: '', problem: problem.message, leastPassword: PASSWORD.least };
    throw problem;
  }
};

export const actions: Actions = {
  default: async ({ request, params }) => {
    const tried = await attempt(request, form, (filled) => resetPassword(params.token, filled.password));
    if ('refused' in tried) return tried.refused;
    redirect(303, '/sign-in?changed');
  },
};
