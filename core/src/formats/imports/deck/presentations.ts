import type { Asset, Piece } from '../../../piece/piece.ts';
import type { MakeId } from '../../../edit/make-id.ts';
import { onceFor } from '../../../once.ts';
import { fail, fault, ok, type Result } from '../../../result.ts';
import { defineImport, type CameIn } from '../define.ts';
import { Archive } from '../archive.ts';
import { deckIn, type Deck } from './deck.ts';
import { ODF_PREFIXES, readOdp } from './odp.ts';
import { OOXML_PREFIXES, readOoxml } from './ooxml.ts';

export const presentations = defineImport({
  kind: 'presentation',
  label: 'presentations',
  meaning:
    'slides as frames; shapes, words, tables and pictures as layers; links as threads; what slides have in common as sheets; how slides change as transitions',
  isWhole: true,
  endings: ['.odp', '.pptx', '.ppsx', '.pptm', '.potx', '.otp'],
  pictures: (bytes) => {
    const opened = opening(bytes);
    if (!opened.ok) return opened;
    const { archive, deck } = opened.value;
    const shapes = [...deck.slides, ...deck.grounds.values()].flatMap((one) => one.shapes);
    const wanted = new Set(shapes.flatMap(({ picture }) => picture ?? []));
    return ok(new Map([...wanted].flatMap((name) => (archive.file(name) ? [[name, archive.file(name)!] as const] : []))));
  },
  read: (piece, bytes, makeId, assets) => deckFrom(piece, bytes, makeId, assets),
});

function deckFrom(piece: Piece, bytes: Uint8Array, makeId: MakeId, assets: ReadonlyMap<string, Asset>): Result<CameIn> {
  const opened = opening(bytes);
  return opened.ok ? ok(deckIn(piece, opened.value.deck, assets, makeId)) : opened;
}

/** Its pictures are asked for first, and then all of it. */
const opening = onceFor((bytes: Uint8Array): Result<{ archive: Archive; deck: Deck }> => {
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf)
    return fail(
      fault('old-deck', [], 'This is in the form that presentations had before 2007, or locked by a password. Save it as .odp or .pptx first.')
    );
  const opened = Archive.open(bytes, { ...ODF_PREFIXES, ...OOXML_PREFIXES });
  if (!opened.ok) return opened;
  const archive = opened.value;
  const deck = archive.file('ppt/presentation.xml') ? readOoxml(archive) : readOdp(archive);
  if (!deck.ok) return deck;
  return deck.value.slides.length ? ok({ archive, deck: deck.value }) : fail(fault('no-slides', [], 'This presentation has no slides.'));
});
