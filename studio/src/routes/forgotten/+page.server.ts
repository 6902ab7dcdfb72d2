import Joi from 'joi';
import { attempt } from '$lib/server/forms';
import { emailSchema as email } from '$lib/server/schemas';
import { forgotPassword } from '$lib/server/services/accounts';
import type { Actions } from './$types';

const form = Joi.object<{ email: string }>({ email });

export const actions: Actions = {
  default: async ({ request, url, getClientAddress }) => {
    const tried = await attempt(request, form, (filled) => forgotPassword(filled.email, getClientAddress(), url.origin));
    return 'done' in tried ? { sent: true, email: '', problem: '' } : tried.refused;
  },
};
