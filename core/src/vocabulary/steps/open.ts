import { Optional, String as Str } from '@sinclair/typebox';
import { slot } from '../../fields/forms.ts';
import { oneOf } from '../../fields/scalars.ts';
import { addressProblem } from '../address.ts';
import { done, notDone } from '../stepped.ts';
import { defineStep, stepForm, stepSchema } from './define.ts';

const TABS = ['new', 'same'] as const;

export const open = defineStep({
  do: 'open',
  label: 'open a link',
  meaning: 'a web, mail or phone address, in the same or in a new tab; with an id for those who measure',
  schema: stepSchema('open', {
    address: Str({ maxLength: 2000 }),
    tab: oneOf(['same', 'new'] as const),
    measure: Optional(Str({ minLength: 1, maxLength: 120 })),
  }),
  fresh: { do: 'open', address: 'https://', tab: 'new' },
  forms: [true, false].flatMap((isMeasured) =>
    TABS.map((tab) =>
      stepForm(
        'open',
        { tab, ...(!isMeasured && { measure: undefined }) },
        'open',
        slot('address', 'address'),
        ...(tab === 'new' ? ['in new tab'] : []),
        ...(isMeasured ? ['as', slot('measure', 'quoted')] : [])
      )
    )
  ),
  words: ({ address, tab }) => `open ${address}${tab === 'new' ? ' in a new tab' : ''}`,
  run(acting, { address, tab, measure }) {
    if (addressProblem(address) !== null) return notDone('bad-address', `“${address}” is no address that can be opened.`);
    const to = address.trim();
    acting.open(to, tab, measure ?? null);
    return done(`opened ${to}`);
  },
  isLeading: true,
  isRepeatable: () => true,
  changesNothing: true,
});
