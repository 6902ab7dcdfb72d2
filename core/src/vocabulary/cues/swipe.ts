import { Literal, Object as Obj } from '@sinclair/typebox';
import { slot, themselves } from '../../fields/forms.ts';
import { oneOf } from '../../fields/scalars.ts';
import { strict } from '../../fields/step-fields.ts';
import { DIRECTIONS } from '../directions.ts';
import { ANYWHERE, cueForm, defineCue } from './define.ts';

export const swipe = defineCue({
  type: 'swipe',
  label: 'swiped',
  meaning: 'pressed and moved 40 px or more in one direction within 800 ms',
  owners: ANYWHERE,
  schema: Obj({ type: Literal('swipe'), direction: oneOf(DIRECTIONS) }, strict),
  fresh: { type: 'swipe', direction: 'left' },
  forms: [cueForm('swipe', {}, 'swipe', slot('direction', 'words', { words: themselves(DIRECTIONS) }))],
  when: ({ direction }) => `When swiped ${direction}`,
  hears: 'swipe',
  fits: ({ direction }, swiped) => direction === swiped.direction,
  pointer: 'moving',
  tries: ({ direction }) => [{ type: 'swipe', direction }],
});
