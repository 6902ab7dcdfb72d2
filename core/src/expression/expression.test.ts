import fc from 'fast-check';
import { evaluate as feelin } from 'feelin';
import { describe, expect, test } from 'vitest';
import { unwrap } from '../result.ts';
import { compose, layerId, stateId } from '../compose/compose.ts';
import { ExpressionError, type Value } from './ast.ts';
import { checkTypes } from './check.ts';
import { compileAst, type Environment } from './compile.ts';
import { displayExpression } from './names.ts';
import { parseExpression } from './parse.ts';
import { expressionScope, typesIn } from './scope.ts';
import { storeExpression } from './store.ts';
import { escapeText, textParts } from './text.ts';

const values: Record<string, Value> = { a: 3, b: -2.5, c: 0, s: 'Sailing', t: '', p: true, q: false };

const environment: Environment = {
  read: (id) => values[id]!,
  nameOf: (id) => id,
  special: () => 0,
};

const compute = (stored: string): Value => {
  const parsed = parseExpression(stored);
  if (!parsed.ok) throw new ExpressionError(parsed.error);
  return compileAst(parsed.value)(environment);
};

/** Expressions of a type, as FEEL writes them; `#a` stands for the variable a. */
const numbers: fc.Memo<string> = fc.memo((depth) =>
  depth <= 1
    ? fc.oneof(fc.constantFrom('#a', '#b', '#c'), fc.integer({ min: 0, max: 12 }).map(String), fc.constantFrom('0.5', '1.25', '-3', '100'))
    : fc.oneof(
        numbers(1),
        fc.tuple(numbers(depth - 1), fc.constantFrom('+', '-', '*'), numbers(depth - 1)).map(([x, op, y]) => `(${x} ${op} ${y})`),
        fc.tuple(numbers(depth - 1), fc.constantFrom('2', '-4', '0.5')).map(([x, y]) => `(${x} / ${y})`),
        fc.tuple(fc.constantFrom('floor', 'ceiling', 'abs'), numbers(depth - 1)).map(([fn, x]) => `${fn}(${x})`),
        fc.tuple(fc.constantFrom('min', 'max'), numbers(depth - 1), numbers(depth - 1)).map(([fn, x, y]) => `${fn}(${x}, ${y})`),
        fc.tuple(numbers(depth - 1), fc.constantFrom('3', '-3', '2.5')).map(([x, y]) => `modulo(${x}, ${y})`),
        texts(depth - 1).map((x) => `string length(${x})`),
        fc.tuple(truths(depth - 1), numbers(depth - 1), numbers(depth - 1)).map(([x, y, z]) => `(if ${x} then ${y} else ${z})`)
      )
);
const texts: fc.Memo<string> = fc.memo((depth) =>
  depth <= 1
    ? fc.oneof(fc.constantFrom('#s', '#t'), fc.constantFrom('"Pay"', '"ling"', '"a b"', '"Ünder"'))
    : fc.oneof(
        texts(1),
        fc.tuple(texts(depth - 1), texts(depth - 1)).map(([x, y]) => `(${x} + ${y})`),
        fc.tuple(fc.constantFrom('upper case', 'lower case'), texts(depth - 1)).map(([fn, x]) => `${fn}(${x})`),
        fc.tuple(texts(depth - 1), fc.constantFrom(1, 2, -2)).map(([x, at]) => `substring(${x} + "..", ${at})`),
        fc.tuple(truths(depth - 1), texts(depth - 1), texts(depth - 1)).map(([x, y, z]) => `(if ${x} then ${y} else ${z})`)
      )
);
const truths: fc.Memo<string> = fc.memo((depth) =>
  depth <= 1
    ? fc.constantFrom('#p', '#q', 'true', 'false')
    : fc.oneof(
        fc.tuple(numbers(depth - 1), fc.constantFrom('=', '!=', '<', '<=', '>', '>='), numbers(depth - 1)).map(([x, op, y]) => `(${x} ${op} ${y})`),
        fc.tuple(texts(depth - 1), fc.constantFrom('=', '!=', '<', '>'), texts(depth - 1)).map(([x, op, y]) => `(${x} ${op} ${y})`),
        fc.tuple(truths(depth - 1), fc.constantFrom('and', 'or'), truths(depth - 1)).map(([x, op, y]) => `(${x} ${op} ${y})`),
        truths(depth - 1).map((x) => `not(${x})`),
        // With the higher end first the other interpreter swaps the ends, where FEEL says x >= low and x <= high.
        fc.tuple(numbers(depth - 1), fc.constantFrom('-1 and 4', '0 and 0.5', '#b and #a')).map(([x, y]) => `(${x} between ${y})`),
        fc.tuple(numbers(depth - 1), fc.constantFrom('(1, 3, 5)', '[0..4]', '(0..3)', '> 2', '(< 0, [2..3])')).map(([x, y]) => `(${x} in ${y})`),
        fc.tuple(fc.constantFrom('contains', 'starts with', 'ends with'), texts(depth - 1), texts(1)).map(([fn, x, y]) => `${fn}(${x}, ${y})`)
      )
);

