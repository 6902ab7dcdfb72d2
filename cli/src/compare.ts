import { comparison, count, differenceLines, routeWords, type Apart, type Program } from '@zany/core';
import { load } from './files.ts';

/** Prints what is otherwise between two versions of a piece, as they are written and by what they do. */
export async function compareFiles(
  before: string,
  after: string,
  format: 'text' | 'json',
  maxStates: number | undefined,
  print: (text: string) => void
): Promise<number> {
  const [a, b] = await Promise.all([load(before), load(after)]);
  const compared = comparison(a.program, b.program, () => (maxStates === undefined ? {} : { maxStates }));
  const { written, changes, apart, cut } = compared;
  if (format === 'json') print(JSON.stringify(compared, null, 2));
  else {
    const said = changes.map(({ kind, sentence }) => (kind === 'new loose end' || kind === 'mended' ? `${kind}: ${sentence}` : sentence));
    const files = { before, after };
    const parts = (['before', 'after'] as const).flatMap((which) =>
      cut[which] === null ? [] : [`${files[which]} was explored in part: ${cut[which]}.`]
    );
    const all = [...listed('Written otherwise', differenceLines(written)), ...listed('Does otherwise', said)];
    print([...all, ...apartWords(a.program, apart), ...parts].join('\n'));
  }
  return 0;
}

/** Sentences under a heading that says how many; nothing where there are none. */
const listed = (heading: string, sentences: readonly string[]): string[] =>
  sentences.length ? [`${heading}, ${count(sentences.length, 'change')}:`, ...sentences.map((sentence) => `  ${sentence}`)] : [];

/** Whether they do the same, or the shortest that tells them apart. */
function apartWords(before: Program, apart: Apart): string[] {
  const pairs = count(apart.pairs, 'pair');
  if (apart.kind === 'same') return [`They do the same: nothing that can be done tells them apart (${pairs} of states looked at).`];
  if (apart.kind === 'not known') return [`Nothing that was looked at tells them apart, but not all was: ${apart.why}.`];
  return [`They are told apart by this: ${routeWords(before, apart.from, apart.events)}.`, ...apart.sentences.map((sentence) => `  ${sentence}`)];
}
