import { describe, expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { seat } from '../testing/seats.ts';
import { runnerIn } from './machine.ts';
import type { Read } from './notebook.ts';
import { RecordingStore } from './recording.ts';
import { knowScreen } from './known-screen.ts';
import { standingScreen } from './resolve.ts';
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

const namesIn = (reads: readonly Read[]): string[] => reads.flatMap((read) => (typeof read === 'string' ? read : read.reads));

/** What an event reads of a run, and what it makes of it. */
function recorded(run: RunState, event: RunEvent) {
  const store = RecordingStore.on(run);
  advanceIn(runnerIn(program, store, event), event);
  return { reads: namesIn(store.reads), store };
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

describe('a store that notes', () => {
  const home = { scene: 'home' };
  const begun = { ...start(program)!, back: ['paid', 'home'], variables: { seats: 1, day: '' } };
  const on = () => {
    const store = RecordingStore.on(begun);
    let noted = 0;
    const reads = () => {
      const found = namesIn(store.reads.slice(noted));
      noted = store.reads.length;
      return found;
    };
    return { store, reads };
  };

  test('has what it began with, and names what of it is read; times are not told apart', () => {
    const { store, reads } = on();
    expect(store.plain).toBe(begun);
    expect(store.run).toBe(store.run);
    expect([store.run.frame, store.run.clock, store.run.count, store.run.variables['seats']]).toEqual(['home', begun.clock, begun.count, 1]);
    expect(reads()).toEqual(['frame', 'v|seats']);
    const root = store.run.roots['home']!;
    expect([root.scene, root.entered, root.timers, root.flags['x'], 'y' in root.flags]).toEqual(['home', 0, [], undefined, false]);
    expect(reads()).toEqual(['home|here', 'home|timers', 'home|flags|x', 'home|flags|y']);
    expect(Object.keys(root.states)).toEqual(Object.keys(begun.roots['home']!.states));
    expect(reads()).toEqual(['home|states|*']);
    expect((root.flags as never)[Symbol.iterator]).toBeUndefined();
    expect(reads()).toEqual([]);
    expect(store.run.roots['paid']).toBeUndefined();
    expect(reads()).toEqual(['paid|here']);
  });

  test('notes what is overwritten, and no longer what was written', () => {
    const { store, reads } = on();
    store.put({ focus: 'a' });
    expect(reads()).toEqual(['focus']);
    expect([store.run.focus, store.plain.focus, begun.focus]).toEqual(['a', 'a', null]);
    expect(reads()).toEqual([]);
    store.setVariable('seats', 5);
    expect(reads()).toEqual(['v|seats']);
    expect([store.run.variables['seats'], store.run.variables['day']]).toEqual([5, '']);
    expect(reads()).toEqual(['v|day']);
    store.set('home', 'flags', 'one', true);
    expect(reads()).toEqual(['home|here', 'home|flags|one']);
    expect([store.run.roots['home']!.flags['one'], store.run.roots['home']!.flags['two']]).toEqual([true, undefined]);
    expect(reads()).toEqual(['home|flags|two']);
    store.setRoot('home', { timers: [{ due: 1, thread: 't' } as never], flags: { three: true } });
    expect(reads()).toEqual(['home|timers', 'home|flags|*']);
    expect([store.run.roots['home']!.timers.length, store.run.roots['home']!.flags]).toEqual([1, { three: true }]);
    expect(store.isCleared('home')).toBe(false);
  });

  test('leaves alone what is not there', () => {
    const { store } = on();
    store.setRoot('paid', { entered: 3 });
    store.set('paid', 'flags', 'x', true);
    store.leave('paid', null);
    expect(store.plain).toBe(begun);
    expect(store.isCleared('paid')).toBe(true);
  });

  test('knows of the way back whether more of it was asked for than there was', () => {
    const { store, reads } = on();
    expect(store.run.back).toEqual(['paid', 'home']);
    expect(reads()).toEqual(['back']);
    store.pushBack('paid');
    expect(store.run.back).toEqual(['paid', 'home', 'paid']);
    store.cutBack(1);
    expect(store.run.back).toEqual(['paid']);
    expect([reads(), store.isDeep]).toEqual([[], false]);
    store.cutBack(0);
    expect(store.isDeep).toBe(false);
    expect([store.run.back, store.isDeep]).toEqual([[], true]);
    const empty = RecordingStore.on({ ...begun, back: [] });
    empty.pushBack('home');
    empty.cutBack(0);
    expect([empty.run.back, empty.isDeep]).toEqual([[], false]);
  });

  test('reads nothing of a scene that came onto the screen since, whatever is made of it', () => {
    const { store, reads } = on();
    const paid = { ...begun.roots['home']!, scene: 'paid' };
    store.enter(paid);
    expect(reads()).toEqual(['paid|here']);
    expect(store.isCleared('paid')).toBe(true);
    store.set('paid', 'flags', 'x', true);
    store.setRoot('paid', { entered: 7 });
    expect([store.run.roots['paid']!.flags['x'], store.run.roots['paid']!.flags['y'], store.run.roots['paid']!.entered]).toEqual([
      true,
      undefined,
      7,
    ]);
    expect([reads(), store.isCleared('paid')]).toEqual([[], true]);
    store.enter(paid);
    expect([store.isCleared('paid'), store.run.roots['paid']!.entered]).toEqual([true, 0]);
    store.leave('paid', null);
    expect([Object.keys(store.plain.roots), reads()]).toEqual([['home'], []]);
  });

  test('a scene of the beginning that is entered again is still told by what it was', () => {
    const { store, reads } = on();
    store.enter({ ...store.run.roots['home']!, entered: 9 });
    expect(store.isCleared('home')).toBe(false);
    reads();
    expect([store.run.roots['home']!.entered, store.run.roots['home']!.flags['x']]).toEqual([9, undefined]);
    expect(reads()).toEqual(['home|flags|x']);
    store.leave('home', { flags: { x: true } });
    expect(reads()).toEqual(['home|flags|*']);
    expect([store.plain.roots['home']!.flags, store.isCleared('home')]).toEqual([{ x: true }, false]);
    store.leave('home', null);
    expect([store.plain.roots, store.isCleared('home')]).toEqual([{}, true]);
    reads();
    expect([store.run.roots['home'], reads()]).toEqual([undefined, []]);
  });

  test('others that go on from it note in the same place; runs that were watched are taken as they are', () => {
    const { store, reads } = on();
    const [same, other] = [store.fork(), store.fork({ ...begun, focus: 'b' })];
    expect([same.plain, other.plain.focus]).toEqual([begun, 'b']);
    same.setVariable('seats', 3);
    expect([reads(), store.plain.variables['seats'], same.plain.variables['seats']]).toEqual([['v|seats'], 1, 3]);
    expect(store.fork(store.run).plain).toBe(begun);
    // What is put into it is freed of what watches.
    store.enter({ ...store.run.roots['home']!, ...home });
    expect(store.plain.roots['home']!.flags).toBe(begun.roots['home']!.flags);
  });

  test('takes where everything stands from who knows it, as long as it stands as it began', () => {
    const known = knowScreen(
      program,
      begun,
      () => false,
      () => '@7'
    );
    const store = RecordingStore.on(begun, known);
    expect(standingScreen(program, store.run)).toBe(known.screen);
    expect(store.reads).toEqual(['frame', 'home|here', 'overlays', '@7']);
    // What changes nothing of where it stands leaves it known.
    store.put({ focus: 'a' });
    expect(standingScreen(program, store.run)).toBe(known.screen);
    store.set('home', 'flags', 'home_veil.shown', true);
    expect(standingScreen(program, store.run)).not.toBe(known.screen);
    expect(RecordingStore.on(begun).reads).toEqual([]);
  });
});
