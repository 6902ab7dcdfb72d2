import type { Piece } from '../../piece/piece.ts';
import { walkScripts, type Seen, type WalkScript } from '../walk-script.ts';
import { programOf } from '../audited.ts';
import { defineExport } from './define.ts';

/** Kept walks and the route plan as scenarios in Gherkin, to be read by people and run by steps of one's own. */
export const gherkin = defineExport({
  kind: 'gherkin',
  group: 'test',
  label: 'Scenarios in Gherkin',
  act: 'Save the scenarios',
  ending: '.feature',
  mediaType: 'text/plain; charset=utf-8',
  meaning: 'kept walks, and routes over every branch, as Given, When and Then',
  walks: true,
  write: (piece) => gherkinFeature(piece),
});

export function gherkinFeature(piece: Piece): string {
  const program = programOf(piece);
  const { scripts, leftOut } = walkScripts(program);
  const nameOf = (id: string) => program.piece.scenes.get(id)!.name;
  const about = leftOut.length ? `\n${leftOut.map((line) => `  # Left out: ${oneLine(line)}`).join('\n')}\n` : '';
  return `# language: en
Feature: ${oneLine(piece.head.name)}
${about}
${scripts.map((script) => scenario(script, nameOf(script.from))).join('\n')}`;
}

const oneLine = (text: string): string => text.replace(/\s+/g, ' ').trim();

function scenario({ name, begins, steps }: WalkScript, from: string): string {
  // What is done without looking in between goes on what was done before.
  const lines = steps.flatMap(({ words, seen }, i) => [
    `${i > 0 && steps[i - 1]!.seen === null ? 'And' : 'When'} I ${oneLine(words)}`,
    ...(seen ? thenLines(seen) : []),
  ]);
  return `  Scenario: ${oneLine(name)}
    Given I am on "${quoted(from)}"${begins.laid.length ? `\n    And "${quoted(begins.laid.join(', '))}" lies over it` : ''}
${lines.map((line) => `    ${line}`).join('\n')}
`;
}

const quoted = (text: string): string => oneLine(text).replaceAll('"', "'");

const thenLines = ({ frame, laid, texts }: Seen): string[] => [
  `Then I am on "${quoted(frame)}"`,
  ...(laid.length ? [`And "${quoted(laid.join(', '))}" lies over it`] : []),
  ...texts.map(([, text]) => `And I read "${quoted(text)}"`),
];
