import { describe, expect, it } from 'vitest';
import { unwrap } from '../../result.ts';
import { compose, layerId } from '../../compose/compose.ts';
import { apply } from '../apply.ts';
import { guessVariable, newVariable, retypeVariable, unknownVariable, usesOfVariable } from './variables.ts';

const piece = compose({
  variables: { Seats: { type: 'number', initial: 3, min: 0, max: 9 } },
  frames: {
    home: {
      layers: {
        more: { lines: ['click → if Seats < 9 → set Seats to Seats + 1'] },
        count: { type: 'text', text: '{Seats} left' },
        form: { type: 'field', field: { kind: 'number', variable: 'Seats' } },
      },
      lines: ['variable Seats → go to home'],
    },
  },
});

describe('variables', () => {
  it('are guessed from what they are set to', () => {
    expect(guessVariable('Open', 'true').type).toBe('yes/no');
    expect(guessVariable('Seats', '12')).toMatchObject({ type: 'number', initial: 0 });
    expect(guessVariable('Seats', 'Seats + 1').type).toBe('number');
    expect(guessVariable('Day', '"Sun - Mon"')).toMatchObject({ type: 'text', initial: '' });
  });

  it('are found in lines that set them', () => {
    expect(unknownVariable('click → set Notice to "full"; set Seats to 2', [{ name: 'Seats' }])).toEqual({ name: 'Notice', value: '"full"' });
    expect(unknownVariable('set seats to 2', [{ name: 'Seats' }])).toBeNull();
    expect(unknownVariable('go to Set of ropes', [])).toBeNull();
    expect(unknownVariable('if Seats left > 0 and Day = 1 → go to Pay', [])).toEqual({ name: 'Seats left', value: '0' });
    expect(unknownVariable('enabled when Terms.selected', [])).toBeNull();
  });

  it('change their type and stay valid', () => {
    const seats = piece.variables.get('Seats')!;
    for (const type of ['text', 'choice', 'yes/no', 'number'] as const)
      expect(unwrap(apply(piece, retypeVariable(seats, type))).piece.variables.get('Seats')!.type).toBe(type);
    const added = unwrap(apply(piece, newVariable(piece, 'day', { name: 'Day', type: 'choice', initial: 'Fri', options: ['Fri', 'Sat'] }))).piece;
    expect([...added.variables.values()].map((variable) => variable.name)).toEqual(expect.arrayContaining(['Seats', 'Day']));
  });

  it('are known by where they are read and set', () => {
    const uses = usesOfVariable(piece, 'Seats').map(({ how, owner }) => `${how} ${owner}`);
    expect(uses.sort()).toEqual(
      [
        `read ${layerId('home', 'more')}`,
        `set ${layerId('home', 'more')}`,
        'read home',
        `read ${layerId('home', 'count')}`,
        `set ${layerId('home', 'form')}`,
      ].sort()
    );
  });
});
