import { audit, compareVersions, count } from '@zany/core';
import { load } from './files.ts';

/** Prints what is otherwise between two versions of a piece, by what they do. */
export async function compareFiles(
  before: string,
  after: string,
  format: 'text' | 'json',
  maxStates: number | undefined,
  print: (text: string) => void
): Promise<number> {
  const options = maxStates === undefined ? {} : { maxStates };
  const [a, b] = (await Promise.all([load(before), load(after)])).map(({ program }) => ({ program, audit: audit(program, options) }));
  const changes = compareVersions(a!, b!);
  const cuts = [a!, b!].map((one) => one.audit.exploration.cut);
  if (format === 'json') print(JSON.stringify({ changes, cut: { before: cuts[0], after: cuts[1] } }, null, 2));
  else {
    const said = changes.map(({ kind, sentence }) => (kind === 'new loose end' || kind === 'mended' ? `${kind}: ${sentence}` : sentence));
    const parts = cuts.flatMap((cut, i) => (cut === null ? [] : [`${i === 0 ? before : after} was explored in part: ${cut}.`]));
    print([...said, changes.length ? `${count(changes.length, 'change')}.` : 'They do the same, as far as the walk can tell.', ...parts].join('\n'));
  }
  return 0;
}
