import { fail, type ActionFailure } from '@sveltejs/kit';
import { mendedText } from '@zany/core';
import type Joi from 'joi';
import { Refusal } from './errors';

/** What a form was filled with, without what is secret, and what is wrong with it. */
export interface Filled {
  readonly email: string;
  readonly name: string;
  readonly problem: string;
}

export type Attempt<R> = { readonly done: R } | { readonly refused: ActionFailure<Filled> };

/** Reads a form by a schema, does something with it, and gives the form back with a sentence when that does not work. */
export async function attempt<T, R>(request: Request, schema: Joi.ObjectSchema<T>, work: (form: T) => Promise<R>): Promise<Attempt<R>> {
  const raw = Object.fromEntries([...(await request.formData())].map(([key, value]) => [key, mendedText(String(value)).slice(0, 1000)]));
  const { value, error } = schema.validate(raw, { stripUnknown: true });
  const back = { email: raw['email'] ?? '', name: raw['name'] ?? '' };
  if (error) return { refused: fail(400, { ...back, problem: error.message }) };
  try {
    return { done: await work(value as T) };
  } catch (problem) {
    if (problem instanceof Refusal) return { refused: fail(problem.status, { ...back, problem: problem.message }) };
    throw problem;
  }
}
