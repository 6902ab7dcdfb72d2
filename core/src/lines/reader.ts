import { startsWithWord, STOPS, unescapeText } from './raw.ts';

/** Why a line cannot be read: where (column from 1) and what would have been right there. */
export class LineError extends Error {
  constructor(
    readonly column: number,
    readonly expected: string,
    readonly found: string,
    /** Set where a frame of this name was asked for and there is none. */
    readonly unknownFrame: string | null = null,
    /** Set where a label of this name was asked for and there is none; of which scene, or placement. */
    readonly unknownLabel: { readonly of: string | null; readonly name: string } | null = null
  ) {
    super(`Column ${column}: expected ${expected}${found ? `, found “${found}”` : ''}.`);
  }
}

/** Texts that could stand at a place of the line, noted while reading; completion is made of them. */
export interface Offer {
  readonly at: number;
  readonly words: readonly string[];
  /** What is probably meant here comes before all else that fits. */
  readonly likely?: true;
}

/** Reads a line from left to right. Each question also notes what it would have taken, so completion knows the grammar. */
export class LineReader {
  at = 0;
  readonly offers: Offer[] = [];

  constructor(readonly text: string) {}

  get rest(): string {
    return this.text.slice(this.at);
  }

  get done(): boolean {
    this.skipSpace();
    return this.at >= this.text.length;
  }

  offer(words: readonly string[], likely = false): void {
    this.skipSpace();
    this.offers.push({ at: this.at, words, ...(likely && { likely: true as const }) });
  }

  /** Takes one of the words if it stands here, the longest first. */
  word<const W extends string>(words: readonly W[]): W | null {
    this.offer(words);
    const found = [...words].sort((a, b) => b.length - a.length).find((word) => startsWithWord(this.rest, word));
    if (found === undefined) return null;
    this.at += found.length;
    return found;
  }

  /** Takes one of the signs if it stands here. */
  sign(signs: readonly string[]): boolean {
    this.skipSpace();
    const found = signs.find((sign) => this.rest.startsWith(sign));
    if (found === undefined) return false;
    this.at += found.length;
    return true;
  }

  /** A bare or quoted text; `what` names it in errors. */
  raw(what: string, offers: readonly string[] = [], stops: readonly string[] = STOPS): string {
    this.offer(offers);
    if (this.rest.startsWith('"')) return this.quoted(what);
    const stop = stops.map((sign) => this.rest.indexOf(sign)).filter((at) => at >= 0);
    const text = this.rest.slice(0, Math.min(this.rest.length, ...stop)).trimEnd();
    if (text === '') this.fail(what);
    this.at += text.length;
    return text;
  }

  /** Milliseconds, written as `300 ms`, `2 s` or a bare number of milliseconds. */
  duration(): number {
    this.offer(['250 ms', '300 ms', '500 ms', '1 s', '2 s']);
    const found = /^(\d+(?:\.\d+)?(?:e[+-]?\d+)?)\s*(ms|s)?(?![\p{L}\p{N}])/iu.exec(this.rest);
    if (!found) return this.fail('a time such as 300 ms or 2 s');
    this.at += found[0].length;
    return Number(found[1]) * (found[2]?.toLowerCase() === 's' ? 1000 : 1);
  }

  fail(expected: string, unknownFrame: string | null = null): never {
    this.skipSpace();
    throw new LineError(this.at + 1, expected, this.rest.slice(0, 20), unknownFrame);
  }

  private quoted(what: string): string {
    const found = /^"((?:[^"\\]|\\.)*)"/.exec(this.rest);
    if (!found) return this.fail(`${what} with a closing quote`);
    this.at += found[0].length;
    return unescapeText(found[1]!);
  }

  private skipSpace(): void {
    while (/\s/.test(this.text.charAt(this.at))) this.at++;
  }
}
