import { Literal, Number as Num, Object as Obj } from '@sinclair/typebox';
import { slot, themselves } from '../../fields/forms.ts';
import { oneOf } from '../../fields/scalars.ts';
import { strict } from '../../fields/step-fields.ts';
import { cueForm, defineCue, IN_SCENES } from './define.ts';

const WAYS = ['down', 'up'] as const;

export const scroll = defineCue({
  type: 'scroll',
  label: 'scrolled',
  meaning: 'the scene (or this scrolling group) is scrolled that far since its direction last turned',
  owners: IN_SCENES,
  /** `by` CSS pixels further than where the direction last turned. */
  schema: Obj({ type: Literal('scroll'), direction: oneOf(WAYS), by: Num({ minimum: 0, maximum: 100_000 }) }, strict),
  fresh: { type: 'scroll', direction: 'down', by: 20 },
  forms: [cueForm('scroll', {}, 'scroll', slot('direction', 'words', { words: themselves(WAYS) }), slot('by', 'number'))],
  when: ({ direction, by }) => `When scrolled ${direction} by ${by}`,
  hears: 'scroll',
  fits: ({ direction, by }, scrolled) => direction === scrolled.direction && scrolled.by >= by,
  tries: ({ by }) => [{ type: 'scroll', by }],
});
