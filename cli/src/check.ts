import { audit, count, placeName, severityWords, toSarif, type Audit, type Program, routeWords } from '@zany/core';
import { load } from './files.ts';

export type Format = 'text' | 'json' | 'sarif';

/** Prints the loose ends of a file. 0: nothing must be fixed; 1: something must. */
export async function check(file: string, format: Format, print: (text: string) => void, version: string): Promise<number> {
  const { program } = await load(file);
  const result = audit(program);
  print(writers[format](program, result, file, version));
  return result.findings.some((finding) => finding.severity === 'must') ? 1 : 0;
}

type Writer = (program: Program, result: Audit, file: string, version: string) => string;

const asText: Writer = (program, { findings, exploration }) => {
  const lines = findings.flatMap((finding) => [
    `${severityWords[finding.severity]}: ${finding.title} (${finding.rule})`,
    `  ${placeName(program, finding)}: ${finding.sentence}`,
    ...(finding.route ? [`  route: ${routeWords(program, finding.route.from, finding.route.events)}`] : []),
  ]);
  const how = exploration.cut === null ? 'explored completely' : `explored in part: ${exploration.cut}`;
  const states = `${count(exploration.count, 'state')}, ${count(exploration.moves, 'move')}`;
  return [...lines, `${count(findings.length, 'loose end')}; ${how}, ${states}.`].join('\n');
};

const writers: Record<Format, Writer> = {
  text: asText,
  json: (_program, { findings, exploration }) =>
    JSON.stringify(
      { complete: exploration.cut === null, cut: exploration.cut, states: exploration.count, moves: exploration.moves, findings },
      null,
      2
    ),
  sarif: (program, { findings }, file, version) => JSON.stringify(toSarif(program, findings, file, version), null, 2),
};
