import { heavy, orRefuse } from '../work';
import { parseBatches } from '../work/sent';
import type { SentBatch } from '../work/tasks';

/** Beyond this many bytes a body is parsed beside the server's own thread. */
const LARGE = 200_000;

/** The edits in the body of a request. */
export async function batchesIn(body: Uint8Array): Promise<SentBatch[]> {
  return body.length > LARGE ? orRefuse(await heavy('batches', { body }, 'What was sent')) : parseBatches(body);
}
