import Joi from 'joi';
import { mendedText } from '@zany/core';
import { Refusal } from './refusal';

const fileName = Joi.string().min(1).max(300).required();

/** The name of a file that is sent, in the header `x-file-name`, written as in an address. */
export function fileNameOf({ headers }: Request): string {
  const { value, error } = fileName.validate(mendedText(decoded(headers.get('x-file-name') ?? '')));
  if (error) throw new Refusal('bad-request', 'The name of the file is missing.', ['x-file-name']);
  return value as string;
}

/** One that is not written as it has to be is as good as none. */
function decoded(name: string): string {
  try {
    return decodeURIComponent(name);
  } catch {
    return '';
  }
}
