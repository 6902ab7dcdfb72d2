import fc from 'fast-check';
import { expect, test } from 'vitest';
import { asDecimal } from './decimal.ts';
import { compileAst } from './compile.ts';
import type { BinaryOperator, Value } from './ast.ts';

const counted = (a: number, op: BinaryOperator, b: number): Value =>
  compileAst({ k: 'op', op, a: { k: 'value', value: a }, b: { k: 'value', value: b } })({
    read: () => 0,
    nameOf: () => '',
    special: () => '',
  });

const modulo = (a: number, b: number): Value =>
  compileAst({
    k: 'call',
    fn: 'modulo',
    args: [
      { k: 'value', value: a },
      { k: 'value', value: b },
    ],
  })({ read: () => 0, nameOf: () => '', special: () => '' });

/** A number of so many hundredths of a thousandth, as it is written. */
const written = (many: bigint, digits: number): number => {
  const text = (many < 0n ? -many : many).toString().padStart(digits + 1, '0');
  return Number(`${many < 0n ? '-' : ''}${text.slice(0, -digits)}.${text.slice(-digits)}`) + 0;
};

const many = fc.bigInt({ min: -99_999_999n, max: 99_999_999n });

test('decimals add up, take away and multiply to what they do on paper', () => {
  fc.assert(
    fc.property(many, many, (a, b) => {
      const [x, y] = [written(a, 4), written(b, 4)];
      expect(counted(x, '+', y)).toBe(written(a + b, 4));
      expect(counted(x, '-', y)).toBe(written(a - b, 4));
    }),
    { numRuns: 2000 }
  );
  fc.assert(
    fc.property(fc.bigInt({ min: -99_999n, max: 99_999n }), fc.bigInt({ min: -999_999n, max: 999_999n }), (a, b) => {
      expect(counted(written(a, 3), '*', written(b, 3))).toBe(written(a * b, 6));
    }),
    { numRuns: 2000 }
  );
});

test('what is counted up in tenths comes to each of them', () => {
  let total: number = 0;
  for (let i = 1; i <= 1000; i++) {
    total = counted(total, '+', 0.1) as number;
    expect(total).toBe(written(BigInt(i), 1));
    expect(counted(total, '/', 0.1)).toBe(i);
    expect(modulo(total, 0.1)).toBe(0);
  }
  for (let i = 999; i >= 0; i--) expect((total = counted(total, '-', 0.1) as number)).toBe(written(BigInt(i), 1));
});

test('thirds are not cut off: three of them are one', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 999 }), fc.integer({ min: 1, max: 9999 }), (part, whole) => {
      expect(counted(counted(whole, '/', part) as number, '*', part)).toBe(whole);
    }),
    { numRuns: 2000 }
  );
  const third = counted(1, '/', 3) as number;
  expect(third).toBe(1 / 3);
  expect(counted(counted(third, '+', third) as number, '+', third)).toBe(1);
});

test('what differs in earnest still does, however little', () => {
  expect(counted(0.3, '+', 1e-10)).not.toBe(0.3);
  expect(counted(1e6, '*', 1.000000000001e-7)).not.toBe(0.1);
  expect(asDecimal(0.1000000001)).toBe(0.1000000001);
  expect(asDecimal(Math.PI)).toBe(Math.PI);
  expect(asDecimal(1e-300)).toBe(1e-300);
  expect(asDecimal(-0.30000000000000004, 0.2)).toBe(-0.3);
  expect(Object.is(asDecimal(-5.551115123125783e-17, 0.3), 0)).toBe(true);
});