describe('against another FEEL interpreter', () => {
  const agree = (expressions: fc.Arbitrary<string>) =>
    fc.assert(
      fc.property(expressions, (text) => {
        const mine = compute(text.replace(/#(\w)/g, '‹$1›'));
        const { value: theirs } = feelin(text.replace(/#(\w)/g, '$1'), values) as { value: unknown };
        if (typeof mine === 'number') expect(theirs, text).toBeCloseTo(mine, 9);
        else expect(theirs, text).toBe(mine);
      }),
      { numRuns: 1200 }
    );

  test('numbers', () => agree(numbers(3)));
  test('texts', () => agree(texts(3)));
  test('conditions', () => agree(truths(4)));

  test.each([
    'round half up(2.5, 0)',
    'round half up(-2.5, 0)',
    'round up(1.121, 2)',
    'round down(-1.129, 2)',
    'floor(1.5)',
    'number("12.5") + 1',
    '2 ** 10',
    'substring("kittiwake", 3, 4)',
    'substring("kittiwake", -4)',
  ])('%s', (text) => expect(compute(text)).toEqual((feelin(text, {}) as { value: unknown }).value));
});

describe('what is no silent nothing', () => {
  test.each([
    ['1 +', 'syntax', 3],
    ['‹a› + gull', 'unknown-name', 6],
    ['‹a› + "x"', 'wrong-type', 0],
    ['1 / 0', 'division-by-zero', 0],
    ['modulo(1, 0)', 'division-by-zero', 0],
    ['for x in [1] return x', 'not-supported', 0],
    ['{a: 1}', 'not-supported', 0],
    ['‹a› < ‹b› < ‹c›', 'not-supported', 0],
    ['number("gull")', 'out-of-range', 0],
    ['substring("a", 0)', 'out-of-range', 0],
    ['contains("a")', 'wrong-type', 0],
    ['if 1 then 2 else 3', 'wrong-type', 3],
    ['10 ** 1000', 'out-of-range', 0],
  ])('%s: %s at %i', (text, code, from) => {
    try {
      compute(text);
      expect.unreachable();
    } catch (error) {
      expect((error as ExpressionError).fault).toMatchObject({ code, from });
    }
  });

  test('any text is computed or refused, with a place in it', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string(),
          fc
            .array(fc.constantFrom('‹a›', '"', 'and', 'in', '(', ')', '[', '..', '1', '+', 'if', 'then', ' ', '.', 'not', '‹', '`'), {
              maxLength: 12,
            })
            .map((parts) => parts.join(''))
        ),
        (text) => {
          try {
            compute(text);
          } catch (error) {
            const { fault } = error as ExpressionError;
            expect(fault.from).toBeGreaterThanOrEqual(0);
            expect(fault.to).toBeLessThanOrEqual(Math.max(text.length, fault.from));
          }
        }
      ),
      { numRuns: 800 }
    );
  });
});

