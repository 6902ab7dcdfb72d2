import { parentPort } from 'node:worker_threads';
import { handlers } from './handlers';
import { READY } from './ready';
import type { TaskName, Tell } from './tasks';

/** A worker thread: does what it is asked, one thing after the other. */
const port = parentPort!;

port.on('message', ({ number, name, input }: { number: number; name: TaskName; input: never }) => {
  void answer(name, input, (said) => port.postMessage({ number, said })).then(
    (output) => port.postMessage({ number, output }, transferable(output)),
    (error: unknown) => port.postMessage({ number, error: error instanceof Error ? error.message : String(error) })
  );
});

const answer = async (name: TaskName, input: never, tell: Tell): Promise<unknown> => handlers[name](input, tell);

/** Bytes are handed over instead of copied, where they are all of their buffer. */
function transferable(output: unknown): ArrayBuffer[] {
  const isWhole = output instanceof Uint8Array && output.byteOffset === 0 && output.byteLength === output.buffer.byteLength;
  return isWhole && output.buffer instanceof ArrayBuffer ? [output.buffer] : [];
}

port.postMessage(READY);
