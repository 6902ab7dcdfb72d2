import { readFileSync } from 'node:fs';
import { strToU8, zipSync } from 'fflate';
import { hostilePieces } from '@zany/core/testing';
import { Visitor } from './client.ts';
import type { Tell } from './scripts.ts';

/**
 * One person does his worst: packages that unpack to far more, drawings that take long, values nested deep, streams that
 * nobody reads. Said for each: what came of it, and how long somebody else, who only saves, had to wait meanwhile.
 */
export async function floods(base: string, pid: number | null, tell: Tell): Promise<void> {
  const [bad, good] = [new Visitor(base), new Visitor(base)];
  await bad.enterDemo();
  await good.enterDemo();
  const { value } = await good.ask<{ id: string }>('POST', '/api/pieces', { name: 'Beside', width: 390, height: 844 });
  const beside = new Beside(good, value.id);
  for (const [what, prepare] of attacks(value.id)) {
    const attack = prepare();
    await beside.save();
    const waits = beside.begin();
    const began = performance.now();
    const outcome = await attack(bad).catch((error: Error) => error.message);
    const took = performance.now() - began;
    const longest = Math.max(0, ...(await waits()));
    tell(what, `${outcome.slice(0, 40)} after ${(took / 1000).toFixed(1)} s; others ${Math.round(longest)} ms`, 'others 100 ms');
  }
  await unread(bad, good, value.id, pid, tell);
  bad.close();
  good.close();
}

/** Somebody who saves a small edit every 40 ms. */
class Beside {
  private n = 0;

  constructor(
    private readonly visitor: Visitor,
    private readonly piece: string
  ) {}

  async save(size = 10): Promise<number> {
    const began = performance.now();
    const operations = [{ op: 'set', table: 'piece', id: this.piece, path: ['name'], value: `Name ${this.n}` }];
    const name = 'x'.repeat(size);
    await this.visitor.ask('POST', `/api/pieces/${this.piece}/batches`, { batches: [{ id: `s${this.n++}`, name, operations }] });
    return performance.now() - began;
  }

  begin(): () => Promise<number[]> {
    const waits: number[] = [];
    let live = true;
    const running = (async () => {
      while (live) {
        waits.push(await this.save());
        await new Promise((resolve) => setTimeout(resolve, 40));
      }
    })();
    return async () => {
      live = false;
      await running;
      return waits;
    };
  }
}

/** Prepares what is sent, so that making it is not measured, and gives what sends it. */
type Attack = () => (visitor: Visitor) => Promise<string>;

const said = ({ status, value }: { status: number; value: { error?: { sentence: string } } }) =>
  value.error ? value.error.sentence : `taken (${status})`;

const bringIn =
  (make: () => Uint8Array): Attack =>
  () => {
    const bytes = make();
    return async (visitor) => said(await visitor.ask('POST', '/api/packages', bytes));
  };

const packed = (text: string) => () => zipSync({ 'piece.json': strToU8(text) }, { level: 9 });

function attacks(piece: string): [string, Attack][] {
  const post =
    (path: string, headers: Record<string, string>, make: () => string): Attack =>
    () => {
      const body = Buffer.from(make());
      return async (visitor) => {
        const { status, text } = await visitor.send('POST', path, body, headers);
        const value = JSON.parse(text) as { results?: { fault?: { sentence: string } }[]; error?: { sentence: string } };
        return value.results?.[0]?.fault?.sentence ?? said({ status, value });
      };
    };
  const picture = (make: () => string) =>
    post(`/api/pieces/${piece}/assets`, { 'x-file-name': 'a.svg', 'content-type': 'application/octet-stream' }, make);
  const edits = (make: () => string) => post(`/api/pieces/${piece}/batches`, { 'content-type': 'application/json' }, make);
  const svg = (inside: string, attributes = 'viewBox="0 0 40 30"') => `<svg xmlns="http://www.w3.org/2000/svg" ${attributes}>${inside}</svg>`;
  const many = <T>(count: number, make: (i: number) => T) => Array.from({ length: count }, (_, i) => make(i));
  const rename = (value: string) => ({ op: 'set', table: 'piece', id: piece, path: ['name'], value });
  const chain = (count: number) => many(count, (i) => `<g id="c${i}"><use href="#c${i + 1}"/></g>`).join('');
  const deep = `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`;
  return [
    ['a package that unpacks to 120 MB of lists', bringIn(packed(`[${'[],'.repeat(40_000_000)}[]]`))],
    ['a package of 290 MB unpacked, all one text', bringIn(packed(JSON.stringify({ format: 'x'.repeat(95_000_000) })))],
    ...hostilePieces
      .filter(({ name }) => !name.startsWith('values nested'))
      .map(({ name, make }): [string, Attack] => [name, bringIn(packed(JSON.stringify(make())))]),
    ['an SVG of 19,900 rectangles', picture(() => svg('<rect width="1" height="1"/>'.repeat(19_900)))],
    ['an SVG with 100,000 spaces for a width', picture(() => svg('', `width="${' '.repeat(100_000)}" viewBox="0 0 4 3"`))],
    ['an SVG of 9,000 chained references', picture(() => svg(chain(9000)))],
    ['values nested 5,000 deep', edits(() => `{"batches":[{"id":"d","name":"d","operations":[{"op":"put","table":"layers","value":${deep}}]}]}`)],
    ['an edit of 19 MB', edits(() => JSON.stringify({ batches: [{ id: 'vast', name: 'v', operations: [rename('x'.repeat(19_000_000))] }] }))],
    [
      '200 edits of 1,000 operations each',
      edits(() => JSON.stringify({ batches: many(200, (i) => ({ id: `m${i}`, name: 'm', operations: many(1000, (n) => rename(`n${n}`)) })) })),
    ],
  ];
}

/** Streams that are opened and never read, while much is saved. */
async function unread(bad: Visitor, good: Visitor, piece: string, pid: number | null, tell: Tell): Promise<void> {
  const { value } = await good.ask<{ piece: { scenes: Record<string, { name: string }> } }>('GET', `/api/pieces/${piece}`);
  const scene = Object.keys(value.piece.scenes)[0]!;
  const layer = (i: number) => ({
    id: `f${i % 50}`,
    scene,
    parent: null,
    order: 'a',
    name: 'T',
    type: 'text',
    text: String(i % 10).repeat(5000),
    pose: { x: 0, y: 0, width: 9, height: 9 },
    style: {},
  });
  const operations = Array.from({ length: 200 }, (_, n) => ({ op: 'put', table: 'layers', value: layer(n) }));
  const saveMuch = async (round: string): Promise<number> => {
    let most = 0;
    for (let i = 0; i < 40; i++) {
      await good.ask('POST', `/api/pieces/${piece}/batches`, { batches: [{ id: `${round}${i}`, name: 'u', operations }] });
      most = Math.max(most, memoryOf(pid));
    }
    return most;
  };
  // What saving alone takes is no matter of the streams.
  const alone = Math.max(await saveMuch('a'), await saveMuch('b'));
  const closers = await Promise.all(Array.from({ length: 60 }, () => bad.follow(`${piece}:0`, null)));
  const most = await saveMuch('c');
  closers.forEach((close) => close());
  tell(
    '60 streams that nobody reads, while 40 MB are saved',
    pid === null ? 'not measured: which process is not known' : `${Math.round(most - alone)} MB more than without them`,
    '200 MB'
  );
}

/** Megabytes that a process has in memory. */
const memoryOf = (pid: number | null): number =>
  pid === null ? 0 : Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1000;
