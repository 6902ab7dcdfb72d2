import { fail, redirect } from '@sveltejs/kit';
import { Refusal } from '$lib/server/errors';
import { invitationOf, takeInvitation } from '$lib/server/services/invitations';
import type { Actions, PageServerLoad } from './$types';

export const load: PageServerLoad = async ({ params, locals }) => {
  try {
    return { invited: await invitationOf(params.token), problem: '', person: locals.person };
  } catch (problem) {
    if (problem instanceof Refusal) return { invited: null, problem: problem.message, person: locals.person };
    throw problem;
  }
};

export const actions: Actions = {
  default: async ({ params, locals }) => {
    let piece: string;
    try {
      piece = await takeInvitation(locals.who, params.token);
    } catch (problem) {
      if (problem instanceof Refusal) return fail(problem.status, { problem: problem.message });
      throw problem;
    }
    redirect(303, `/p/${piece}/build`);
  },
};
