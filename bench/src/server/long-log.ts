import { atMost, budget } from '../budget.ts';
import { Visitor } from './client.ts';
import { scripts, type Tell } from './scripts.ts';

/** Opens a piece with 20,000 edits in its log, in a server that has only just been started. */
export async function longLog(base: string, databaseUrl: string, tell: Tell): Promise<void> {
  const owner = new Visitor(base);
  await owner.enterDemo();
  const { value } = await owner.ask<{ id: string }>('POST', '/api/pieces', { name: 'Long', width: 390, height: 844 });
  const began = performance.now();
  for (let i = 0; i < 100; i++) {
    const batches = Array.from({ length: 200 }, (_, n) => ({
      id: `b${i}x${n}`,
      name: 'Rename',
      operations: [{ op: 'set', table: 'piece', id: value.id, path: ['name'], value: `Name ${i * 200 + n}` }],
    }));
    await owner.ask('POST', `/api/pieces/${value.id}/batches`, { batches });
  }
  tell('saving 20,000 edits, 200 in a request', `${Math.round((20_000 / (performance.now() - began)) * 1000)} a second`);
  owner.close();
  const { startStudio, freePort, end } = await scripts();
  const times: number[] = [];
  for (let i = 0; i < 5; i++) {
    const port = await freePort();
    const server = await startStudio({ port, databaseUrl, demo: true, logLevel: 'silent' });
    const visitor = new Visitor(`http://localhost:${port}`);
    await visitor.enterDemo();
    const start = performance.now();
    const opened = await visitor.ask<{ revision: number; piece: { name: string } }>('GET', `/api/pieces/${value.id}`);
    times.push(performance.now() - start);
    if (opened.value.revision !== 20_000 || opened.value.piece.name !== 'Name 19999') throw new Error('another piece was opened');
    visitor.close();
    await end(server);
  }
  const middle = times.sort((a, b) => a - b)[2]!;
  tell('opening it in a server just started', `${middle.toFixed(0)} ms, the middle of five`, budget('200 ms', atMost(middle, 200)));
}