describe('names', () => {
  const piece = compose({
    variables: {
      'Seats left': { type: 'number', initial: 3 },
      Seats: { type: 'number', initial: 1 },
      and: { type: 'yes/no', initial: true },
      '3 days': { type: 'number', initial: 3 },
      'a - b': { type: 'number', initial: 0 },
      Day: { type: 'choice', initial: 'Fri', options: ['Fri', 'Sun'] },
      'tick ` mark': { type: 'text', initial: '' },
    },
    parts: { Notice: { states: { Hidden: {}, 'Sold out': {} } } },
    frames: { home: { layers: { Terms: {}, 'Notice box': { part: 'Notice' }, Twin: {}, 'Twin ': {} } }, Pay: {} },
  });
  const scope = expressionScope(piece, 'home');

  test.each([
    'Seats left > 0 and Terms.selected',
    'Seats > Seats left - 1',
    '`and` and not(`and`)',
    '`3 days` + 1',
    '`a - b` - Seats',
    'Day != "Sun"',
    '`tick `` mark` = "x"',
    '`Notice box`.state = "Sold out"',
    'Notice box.state in ("Hidden", "Sold out")',
    'frame.name = "Pay" or pad.button = 3',
    'Terms.x + string length("Seats left")',
  ])('%s is stored by reference and read back', (written) => {
    const stored = unwrap(storeExpression(written, scope) as never) as string;
    expect(stored.replace(/"[^"]*"|‹[^›]*›/g, '')).not.toMatch(/Seats|Terms|Notice|Day/);
    const again = displayExpression(stored, scope).text;
    expect(unwrap(storeExpression(again, scope) as never)).toBe(stored);
    expect(checkTypes(unwrap(parseExpression(stored) as never), typesIn(piece), null)).toEqual([]);
  });

  test('renaming breaks nothing: states compared with are references too', () => {
    expect(storeExpression('Notice box.state = "Sold out"', scope)).toEqual({
      ok: true,
      value: `‹${layerId('home', 'Notice box')}›.state = ‹=Notice/${stateId('Notice', 'Sold out')}›`,
    });
  });

  test('errors stand where people wrote them', () => {
    const error = storeExpression('Seats left > gull', scope);
    expect(error).toMatchObject({ ok: false, error: { code: 'unknown-name', from: 13 } });
    const stored = unwrap(storeExpression('Seats left + Seats + Day', scope) as never) as string;
    const [fault] = checkTypes(unwrap(parseExpression(stored) as never), typesIn(piece), null);
    expect(fault).toMatchObject({ code: 'wrong-type' });
    expect(displayExpression(stored, scope).at(stored.indexOf('‹Day›'))).toBe('Seats left + Seats + '.length);
  });

  test('what is gone is shown as such and found by the check', () => {
    expect(displayExpression('‹lost› > 1', scope).text).toBe('`?lost` > 1');
    expect(checkTypes(unwrap(parseExpression('‹lost› > 1') as never), typesIn(piece), null)[0]!.code).toBe('unknown-name');
  });
});

test('texts: expressions in braces, and braces that are only braces', () => {
  expect(textParts('Seats: {‹a› + 1} of {"}"}')).toEqual([
    { text: 'Seats: ', from: 0 },
    { expression: '‹a› + 1', from: 8 },
    { text: ' of ', from: 16 },
    { expression: '"}"', from: 21 },
  ]);
  fc.assert(
    fc.property(fc.string({ unit: fc.constantFrom('{', '}', '\\', 'a', ' ') }), (text) => {
      expect(
        textParts(escapeText(text))
          .map((part) => part.text ?? '?')
          .join('')
      ).toBe(text);
    })
  );
});
