import { describe, expect, it } from 'vitest';
import { framesOf, layersUnder, threadsOf, type Piece } from '../../piece/piece.ts';
import { compile } from '../../program/compile.ts';
import { stillScreen } from '../../run/still.ts';
import { unwrap } from '../../result.ts';
import { valueOfVariable } from '../../run/environment.ts';
import { advance, start } from '../../run/run.ts';
import { compose, layerId } from '../../compose/compose.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { makeChoice } from './choices.ts';
import { buttonsAndPanels, pagesFor, pairByHand, pairWith, showWhileSelected, wireToState, writtenIn } from './pairs.ts';
import { namedAfterFrames, repeatLayer } from './repeat.ts';

/** Edits that make many things alike at once. */

const counter = () => {
  let n = 0;
  return () => `new${n++}`;
};
const after = (piece: Piece, operations: readonly Operation[]): Piece => unwrap(apply(piece, operations)).piece;
const id = (name: string) => layerId('home', name);

describe('a choice', () => {
  const piece = compose({
    frames: {
      home: {
        layers: {
          Fri: { at: [0, 0, 50, 50], lines: ['click → send fri'] },
          Sat: { at: [60, 0, 50, 50] },
          panel: { type: 'group', at: [0, 100, 1, 1] },
          words: { in: 'panel', at: [0, 0, 50, 20], type: 'text', text: 'hello' },
        },
      },
    },
  });
  const options = { name: 'Day', again: 'unselects', first: false, variable: true } as const;

  const pressed = (made: Piece, names: readonly string[]) => {
    const program = compile(made);
    let run = start(program)!;
    for (const name of names) run = advance(program, run, { type: 'click', layer: id(name) }).run;
    const variable = [...made.variables.values()][0]!;
    const shown = names.length ? run : run;
    return { value: valueOfVariable(program, shown, variable.id, variable.id), flags: run.roots['home']!.flags };
  };

  it('keeps one selected, tells it in a variable, and lets go of it where that is wanted', () => {
    const made = after(piece, makeChoice(piece, 'home', [id('Fri'), id('Sat')], options, counter()));
    expect(pressed(made, []).value).toBe('none');
    expect(pressed(made, ['Fri']).value).toBe('Fri');
    expect(pressed(made, ['Fri', 'Sat']).flags).toMatchObject({ [`${id('Fri')}.selected`]: false, [`${id('Sat')}.selected`]: true });
    expect(pressed(made, ['Sat', 'Sat']).value).toBe('none');
    expect(threadsOf(made, id('Fri'))).toHaveLength(1);
    const stays = after(piece, makeChoice(piece, 'home', [id('Fri'), id('Sat')], { ...options, again: 'stays', first: true }, counter()));
    expect(pressed(stays, ['Sat', 'Sat']).value).toBe('Sat');
    expect(pressed(stays, []).value).toBe('Fri');
  });

  it('shows a panel while its button is selected', () => {
    const chosen = after(piece, makeChoice(piece, 'home', [id('Fri'), id('Sat')], options, counter()));
    const made = compile(after(chosen, showWhileSelected(id('panel'), id('Fri'))));
    const shows = (selected: string[]) => stillScreen(made, 'home', { selected })!.surfaces[0]!.all.some((one) => one.node.key === id('words'));
    expect(shows([])).toBe(false);
    const run = advance(made, start(made)!, { type: 'click', layer: id('Fri') }).run;
    expect(Object.values(run.roots['home']!.bound)).toContain(true);
  });
});

