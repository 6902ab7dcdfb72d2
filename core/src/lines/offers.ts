import { readBinding } from './binding.ts';
import { readLine } from './line.ts';
import { LineError, type LineReader } from './reader.ts';
import type { LineScope } from './scope.ts';

/** Reads as far as it goes, for the offers that are noted on the way. */
export function readForOffers(reader: LineReader, scope: LineScope): void {
  try {
    readLine(reader, scope);
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
  }
}

/** What a binding could go on with here, noted in the same reader. */
export function offersOfBindings(reader: LineReader, scope: LineScope): void {
  reader.at = 0;
  try {
    readBinding(reader, scope);
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
  }
}
