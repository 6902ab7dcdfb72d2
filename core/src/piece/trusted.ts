import { Table } from '../table.ts';
import { indexOf, type Asset, type Layer, type Piece, type Scene, type Thread, type Variable } from './piece.ts';
import type { PieceJson } from './schema.ts';

/** Builds a piece from a document known to be valid, without checking it again. */
export function pieceFromTrusted(json: PieceJson): Piece {
  const { scenes, layers, threads, variables, assets, ...rest } = json;
  const { format: _format, ...head } = rest as typeof rest & { format: string };
  const layerTable = Table.from<Layer>(Object.entries(layers));
  const threadTable = Table.from<Thread>(Object.entries(threads) as [string, Thread][]);
  return {
    head,
    scenes: Table.from<Scene>(Object.entries(scenes)),
    layers: layerTable,
    threads: threadTable,
    variables: Table.from<Variable>(Object.entries(variables ?? {})),
    assets: Table.from<Asset>(Object.entries(assets)),
    index: indexOf(layerTable, threadTable),
  };
}
