import { redirect } from '@sveltejs/kit';
import Joi from 'joi';
import { attempt } from '$lib/server/forms';
import { PASSWORD } from '$lib/server/passwords';
import { nameSchema as name, newPasswordSchema, passwordSchema as old } from '$lib/server/schemas';
import { accountOf, changeName, changePassword } from '$lib/server/services/accounts';
import { endSessions } from '$lib/server/services/people';
import { somebody } from '$lib/server/services/rights';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
  if (!locals.person) redirect(303, '/sign-in?back=/account');
  return { account: await accountOf(locals.who), leastPassword: PASSWORD.least };
};

const nameForm = Joi.object<{ name: string }>({ name });
const passwordForm = Joi.object<{ old: string; password: string }>({ old, password: newPasswordSchema });
const nothing = Joi.object<object>({});

export const actions: Actions = {
  name: async ({ request, locals }) => {
    const tried = await attempt(request, nameForm, (form) => changeName(locals.who, form.name));
    return 'done' in tried ? { done: 'Your name is changed.' } : tried.refused;
  },
  password: async ({ request, locals, cookies }) => {
    const tried = await attempt(request, passwordForm, (form) => changePassword(locals.who, cookies.get('session'), form.old, form.password));
    return 'done' in tried ? { done: 'Your password is changed. Other browsers are signed out.' } : tried.refused;
  },
  end: async ({ request, locals, cookies }) => {
    const tried = await attempt(request, nothing, async () => endSessions(somebody(locals.who).id, cookies.get('session')));
    if ('refused' in tried) return tried.refused;
    return { done: tried.done === 1 ? 'One other browser is signed out.' : `${tried.done} other browsers are signed out.` };
  },
};
