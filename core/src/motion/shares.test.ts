import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { strokeLength } from './path-length.ts';
import { countedText, typedPart } from './shares.ts';

describe('texts that come by and by', () => {
  test('letters come from the first on, and are all there at the end', () => {
    expect([0, 0.5, 1].map((share) => typedPart('Ebb and flood', share))).toEqual(['', 'Ebb and', 'Ebb and flood']);
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), fc.double({ min: 0, max: 1, noNaN: true }), (text, share) => {
        const part = typedPart(text, share);
        expect(text.startsWith(part)).toBe(true);
        expect(typedPart(text, 1)).toBe(text);
        expect(typedPart(text, 0)).toBe('');
      })
    );
    expect(typedPart('⛴️🚢', 0.34)).not.toContain('\ufffd');
  });

  test('numbers count up as they are written: decimals, thousands, leading zeros', () => {
    expect(countedText('1,250 boats', 0.5)).toBe('625 boats');
    expect(countedText('12,400.50 kn', 0.5)).toBe('6,200.25 kn');
    expect(countedText('3,5 m', 0.5)).toBe('1,8 m');
    expect(countedText('Berth 007', 0.5)).toBe('Berth 004');
    expect(countedText('12:30', 0)).toBe('0:0');
    expect(countedText('no number', 0.2)).toBe('no number');
  });

  test('at the end a text is what it was, whatever stands in it', () => {
    fc.assert(
      fc.property(fc.string(), (text) => {
        expect(countedText(text, 1)).toBe(text);
      })
    );
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 10_000_000 }), fc.double({ min: 0, max: 1, noNaN: true }), (n, share) => {
        expect(Number(countedText(String(n), share))).toBe(Number((n * share).toFixed(0)));
        expect(countedText(n.toLocaleString('en'), share).replaceAll(',', '')).toBe((n * share).toFixed(0));
      })
    );
  });
});

describe('the length of a line', () => {
  const length = (path: string, sx = 1, sy = 1) => strokeLength(path, sx, sy);

  test('is that of its box', () => {
    expect(length('M0 0L30 40')).toBe(50);
    expect(length('M0 0L30 40', 10, 0)).toBe(300);
    expect(length('m10 10h20v30h-20z')).toBe(100);
    expect(length('M0 0H10M50 50V90l0 -40')).toBe(80);
  });

  test('of round ways is that of geometry', () => {
    expect(length('M0 50A50 50 0 0 1 100 50')).toBeCloseTo(50 * Math.PI, 0);
    expect(length('M0 50a50 50 0 1 0 100 0a50 50 0 1 0 -100 0')).toBeCloseTo(100 * Math.PI, 0);
    // One straight way, said as every kind of curve.
    for (const path of ['M0 0C10 0 20 0 30 0', 'M0 0Q10 0 30 0', 'M0 0C5 0 10 0 10 0S20 0 30 0', 'M0 0Q5 0 10 0T30 0', 'M0 0A0 9 0 0 0 30 0'])
      expect(length(path), path).toBeCloseTo(30, 6);
  });

  test('does not change when the path is moved or turned round', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -90, max: 90 }), fc.integer({ min: -90, max: 90 })), { minLength: 2, maxLength: 9 }),
        fc.integer({ min: -90, max: 90 }),
        (points, by) => {
          const path = (list: readonly (readonly [number, number])[]) => `M${list.map(([x, y]) => `${x + by} ${y - by}`).join('L')}`;
          expect(length(path(points), 2, 3)).toBeCloseTo(length(path([...points].reverse()), 2, 3), 6);
        }
      )
    );
  });
});
