import fc from 'fast-check';
import { expect, it } from 'vitest';
import { compose } from '../compose/compose.ts';
import { expressionScope } from './scope.ts';
import { displayText, storeText } from './written-text.ts';

const piece = compose({ variables: { 'Seats left': { type: 'number', initial: 3 } }, frames: { home: {} } });
const scope = expressionScope(piece, 'home');

it('texts are kept with references and read with names', () => {
  const stored = storeText('{Seats left} of {Seats left + 1} seats', scope);
  expect(stored).toEqual({ text: '{‹Seats-left›} of {‹Seats-left› + 1} seats', faults: [] });
  expect(displayText(stored.text, scope)).toBe('{Seats left} of {Seats left + 1} seats');
});

it('what cannot be read stays as it was written, with its reason', () => {
  const { text, faults } = storeText('{Lamps} on', scope);
  expect(text).toBe('{Lamps} on');
  expect(faults[0]).toMatchObject({ written: 'Lamps', fault: { code: 'unknown-name' } });
});

it('what is shown is stored back unchanged', () => {
  const piece = fc.oneof(
    fc.constantFrom('{‹Seats-left›}', '{‹Seats-left› > 2}', ' and ', '\\{', '\\\\', 'seats'),
    fc.string({ maxLength: 4 }).map((text) => text.replace(/[\\{}]/g, ''))
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 6 }), (parts) => {
      const stored = parts.join('');
      expect(storeText(displayText(stored, scope), scope).text).toBe(stored);
    })
  );
});
