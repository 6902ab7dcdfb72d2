import { defineTransition, directedSchema, FROM_THE_LEFT } from './define.ts';
import { movedOut, still, wayOf } from './moving.ts';

export const uncover = defineTransition({
  type: 'uncover',
  label: 'uncover',
  meaning: 'the old one moves out to a side and shows the new one behind it',
  schema: directedSchema('uncover'),
  fresh: { type: 'uncover', ...FROM_THE_LEFT },
  hasDirection: true,
  ways: (onScreen, change) => [wayOf(still(change.to), still(change.to)), ...onScreen.map((placed) => wayOf(placed, movedOut(placed, change)))],
});
