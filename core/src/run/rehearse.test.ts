import { describe, expect, it } from 'vitest';
import { threadsOf } from '../piece/piece.ts';
import { compile } from '../program/compile.ts';
import { compose, layerId, stateId } from '../compose/compose.ts';
import { rehearse, type Rehearsal } from './rehearse.ts';

const id = (name: string) => layerId('home', name);

const piece = compose({
  variables: { Seats: { type: 'number', initial: 0 } },
  frames: {
    home: {
      states: { Shut: {}, Open: { card: { pose: { x: 110 } } } },
      layers: {
        card: { at: [10, 0, 100, 50] },
        open: { at: [0, 100, 50, 50], lines: ['click → put this in Open · tween 300 ms linear; wait 200 ms; hide card'] },
        buy: { at: [0, 200, 50, 50], lines: ['click → if Seats > 0 → go to pay · push left 250 ms; otherwise → set Seats to 1'] },
        link: { at: [0, 300, 50, 50], lines: ['click → open https://kittiwake.example'] },
      },
    },
    pay: {},
  },
});

const program = compile(piece);
const of = (layer: string, branch = 0, state: string | null = null): Rehearsal =>
  rehearse(program, 'home', { state }, threadsOf(piece, id(layer))[0]!.id, branch)!;
const xOf = (rehearsal: Rehearsal, ms: number) => rehearsal.at(ms).values.get(id('card'))?.x;

describe('a thread tried out', () => {
  it('shows every moment of what its steps do one after the other', () => {
    const open = of('open');
    expect(open.length).toBe(500);
    expect([0, 150, 299].map((ms) => Math.round(xOf(open, ms)!))).toEqual([10, 60, 110]);
    expect(open.after.surfaces[0]!.all.some((shown) => shown.node.key === id('card'))).toBe(false);
  });

  it('runs the branch that is asked for, whatever its condition', () => {
    expect(of('buy').run.frame).toBe('pay');
    expect(of('buy').length).toBe(250);
    const other = of('buy', 1);
    expect([other.run.frame, other.changes, other.length]).toEqual(['home', false, 0]);
  });

  it('begins in the state that is looked at', () => {
    const again = of('open', 0, stateId('home', 'Open'));
    expect(again.before.surfaces[0]!.all.find((shown) => shown.node.key === id('card'))!.x).toBe(110);
    expect(again.length).toBe(200);
  });

  it('says what it does besides, and leaves the piece as it was', () => {
    expect(of('link').effects).toMatchObject([{ type: 'open', address: 'https://kittiwake.example' }]);
    expect(rehearse(program, 'home', {}, 'nothing', 0)).toBeNull();
    expect(program.piece.threads.get(threadsOf(piece, id('buy'))[0]!.id)!.cue.type).toBe('click');
  });

  it('of a frame and of the whole piece as well, whatever they wait for, switched off or not', () => {
    const spec = {
      variables: { Seats: { type: 'number' as const, initial: 0 } },
      frames: {
        home: { layers: { note: { at: [0, 0, 50, 50] as const } }, lines: ['key x → hide note', 'key y → if Seats > 3 → go to pay'] },
        pay: {},
      },
      lines: ['key z → go to pay'],
    };
    const made = compose(spec);
    const tried = compile(made);
    const cued = (key: string) => [...made.threads.values()].find(({ cue }) => cue.type === 'key' && cue.key.endsWith(key))!.id;
    const hides = rehearse(tried, 'home', {}, cued('x'), 0)!;
    expect([hides.changes, hides.run.frame, hides.length]).toEqual([true, 'home', 0]);
    expect(rehearse(tried, 'home', {}, cued('y'), 0)!.run.frame).toBe('pay');
    expect(rehearse(tried, 'home', {}, cued('y'), 1)).toBeNull();
    expect(rehearse(tried, 'home', {}, cued('z'), 0)!.run.frame).toBe('pay');
    expect(rehearse(tried, 'nowhere', {}, cued('z'), 0)).toBeNull();
  });

  it('changes something where it moves, fades, fills or tints one thing on the screen, or scrolls it', () => {
    const made = compose({
      frames: {
        home: {
          contentHeight: 2000,
          states: {
            Plain: {},
            Faint: { card: { style: { opacity: 0.5 } } },
            Red: { card: { style: { fill: '#aa2222' } } },
            Said: { card: { text: 'Gone' } },
            Same: {},
          },
          layers: {
            card: { at: [10, 0, 100, 50], text: 'Day' },
            far: { at: [10, 1800, 100, 50] },
            faint: { at: [0, 100, 50, 50], lines: ['click → put this in Faint'] },
            red: { at: [0, 200, 50, 50], lines: ['click → put this in Red'] },
            said: { at: [0, 300, 50, 50], lines: ['click → put this in Said'] },
            same: { at: [0, 400, 50, 50], lines: ['click → put this in Same'] },
            scroll: { at: [0, 500, 50, 50], lines: ['click → scroll to far'] },
            slow: { at: [0, 600, 50, 50], lines: ['click → wait 5 s; hide card'] },
            never: { at: [0, 700, 50, 50], lines: ['click → wait 7 s; hide card'] },
          },
        },
      },
    });
    const tried = compile(made);
    const done = (layer: string) => rehearse(tried, 'home', {}, threadsOf(made, id(layer))[0]!.id, 0)!;
    expect(['faint', 'red', 'said', 'same', 'scroll'].map((layer) => done(layer).changes)).toEqual([true, true, true, false, true]);
    expect([done('slow').changes, done('slow').length]).toEqual([true, 5000]);
    expect([done('never').changes, done('never').length]).toEqual([false, 0]);
  });
});
