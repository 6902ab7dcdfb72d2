import { setTimeout as sleep } from 'node:timers/promises';
import { figuresOf, type Figures } from '../measure.ts';
import { Visitor } from './client.ts';

/**
 * Many people edit at once: each makes edits at a steady rate, sends what is waiting one request at a time as a browser does,
 * and follows the piece. Says how long an edit waits until it is acknowledged, and whether all end with the same piece.
 */
export interface Load {
  readonly editors: number;
  readonly pieces: number;
  /** Edits a second of each editor. */
  readonly rate: number;
  readonly seconds: number;
  readonly followers: boolean;
}

export interface LoadResult extends Figures {
  readonly edits: number;
  readonly acknowledged: number;
  readonly perSecond: number;
  /** What was wrong at the end; empty when every edit stands once, in every follower's order alike. */
  readonly problems: readonly string[];
}

interface Waiting {
  readonly id: string;
  readonly value: number;
  readonly at: number;
}

class Editor {
  readonly waits: number[] = [];
  readonly made: string[] = [];
  readonly refused: string[] = [];
  readonly heard: string[] = [];
  private waiting: Waiting[] = [];
  private sending: Promise<void> | null = null;
  private rest = '';
  private stop: () => void = () => undefined;

  constructor(
    private readonly visitor: Visitor,
    private readonly piece: string,
    private readonly layer: string,
    private readonly number: number
  ) {}

  async follow(): Promise<void> {
    this.stop = await this.visitor.follow(`${this.piece}:0`, (text) => {
      const lines = (this.rest + text).split('\n');
      this.rest = lines.pop()!;
      for (const line of lines) {
        const found = /^data: .*?"revision":(\d+).*?"batch":\{"id":"([^"]+)"/.exec(line);
        if (found) this.heard.push(`${found[1]} ${found[2]}`);
      }
    });
  }

  edit(count: number): void {
    const id = `e${this.number}x${count}`;
    this.made.push(id);
    this.waiting.push({ id, value: count % 300, at: performance.now() });
    this.sending ??= this.send();
  }

  private async send(): Promise<void> {
    while (this.waiting.length) {
      const taken = this.waiting.splice(0, 100);
      const batches = taken.map(({ id, value }) => ({
        id,
        name: 'Move',
        operations: [{ op: 'set', table: 'layers', id: this.layer, path: ['pose', 'x'], value }],
      }));
      const { status, value } = await this.visitor.ask<{ results?: { id: string; fault?: unknown }[] }>('POST', `/api/pieces/${this.piece}/batches`, {
        batches,
      });
      const now = performance.now();
      if (status !== 200) this.refused.push(`${status} for ${taken.length} edits`);
      for (const result of value.results ?? []) if (result.fault) this.refused.push(result.id);
      for (const { at } of taken) this.waits.push(now - at);
    }
    this.sending = null;
  }

  async settle(): Promise<void> {
    await this.sending;
  }

  end(): void {
    this.stop();
    this.visitor.close();
  }
}

export async function load(base: string, { editors, pieces, rate, seconds, followers }: Load): Promise<LoadResult> {
  const owner = new Visitor(base);
  await owner.enterDemo();
  const ids: string[] = [];
  for (let i = 0; i < pieces; i++) {
    const { value } = await owner.ask<{ id: string }>('POST', '/api/pieces', { name: `Load ${i}`, width: 390, height: 844 });
    ids.push(value.id);
    await prepare(owner, value.id, editors);
  }
  const people: Editor[] = [];
  for (let i = 0; i < editors; i++) {
    const visitor = new Visitor(base);
    await visitor.enterDemo();
    const person = new Editor(visitor, ids[i % pieces]!, `l${i}`, i);
    if (followers) await person.follow();
    people.push(person);
  }
  // Connections, caches and compiled code are there after a moment; what is measured begins then.
  for (let n = 0; n < WARM; n++) {
    people.forEach((person, i) => setTimeout(() => person.edit(n), (i / editors) * 250));
    await sleep(250);
  }
  await sleep(300);
  await Promise.all(people.map((person) => person.settle()));
  for (const person of people) person.waits.length = 0;
  const began = performance.now();
  const total = Math.round(rate * seconds);
  for (let n = 0; n < total; n++) {
    const every = 1000 / rate;
    for (const [i, person] of people.entries())
      setTimeout(() => person.edit(WARM + n), Math.max(0, began + (n + i / editors) * every - performance.now()));
    await sleep(Math.max(0, began + (n + 1) * every - performance.now()));
  }
  await sleep(20);
  await Promise.all(people.map((person) => person.settle()));
  const took = performance.now() - began;
  const waits = people.flatMap((person) => person.waits);
  const problems = await judge(owner, people, ids, followers);
  for (const person of people) person.end();
  owner.close();
  const edits = people.reduce((sum, person) => sum + person.made.length, 0);
  return {
    edits,
    acknowledged: waits.length,
    perSecond: (waits.length / took) * 1000,
    ...figuresOf(waits),
    problems,
  };
}

/** Rounds of edits before anything is measured. */
const WARM = 12;

/** A layer for each editor. */
async function prepare(owner: Visitor, piece: string, editors: number): Promise<void> {
  const { value } = await owner.ask<{ piece: { scenes: Record<string, unknown> } }>('GET', `/api/pieces/${piece}`);
  const scene = Object.keys(value.piece.scenes)[0]!;
  const operations = Array.from({ length: editors }, (_, i) => ({
    op: 'put',
    table: 'layers',
    value: {
      id: `l${i}`,
      scene,
      parent: null,
      order: `a${i}`,
      name: `Layer ${i}`,
      type: 'box',
      pose: { x: 0, y: 0, width: 9, height: 9 },
      style: {},
    },
  }));
  await owner.ask('POST', `/api/pieces/${piece}/batches`, { batches: [{ id: 'prepare', name: 'Prepare', operations }] });
}

async function judge(owner: Visitor, people: readonly Editor[], ids: readonly string[], followers: boolean): Promise<string[]> {
  const problems = people.flatMap((person) => person.refused);
  const made = people.reduce((sum, person) => sum + person.made.length, 0);
  let revisions = 0;
  for (const id of ids) revisions += (await owner.ask<{ revision: number }>('GET', `/api/pieces/${id}`)).value.revision - 1;
  if (revisions !== made) problems.push(`${made} edits were made, but the pieces stand at ${revisions} together`);
  if (!followers) return problems;
  const groups = new Map<number, Editor[]>();
  people.forEach((person, i) => groups.set(i % ids.length, [...(groups.get(i % ids.length) ?? []), person]));
  for (const group of groups.values()) {
    const wanted = group.reduce((sum, person) => sum + person.made.length, 1);
    for (let i = 0; i < 200 && group.some((person) => person.heard.length < wanted); i++) await sleep(100);
    const first = group[0]!.heard.join();
    for (const person of group)
      if (person.heard.join() !== first) problems.push(`a follower heard ${person.heard.length} of ${wanted} edits, or in another order`);
    if (new Set(group[0]!.heard).size !== wanted) problems.push(`${wanted} edits, but ${new Set(group[0]!.heard).size} were heard`);
  }
  return problems;
}
