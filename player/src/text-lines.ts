/** How a text falls into lines in a box, as browsers break it: at spaces, and inside a word that is wider than the box by itself. */

const known = new Map<string, readonly string[]>();
const MOST_KNOWN = 4000;

/**
 * Lines of a text in a box of a width, in the unit of `measure`. `font` only tells one measure from another: what was broken once
 * is not measured again.
 */
export function linesOf(text: string, width: number, font: string, measure: (words: string) => number): readonly string[] {
  const key = `${font} ${width} ${text}`;
  const old = known.get(key);
  if (old) return old;
  const lines = text.split('\n').flatMap((paragraph) => broken(paragraph, width, measure));
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(key, lines);
  return lines;
}

/** Forgets what was broken: a font that was on its way is there. */
export const forgetLines = (): void => known.clear();

function broken(paragraph: string, width: number, measure: (words: string) => number): string[] {
  if (measure(paragraph) <= width) return [paragraph];
  const lines: string[] = [];
  let line = '';
  for (const word of paragraph.match(/\s*\S+|\s+$/g) ?? []) {
    if (line && measure(line + word) > width) {
      lines.push(line);
      line = word.trimStart();
    } else line += word;
    while (measure(line) > width && [...line].length > 1) {
      const kept = fitting(line, width, measure);
      lines.push(kept);
      line = line.slice(kept.length);
    }
  }
  return [...lines, line];
}

/** As much of a word as fits, one letter at least. */
function fitting(word: string, width: number, measure: (words: string) => number): string {
  const letters = [...word];
  let [low, high] = [1, letters.length];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (measure(letters.slice(0, middle).join('')) <= width) low = middle;
    else high = middle - 1;
  }
  return letters.slice(0, low).join('');
}
