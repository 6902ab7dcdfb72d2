import type { Program } from '../program/program.ts';
import { severityWords, type Finding } from '../walk/finding.ts';
import { eventWords, routeWords } from '../walk/event-words.ts';
import { walksOf } from '../edit/commands/walks.ts';
import { walkKept, type Walked } from '../walk/kept.ts';
import { count } from '../words.ts';
import { csvOf } from './csv.ts';
import { standingDocument } from './document.ts';
import { escaped } from './escaped.ts';
import { placeName, toSarif, type Reported, type SaidOfThread } from './sarif.ts';

/** What the walk found, to be read, printed and counted by others: HTML, CSV (RFC 4180) and JUnit XML. */

const exploredWords = ({ exploration }: Reported): string =>
  `${exploration.cut === null ? 'Explored completely' : `Explored in part: ${exploration.cut}`}, ${count(exploration.count, 'state')}, ${count(exploration.moves, 'move')}.`;

/** What the walk's findings, and what was walked, can be handed on as: one table for the desk, the command line and the docs. */
export const reportKinds = {
  html: {
    label: 'A page to read and print',
    about: 'loose ends',
    ending: '.loose-ends.html',
    mediaType: 'text/html; charset=utf-8',
    write: (program: Program, found: Reported, from: ReportSource) =>
      toHtmlReport(program, found, `${from.file}, ${from.day}, Zany Thread ${from.version}`),
  },
  csv: {
    label: 'A table (CSV)',
    about: 'loose ends',
    ending: '.loose-ends.csv',
    mediaType: 'text/csv; charset=utf-8',
    write: (program: Program, found: Reported) => toCsv(program, found),
  },
  sarif: {
    label: 'For build servers (SARIF)',
    about: 'loose ends',
    ending: '.loose-ends.sarif',
    mediaType: 'application/sarif+json',
    write: (program: Program, found: Reported, from: ReportSource) =>
      JSON.stringify(toSarif(program, found, from.path ?? from.file, from.version), null, 2),
  },
  junit: {
    label: 'Walks as test cases (JUnit)',
    about: 'walks',
    ending: '.walks.xml',
    mediaType: 'application/xml',
    write: (program: Program, { said = [] }: Reported) => toJunit(program, walkedAll(program), said),
  },
} as const;

export type ReportKind = keyof typeof reportKinds;

/** What a report is about: the file, or the name of the piece; the day as YYYY-MM-DD. */
export interface ReportSource {
  readonly file: string;
  readonly path?: string;
  readonly day: string;
  readonly version: string;
}

/** A page that stands by itself and can be printed; `when` is said in it as it is given. */
export function toHtmlReport(program: Program, audit: Reported, when: string): string {
  const { findings, aside } = audit;
  const said = (audit.said ?? []).filter(({ isRight, note }) => isRight === false || note !== '');
  const article = (found: Finding, reason?: string) => `
    <article>
      <h3><span class="${found.severity}">${severityWords[found.severity]}</span> ${escaped(found.title)}</h3>
      <p>${escaped(found.sentence)}</p>
      <p class="soft">${escaped(placeName(program, found))} · ${found.rule}</p>
      ${found.route ? `<ol>${[`Begin on ${program.piece.scenes.get(found.route.from)?.name ?? found.route.from}`, ...found.route.events.map((event) => eventWords(program, event))].map((step) => `<li>${escaped(step)}</li>`).join('')}</ol>` : ''}
      ${reason === undefined ? '' : `<p><strong>Set aside:</strong> ${escaped(reason)}</p>`}
    </article>`;
  const title = `Loose ends of ${program.piece.head.name}`;
  return standingDocument(
    title,
    STYLE,
    `<p>${escaped(count(findings.length, 'loose end'))}${aside.length ? `, ${aside.length} set aside` : ''}. ${escaped(exploredWords(audit))}</p>
<p class="soft">${escaped(when)}</p>
${findings.map((found) => article(found)).join('')}
${aside.length ? `<h2>Set aside</h2>${aside.map((found) => article(found, found.reason)).join('')}` : ''}
${said.length ? `<h2>What was said by those who walked it</h2>${said.map(saidArticle).join('')}` : ''}`
  );
}

