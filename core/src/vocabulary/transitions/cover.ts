import { defineTransition, directedSchema, FROM_THE_LEFT } from './define.ts';
import { movedOut, staying, still, wayOf } from './moving.ts';

export const cover = defineTransition({
  type: 'cover',
  label: 'cover',
  meaning: 'the new one comes in from a side, over the old one',
  schema: directedSchema('cover'),
  fresh: { type: 'cover', ...FROM_THE_LEFT },
  hasDirection: true,
  ways: (onScreen, change) => [...staying(onScreen), wayOf(movedOut(still(change.to), change, -1), still(change.to))],
});