describe('pairs', () => {
  it('go by what both are called or have written on them, whatever stands in front or around it', () => {
    const words = (buttons: string[], pages: (string | [string, string])[]) => {
      const names = pages.map((page) => (typeof page === 'string' ? page : page[0]));
      const piece = compose({
        frames: {
          home: { layers: Object.fromEntries(buttons.map((text, i) => [`b${i}`, { at: [0, i * 60, 100, 50], text }] as const)) },
          ...Object.fromEntries(
            pages.map((page) => [
              typeof page === 'string' ? page : page[0],
              { layers: typeof page === 'string' ? {} : { t: { type: 'text' as const, text: page[1] } } },
            ])
          ),
        },
      });
      const partners = framesOf(piece)
        .slice(1)
        .map(({ id: frame, name }) => ({ id: frame, name, words: writtenIn(piece, frame) }));
      return pairWith(piece, layersUnder(piece, 'home', null), partners).map(({ partner }) =>
        partner === null ? null : names[partners.findIndex((one) => one.id === partner)]!
      );
    };
    expect(words(['Plan a trip', 'FARES', 'The piers'], ['03 Piers', '1. Trip plan', '2 – Fares'])).toEqual([
      '1. Trip plan',
      '2 – Fares',
      '03 Piers',
    ]);
    expect(
      words(
        ['Tides', 'Help & contact'],
        [
          ['Page 7', 'Tides today'],
          ['Page 8', 'Contact and help'],
        ]
      )
    ).toEqual(['Page 7', 'Page 8']);
    expect(words(['Day 2', 'Day 1'], ['Page 1', 'Page 2'])).toEqual(['Page 2', 'Page 1']);
    expect(words(['Café', 'Quiet', 'Boats'], ['Boats', 'Cafe', 'Other'])).toEqual(['Cafe', null, 'Boats']);
  });

  it('chosen by hand, the rest that no name settled goes on from there', () => {
    const partners = ['1', '2', '3', '4'].map((one) => ({ id: one, name: one }));
    const pairs = ['a', 'b', 'c'].map((layer, i) => ({ layer, partner: partners[i]!.id, by: 'order' as const }));
    const moved = pairByHand(pairs, 'a', '3', partners);
    expect(moved.map(({ partner }) => partner)).toEqual(['3', '4', null]);
    expect(pairByHand(moved, 'c', '1', partners).map(({ partner }) => partner)).toEqual(['3', '4', '1']);
    const named = [pairs[0]!, { layer: 'b', partner: '4', by: 'name' as const }, { layer: 'c', partner: null, by: null }];
    expect(pairByHand(named, 'a', '2', partners).map(({ partner }) => partner)).toEqual(['2', '4', '3']);
    expect(pairByHand(pairs, 'b', null, partners).map(({ partner }) => partner)).toEqual(['1', null, '3']);
  });

  it('go by name or text alone, where one fits', () => {
    const piece = compose({
      frames: { home: { layers: { a: { at: [100, 0, 50, 50] }, b: { at: [0, 0, 50, 50] }, c: { at: [0, 100, 50, 50], text: 'Open' } } } },
    });
    const partners = [
      { id: '1', name: 'Open' },
      { id: '2', name: 'Shut' },
      { id: '3', name: 'Ajar' },
    ];
    const pairs = pairWith(piece, layersUnder(piece, 'home', null), partners);
    expect(pairs.map(({ layer, partner }) => [piece.layers.get(layer)!.name, partner])).toEqual([
      ['b', null],
      ['a', null],
      ['c', '1'],
    ]);
  });

  it('part buttons from what they show', () => {
    const piece = compose({
      frames: {
        home: {
          layers: { one: {}, two: {}, g: { type: 'group' }, h: { type: 'group' }, big: { at: [0, 0, 300, 300] }, wide: { at: [0, 0, 300, 200] } },
        },
      },
    });
    const layers = (names: string[]) => names.map((name) => piece.layers.get(id(name))!);
    expect(buttonsAndPanels(layers(['g', 'one', 'h', 'two']))!.panels.map((layer) => layer.name)).toEqual(['g', 'h']);
    expect(buttonsAndPanels(layers(['big', 'one', 'wide', 'two']))!.buttons.map((layer) => layer.name)).toEqual(['one', 'two']);
    expect(buttonsAndPanels(layers(['one', 'two', 'g']))).toBeNull();
  });

  it('bring a scene into states, replacing the target that was there', () => {
    const piece = compose({ frames: { home: { states: { A: {}, B: {} }, layers: { one: { lines: ['click → put this in A; send x'] } } } } });
    const made = after(piece, wireToState(piece, id('one'), undefined, 'home_s_B', counter()));
    expect(threadsOf(made, id('one'))[0]!.branches[0]!.steps).toMatchObject([{ do: 'state', to: { state: 'home_s_B' } }, { do: 'send' }]);
  });

  it('make a page for each picture from the page of the first', () => {
    const asset = (n: number) => ({ id: String(n).repeat(64), name: 'x', mediaType: 'image/png' as const, size: 9, width: 9, height: 9 });
    const piece = compose({
      assets: [asset(1), asset(2), asset(3)],
      frames: {
        home: {
          layers: Object.fromEntries(
            ['Skarra', 'Orrin', 'Vell'].map((name, i) => [name, { type: 'picture', asset: asset(i + 1).id, at: [i * 100, 0, 90, 60] }] as const)
          ),
        },
        Skarra: {
          layers: {
            view: { type: 'picture', asset: asset(1).id },
            title: { type: 'text', text: 'Skarra', letters: { size: 30 } },
            back: { lines: ['click → go to home'] },
          },
        },
      },
    });
    const layers = layersUnder(piece, 'home', null);
    const made = after(piece, [
      { op: 'set', table: 'piece', id: 'piece', path: ['bundles', 'islands'], value: { name: 'Islands', order: 'a0' } },
      ...pagesFor(piece, layers, 'Skarra', 'islands', counter()),
    ]);
    const pages = framesOf(made).slice(1);
    expect(pages.map((page) => page.name).sort()).toEqual(['Orrin', 'Skarra', 'Vell']);
    expect(pages.every((page) => page.bundle === 'islands')).toBe(true);
    const vell = pages.find((page) => page.name === 'Vell')!;
    const own = layersUnder(made, vell.id, null);
    expect([own[0]!.asset, own[1]!.text, threadsOf(made, own[2]!.id).length]).toEqual([asset(3).id, 'Vell', 1]);
    expect(threadsOf(made, id('Vell'))[0]!.branches[0]!.steps[0]).toMatchObject({ target: { frame: vell.id } });
  });
});