const STYLE = `body { margin: 2rem auto; max-width: 46rem; padding: 0 1rem; background: #fbf7ee; color: #26232c; font: 15px/1.5 system-ui, sans-serif; }
h1, h2 { font-weight: 650; line-height: 1.2; } h3 { margin: 0; font-size: 1rem; }
article { padding: .9rem 0; border-top: 1px solid #ddd2bd; break-inside: avoid; } article p { margin: .2rem 0; }
.soft { color: #6f6776; } .must { color: #9d3321; } .look { color: #8f5c00; } .note { color: #6f6776; }
ol { margin: .4rem 0; padding-left: 1.4rem; }
@media print { body { background: none; margin: 0; } }`;

const saidArticle = ({ line, place, verdict, note, by }: SaidOfThread) => `
    <article>
      <h3>${escaped(verdict)}</h3>
      ${note ? `<p>“${escaped(note)}”</p>` : ''}
      <p class="soft">${escaped(`${line} · ${place} · ${by}`)}</p>
    </article>`;

export function toCsv(program: Program, { findings, aside }: Reported): string {
  const row = (found: Finding, reason = '') => [
    found.rule,
    severityWords[found.severity],
    placeName(program, found),
    found.title,
    found.sentence,
    found.route ? routeWords(program, found.route.from, found.route.events) : '',
    reason,
  ];
  const rows = [
    ['rule', 'severity', 'place', 'title', 'sentence', 'route', 'set aside because'],
    ...findings.map((found) => row(found)),
    ...aside.map((found) => row(found, found.reason)),
  ];
  return csvOf(rows);
}

type KeptAndWalked = Walked & { readonly name: string; readonly steps: number };

/** The walks that are kept with a piece, each walked by the engine. */
export const walkedAll = (program: Program): KeptAndWalked[] =>
  walksOf(program.piece.head).map((walk) => ({ name: walk.name, steps: walk.steps.length, ...walkKept(program, walk) }));

interface TestCase {
  readonly name: string;
  readonly within: string;
  readonly assertions: number;
  readonly failure: string | null;
}

/** Kept walks as test cases, as build servers read them, and what people said of the threads that they walked. */
export function toJunit(program: Program, walks: readonly KeptAndWalked[], said: readonly SaidOfThread[] = []): string {
  const { name: piece } = program.piece.head;
  const kept = walks.map(({ name, held, broken, steps }): TestCase => ({
    name,
    within: piece,
    assertions: steps,
    failure: broken === null ? null : `Step ${held + 1}: ${broken}.`,
  }));
  const judged = said.filter(({ isRight }) => isRight !== null);
  const walked = judged.map(({ line, place, isRight, verdict, note, by }): TestCase => ({
    name: `${line} (${by})`,
    within: `${piece}.${place}`,
    assertions: 1,
    failure: isRight ? null : `${by}: ${note || verdict}`,
  }));
  const suites = [suite('Kept walks', kept), ...(judged.length ? [suite('Walked by people', walked)] : [])];
  const all = [...kept, ...walked];
  return `<?xml version="1.0" encoding="UTF-8"?>
<testsuites tests="${all.length}" failures="${failuresIn(all)}" time="0">
${suites.join('\n')}
</testsuites>
`;
}

const failuresIn = (cases: readonly TestCase[]): number => cases.filter(({ failure }) => failure !== null).length;

function suite(name: string, cases: readonly TestCase[]): string {
  const lines = cases.map(({ name, within, assertions, failure }) => {
    const attributes = `name="${escaped(name)}" classname="${escaped(within)}" assertions="${assertions}" time="0"`;
    return failure === null
      ? `    <testcase ${attributes}/>`
      : `    <testcase ${attributes}>\n      <failure message="${escaped(failure)}"/>\n    </testcase>`;
  });
  return [
    `  <testsuite name="${name}" tests="${cases.length}" failures="${failuresIn(cases)}" errors="0" skipped="0" time="0">`,
    ...lines,
    '  </testsuite>',
  ].join('\n');
}
