import { listWords } from '../../words.ts';
import type { CameIn, ImportForm } from './define.ts';
import { presentations } from './deck/presentations.ts';
import { scxml } from './scxml.ts';
import { tokens } from './tokens.ts';

/** What can be brought into a piece besides pictures, videos and sounds. To add one: its file, and its line here. */
export const imports: readonly ImportForm[] = [tokens, presentations, scxml];

/** The form of a file by its name; null where none is known. */
export const importFor = (file: string): ImportForm | null =>
  imports.find(({ endings }) => endings.some((ending) => file.toLowerCase().endsWith(ending))) ?? null;

/** What came in, in a sentence. */
export const cameInWords = ({ made, left }: CameIn): string =>
  `${made.length ? `Brought in: ${listWords(made)}` : 'Nothing new came in'}.${left.length ? ` Left: ${left.length}.` : ''}`;

export type { CameIn, ImportForm };
