import { describe, expect, test } from 'vitest';
import { compose } from '../compose/compose.ts';
import { compile } from '../program/compile.ts';
import { knowScreen } from './known-screen.ts';
import type { Read } from './notebook.ts';
import { catchAt } from './pointer.ts';
import { reachOf } from './reach.ts';
import { RecordingStore } from './recording.ts';
import { boundsOf, standingScreen, type Stood } from './resolve.ts';
import { start } from './run.ts';
import type { RunState } from './state.ts';

const program = compile(
  compose({
    frames: {
      home: {
        layers: {
          pay: { at: [0, 0, 80, 40], lines: ['click → send paid'] },
          flag: { at: [100, 0, 20, 20], lines: ['click → send flag'] },
          card: { type: 'group', at: [0, 100, 200, 100] },
          face: { in: 'card', at: [0, 0, 200, 100], lines: ['click → send face'] },
          mark: { in: 'card', at: [10, 10, 20, 20], lines: ['click → send mark'] },
        },
      },
    },
  })
);
const begun = start(program)!;

/** A store on the beginning of the piece, where some slots have been other than they begin. */
function on(...open: string[]): { store: RecordingStore; reads: () => readonly Read[] } {
  const known = knowScreen(
    program,
    begun,
    (name) => open.includes(name),
    () => '@1'
  );
  const store = RecordingStore.on(begun, known);
  const general = new Set(known.reads);
  return { store, reads: () => store.reads.filter((read) => typeof read !== 'string' || !general.has(read)) };
}

const CARD = 'home|flags|home_card.shown';
const FLAG = 'home|changes|home_flag';

const layersOf = (store: RecordingStore): readonly Stood[] => standingScreen(program, store.run).surfaces[0]!.all;
const named = (name: string) => (one: Stood) => one.node.layer.name === name;

