import { watch } from 'node:fs';
import { basename, dirname } from 'node:path';
import { audit, count, placeName, routeWords, severityWords, toCsv, toHtmlReport, toSarif, type Audit, type Program } from '@zany/core';
import { load, Unreadable } from './files.ts';

export const checkFormats = ['text', 'json', 'sarif', 'csv', 'html'] as const;
export type Format = (typeof checkFormats)[number];

interface CheckOptions {
  readonly format: Format;
  readonly maxStates?: number;
}

/** Nothing must be fixed, something must, or nothing must as far as it was walked, which was not to the end. */
export const CODES = { clean: 0, looseEnds: 1, notAllWalked: 3 } as const;

/** Prints the loose ends of a file, and says by its code what came of it. */
export async function check(file: string, { format, maxStates }: CheckOptions, print: (text: string) => void, version: string): Promise<number> {
  const { program } = await load(file);
  const result = audit(program, maxStates === undefined ? {} : { maxStates });
  print(writers[format](program, result, file, version));
  if (result.findings.some((finding) => finding.severity === 'must')) return CODES.looseEnds;
  return result.exploration.cut === null ? CODES.clean : CODES.notAllWalked;
}

/** A file that is written in several goes is read when it has been left alone for so long, in ms. */
const REST = 120;

/** Checks a file again whenever it is written, until it is stopped. What cannot be read in between is said, and waited for. */
export async function checkOnAndOn(file: string, options: CheckOptions, print: (text: string) => void, version: string): Promise<never> {
  const once = async () => {
    try {
      await check(file, options, print, version);
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error;
      print(error.message);
    }
  };
  await once();
  let timer: NodeJS.Timeout | undefined;
  // Programs that save put another file in place of it, so its folder is what is watched.
  watch(dirname(file), (_what, name) => {
    if (name !== null && name !== basename(file)) return;
    clearTimeout(timer);
    timer = setTimeout(() => void once(), REST);
  });
  return new Promise(() => {});
}

type Writer = (program: Program, result: Audit, file: string, version: string) => string;

const asText: Writer = (program, { findings, aside, exploration }) => {
  const lines = findings.flatMap((finding) => [
    `${severityWords[finding.severity]}: ${finding.title} (${finding.rule})`,
    `  ${placeName(program, finding)}: ${finding.sentence}`,
    ...(finding.route ? [`  route: ${routeWords(program, finding.route.from, finding.route.events)}`] : []),
  ]);
  const how = exploration.cut === null ? 'explored completely' : `explored in part: ${exploration.cut}`;
  const states = `${count(exploration.count, 'state')}, ${count(exploration.moves, 'move')}`;
  const left = aside.length ? `, ${aside.length} set aside` : '';
  return [...lines, `${count(findings.length, 'loose end')}${left}; ${how}, ${states}.`].join('\n');
};

const writers: Record<Format, Writer> = {
  text: asText,
  json: (_program, { findings, aside, exploration }) =>
    JSON.stringify(
      { complete: exploration.cut === null, cut: exploration.cut, states: exploration.count, moves: exploration.moves, findings, aside },
      null,
      2
    ),
  sarif: (program, result, file, version) => JSON.stringify(toSarif(program, result, file, version), null, 2),
  csv: (program, result) => toCsv(program, result).trimEnd(),
  html: (program, result, file, version) =>
    toHtmlReport(program, result, `${basename(file)}, ${new Date().toISOString().slice(0, 10)}, Zany Thread ${version}`),
};
