import { fail, redirect } from '@sveltejs/kit';
import Joi from 'joi';
import { config } from '$lib/server/config';
import { enter } from '$lib/server/entering';
import { attempt } from '$lib/server/forms';
import { PASSWORD } from '$lib/server/passwords';
import { emailSchema as email, nameSchema as name, newPasswordSchema, passwordSchema as password } from '$lib/server/schemas';
import { invitationOf } from '$lib/server/services/invitations';
import { demoPerson, register, signIn } from '$lib/server/services/people';
import { ownPath } from '$lib/shared/own-path';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ locals, url }) => {
  const back = ownPath(url.searchParams.get('back'));
  if (locals.person) redirect(303, back);
  return {
    demo: config.demo,
    mayRegister: await mayRegister(back),
    /** Somebody who has no account yet makes one. */
    isNew: url.searchParams.has('new'),
    leastPassword: PASSWORD.least,
    back,
    hasNewPassword: url.searchParams.has('changed'),
    elsewhere: config.oidc?.name ?? null,
    problem: url.searchParams.get('problem')?.slice(0, 300) ?? '',
  };
};

/** Where strangers may make no accounts, whoever comes with an invitation may. */
async function mayRegister(back: string): Promise<boolean> {
  if (config.signUp) return true;
  const token = /^\/join\/([\w-]+)$/.exec(back)?.[1];
  return (
    token !== undefined &&
    (await invitationOf(token).then(
      () => true,
      () => false
    ))
  );
}

const signInForm = Joi.object<{ email: string; password: string }>({ email, password });
const registerForm = Joi.object<{ name: string; email: string; password: string }>({ name, email, password: newPasswordSchema });

export const actions: Actions = {
  enter: async ({ request, cookies, url, getClientAddress }) => {
    const visitor = { address: getClientAddress(), device: cookies.get('device') };
    const tried = await attempt(request, signInForm, (form) => signIn(form.email, form.password, visitor));
    return 'done' in tried ? enter(cookies, url, tried.done, url.searchParams.get('back')) : tried.refused;
  },
  register: async ({ request, url, getClientAddress }) => {
    if (!(await mayRegister(ownPath(url.searchParams.get('back')))))
      return fail(403, { email: '', name: '', problem: 'Accounts are made by invitation here. Ask somebody who has a piece to invite you.' });
    const tried = await attempt(request, registerForm, async (form) => {
      await register(form.name, form.email, form.password, getClientAddress());
      return form;
    });
    return 'done' in tried ? { email: tried.done.email, name: tried.done.name, problem: '', made: true } : tried.refused;
  },
  demo: async ({ cookies, url }) => {
    if (!config.demo) return fail(404, { email: '', name: '', problem: 'There is no demo here.' });
    return enter(cookies, url, await demoPerson(), url.searchParams.get('back'));
  },
};
