import { fault, type Fault } from '@zany/core';

/** Why a service refuses, with the status a route answers with. */
const statuses = {
  'bad-request': 400,
  'signed-out': 401,
  'not-allowed': 403,
  'not-found': 404,
  gone: 410,
  'other-format': 409,
  'too-large': 413,
  unreadable: 422,
  'too-heavy': 422,
  'too-often': 429,
  busy: 503,
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

  /** One that was made elsewhere, such as in a worker. */
  static of({ code, path, sentence }: Fault): Refusal {
    return new Refusal(Object.hasOwn(statuses, code) ? (code as RefusalCode) : 'unreadable', sentence, path);
  }

  get status(): number {
    return statuses[this.code];
  }
}
