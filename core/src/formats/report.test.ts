import { expect, test } from 'vitest';
import { compose, layerId, sceneId } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { audit } from '../walk/audit.ts';
import { reportKinds, toJunit } from './report.ts';

const program = compile(
  compose({
    name: 'Pier <kiosk>',
    frames: {
      '=home': { layers: { 'Hit "area", 2': { type: 'hit', at: [0, 0, 20, 20], lines: ['click → go to end'] } } },
      end: { layers: { word: { type: 'text', text: 'Fin' } } },
    },
  })
);
const found = audit(program);
const from = { file: 'pier.zip', day: '2026-11-27', version: '0.1.0' };

test('CSV: a row for each, quoted where need be, and nothing that a sheet takes for a formula', () => {
  const rows = reportKinds.csv.write(program, found).trimEnd().split('\r\n');
  expect(rows).toHaveLength(found.findings.length + 1);
  expect(rows.find((row) => row.startsWith('small-hit'))).toContain(`"'=home / Hit ""area"", 2"`);
  expect(rows.every((row) => !/(^|,)"?[=+@-]/.test(row))).toBe(true);
});

test('HTML: what is written in a piece is text in it, with the steps of each route and how far was walked', () => {
  const html = reportKinds.html.write(program, found, from);
  expect(html).toContain('Loose ends of Pier &#60;kiosk&#62;');
  expect(html).not.toContain('<kiosk>');
  expect(html).toContain('<li>click Hit &#34;area&#34;, 2</li>');
  expect(html).toContain('Explored completely, 2 states, 1 move.');
  expect(html).toContain('pier.zip, 2026-11-27, Zany Thread 0.1.0');
});

test('HTML: what those who walked it said stands at the end', () => {
  const said = [{ line: 'Buy: click → go to end', place: '=home', verdict: 'not as it should', isRight: false, note: 'No <price>', by: 'Odd Vik' }];
  const html = reportKinds.html.write(program, { ...found, said }, from);
  expect(html).toContain('What was said by those who walked it');
  expect(html).toContain('“No &#60;price&#62;”');
  expect(html).toContain('Buy: click → go to end · =home · Odd Vik');
  expect(reportKinds.html.write(program, found, from)).not.toContain('What was said');
});

test('SARIF: what is set aside is suppressed with its reason', () => {
  const [one, ...others] = found.findings;
  const sarif = JSON.parse(reportKinds.sarif.write(program, { ...found, findings: others, aside: [{ ...one!, reason: 'Known' }] }, from)) as {
    runs: { results: { suppressions?: { justification: string }[] }[] }[];
  };
  expect(sarif.runs[0]!.results.flatMap(({ suppressions }) => suppressions?.map(({ justification }) => justification) ?? [])).toEqual(['Known']);
});

test('JUnit: walks that hold and walks that do not', () => {
  const xml = toJunit(program, [
    { name: 'A & B', steps: 3, held: 3, broken: null },
    { name: 'C', steps: 2, held: 1, broken: 'it leads to end instead of =home' },
  ]);
  expect(xml).toContain('<testsuite name="Kept walks" tests="2" failures="1"');
  expect(xml).toContain('<testcase name="A &#38; B"');
  expect(xml).toContain('<failure message="Step 2: it leads to end instead of =home."/>');
  expect(xml).not.toContain('Walked by people');
});

test('JUnit: the walks of a piece and what people said of its threads, as far as they said whether it did what it should', () => {
  const step = { event: { type: 'click' as const, layer: layerId('=home', 'Hit "area", 2') }, frame: sceneId('end') };
  const walks = { once: { name: 'To the end', order: 'a', from: sceneId('=home'), steps: [step] } };
  const kept = compile({ ...program.piece, head: { ...program.piece.head, walks } });
  const one = { line: 'Hit: click → go to end', place: '=home', verdict: 'as it should', isRight: true, note: '', by: 'Ragna' };
  const said = [
    one,
    { ...one, isRight: false, verdict: 'not as it should', note: 'Too <slow>', by: 'Odd' },
    { ...one, isRight: null, note: 'Hm', by: 'Liv' },
  ];
  const xml = reportKinds.junit.write(kept, { ...found, said });
  expect(xml).toContain('<testsuites tests="3" failures="1" time="0">');
  expect(xml).toContain('<testsuite name="Kept walks" tests="1" failures="0"');
  expect(xml).toContain('<testsuite name="Walked by people" tests="2" failures="1"');
  expect(xml).toContain('name="Hit: click → go to end (Ragna)" classname="Pier &#60;kiosk&#62;.=home" assertions="1" time="0"/>');
  expect(xml).toContain('<failure message="Odd: Too &#60;slow&#62;"/>');
  expect(xml).not.toContain('Liv');
});
