import { json } from '@sveltejs/kit';
import { fault, jsonTextFault, mended } from '@zany/core';
import type Joi from 'joi';
import { log } from './log';
import { Refusal } from './refusal';

export { Refusal, type RefusalCode } from './refusal';

/** Answers are for one person and for now: nothing on the way may keep them. */
export const PRIVATE = { 'Cache-Control': 'no-store' } as const;

/** JSON text that is there already, as an answer. */
export const jsonText = (text: string): Response => new Response(text, { headers: { 'Content-Type': 'application/json', ...PRIVATE } });

/** Runs a route's work and answers in one shape, whatever happens. */
export async function answer(work: () => Promise<unknown>): Promise<Response> {
  try {
    const value = await work();
    return value instanceof Response ? value : json(value ?? {}, { headers: PRIVATE });
  } catch (error) {
    if (error instanceof Refusal) return json({ error: error.fault }, { status: error.status, headers: PRIVATE });
    log.error({ err: error }, 'a request failed');
    const failed = fault('failed', [], 'Something went wrong on the server. Nothing was changed; please try again.');
    return json({ error: failed }, { status: 500, headers: PRIVATE });
  }
}

/** Parses a JSON body by a Joi schema; names the path that is wrong. */
export async function readBody<T>(request: Request, schema: Joi.ObjectSchema<T>, most: number): Promise<T> {
  const bytes = await readBytes(request, most);
  const deep = jsonTextFault(bytes, { depth: 30, values: 100_000 });
  if (deep) throw new Refusal('bad-request', deep.sentence);
  const text = new TextDecoder().decode(bytes);
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw new Refusal('bad-request', 'The request is no JSON.');
  }
  const { value, error } = schema.validate(mended(body), { convert: false });
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
      await reader?.cancel().catch(() => undefined);
      throw tooLarge();
    }
    parts.push(part.value);
  }
  return Buffer.concat(parts);
}
