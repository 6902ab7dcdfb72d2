import { json } from '@sveltejs/kit';
import { fault, type Fault } from '@zany/core';
import type Joi from 'joi';
import { log } from './log';

/** Why a service refuses, with the status a route answers with. */
const statuses = {
  'bad-request': 400,
  'signed-out': 401,
  'not-allowed': 403,
  'not-found': 404,
  'too-large': 413,
  unreadable: 422,
  'too-often': 429,
} as const;

export type RefusalCode = keyof typeof statuses;

export class Refusal extends Error {
  readonly fault: Fault;

  constructor(
    readonly code: RefusalCode,
    sentence: string,
    path: readonly (string | number)[] = []
  ) {
    super(sentence);
    this.fault = fault(code, path, sentence);
  }

  get status(): number {
    return statuses[this.code];
  }
}

/** Runs a route's work and answers in one shape, whatever happens. */
export async function answer(work: () => Promise<unknown>): Promise<Response> {
  try {
    const value = await work();
    return value instanceof Response ? value : json(value ?? {});
  } catch (error) {
    if (error instanceof Refusal) return json({ error: error.fault }, { status: error.status });
    log.error({ err: error }, 'a request failed');
    return json({ error: fault('failed', [], 'Something went wrong on the server. Nothing was changed; please try again.') }, { status: 500 });
  }
}

/** Parses a JSON body by a Joi schema; names the path that is wrong. */
export async function readBody<T>(request: Request, schema: Joi.ObjectSchema<T>, most: number): Promise<T> {
  const text = new TextDecoder().decode(await readBytes(request, most));
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new Refusal('bad-request', 'The request is no JSON.');
  }
  const { value, error } = schema.validate(body, { convert: false });
  if (error) throw new Refusal('bad-request', error.details[0]!.message, error.details[0]!.path);
  return value as T;
}

/** The bytes of a body, read no further than the limit. */
export async function readBytes(request: Request, most: number): Promise<Uint8Array> {
  const tooLarge = () => new Refusal('too-large', `This holds more than ${Math.round(most / 1e6)} MB.`);
  if (Number(request.headers.get('content-length') ?? 0) > most) throw tooLarge();
  const parts: Uint8Array[] = [];
  let size = 0;
  const reader = request.body?.getReader();
  for (let part = await reader?.read(); part && !part.done; part = await reader?.read()) {
    size += part.value.length;
    if (size > most) {
      await reader?.cancel();
      throw tooLarge();
    }
    parts.push(part.value);
  }
  return Buffer.concat(parts);
}
