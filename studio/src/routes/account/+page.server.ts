import { redirect } from '@sveltejs/kit';
import Joi from 'joi';
import { attempt } from '$lib/server/forms';
import { PASSWORD } from '$lib/server/passwords';
import { idSchema, nameSchema as name, newPasswordSchema, passwordSchema as old } from '$lib/server/schemas';
import { accountOf, changeName, changePassword } from '$lib/server/services/accounts';
import { endPersonKey, makePersonKey, personKeysOf, type KeyWish } from '$lib/server/services/person-keys';
import { endSessions } from '$lib/server/services/people';
import { somebody } from '$lib/server/services/rights';
import { KEY_DAYS, keyMay } from '$lib/shared/types';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals }) => {
  if (!locals.person) redirect(303, '/sign-in?back=/account');
  return { account: await accountOf(locals.who), keys: await personKeysOf(locals.who), leastPassword: PASSWORD.least };
};

const nameForm = Joi.object<{ name: string }>({ name });
const passwordForm = Joi.object<{ old: string; password: string }>({ old, password: newPasswordSchema });
const keyForm = Joi.object<KeyWish>({
  name: Joi.string().trim().min(1).max(80).required().messages({ '*': 'Please say what the key is for.' }),
  may: Joi.string()
    .valid(...Object.keys(keyMay))
    .required(),
  days: Joi.number()
    .valid(...KEY_DAYS)
    .required(),
});
const endKeyForm = Joi.object<{ id: string }>({ id: idSchema.required() });
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
  'make-key': async ({ request, locals }) => {
    const tried = await attempt(request, keyForm, (form) => makePersonKey(locals.who, form));
    return 'done' in tried ? { key: tried.done } : tried.refused;
  },
  'end-key': async ({ request, locals }) => {
    const tried = await attempt(request, endKeyForm, ({ id }) => endPersonKey(locals.who, id));
    return 'done' in tried ? { done: 'The key opens nothing any more.' } : tried.refused;
  },
  end: async ({ request, locals, cookies }) => {
    const tried = await attempt(request, nothing, async () => endSessions(somebody(locals.who).id, cookies.get('session')));
    if ('refused' in tried) return tried.refused;
    return { done: tried.done === 1 ? 'One other browser is signed out.' : `${tried.done} other browsers are signed out.` };
  },
};
