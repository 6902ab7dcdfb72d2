import { EventEmitter } from 'node:events';
import { afterEach, expect, test, vi } from 'vitest';
import { Listener, type Connect, type Told } from './listen';

/** A connection to a database that can be broken in every way a real one breaks. */
class Client extends EventEmitter {
  static all: Client[] = [];
  static isDown = false;
  ended = false;

  constructor() {
    super();
    Client.all.push(this);
  }

  async connect(): Promise<void> {
    if (!Client.isDown) return;
    // Like the real one: the promise rejects, and the connection says so too, twice.
    this.emit('error', new Error('refused'));
    this.emit('end');
    throw new Error('refused');
  }

  query = async () => undefined;

  async end(): Promise<void> {
    this.ended = true;
    this.emit('end');
  }

  static get open(): Client[] {
    return Client.all.filter((client) => !client.ended);
  }
}

const connect = (() => new Client()) as unknown as Connect;

afterEach(() => {
  Client.all = [];
  Client.isDown = false;
  vi.useRealTimers();
});

test('however a connection breaks, it is replaced by one, and each notice is heard once', async () => {
  vi.useFakeTimers();
  const listener = new Listener(connect);
  const heard: (Told | { type: 'gap' })[] = [];
  listener.on((told) => heard.push(told));
  await vi.advanceTimersByTimeAsync(10);
  for (let i = 0; i < 5; i++) {
    const [client] = Client.open;
    Client.isDown = true;
    client!.emit('error', new Error('gone'));
    client!.emit('error', new Error('gone again'));
    client!.emit('end');
    await vi.advanceTimersByTimeAsync(5000);
    Client.isDown = false;
    await vi.advanceTimersByTimeAsync(2000);
    expect(Client.open).toHaveLength(1);
  }
  heard.length = 0;
  const payload = JSON.stringify({ type: 'pad', piece: 'x', button: 3 });
  for (const client of Client.all) client.emit('notification', { payload });
  expect(heard).toEqual([{ type: 'pad', piece: 'x', button: 3 }]);
  Client.open[0]!.emit('notification', { payload: '{broken' });
  await listener.close();
  await vi.advanceTimersByTimeAsync(5000);
  expect(Client.open).toHaveLength(0);
});

test('after a break it says that something may have been missed', async () => {
  vi.useFakeTimers();
  const listener = new Listener(connect);
  let gaps = 0;
  listener.on(({ type }) => type === 'gap' && gaps++);
  await vi.advanceTimersByTimeAsync(10);
  expect(gaps).toBe(1);
  Client.open[0]!.emit('error', new Error('gone'));
  await vi.advanceTimersByTimeAsync(1000);
  expect(gaps).toBe(2);
  await listener.close();
});
