import { error, redirect } from '@sveltejs/kit';
import { Refusal } from '$lib/server/errors';
import { memberAccess } from '$lib/server/services/rights';
import type { LayoutServerLoad } from './$types';

/** Only checks that the piece can be opened; the page fetches it when what was kept in the browser has been sent. */
export const load: LayoutServerLoad = async ({ params, locals }) => {
  if (!locals.person) redirect(303, '/sign-in');
  try {
    const { role } = await memberAccess(locals.person, params.id, 'look');
    return { person: locals.person, id: params.id, role };
  } catch (problem) {
    if (problem instanceof Refusal) error(problem.status, problem.message);
    throw problem;
  }
};