describe('a layer repeated', () => {
  const piece = compose({ frames: { Boats: { layers: { tab: { at: [10, 0, 40, 30], looks: { hover: {} } } } }, Fares: {}, Tides: {} } });
  const tab = layerId('Boats', 'tab');

  it('makes a grid of equal ones, in rows', () => {
    const { operations, ids } = repeatLayer(compile(piece), 'Boats', tab, { across: 3, down: 2, gapX: 10, gapY: 5, fill: null }, counter());
    const made = after(piece, operations);
    expect(ids.map((one) => made.layers.get(one)!.pose).map(({ x, y }) => [x, y])).toEqual([
      [10, 0],
      [60, 0],
      [110, 0],
      [10, 35],
      [60, 35],
      [110, 35],
    ]);
    expect(layersUnder(made, 'Boats', null).map((layer) => layer.name)).toEqual(['tab', 'tab 2', 'tab 3', 'tab 4', 'tab 5', 'tab 6']);
    expect(repeatLayer(compile(piece), 'Boats', tab, { across: 100, down: 100, gapX: 0, gapY: 0, fill: null }, counter()).operations).toEqual([]);
  });

  it('fills a width and is named after frames, the open one marked', () => {
    const { operations, ids } = repeatLayer(compile(piece), 'Boats', tab, { across: 3, down: 1, gapX: 10, gapY: 0, fill: 320 }, counter());
    const sized = after(piece, operations);
    const made = after(sized, namedAfterFrames(sized, ids, framesOf(piece), true, counter()));
    const tabs = layersUnder(made, 'Boats', null);
    expect(tabs.map(({ name, pose }) => [name, pose.x, pose.width])).toEqual([
      ['Boats', 10, 100],
      ['Fares', 120, 100],
      ['Tides', 230, 100],
    ]);
    expect(tabs[1]!.bindings!.selected).toBe('frame.name = ‹=Fares›');
    expect(threadsOf(made, tabs[2]!.id)).toHaveLength(1);
  });
});
