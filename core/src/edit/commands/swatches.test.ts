import { describe, expect, it } from 'vitest';
import { compose, layerId } from '../../compose/compose.ts';
import { familiesIn } from '../../formats/html.ts';
import { LOST_COLOR, paintOf } from '../../piece/paint.ts';
import type { Piece } from '../../piece/piece.ts';
import { pieceToJson, readPiece } from '../../piece/read.ts';
import { compile } from '../../program/compile.ts';
import { update } from '../../program/program.ts';
import { stillScreen } from '../../run/still.ts';
import { unwrap } from '../../result.ts';
import { apply } from '../apply.ts';
import type { Operation } from '../operation.ts';
import { copyLayers, pasteClip } from './clip.ts';
import {
  addSwatch,
  addTypeStyle,
  changeSwatch,
  removeSwatch,
  removeTypeStyle,
  renameTypeStyle,
  setInStyle,
  swatchesOf,
  swatchUses,
  takeIntoStyle,
  typeStylesOf,
} from './swatches.ts';

const counter = (prefix = 'new') => {
  let n = 0;
  return () => `${prefix}${n++}`;
};
const after = (piece: Piece, operations: readonly Operation[]): Piece => unwrap(apply(piece, operations)).piece;
const id = (name: string) => layerId('home', name);

const piece = compose({
  frames: {
    home: {
      background: '#0b4a6e',
      states: { Calm: {}, Storm: { Sea: { style: { fill: '#445566' } }, Title: { letters: { size: 40 } } } },
      layers: {
        Sea: { style: { fill: '#0b4a6e', line: { color: '#0b4a6e', width: 2 } }, looks: { hover: { style: { fill: '#0B4A6E' } } } },
        Sail: { style: { fill: '#ffffff', shadow: { x: 0, y: 1, blur: 2, color: '#0b4a6e' } } },
        Title: { type: 'text', text: 'Kittiwake', letters: { size: 28, weight: 800 } },
        Also: { type: 'text', text: 'Line', letters: { weight: 800, size: 28 } },
        Words: { type: 'text', text: 'small', letters: { size: 13, align: 'right' } },
      },
    },
    away: { layers: { Hull: { style: { fill: '#0b4a6e' } } } },
  },
});

/** How a layer is seen. */
function seen(of: Piece, scene: string, layer: string, state: string | null = null) {
  const { surfaces } = stillScreen(compile(of), scene, { state })!;
  const shown = surfaces[0]!.all.find(({ node }) => node.layer.name === layer)!;
  return { ...shown.style, letters: shown.letters, ground: surfaces[0]!.background };
}

