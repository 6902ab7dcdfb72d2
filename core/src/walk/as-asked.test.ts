import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compose, type PlacedSpec } from '../compose/compose.ts';
import { compileAst } from '../expression/compile.ts';
import type { Ast } from '../expression/ast.ts';
import { parseExpression } from '../expression/parse.ts';
import { compile } from '../program/compile.ts';
import { asAsked } from './as-asked.ts';
import { audit } from './audit.ts';
import { answerIn } from './values.ts';

/** Conditions on texts, written as what they ask: they come out as before, and what is put into fields for them is all that there is. */

function read(condition: string): Ast {
  const parsed = parseExpression(condition.replaceAll('N', '‹n›'));
  if (!parsed.ok) throw new Error(`${condition}: ${parsed.error.sentence}`);
  return parsed.value;
}
const outcome = (ast: Ast, text: string) => answerIn(compileAst(ast), { read: () => text, nameOf: () => '', special: () => 0 });

const words = fc.constantFrom('', 'K', 'KL', 'KLM', 'no', 'ab', 'abc', 'é');
const whole = fc.integer({ min: -4, max: 5 });
const texts: fc.Arbitrary<string> = fc.oneof(
  fc.constant('N'),
  fc.constant('upper case(N)'),
  fc.tuple(whole, whole).map(([from, many]) => `substring(N, ${from}, ${many})`),
  whole.map((from) => `substring(N, ${from})`),
  words.map((word) => `N + "${word}"`),
  words.map((word) => `"${word}" + N + "b"`)
);
const lengths = fc
  .tuple(texts, fc.constantFrom('#', '# + 2', '3 - #', '-#', '# * 2', '2 * # - 1', '# * 0', '1 + (# - 3) * 2'))
  .map(([text, form]) => form.replace('#', `string length(${text})`));
const compares = fc.constantFrom('=', '!=', '<', '<=', '>', '>=');
const conditions = fc.oneof(
  fc.tuple(texts, fc.constantFrom('=', '!='), words).map(([text, op, word]) => `${text} ${op} "${word}"`),
  fc.tuple(words, texts).map(([word, text]) => `"${word}" = ${text}`),
  fc.tuple(texts, words, words).map(([text, one, other]) => `${text} in ("${one}", "${other}")`),
  fc.tuple(words, texts).map(([word, text]) => `contains("${word}", ${text})`),
  fc.tuple(lengths, compares, whole).map(([length, op, many]) => `${length} ${op} ${many}`),
  fc.tuple(whole, compares, lengths).map(([many, op, length]) => `${many} ${op} ${length}`)
);
const written = fc.string({ unit: fc.constantFrom('K', 'L', 'a', 'b', 'c', 'n', 'o', 'é'), maxLength: 6 });

test('whatever is written, it comes out as before', () => {
  fc.assert(
    fc.property(conditions, fc.array(written, { minLength: 10, maxLength: 30 }), (condition, all) => {
      const before = read(condition);
      const after = asAsked(before);
      for (const text of ['', 'KL', 'KLM', 'abc', 'no', ...all]) {
        const expected = outcome(before, text);
        // What has no value is no condition that holds; whether it is told as an error is asked of it as it is written.
        if (expected !== null) expect([condition, text, outcome(after, text)]).toEqual([condition, text, expected]);
      }
    }),
    { numRuns: 2000 }
  );
});

test('what is asked of the beginning, of the end and of the length of a text stands there by itself', () => {
  const says = (condition: string, as: string) => {
    const plain = (ast: Ast) => JSON.stringify(ast, (key, value: unknown) => (key === 'from' || key === 'to' ? undefined : value));
    expect(plain(asAsked(read(condition)))).toBe(plain(asAsked(read(as))));
    return plain(asAsked(read(condition)));
  };
  expect(says('substring(N, 1, 2) = "KL"', 'starts with(N, "KL")')).toContain('starts with');
  expect(says('"no" = substring(N, -2)', 'ends with(N, "no")')).toContain('ends with');
  says('substring(N, 1, 3) = "KL"', 'N = "KL"');
  says('substring(N, 1, 1) = "KL"', '1 > 2');
  says('substring(N, 1, 2) in ("KL", "SK")', 'starts with(N, "KL") or starts with(N, "SK")');
  says('"No. " + N != "No. 4"', 'not(N = "4")');
  says('contains("ab", N)', 'N in ("", "a", "ab", "b")');
  says('10 - string length(N + "x") * 2 > 1', 'string length(N) < 3.5');
  says('contains(N, upper case("kl"))', 'contains(N, "KL")');
  // In the middle of a text is another question.
  expect(says('substring(N, 2, 1) = "K"', 'substring(N, 2, 1) = "K"')).toContain('substring');
});

const button = (x: number, line: string): PlacedSpec => ({ at: [x, 500, 120, 60], text: 'Go on', lines: [line] });
const back = { layers: { back: button(0, 'click → go to home') } };

function walked(condition: string, kind: 'text' | 'number' = 'text', by: 'a branch' | 'its place' = 'a branch') {
  const variables = { N: kind === 'text' ? { type: 'text' as const, initial: '' } : { type: 'number' as const, initial: 0 } };
  const field: PlacedSpec = { type: 'field', label: 'Code', at: [0, 0, 200, 60], field: { kind, variable: 'N' } };
  // What stands far out of the frame is pressed by nobody.
  const placed = { ...button(0, 'click → go to two'), when: { x: `if ${condition} then 0 else 2000` } };
  const go = by === 'its place' ? placed : button(0, `click → if ${condition} → go to two`);
  const layers = { field, go, on: button(140, 'click → go to three') };
  const { exploration } = audit(compile(compose({ variables, frames: { home: { layers }, two: back, three: back } })));
  return { isCut: exploration.cut !== null, isReached: exploration.reached.has('two') };
}

test.each([
  ['substring(N, 1, 2) = "KL"', true],
  ['substring(N, 1, 2) in ("KL", "SK")', true],
  ['substring(N, -1) = "KL"', false],
  ['N + "x" = "abx"', true],
  ['N + "x" = "aby"', false],
  ['string length(N + "xyz") = 10', true],
  ['string length(N) + 3 = 12', true],
  ['2 * string length(N) = 15', false],
])('what can be written into a field for %s is all tried', (condition, isReached) => {
  expect(walked(condition)).toEqual({ isCut: false, isReached });
});

test.each([
  ['string length(substring(N, 3)) = 10', 'text'],
  ['string length(N + N) = 10', 'text'],
  ['string length(string(N)) = 4', 'number'],
] as const)('of a length that is computed otherwise, nothing is claimed: %s', (condition, kind) => {
  expect(walked(condition, kind).isCut).toBe(true);
});

test('where something stands by a condition, that is asked as all others are', () => {
  expect(walked('substring(N, 1, 2) = "KL"', 'text', 'its place')).toEqual({ isCut: false, isReached: true });
  expect(walked('N > 700', 'number', 'its place')).toEqual({ isCut: false, isReached: true });
  expect(walked('upper case(N) = N and N != ""', 'text', 'its place').isCut).toBe(true);
  expect(walked('starts with(string(N), "47")', 'number', 'its place').isCut).toBe(true);
});
