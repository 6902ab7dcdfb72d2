import { escapeText } from '../../expression/text.ts';
import type { Layer, Piece } from '../../piece/piece.ts';
import type { Program } from '../../program/program.ts';
import type { MakeId } from '../make-id.ts';
import type { Operation } from '../operation.ts';
import { MOST_REPEATED, repeatLayer } from './repeat.ts';
import { readingOrder } from './threads.ts';

/** Rows of real content into placements of one part: a row each, a column for each text of the part. */

/** A column, with the layer of the part that it fills; null where none is called so. */
export interface RowColumn {
  readonly name: string;
  readonly layer: string | null;
}

export interface RowsFilled {
  readonly operations: readonly Operation[];
  readonly columns: readonly RowColumn[];
  /** Placements that get a row, and how many of them are made for it. */
  readonly filled: number;
  readonly made: number;
  /** Rows for which there is no placement. */
  readonly left: number;
}

const NOTHING: RowsFilled = { operations: [], columns: [], filled: 0, made: 0, left: 0 };

/** Space between placements that are made, CSS px of the scene. */
const GAP = 12;

/** Names are the same whatever their case, and signs and spaces around them. */
const plain = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();

/** Whether a placement can fill what is written on a layer of its part. */
export const takesText = (layer: Layer): boolean => layer.text !== undefined && !layer.bindings?.state;

/** The part that all layers are placements of; null where they are not of one. */
export function commonPart(layers: readonly Layer[]): string | null {
  const part = layers[0]?.part;
  return part !== undefined && layers.every((layer) => layer.part === part) ? part : null;
}

/**
 * Fills placements, in reading order, with rows. The first row names the columns if any of its words is a text of the part; else columns
 * are the part's texts in order. With one placement more are made below it, one for each row; with several, rows that are left over are
 * said. What is written in a row is taken as it stands.
 */
export function fillFromRows(
  program: Program,
  scene: string,
  ids: readonly string[],
  rows: readonly (readonly string[])[],
  makeId: MakeId
): RowsFilled {
  const { piece } = program;
  const placements = readingOrder(ids.flatMap((id) => piece.layers.get(id) ?? []).filter(({ part }) => part !== undefined));
  const part = commonPart(placements);
  if (part === null || rows.length === 0) return NOTHING;
  const texts = (program.scenes.get(part)?.items ?? []).map(({ layer }) => layer).filter(takesText);
  const byName = new Map(texts.map((layer) => [plain(layer.name), layer.id]));
  const hasNames = rows[0]!.some((word) => byName.has(plain(word)));
  const columns = hasNames
    ? rows[0]!.map((name): RowColumn => ({ name, layer: byName.get(plain(name)) ?? null }))
    : rows[0]!.map((_, i): RowColumn => ({ name: texts[i]?.name ?? `column ${i + 1}`, layer: texts[i]?.id ?? null }));
  const content = hasNames ? rows.slice(1) : rows;
  if (content.length === 0) return { ...NOTHING, columns };
  const more = placements.length === 1 ? Math.min(content.length, MOST_REPEATED) - 1 : 0;
  const repeated =
    more > 0
      ? repeatLayer(program, scene, placements[0]!.id, { across: 1, down: more + 1, gapX: 0, gapY: GAP, fill: null }, makeId)
      : { operations: [], ids: placements.map(({ id }) => id) };
  const fills = repeated.ids.slice(0, content.length).flatMap((id, i) => fillsOf(piece, placements[i] ?? placements[0]!, id, columns, content[i]!));
  const filled = Math.min(repeated.ids.length, content.length);
  return { operations: [...repeated.operations, ...fills], columns, filled, made: more, left: content.length - filled };
}

/** What a row writes into a placement; `like` is the one it is, or was copied from. */
function fillsOf(piece: Piece, like: Layer, id: string, columns: readonly RowColumn[], row: readonly string[]): Operation[] {
  const fills: Record<string, unknown> = { ...like.fills };
  for (const [i, { layer }] of columns.entries()) {
    if (layer === null || row[i] === undefined) continue;
    const text = escapeText(row[i].trim());
    if (text === piece.layers.get(layer)?.text) delete fills[layer];
    else fills[layer] = { text };
  }
  const isEmpty = Object.keys(fills).length === 0;
  return isEmpty && !like.fills ? [] : [{ op: 'set', table: 'layers', id, path: ['fills'], ...(!isEmpty && { value: fills }) }];
}
