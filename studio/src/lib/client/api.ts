import { fail, fault, ok, type Fault, type Result } from '@zany/core';
import type { ErrorBody } from '$lib/shared/types';

/** Asks the server; what it refuses and what cannot be reached come back as values. */
export async function ask<T>(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Result<T>> {
  const isRaw = body instanceof Blob || body instanceof Uint8Array;
  const init: RequestInit = { method, headers: { ...(body !== undefined && !isRaw && { 'Content-Type': 'application/json' }), ...headers } };
  if (body !== undefined) init.body = isRaw ? (body as BodyInit) : JSON.stringify(body);
  return send<T>(path, init);
}

/** The same with a body that is JSON text already. What has had no answer after so long, ms, counts as not having been reached. */
export const askText = <T>(method: string, path: string, body: string, patience: number): Promise<Result<T>> =>
  send(path, { method, body, headers: { 'Content-Type': 'application/json' }, signal: AbortSignal.timeout(patience) });

async function send<T>(path: string, init: RequestInit): Promise<Result<T>> {
  try {
    const response = await fetch(path, init);
    if (response.ok) return ok((await response.json()) as T);
    return fail(await faultOf(response));
  } catch {
    return fail(OFFLINE);
  }
}

export const OFFLINE: Fault = fault('offline', [], 'The server cannot be reached just now.');

async function faultOf(response: Response): Promise<Fault> {
  try {
    return ((await response.json()) as ErrorBody).error ?? failed(response);
  } catch {
    // What stands between here and the server answers for it when it is not there.
    return [502, 503, 504].includes(response.status) ? OFFLINE : failed(response);
  }
}

const failed = (response: Response) => fault('failed', [], `The server answered with ${response.status}.`);
