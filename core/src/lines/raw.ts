/** Texts in thread lines: bare where nothing can be taken for grammar, else in straight quotes. */

/** What ends a bare text. */
export const STOPS: readonly string[] = ['·', ';', '"', '→', '->', '>'];

/** Writes a text so that `LineReader.raw` gives it back; `reserved` words are quoted too. */
export function writeRaw(text: string, reserved: readonly string[] = [], stops: readonly string[] = STOPS): string {
  const bare =
    text !== '' &&
    text === text.trim() &&
    !/[\s]{2}|[\n\r\t\\]/.test(text) &&
    !text.startsWith('?') &&
    !/ #\d+$| in new tab$/i.test(text) &&
    !stops.some((stop) => text.includes(stop)) &&
    !reserved.some((word) => startsWithWord(text, word));
  return bare ? text : quoteText(text);
}

export const quoteText = (text: string) =>
  `"${text.replace(/[\\"\n\r\t]/g, (sign) => ({ '\\': '\\\\', '"': '\\"', '\n': '\\n', '\r': '\\r', '\t': '\\t' })[sign] ?? sign)}"`;

export const unescapeText = (text: string): string => text.replace(/\\(.)/g, (_, sign: string) => ({ n: '\n', r: '\r', t: '\t' })[sign] ?? sign);

/** Whether a text is a word or begins with it. */
export const startsWithWord = (text: string, word: string): boolean =>
  text.toLowerCase().startsWith(word.toLowerCase()) && !/[\p{L}\p{N}]/u.test(text.charAt(word.length));
