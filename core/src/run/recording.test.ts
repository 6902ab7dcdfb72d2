import { expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { seat } from '../testing/seats.ts';
import { runnerIn } from './machine.ts';
import { RecordingStore } from './recording.ts';
import { advance, advanceIn, start } from './run.ts';
import type { RunEvent, RunState } from './state.ts';

const piece = compose({
  variables: { seats: { type: 'number', initial: 1, min: 0, max: 9 }, day: { type: 'text', initial: '' } },
  parts: {
    Seat: seat(20, 20),
  },
  frames: {
    home: {
      layers: {
        one: { type: 'placement', part: 'Seat', at: [0, 0, 20, 20] },
        two: { type: 'placement', part: 'Seat', at: [30, 0, 20, 20] },
        pay: { at: [0, 50, 80, 40], lines: ['click → if seats > 1 → go to paid; otherwise → set seats to seats + 1'] },
        veil: { at: [0, 100, 80, 40], hidden: true, lines: ['click → hide this'] },
      },
    },
    paid: { onReturn: 'remember', layers: { back: { at: [0, 0, 80, 40], lines: ['click → go to home'] } } },
  },
});
const program = compile(piece);

/** What an event reads of a run, and what it makes of it. */
function recorded(run: RunState, event: RunEvent) {
  const store = RecordingStore.on(run);
  advanceIn(runnerIn(program, store, event), event);
  return { reads: [...store.reads], store };
}

test('an event is noted with what it reads, and with nothing else', () => {
  const { reads } = recorded(start(program)!, { type: 'click', layer: 'home_one/Seat_chair' });
  expect(reads).toContain('home|states|home_one');
  // What lies beside it matters by where it stands alone.
  expect(reads).not.toContain('home|states|home_two');
  expect(reads).toContain('home|flags|home_veil.shown');
  expect(reads.filter((name) => name.startsWith('v|'))).toEqual([]);
});

test('a condition reads what it names; what is set counts as read', () => {
  const { reads } = recorded(start(program)!, { type: 'click', layer: 'home_pay' });
  expect(reads).toContain('v|seats');
  expect(reads).not.toContain('v|day');
});

test('what a scene was like that is left is not read, and nothing of it is left', () => {
  const begun = start(program)!;
  const ready = { ...begun, variables: { seats: 2 } };
  const { reads, store } = recorded(ready, { type: 'click', layer: 'home_pay' });
  expect(store.isCleared('home')).toBe(true);
  expect(reads).not.toContain('home|states|home_one');
  expect(reads).not.toContain('home|states|*');
  // A scene that remembers is kept as it was, whatever that is: only what is changed of it counts.
  const paid = advance(program, ready, { type: 'click', layer: 'home_pay' }).run;
  const left = recorded(paid, { type: 'click', layer: 'paid_back' });
  expect(left.store.isCleared('paid')).toBe(false);
  expect(left.reads).toContain('paid|heads|*');
  expect(left.reads).not.toContain('paid|states|*');
});

test('recorded or not, the same comes of an event', () => {
  const events: RunEvent[] = [
    { type: 'click', layer: 'home_one/Seat_chair' },
    { type: 'click', layer: 'home_pay' },
    { type: 'click', layer: 'home_two/Seat_chair' },
    { type: 'click', layer: 'home_pay' },
    { type: 'click', layer: 'paid_back' },
  ];
  let run = start(program)!;
  for (const event of events) {
    const { store } = recorded(run, event);
    ({ run } = advance(program, run, event));
    expect(JSON.parse(JSON.stringify(store.run.roots[run.frame]!.states))).toEqual(run.roots[run.frame]!.states);
    expect(store.plain).toMatchObject({ frame: run.frame, variables: run.variables });
  }
  expect(run.frame).toBe('home');
  expect(run.back).toEqual(['home', 'paid']);
});

test('all that is kept of the run is told by what is on the screen: nobody may look through it', () => {
  const { run } = RecordingStore.on(start(program)!);
  expect(() => Object.keys(run.roots)).toThrow('told by the frame');
});
