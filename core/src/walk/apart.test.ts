import fc from 'fast-check';
import { expect, test } from 'vitest';
import { compose, type ComposeSpec } from '../compose/compose.ts';
import { apply } from '../edit/apply.ts';
import type { Operation } from '../edit/operation.ts';
import { compile } from '../program/compile.ts';
import type { Program } from '../program/program.ts';
import { replay, start } from '../run/run.ts';
import { richPiece } from '../testing/rich.ts';
import { timesOver } from '../testing/runs.ts';
import { tellApart } from './apart.ts';
import { eventWords } from './event-words.ts';

const button = (y: number, ...lines: string[]) => ({ at: [0, y, 100, 60] as const, text: 'Go', lines });

type Frames = Record<string, NonNullable<ComposeSpec['frames'][string]>>;

/** A harbour shop: seats are chosen on one frame, and paid on the next but one. */
const harbour = (change: (frames: Frames) => void = () => {}, more: Partial<ComposeSpec> = {}): Program => {
  const frames: Frames = {
    home: { layers: { on: button(0, 'click → go to shop') } },
    shop: {
      layers: { pay: button(0, 'click → go to done'), more: button(100, 'click → set Seats to Seats + 1'), back: button(200, 'click → go to home') },
    },
    done: { layers: { note: { type: 'text', at: [0, 100, 200, 40], text: '{Seats} seats' }, again: button(0, 'click → go to home') } },
  };
  change(frames);
  return compile(compose({ variables: { Seats: { type: 'number', initial: 1, min: 0, max: 4 } }, frames, ...more }));
};

function told(before: Program, after: Program, most?: number) {
  const apart = tellApart(before, after, most);
  if (apart.kind === 'apart') return [apart.events.map((event) => eventWords(before, event)).join(', '), ...apart.sentences];
  return apart.kind === 'same' ? 'same' : apart.why;
}

const edited = (program: Program, ...operations: Operation[]): Program => {
  const applied = apply(program.piece, operations);
  if (!applied.ok) throw new Error('It cannot be edited.');
  return compile(applied.value.piece);
};

test('the same does the same, whatever it is called and looks like', () => {
  const piece = harbour();
  expect(tellApart(piece, harbour())).toEqual({ kind: 'same', pairs: 4 * 3 });
  const named = edited(
    piece,
    { op: 'set', table: 'scenes', id: 'shop', path: ['name'], value: 'Counter' },
    { op: 'set', table: 'layers', id: 'shop_pay', path: ['name'], value: 'To the till' },
    { op: 'set', table: 'layers', id: 'shop_pay', path: ['pose', 'x'], value: 20 },
    { op: 'set', table: 'layers', id: 'shop_pay', path: ['style', 'fill'], value: '#123456' }
  );
  expect(told(piece, named)).toBe('same');
  expect(told(named, piece)).toBe('same');
});

test('what has another id and the same name is the same', () => {
  const other = harbour((frames) => {
    frames['kiosk'] = { ...frames['shop']!, name: 'shop' };
    delete frames['shop'];
    frames['home'] = { layers: { on: button(0, 'click → go to shop') } };
  });
  expect(other.piece.scenes.has('shop')).toBe(false);
  expect(told(harbour(), other)).toBe('same');
});

test('the shortest that tells them apart, and what is shown then', () => {
  const more = { variables: { Seats: { type: 'number' as const, initial: 2, min: 0, max: 4 } } };
  expect(told(harbour(), harbour(undefined, more))).toEqual(['click on, click pay', 'note says “1 seats” before and “2 seats” after.']);
  const elsewhere = harbour((frames) => (frames['done'] = { layers: { ...frames['done']!.layers, again: button(0, 'click → go to shop') } }));
  expect(told(harbour(), elsewhere)).toEqual([
    'click on, click pay, click again',
    'home is shown only before.',
    'on (“Go”) is shown only before.',
    'shop is shown only after.',
    'pay (“Go”) is shown only after.',
    'more (“Go”) is shown only after.',
    'And 1 more.',
  ]);
});

test('what is said, selected, disabled, opened, or comes at another time', () => {
  const home = (layers: Frames[string]['layers'], lines: string[] = []) =>
    compile(compose({ frames: { home: { layers: layers!, lines }, end: {} } }));
  const on = { at: [0, 0, 100, 60] as const };
  expect(told(home({ on: { ...on, text: 'Pay' } }), home({ on: { ...on, text: 'Book' } }))).toEqual(['', 'on says “Pay” before and “Book” after.']);
  expect(told(home({ on: { ...on, selected: true } }), home({ on: { ...on, disabled: true } }))).toEqual([
    '',
    'on is selected before and disabled after.',
  ]);
  const hover = (text: string) => home({ on: { ...on, text: 'Pay', looks: { hover: { text } }, lines: ['hover → send seen'] } });
  expect(told(hover('Now'), hover('Later'))).toEqual(['hover on', 'on says “Now” before and “Later” after.']);
  const link = (address: string) => home({ on: { ...on, lines: [`click → open ${address}`] } });
  expect(told(link('https://ferries.example/a'), link('https://ferries.example/b'))).toEqual([
    'click on',
    'It opens https://ferries.example/a before and https://ferries.example/b after.',
  ]);
  const timed = (line: string) => home({ on }, [line]);
  expect(told(timed('after 2 s → go to end'), timed('after 3 s → go to end'))).toEqual([
    'wait 2000 ms',
    'end is shown only before.',
    'home is shown only after.',
    'on is shown only after.',
  ]);
});

test('where it begins, and what cannot be told to the end', () => {
  const home = compile(compose({ frames: { home: {}, shop: {} } }));
  const shop = edited(home, { op: 'set', table: 'piece', id: home.piece.head.id, path: ['start'], value: ['shop'] });
  expect(told(home, shop)).toEqual(['', 'Only before it can begin on home.', 'Only after it can begin on shop.']);
  const endless = compile(
    compose({
      variables: { Seats: { type: 'number', initial: 0 } },
      frames: { home: { layers: { on: button(0, 'click → set Seats to Seats + 1') } } },
    })
  );
  expect(told(endless, endless, 10)).toBe('stopped at 10 pairs of states');
});

test('a piece is never told from itself; what tells two versions apart does so when it is done', () => {
  const seeds = fc.integer({ min: 0, max: 1e9 });
  fc.assert(
    fc.property(seeds, (seed) => {
      const program = compile(richPiece(seed));
      expect(tellApart(program, compile(richPiece(seed)), 60).kind).not.toBe('apart');
      // Without one of its threads it does less, or the same.
      for (const thread of program.piece.threads.keys()) {
        const less = edited(program, { op: 'remove', table: 'threads', id: thread });
        const found = tellApart(program, less, 40);
        if (found.kind !== 'apart' || found.events.length === 0) continue;
        const [a, b] = [program, less].map((one) => replay(one, start(one, found.from)!, found.events));
        expect(JSON.stringify(a)).not.toBe(JSON.stringify(b));
      }
    }),
    { numRuns: timesOver(8) }
  );
});
