import { fail, fault, ok, type Fault, type Result } from '@zany/core';
import type { ErrorBody } from '$lib/shared/types';

/** Asks the server; what it refuses and what cannot be reached come back as values. */
export async function ask<T>(method: string, path: string, body?: unknown, headers: Record<string, string> = {}): Promise<Result<T>> {
  const isRaw = body instanceof Blob || body instanceof Uint8Array;
  const init: RequestInit = { method, headers: { ...(body !== undefined && !isRaw && { 'Content-Type': 'application/json' }), ...headers } };
  if (body !== undefined) init.body = isRaw ? (body as BodyInit) : JSON.stringify(body);
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
    return response.status >= 500 ? OFFLINE : failed(response);
  }
}

const failed = (response: Response) => fault('failed', [], `The server answered with ${response.status}.`);