describe('a swatch', () => {
  const { operations, id: sea } = addSwatch(piece, ' Deep sea ', '#0b4a6e', counter());
  const named = after(piece, operations);

  it('is what everything of its colour is painted with from then on, in looks and grounds too, and it looks the same', () => {
    expect(swatchesOf(named.head)).toMatchObject([{ id: sea, name: 'Deep sea', color: '#0b4a6e' }]);
    expect(swatchUses(named)).toEqual(new Map([[sea, 6]]));
    expect(named.layers.get(id('Sea'))!.looks!.hover!.style!.fill).toBe(paintOf(sea));
    expect(seen(named, 'home', 'Sea')).toMatchObject({ fill: '#0b4a6e', line: { color: '#0b4a6e', width: 2 }, ground: '#0b4a6e' });
    expect(seen(named, 'home', 'Sail')).toEqual(seen(piece, 'home', 'Sail'));
  });

  it('changes them all when it changes, in a program brought up to date as in one made anew', () => {
    const applied = unwrap(apply(named, changeSwatch(named, sea, { color: '#123456', name: 'Night' })));
    const updated = update(compile(named), applied.piece, applied.touched);
    for (const [scene, layer] of [
      ['home', 'Sea'],
      ['away', 'Hull'],
    ] as const) {
      expect(seen(applied.piece, scene, layer).fill).toBe('#123456');
      const shown = stillScreen(updated, scene, {})!.surfaces[0]!.all.find(({ node }) => node.layer.name === layer)!;
      expect(shown.style.fill).toBe('#123456');
    }
    expect(seen(applied.piece, 'home', 'Sea').ground).toBe('#123456');
    const storm = swatchesOf(applied.piece.head)[0]!.name;
    expect(storm).toBe('Night');
    expect(seen(after(applied.piece, applied.inverse), 'home', 'Sea').fill).toBe('#0b4a6e');
  });

  it('leaves its colour behind when it is taken away; one that is lost is grey, and nothing breaks', () => {
    const gone = after(named, removeSwatch(named, sea));
    expect(swatchUses(gone).size).toBe(0);
    expect(seen(gone, 'home', 'Sea').fill).toBe('#0b4a6e');
    const lost = after(named, [{ op: 'set', table: 'piece', id: named.head.id, path: ['swatches', sea] }]);
    expect(seen(lost, 'home', 'Sea').fill).toBe(LOST_COLOR);
    expect(removeSwatch(gone, sea)).toEqual([]);
    expect(changeSwatch(gone, sea, { color: '#000000' })).toEqual([]);
  });

  it('gets a name of its own, and is written and read', () => {
    const twice = after(named, addSwatch(named, 'Deep sea', '#ffffff', counter('more')).operations);
    expect(swatchesOf(twice.head).map(({ name }) => name)).toEqual(['Deep sea', 'Deep sea 2']);
    expect(pieceToJson(unwrap(readPiece(pieceToJson(twice))))).toEqual(pieceToJson(twice));
    const bad = apply(named, [{ op: 'set', table: 'layers', id: id('Sea'), path: ['style', 'fill'], value: 'swatch:' }]);
    expect(bad.ok).toBe(false);
  });

  it('goes along with a copy into another piece', () => {
    const other = compose({ frames: { pier: { layers: {} } } });
    const clip = copyLayers(compile(named), 'home', [id('Sea')]);
    const pasted = after(other, pasteClip(other, { ...clip, piece: 'elsewhere' }, 'pier', counter('copy')).operations);
    expect(swatchesOf(pasted.head).map(({ name }) => name)).toEqual(['Deep sea']);
    expect(seen(pasted, 'pier', 'Sea').fill).toBe('#0b4a6e');
    const plain = copyLayers(compile(named), 'home', [id('Words')]);
    expect(swatchesOf(after(other, pasteClip(other, plain, 'pier', counter('copy')).operations).head)).toEqual([]);
  });
});

describe('a type style', () => {
  const { operations, id: heading } = addTypeStyle(piece, 'Heading', { size: 28, weight: 800 }, counter());
  const named = after(piece, operations);

  it('is what all words set just so follow', () => {
    expect(named.layers.get(id('Title'))!.letters).toEqual({ style: heading });
    expect(named.layers.get(id('Also'))!.letters).toEqual({ style: heading });
    expect(seen(named, 'home', 'Title').letters).toMatchObject({ size: 28, weight: 800 });
    expect(seen(named, 'home', 'Words').letters).toMatchObject({ size: 13 });
  });

  it('leaves what a layer or a state says itself', () => {
    const storm = Object.entries(named.scenes.get('home')!.states!).find(([, { name }]) => name === 'Storm')![0];
    expect(seen(named, 'home', 'Title', storm).letters).toMatchObject({ size: 40, weight: 800 });
    const set = after(named, setInStyle(named, [id('Words'), id('Sea')], heading));
    expect(seen(set, 'home', 'Words').letters).toEqual({ align: 'right', style: heading, size: 28, weight: 800 });
    expect(set.layers.get(id('Sea'))!.letters).toBeUndefined();
  });

  it('becomes what a layer has made of it, and all follow', () => {
    const other = after(named, [{ op: 'set', table: 'layers', id: id('Title'), path: ['letters', 'family'], value: 'serif' }]);
    const taken = after(other, takeIntoStyle(other, id('Title')));
    expect(taken.layers.get(id('Title'))!.letters).toEqual({ style: heading });
    expect(seen(taken, 'home', 'Also').letters).toMatchObject({ family: 'serif', size: 28 });
    expect(takeIntoStyle(taken, id('Title'))).toEqual([]);
    expect([...familiesIn(taken)]).toContain('serif');
  });

  it('can be renamed, and leaves words as they are when it is taken away', () => {
    expect(typeStylesOf(after(named, renameTypeStyle(named, heading, 'Large')).head)).toMatchObject([{ name: 'Large' }]);
    const gone = after(named, removeTypeStyle(named, heading));
    expect(typeStylesOf(gone.head)).toEqual([]);
    expect(seen(gone, 'home', 'Title').letters).toEqual({ size: 28, weight: 800 });
  });
});
