import { text } from '@sveltejs/kit';
import { isAnswering } from '$lib/server/database';

/** Ready only while the database answers: nothing can be opened or saved without. */
export const GET = async () => {
  const headers = { 'Cache-Control': 'no-store' };
  return (await isAnswering()) ? text('ready', { headers }) : text('The database does not answer.', { status: 503, headers });
};
