import { lexer, type Token, type Tokens } from 'marked';

/** The guide taken apart into what can be found and read by itself. */

export interface GuideEntry {
  /** The headings that it stands under, the nearest last. */
  readonly section: string;
  /** Markdown, without pictures and links to other pages. */
  readonly text: string;
}

/** Neither pictures nor other pages of the guide can be come to from here: of a link to one its words are left. */
const unlinked = (text: string): string => text.replace(/!\[[^\]]*\]\([^)]*\)/g, '').replace(/\[([^\]]+)\]\((?!https?:)[^)]*\)/g, '$1');

/** Without the ends of lines that are there for whoever writes it. */
const flowing = (text: string): string => text.replace(/\n\s*(?![-*|>\s]|\d+\.)/g, ' ').trim();

/** Paragraphs, points of lists, rows of tables and examples, each with the headings above it. What stands before the first second-rank heading is its title's. */
export function entriesIn(markdown: string): GuideEntry[] {
  const above: string[] = [];
  return lexer(markdown).flatMap((token: Token): GuideEntry[] => {
    if (token.type === 'heading') {
      const { depth, text } = token as Tokens.Heading;
      above.length = Math.min(above.length, depth - 1);
      above[depth - 1] = unlinked(text);
      return [];
    }
    const section = above.slice(1).filter(Boolean).join(' · ') || (above[0] ?? '');
    if (token.type === 'list') return (token as Tokens.List).items.map((item) => ({ section, text: flowing(unlinked(item.text)) }));
    if (token.type === 'table')
      return (token as Tokens.Table).rows.map((row) => ({ section, text: row.map((cell) => unlinked(cell.text)).join(' — ') }));
    if (token.type === 'paragraph') return [{ section, text: flowing(unlinked(token.raw.trim())) }].filter(({ text }) => text !== '');
    return ['code', 'blockquote'].includes(token.type) ? [{ section, text: token.raw.trim() }] : [];
  });
}

/** The words of what is looked for, in small letters. */
export const wordsOf = (query: string): readonly string[] => query.toLowerCase().split(/\s+/).filter(Boolean);

/** Whether all words stand in a text, whatever their case. */
export const hasAll = (text: string, words: readonly string[]): boolean => {
  const small = text.toLowerCase();
  return words.every((word) => small.includes(word));
};

/** Entries with all words, those first in whose heading one stands; none where nothing is looked for. */
export function foundIn(entries: readonly GuideEntry[], words: readonly string[]): readonly GuideEntry[] {
  if (words.length === 0) return [];
  const found = entries.filter(({ section, text }) => hasAll(`${section} ${text}`, words));
  const isHeaded = ({ section }: GuideEntry) => words.some((word) => section.toLowerCase().includes(word));
  return [...found.filter(isHeaded), ...found.filter((entry) => !isHeaded(entry))];
}
