import { listWords } from '../../words.ts';
import type { CameIn, ImportForm } from './define.ts';
import { presentations } from './deck/presentations.ts';
import { lottieAnimation } from './lottie/lottie.ts';
import { scxml } from './scxml.ts';
import { tokens } from './tokens.ts';

/** What can be brought into a piece besides pictures, videos and sounds. To add one: its file, and its line here. */
export const imports: readonly ImportForm[] = [tokens, presentations, scxml, lottieAnimation];

/** The form of a file by its name, and by what is in it where several have that ending; null where none is known. */
export function importFor(file: string, bytes?: Uint8Array): ImportForm | null {
  const known = imports.filter(({ endings }) => endings.some((ending) => file.toLowerCase().endsWith(ending)));
  return (bytes && known.find(({ fits }) => fits?.(bytes))) ?? known[0] ?? null;
}

/** What came in, in a sentence. */
export const cameInWords = ({ made, left }: CameIn): string =>
  `${made.length ? `Brought in: ${listWords(made)}` : 'Nothing new came in'}.${left.length ? ` Left: ${left.length}.` : ''}`;

export type { CameIn, ImportForm };
