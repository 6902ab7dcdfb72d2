import { Agent, request, type IncomingMessage } from 'node:http';

/** A person's browser as a server sees it: a session, requests one by one, one event stream. Plain HTTP, so that it costs little. */
export class Visitor {
  private cookie = '';
  private readonly agent = new Agent({ keepAlive: true, maxSockets: 4 });

  constructor(
    readonly base: string,
    private readonly origin = base
  ) {}

  /** Signs in as the demo's person. */
  async enterDemo(): Promise<void> {
    const { headers } = await this.send('POST', '/sign-in?/demo', '', { 'content-type': 'application/x-www-form-urlencoded' });
    this.cookie = (headers['set-cookie'] ?? []).map((one) => one.split(';')[0]!).join('; ');
    if (!this.cookie) throw new Error('The demo did not let anybody in.');
  }

  async ask<T>(method: string, path: string, body?: unknown): Promise<{ status: number; value: T }> {
    const raw = body instanceof Uint8Array;
    const sent = body === undefined ? '' : raw ? body : JSON.stringify(body);
    const { status, text } = await this.send(method, path, sent, { 'content-type': raw ? 'application/octet-stream' : 'application/json' });
    return { status, value: (text.startsWith('{') ? JSON.parse(text) : { text }) as T };
  }

  send(method: string, path: string, body: string | Uint8Array, headers: Record<string, string> = {}): Promise<Answer> {
    return new Promise((resolve, reject) => {
      const asked = request(
        this.base + path,
        {
          method,
          agent: this.agent,
          headers: { ...headers, origin: this.origin, cookie: this.cookie, 'content-length': Buffer.byteLength(body), accept: 'application/json' },
        },
        (response) => {
          const parts: Buffer[] = [];
          response.on('data', (part: Buffer) => parts.push(part));
          response.on('end', () => resolve({ status: response.statusCode ?? 0, headers: response.headers, text: Buffer.concat(parts).toString() }));
          response.on('error', reject);
        }
      );
      asked.on('error', reject);
      asked.end(body);
    });
  }

  /** Opens the event stream and hands over what comes; gives a function that ends it. With `take` null it is never read. */
  follow(from: string, take: ((text: string) => void) | null): Promise<() => void> {
    return new Promise((resolve, reject) => {
      const asked = request(
        `${this.base}/api/follow?from=${encodeURIComponent(from)}`,
        { headers: { cookie: this.cookie, origin: this.origin }, agent: new Agent() },
        (response: IncomingMessage) => {
          response.setEncoding('utf8');
          if (take) response.on('data', take);
          response.on('error', () => undefined);
          resolve(() => asked.destroy());
        }
      );
      asked.on('error', reject);
      asked.end();
    });
  }

  close(): void {
    this.agent.destroy();
  }
}

export interface Answer {
  readonly status: number;
  readonly headers: IncomingMessage['headers'];
  readonly text: string;
}