describe('looking at where everything stands', () => {
  test('nothing is read besides the screen itself where nothing ever moved', () => {
    const { store, reads } = on();
    expect(layersOf(store).map(({ node }) => node.layer.name)).toEqual(['pay', 'flag', 'card', 'face', 'mark']);
    expect(reads()).toEqual([]);
  });

  test('who gets a press is told by who is in its way, each by itself', () => {
    const { store, reads } = on(CARD, FLAG);
    expect(catchAt({ program, run: store.run }, { x: 20, y: 20 }).shown!.node.layer.name).toBe('pay');
    expect(reads()).toEqual([
      { reads: [CARD], came: -1, about: null },
      { reads: [FLAG], came: -1, about: null },
    ]);
    // What lies under what was met has not been looked at.
    const other = on(CARD, FLAG);
    expect(catchAt({ program, run: other.store.run }, { x: 15, y: 115 }).shown!.node.layer.name).toBe('mark');
    expect(other.reads()).toEqual([{ reads: [CARD], came: 2, about: null }]);
  });

  test('looking for a layer reads whether it is there, and nothing of the others', () => {
    const { store, reads } = on(CARD, FLAG);
    expect(layersOf(store).find(named('face'))!.node.layer.name).toBe('face');
    expect(layersOf(store).some(named('pay'))).toBe(true);
    expect(layersOf(store).some(named('nobody'))).toBe(false);
    expect(reads()).toEqual([{ reads: [CARD], came: 1, about: null }]);
  });

  test('a layer that is measured is read for where it is, with all around it; its children for being there', () => {
    const { store, reads } = on(CARD, FLAG);
    const flag = layersOf(store).find(named('flag'))!;
    expect([flag.x, flag.width, flag.rotation, flag.scale, flag.scroll, flag.anchor]).toEqual([100, 20, 0, 1, { x: 0, y: 0 }, { x: 0.5, y: 0.5 }]);
    expect(reads()).toEqual([{ reads: [FLAG], came: 0, about: null }, FLAG]);
    const card = layersOf(store).find(named('card'))!;
    expect(card.children.map(({ node }) => node.layer.name)).toEqual(['face', 'mark']);
    expect(card.children[0]!.parent).toBe(card);
    expect(boundsOf(card)).toEqual({ x: 0, y: 100, width: 200, height: 100 });
    expect(reads().slice(2)).toEqual([{ reads: [CARD], came: 0, about: null }, CARD]);
  });

  test('what is hidden is looked at as well, and is not there', () => {
    const known = (run: RunState) =>
      RecordingStore.on(
        run,
        knowScreen(
          program,
          run,
          (name) => name === CARD,
          () => '@1'
        )
      );
    const hidden: RunState = { ...begun, roots: { home: { ...begun.roots['home']!, flags: { 'home_card.shown': false } } } };
    const store = known(hidden);
    expect(layersOf(store).find(named('mark'))).toBeUndefined();
    expect(catchAt({ program, run: store.run }, { x: 15, y: 115 }).shown).toBeNull();
    expect(layersOf(store).map(({ node }) => node.layer.name)).toEqual(['pay', 'flag']);
    expect(store.reads.filter((read) => typeof read !== 'string').map(({ reads, came }) => [reads, came])).toEqual([
      [[CARD], -1],
      [[CARD], -1],
      [[CARD], 0],
      [[CARD], 0],
      [[CARD], 0],
    ]);
  });

  test('tests are noted for the layer that is looked at for its own sake', () => {
    const { store, reads } = on(CARD);
    const pay = layersOf(store).find(named('pay'))!;
    store.about(pay.node);
    reachOf({ program, run: store.run }, pay.node);
    store.about(null);
    layersOf(store).some(named('card'));
    expect(reads().map((read) => typeof read !== 'string' && read.about?.layer.name)).toEqual(['pay', undefined]);
  });

  test('what an event has changed is looked at as it is then, the rest as it was', () => {
    const { store, reads } = on(CARD, FLAG);
    store.set('home', 'changes', 'home_flag', { x: 20 });
    expect(reads()).toEqual(['home|changes|home_flag']);
    expect(catchAt({ program, run: store.run }, { x: 25, y: 10 }).shown!.node.layer.name).toBe('flag');
    // Where the flag is now is known of the event, whatever it was before.
    expect(reads().slice(1)).toEqual(['home|flags|home_flag.shown', { reads: [CARD], came: -1, about: null }]);
    store.set('home', 'flags', 'home_card.shown', false);
    expect(layersOf(store).map(({ node }) => node.layer.name)).toEqual(['pay', 'flag']);
    expect(reads().slice(3)).toEqual([CARD]);
  });

  test('what comes of one thing often is no longer kept apart from it', () => {
    const { store, reads } = on(CARD);
    for (let x = 0; x < 30; x++) catchAt({ program, run: store.run }, { x, y: 10 });
    expect(reads().length).toBe(25);
    expect(reads().at(-1)).toBe(CARD);
  });

  test('how far a scene is scrolled is read by who measures, not by who asks whether something is there', () => {
    const SCROLL = 'home|scroll|';
    const { store, reads } = on(SCROLL);
    const pay = layersOf(store).find(named('pay'))!;
    expect(layersOf(store).map(({ node }) => node.layer.name)).toEqual(['pay', 'flag', 'card', 'face', 'mark']);
    expect(reads()).toEqual([]);
    expect(catchAt({ program, run: store.run }, { x: 20, y: 20 }).shown!.node.layer.name).toBe('pay');
    expect(reads().every((read) => typeof read !== 'string' && String(read.reads) === SCROLL)).toBe(true);
    expect([pay.y, reads().at(-1)]).toEqual([0, SCROLL]);
    // What has been scrolled to is known of the event.
    const other = on(SCROLL);
    other.store.set('home', 'scroll', '', { x: 0, y: 10, turn: 0, direction: null, fired: [] });
    expect(catchAt({ program, run: other.store.run }, { x: 20, y: 20 }).shown!.node.layer.name).toBe('pay');
    expect(other.reads()).toEqual([SCROLL]);
  });

  test('how far a surface is scrolled is noted for who asks', () => {
    const { store, reads } = on('home|scroll|');
    expect(standingScreen(program, store.run).surfaces[0]!.scroll).toEqual({ x: 0, y: 0 });
    expect(reads()).toEqual(['home|scroll|']);
  });

  test('nobody goes through the layers from the top down', () => {
    const { store } = on(CARD);
    expect(() => standingScreen(program, store.run).surfaces[0]!.tops.length).toThrow('one by one');
  });
});
