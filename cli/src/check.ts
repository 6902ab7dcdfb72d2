import { watch } from 'node:fs';
import { basename, dirname } from 'node:path';
import { audit, count, placeName, reportKinds, routeWords, severityWords, type Audit, type Program, type ReportKind } from '@zany/core';
import { load, Unreadable } from './files.ts';

const own = ['text', 'json'] as const;
export type Format = (typeof own)[number] | ReportKind;
/** Walks are printed by themselves. */
const printed = (Object.keys(reportKinds) as ReportKind[]).filter((kind) => reportKinds[kind].about === 'loose ends');
export const checkFormats: readonly Format[] = [...own, ...printed];

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
  const from = { file: basename(file), path: file, day: new Date().toISOString().slice(0, 10), version };
  print(
    format in reportKinds ? reportKinds[format as ReportKind].write(program, result, from).trimEnd() : writers[format as 'text'](program, result)
  );
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
  return new Promise((_, reject) => {
    let timer: NodeJS.Timeout | undefined;
    let checked = Promise.resolve();
    const next = () => void (checked = checked.then(once).catch(reject));
    // Programs that save put another file in place of it, so its folder is what is watched.
    watch(dirname(file), (_what, name) => {
      if (name !== null && name !== basename(file)) return;
      clearTimeout(timer);
      timer = setTimeout(next, REST);
    });
    // What is written while it is checked is heard as well.
    next();
  });
}

type Writer = (program: Program, result: Audit) => string;

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

const writers: Record<(typeof own)[number], Writer> = {
  text: asText,
  json: (_program, { findings, aside, exploration }) =>
    JSON.stringify(
      { complete: exploration.cut === null, cut: exploration.cut, states: exploration.count, moves: exploration.moves, findings, aside },
      null,
      2
    ),
};
