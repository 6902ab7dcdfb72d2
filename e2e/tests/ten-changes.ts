import type { Operation } from '@zany/core';

/** Ten changes of the ticket app, each with what somebody who compares the two versions must read of it. */
export const TEN: readonly { readonly what: string; readonly operations: readonly Operation[]; readonly says: string }[] = [
  {
    what: 'a layer is moved',
    operations: [{ op: 'set', table: 'layers', id: 'layer5', path: ['pose', 'y'], value: 460 }],
    says: 'Frame Harbour, Plan a trip: y 460 instead of',
  },
  {
    what: 'a text is written anew',
    operations: [{ op: 'set', table: 'layers', id: 'layer57', path: ['text'], value: '41.50 €' }],
    says: 'Frame Pay, Price: text “41.50 €” instead of',
  },
  {
    what: 'a colour is another one',
    operations: [{ op: 'set', table: 'layers', id: 'layer58', path: ['style', 'fill'], value: '#0b7a75' }],
    says: 'Frame Pay, Pay now: fill #0b7a75 instead of',
  },
  {
    what: 'a look goes',
    operations: [{ op: 'set', table: 'layers', id: 'layer63', path: ['looks', 'hover'] }],
    says: 'Frame Aboard, Done: look hover is gone',
  },
  { what: 'a layer is removed', operations: [{ op: 'remove', table: 'layers', id: 'layer7' }], says: 'Frame Harbour: Notice is gone.' },
  {
    what: 'a layer is new',
    operations: [
      {
        op: 'put',
        table: 'layers',
        value: {
          id: 'retry',
          scene: 'frame6',
          parent: null,
          order: 'z',
          name: 'Try again',
          type: 'box',
          pose: { x: 24, y: 600, width: 342, height: 56 },
          style: { fill: '#f0b13c' },
          text: 'Try again',
        } as never,
      },
    ],
    says: 'Frame Declined: Try again is new.',
  },
  {
    what: 'a thread is new: what was an end leads on',
    operations: [
      {
        op: 'put',
        table: 'threads',
        value: {
          id: 'retrying',
          on: 'layer',
          owner: 'retry',
          order: 'a',
          enabled: true,
          cue: { type: 'click' },
          branches: [{ steps: [{ do: 'go', target: { to: 'back' }, transition: { type: 'cut' } }] }],
        } as never,
      },
    ],
    says: 'Declined, Try again: “click → go to back” is new.',
  },
  {
    what: 'a thread leads elsewhere',
    operations: [
      { op: 'set', table: 'threads', id: 'thread9', path: ['branches', '0', 'steps', '0', 'target'], value: { to: 'frame', frame: 'frame3' } },
    ],
    says: 'Sailings, Choose 15:30: “click → go to Seats · push left 300 ms ease-out” instead of “click → go to Pay',
  },
  {
    what: 'a frame is called otherwise',
    operations: [{ op: 'set', table: 'scenes', id: 'frame9', path: ['name'], value: 'Questions' }],
    says: 'Frame Questions: name Questions instead of Help',
  },
  { what: 'a frame is removed', operations: [{ op: 'remove', table: 'scenes', id: 'frame10' }], says: 'Frame Lost property is gone.' },
];
