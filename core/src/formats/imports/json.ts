import { strFromU8 } from 'fflate';
import { isRecord } from '../../record.ts';
import { jsonTextFault } from '../../piece/shape.ts';
import { fail, fault, ok, type Result } from '../../result.ts';

export interface JsonLimits {
  readonly depth: number;
  readonly values: number;
  readonly bytes: number;
}

/** The object that a JSON file holds; a fault that says what it does not hold for anything else. */
export function readObject(bytes: Uint8Array, limits: JsonLimits, what: string): Result<Readonly<Record<string, unknown>>> {
  if (bytes.length > limits.bytes) return fail(fault('too-large', [], `This has more than ${limits.bytes / 1e6} MB.`));
  const unfit = jsonTextFault(bytes, limits);
  if (unfit) return fail(unfit);
  let json: unknown;
  try {
    json = JSON.parse(strFromU8(bytes));
  } catch {
    return fail(fault('no-json', [], `This is no JSON, so it holds no ${what}.`));
  }
  return isRecord(json) ? ok(json) : fail(fault('no-object', [], `This holds no ${what}: it is no object.`));
}
