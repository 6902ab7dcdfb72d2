import { bindingWords, readBinding } from './binding.ts';
import { readLine } from './line.ts';
import { LineError, type LineReader } from './reader.ts';
import { slots } from './slots.ts';
import type { LineScope } from './scope.ts';

/** Reads as far as it goes, for the offers that are noted on the way. */
export const readForOffers = (reader: LineReader, scope: LineScope): void => quietly(() => readLine(reader, scope));

/** What a binding could go on with here, noted in the same reader. */
export function offersOfBindings(reader: LineReader, scope: LineScope): void {
  reader.at = 0;
  quietly(() => readBinding(reader, scope));
}

/** The same for a scene that has states: which one it is always in. */
export function offersOfState(reader: LineReader, scope: LineScope): void {
  reader.at = 0;
  quietly(() => {
    reader.offer([bindingWords.state]);
    if (reader.word([bindingWords.state]) !== null) offersOfExpression(reader, scope);
  });
}

/** Names, properties and functions that an expression could go on with. */
export function offersOfExpression(reader: LineReader, scope: LineScope): void {
  reader.offer(scope.conditions);
  quietly(() => slots.expression.read(reader, { scope, slot: { path: '', kind: 'expression' }, whole: {} }));
}

function quietly(read: () => unknown): void {
  try {
    read();
  } catch (error) {
    if (!(error instanceof LineError)) throw error;
  }
}
